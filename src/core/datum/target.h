#pragma once

#include <optional>
#include <vector>

#include "fit/surface.h"
#include "scan/mesh_index.h"

namespace lostline::datum {

/// A model as an alignment sees it: what a scan is brought upon.
struct Target {
  scan::Mesh mesh;                           ///< closed, outward triangles, mm
  std::vector<std::uint32_t> triangle_face;  ///< of each triangle; empty: the mesh has no faces
  /// Surface of each face where it is analytic; distances are exact there.
  std::vector<std::optional<fit::Surface>> faces;

  /// A face's part in matching; filled by `settle`.
  struct Feature {
    fit::Surface surface;
    double area = 0;  ///< mm2
    Box3 box;         ///< of its triangles
  };
  std::vector<Feature> features;
  std::optional<scan::MeshIndex> index;
  Vec3 centre = Vec3::Zero();  ///< area centroid
  double size = 0;             ///< diagonal of the box, mm

  /// Computes everything that follows from mesh and faces. About 0.4 s for 1 M triangles.
  void settle();
};

/// Points of a scan with what an alignment needs of each.
struct Cloud {
  std::vector<Vec3> points;
  std::vector<Vec3> normals;   ///< unit, out of the material; zero where unknown
  std::vector<double> weight;  ///< trust times surface share, >= 0
};
/// Every n-th vertex so that about `most` are left, weighted by the area about it.
/// @param trust  of every triangle; empty: 1.
Cloud cloud_of(const scan::Mesh& mesh, const std::vector<float>& trust, std::size_t most);

}  // namespace lostline::datum
