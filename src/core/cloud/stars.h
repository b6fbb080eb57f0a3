#pragma once

#include "base/task.h"
#include "scan/mesh.h"

namespace lostline::cloud {

/// Joins points to triangles where they lie on a surface: each point's neighbours are laid into its
/// tangent plane and triangulated (Delaunay), and what neighbours agree on is the mesh. Nothing is
/// made across more than `bridge`.
/// @param points   no two nearer than about half the spacing; @param normals  unit, of one sense.
/// @param bridge   mm, longest edge and widest circle about a triangle.
/// The result is a surface with borders: two triangles at an edge, one fan at a vertex; small holes
/// that disagreement left are closed, as far as `bridge` spans them.
/// O(n) with about 30 neighbours a point.
/// Source: M. Gopi, S. Krishnan and C. Silva, Surface reconstruction based on lower dimensional
/// localized Delaunay triangulation, Computer Graphics Forum 19 (2000).
scan::Mesh join_stars(const std::vector<Vec3>& points, const std::vector<Vec3>& normals,
                      double bridge, const Task& task = {});

}  // namespace lostline::cloud
