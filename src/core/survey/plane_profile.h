#pragma once

#include <optional>
#include <utility>
#include <vector>

#include "base/geometry.h"

// Lines and circles nearest to the points of a profile in a plane.

namespace lostline::survey {

/// Centre and radius of the circle nearest to points: I. Kasa's start (IEEE Trans. Instrum. Meas.
/// 25, 1976), then Gauss-Newton on the distances. Empty where they tell none.
/// @param ball  the centre lies on x = 0.
std::optional<std::pair<Vec2, double>> circle_through(const std::vector<Vec2>& profile, bool ball);

/// Middle and unit direction of the line nearest to points.
std::pair<Vec2, Vec2> line_through(const std::vector<Vec2>& profile);

}  // namespace lostline::survey
