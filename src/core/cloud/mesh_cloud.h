#pragma once

#include "base/result.h"
#include "base/task.h"
#include "scan/mesh.h"
#include "scan/point_cloud.h"

namespace lostline::cloud {

struct MeshingOptions {
  double spacing = 0;  ///< mm, of the mesh; 0: as the cloud
  /// Spacings over which noise is averaged; 0: the points stay where they are.
  double smooth = 3;
  /// Spacings: no triangle reaches further, so nothing is made where no points were.
  double bridge = 3;
  /// Islands of fewer triangles are dropped.
  std::size_t least_island = 50;
  bool operator==(const MeshingOptions&) const = default;
};

/// A cloud as a surface with borders.
struct Meshed {
  scan::Mesh mesh;
  /// Of each vertex, mm: what is left of the noise there, expanded, k = 2. The colour of
  /// confidence.
  std::vector<float> u;
  double cloud_spacing = 0;  ///< mm
  double spacing = 0;        ///< mm, of the mesh
  double noise = 0;          ///< mm, of one point about the surface, one standard deviation
  std::size_t dropped = 0;   ///< points that belong to no surface, or to islands
};

/// Meshes a cloud: thinned to even spacing, each point moved on to the surface that the points
/// about it show, joined to triangles with its neighbours. Normals that come with the points tell
/// the outside; without them it is found.
/// @errors InvalidInput  fewer than four points, an option out of range, a coordinate that is not
/// finite;  Degenerate  the points show no surface (they lie on a line, or nowhere near each
/// other);  Cancelled.
/// About 11 s for a million points on two cores. Deterministic.
Result<Meshed> mesh_cloud(const scan::PointCloud& cloud, const MeshingOptions& options = {},
                          const Task& task = {});

}  // namespace lostline::cloud
