#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "base/task.h"
#include "fit/surface_fit.h"
#include "scan/mesh.h"

namespace lostline::survey {

enum class Finish { Machined, AsCast };
const char* finish_name(Finish finish);

/// A connected patch of scan that belongs to one underlying surface.
struct Region {
  std::uint32_t id = 0;  ///< 1, 2, … in order of falling area; label in Survey::triangle_region
  std::optional<fit::SurfaceFit> fit;  ///< empty: free-form
  double area = 0;                     ///< mm2
  std::size_t triangles = 0;
  Vec3 centre = Vec3::Zero();  ///< area centroid
  Finish finish = Finish::Machined;
  double trust = 1;     ///< weight in alignments
  bool locked = false;  ///< by the engineer: stays as it is
};

/// A relation that holds between two regions within their uncertainty or a tenth of a degree.
struct FoundRelation {
  enum class Type { Parallel, Perpendicular, Coaxial };
  Type type = Type::Parallel;
  std::uint32_t a = 0;
  std::uint32_t b = 0;
  double angle = 0;   ///< departure from the ideal angle, rad
  double offset = 0;  ///< distance of the axes for Coaxial, mm
};
const char* relation_name(FoundRelation::Type type);

struct Survey {
  std::vector<Region> regions;
  std::vector<std::uint32_t> triangle_region;  ///< region id of every triangle, 0 where unassigned
  std::vector<FoundRelation> relations;
  double noise_sigma = 0;               ///< mm
  double unassigned_area_fraction = 0;  ///< free-form counts as unassigned
};

struct SurveyOptions {
  /// 0..1: the smallest region kept is 10^-(2.3 + 2 S) of the scan's area: 0.5 %, 0.05 %, 0.005 %
  /// for 0, 0.5, 1.
  double sensitivity = 0.5;
  double reach = 3.5;  ///< standard deviations within which a point belongs to a surface
  double normal_limit =
      0.26;  ///< rad, greatest angle between a smoothed normal and the surface (15 degrees)
  std::size_t seed_patch = 90;  ///< vertices of a first guess: enough to tell a curve from noise
};

/// Splits a scan into regions of planes, cylinders and cones, and free-form rest.
/// @errors InvalidInput  fewer than 100 triangles;  Cancelled.
/// About 1 s for 400 k triangles; deterministic; uses all cores for the final fits. Method:
/// docs/design/survey.md.
Result<Survey> split_into_regions(const scan::Mesh& mesh, const scan::Topology& topology,
                                  const SurveyOptions& options = {}, const Task& task = {});

/// Points and normals of the inner vertices of a set of triangles: those all of whose triangles are
/// in the set, since a scanner rounds the rim. Falls back to all its vertices when there are fewer
/// than 30 inner ones.
struct Patch {
  Eigen::Matrix3Xd points;
  Eigen::Matrix3Xd normals;
};
Patch patch_of(const scan::Mesh& mesh, const scan::Topology& topology,
               const std::vector<std::uint32_t>& triangles);
/// Triangles labelled with `region`.
std::vector<std::uint32_t> triangles_of(const Survey& survey, std::uint32_t region);

/// Grows a selection from a triangle over neighbours whose smoothed normal differs by at most
/// `angle` rad from that of the neighbour they are reached from and by at most twice that from the
/// seed's surroundings.
std::vector<std::uint32_t> grow_by_normal(const scan::Mesh& mesh, const scan::Topology& topology,
                                          std::uint32_t seed, double angle);

/// Normals averaged over neighbours that agree, `passes` times. Source of the idea: Zheng et al.,
/// Bilateral normal filtering for mesh denoising, IEEE TVCG 17 (2011).
std::vector<Vec3> smoothed_normals(const scan::Mesh& mesh, const scan::Topology& topology,
                                   int passes);

}  // namespace lostline::survey
