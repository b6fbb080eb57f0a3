#pragma once

#include "scan/mesh.h"

namespace lostline {

/// Number of shapes that CGAL's efficient RANSAC finds.
/// @param reach, spacing  mm;  @param smallest  points of a shape.
std::size_t shapes_by_ransac(const scan::Mesh& mesh, double reach, double spacing,
                             std::size_t smallest);

}  // namespace lostline
