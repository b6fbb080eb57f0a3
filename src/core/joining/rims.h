#pragma once

#include <vector>

#include "fit/surface.h"
#include "scan/mesh.h"

// Round borders of flat patches of a scan; inside of this module.

namespace lostline::joining {

/// How far the centre of a rim lies off, one standard deviation, in spacings: where the points fall
/// along the edge moves the whole border.
constexpr double kRimMoves = 0.2;

/// A closed border that goes round a circle.
struct Rim {
  Vec3 centre;  ///< on the plane, mm
  double radius = 0;
  bool inner = false;  ///< of a hole in the patch; else the patch is a disc
};

/// Closed lines of vertices around the triangles of a patch, its own side to the left.
std::vector<std::vector<std::uint32_t>> border_loops(const scan::Mesh& mesh,
                                                     const scan::Topology& topology,
                                                     const std::vector<std::uint32_t>& triangles);

/// Those of a flat patch that stay within 0.6 spacings of their circles: a border goes from vertex
/// to vertex, half a spacing to and fro.
/// @param triangles  of the patch.
std::vector<Rim> round_rims(const scan::Mesh& mesh, const scan::Topology& topology,
                            const fit::Surface& plane, const std::vector<std::uint32_t>& triangles,
                            double spacing);

}  // namespace lostline::joining
