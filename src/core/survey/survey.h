#pragma once

#include <cstdint>
#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "base/task.h"
#include "fit/form.h"
#include "fit/surface_fit.h"
#include "scan/mesh.h"

namespace lostline::survey {

/// Unknown: all surfaces of the scan are alike, so that the scanner's noise and the surfaces' own
/// roughness cannot be told apart.
enum class Finish { Machined, AsCast, Formed, Unknown };
const char* finish_name(Finish finish);

/// A connected patch of scan that belongs to one underlying surface.
struct Region {
  std::uint32_t id = 0;  ///< 1, 2, … in order of falling area; label in Survey::triangle_region
  std::optional<fit::SurfaceFit> fit;  ///< empty: free-form
  double area = 0;                     ///< mm2
  std::size_t triangles = 0;
  Vec3 centre = Vec3::Zero();  ///< area centroid
  double roughness = 0;        ///< mm, standard deviation within three rings; finer than any form
  Finish finish = Finish::Machined;
  bool finish_by_hand = false;    ///< the engineer has said so
  double trust = 1;               ///< weight in alignments and fits
  std::optional<fit::Form> form;  ///< regular departure from the fit beyond noise
  /// Regions on one surface, as the halves of a bore that a keyway cuts, share this number: the
  /// least of their ids; 0: alone.
  std::uint32_t shared = 0;
  bool locked = false;  ///< by the engineer: stays as it is
  /// Region whose direction this fit is held to, because its own evidence hardly tells it (see
  /// lent_directions.h); `fit->u_angle` is what its own evidence says. 0: its direction is its own.
  std::uint32_t direction_of = 0;
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

/// An arrangement of regions that a designer would have meant.
struct Pattern {
  enum class Type {
    Family,         ///< parallel planes and axes
    Stack,          ///< coaxial
    EqualSizes,     ///< equal diameters
    BoltCircle,     ///< equal holes evenly on a circle
    Row,            ///< equal holes evenly on a line
    Grid,           ///< equal holes on a grid
    MirroredPairs,  ///< equal in a common plane of symmetry
    Draft,          ///< planes and cones at one angle to a pull direction
  };
  Type type = Type::Family;
  std::vector<std::uint32_t> regions;  ///< ids; in order around, along, or pair after pair
  /// Common direction, axis of a stack or bolt circle, direction of a row or of a grid's first
  /// rows, normal of the plane of symmetry, pull.
  Vec3 direction = Vec3::UnitZ();
  Vec3 across = Vec3::Zero();  ///< of a grid: its second direction
  Vec3 centre = Vec3::Zero();  ///< of a bolt circle; on the axis or plane; first of a row or grid
  double value = 0;      ///< diameter (of the bolt circle, of equal sizes), pitch; draft angle, rad
  double second = 0;     ///< pitch along `across`
  int count = 0;         ///< places of a full circle; along the row or first direction
  int rows = 0;          ///< of a grid, along `across`
  double departure = 0;  ///< greatest of any member from the ideal, mm; rad for Family and Draft
};
const char* pattern_name(Pattern::Type type);  ///< "parallel family", "bolt circle" …

struct Survey {
  std::vector<Region> regions;
  std::vector<std::uint32_t> triangle_region;  ///< region id of every triangle, 0 where unassigned
  std::vector<FoundRelation> relations;
  std::vector<Pattern> patterns;
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

/// Splits a scan into regions of planes, cylinders, cones, spheres and tori, and free-form rest.
/// @errors InvalidInput  fewer than 100 triangles;  Cancelled.
/// About 1 s for 400 k triangles; deterministic; uses all cores for the final fits. Method:
/// docs/design/survey.md.
Result<Survey> split_into_regions(const scan::Mesh& mesh, const scan::Topology& topology,
                                  const SurveyOptions& options = {}, const Task& task = {});

/// What a set of triangles says of the surface that it lies on. A scanner rounds edges: the row of
/// points beside one stands off as a whole, by about half the noise where only vertices on the
/// surface count, and the rows further in do not (by sampling, see docs/design/survey.md). So the
/// row at the rim is left out where there is enough beside it, and weighs less where there is not.
/// @param lies_on  whether a vertex lies on the surface; empty: all do, and the outermost row,
/// which may lie on the round of an edge, is left out where there are others.
struct Patch {
  Eigen::Matrix3Xd points;
  Eigen::Matrix3Xd normals;
  std::vector<std::uint32_t> vertices;  ///< of the scan, one a point; empty: not from a mesh
  std::vector<char> rim;  ///< whether each point lies in a row beside an edge; empty: none does
  double spacing = 0;     ///< mean edge of its triangles, mm
  bool narrow = false;  ///< too few inner ones: the edges beside them have moved some of its points
  bool band = false;    ///< of five rows of points or less
};
Patch patch_of(const scan::Mesh& mesh, const scan::Topology& topology,
               const std::vector<std::uint32_t>& triangles,
               const std::function<bool(std::uint32_t)>& lies_on = {});
/// Weight of every point of a patch on which points scatter by `sigma` mm: a row beside an edge
/// counts as one point as uncertain as the row is as a whole, however many it has. Empty: all 1.
Eigen::VectorXd row_weights(const Patch& patch, fit::Kind kind, double sigma);
/// `fit_surface` to a patch with these weights, times those of the options where there are some.
/// The scatter that uncertainties are told by is that of all points.
Result<fit::SurfaceFit> fit_patch(fit::Kind kind, const Patch& patch,
                                  const std::optional<fit::Surface>& start = {},
                                  fit::SurfaceFitOptions options = {}, const Task& task = {});
/// Triangles labelled with `region`.
std::vector<std::uint32_t> triangles_of(const Survey& survey, std::uint32_t region);

/// Grows a selection from a triangle over neighbours whose smoothed normal differs by at most
/// `angle` rad from that of the neighbour they are reached from and by at most twice that from the
/// seed's surroundings.
std::vector<std::uint32_t> grow_by_normal(const scan::Mesh& mesh, const scan::Topology& topology,
                                          std::uint32_t seed, double angle);

/// Normals averaged over neighbours that agree, `passes` times: the weight of a neighbour falls to
/// e^-1/2 where it looks `agree` rad another way. Source of the idea: Zheng et al., Bilateral
/// normal filtering for mesh denoising, IEEE TVCG 17 (2011).
std::vector<Vec3> smoothed_normals(const scan::Mesh& mesh, const scan::Topology& topology,
                                   int passes, double agree);

}  // namespace lostline::survey
