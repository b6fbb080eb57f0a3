#pragma once

#include <vector>

#include "scan/mesh.h"

namespace lostline::survey {

/// A scan with fewer points, each the mean of a vertex and those of its ring that look the same
/// way.
struct Coarse {
  scan::Mesh mesh;
  std::vector<std::uint32_t> cluster;  ///< coarse vertex of every vertex
};
/// Neighbours are gathered along edges only, so that the two sides of a thin wall stay apart.
/// @param normals  unit, of every vertex.
/// O(n), about a sixth of the vertices are left.
Coarse coarsen(const scan::Mesh& mesh, const scan::Topology& topology,
               const std::vector<Vec3>& normals);

}  // namespace lostline::survey
