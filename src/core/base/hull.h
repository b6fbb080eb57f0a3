#pragma once

#include <vector>

#include "base/geometry.h"

namespace lostline {

/// Corners of the smallest convex outline around points of a plane, anticlockwise, none on the line
/// between its neighbours; fewer than three when all points lie on a line. Source: A. M. Andrew,
/// "Another efficient algorithm for convex hulls in two dimensions", Inf. Process. Lett. 9 (1979).
std::vector<Vec2> convex_hull(std::vector<Vec2> points);

/// Sides of the smallest rectangle around points of a plane, in any direction, the longer first.
/// Source: H. Freeman and R. Shapira, "Determining the minimum-area encasing rectangle for an
/// arbitrary closed curve", Commun. ACM 18 (1975): one of its sides lies along the convex outline.
Vec2 smallest_rectangle(const std::vector<Vec2>& points);

}  // namespace lostline
