#pragma once

#include <vector>

#include "fit/surface.h"
#include "scan/mesh.h"

namespace lostline {

/// Shapes that efficient RANSAC finds in the vertices of a mesh: planes, cylinders, cones, spheres,
/// tori.
/// @param reach     mm from a shape within which a point belongs to it.
/// @param smallest  points of the smallest shape.
std::vector<fit::Surface> shapes_by_ransac(const scan::Mesh& mesh, double reach, double spacing,
                                           std::size_t smallest);

/// Planes that region growing over nearest neighbours finds.
std::vector<fit::Surface> planes_by_region_growing(const scan::Mesh& mesh, double reach,
                                                   std::size_t smallest);

}  // namespace lostline
