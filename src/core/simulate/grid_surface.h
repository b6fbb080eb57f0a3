#pragma once

#include "scan/mesh_index.h"

namespace lostline::simulate {

/// An even triangulation of a closed mesh's surface: a grid of cells is marked inside or outside by
/// vertical rays, each cell that the surface passes gets one vertex, drawn to the nearest surface
/// point. Source: S. Gibson, Constrained elastic surface nets, MICCAI 1998.
scan::Mesh grid_surface(const scan::Mesh& closed, const scan::MeshIndex& index, double spacing);

}  // namespace lostline::simulate
