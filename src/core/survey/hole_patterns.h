#pragma once

#include <numbers>

#include "survey/survey.h"

// What find_patterns shares between its files.

namespace lostline::survey {

/// Directions that agree within this are taken as parallel, rad.
constexpr double kParallel = 0.3 * std::numbers::pi / 180;

/// Foot of a point on a surface's axis.
inline Vec3 axis_foot(const fit::Surface& s, const Vec3& p) {
  return s.point + (p - s.point).dot(s.axis) * s.axis;
}

/// Bolt circles, rows and grids among equal holes.
/// @param axes  that a circle may be about: stacks, and single turned surfaces.
void arrange_holes(const std::vector<const Region*>& group, const std::vector<Pattern>& axes,
                   double tolerance, std::vector<Pattern>& found);

}  // namespace lostline::survey
