#pragma once

#include "base/point_grid.h"
#include "base/result.h"
#include "base/task.h"
#include "scan/point_cloud.h"

// What every work on bare points begins with: how dense they are, thinned, which way they look.

namespace lostline::cloud {

/// Step of an even grid as dense as the points about each, mm; 0 for fewer than two points. Points
/// that lie upon each other (a file that has them twice) do not count.
double spacing_of(const std::vector<Vec3>& points);

/// Indices of points no two of which lie nearer than `distance`, so that every point has one of
/// them within it; ascending. With a distance of 0 only exact doubles go.
std::vector<std::uint32_t> thinned(const std::vector<Vec3>& points, double distance,
                                   const Task& task = {});

/// Direction in which the points about a place spread least, unit, of either sense; zero where
/// fewer than three lie within `reach`.
std::vector<Vec3> normals_of(const std::vector<Vec3>& places, const PointGrid& grid,
                             const std::vector<Vec3>& points, double reach, const Task& task = {});

/// Gives normals one sense: neighbours agree where surfaces go on, round edges and on the two sides
/// of a thin wall alike. Each connected set is turned so that more of it can be seen from outside
/// than from inside; of what scanners saw from places that are known, so that it looks to them.
/// @param reach    mm within which points are neighbours.
/// @param towards  of each point, unit, to the scanner that saw it; empty: not known.
/// Source: H. Hoppe et al., Surface reconstruction from unorganized points, SIGGRAPH 1992, for the
/// graph of neighbours; S. König and S. Gumhold, Consistent propagation of normal orientations in
/// point clouds, VMV 2009, for the mirrored normal that is compared across an edge.
void orient(const std::vector<Vec3>& points, std::vector<Vec3>& normals, double reach,
            const std::vector<Vec3>& towards, const Task& task = {});

}  // namespace lostline::cloud
