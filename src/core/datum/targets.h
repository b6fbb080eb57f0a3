#pragma once

#include <array>

#include "fit/surface_fit.h"

namespace lostline::datum {

/// A small area of a rough surface that a datum rests on.
struct TargetPoint {
  Vec3 point = Vec3::Zero();    ///< mean of the area, mm
  Vec3 normal = Vec3::UnitZ();  ///< unit, out of the material
  double sigma = 0;             ///< standard deviation of the point along the normal, mm
};

/// Three planes square to each other from six datum targets: the primary through three, the
/// secondary through two and square to it, the tertiary through the last and square to both, all
/// facing out of the material. What castings and forgings are located by.
/// @param targets  A1, A2, A3, B1, B2, C1.
/// @errors Degenerate  targets on one line, too near each other, or on faces that look another way
/// than their plane: the message names them.
/// U follows from the targets' scatter to first order. Source: ISO 5459:2011, datum targets.
Result<std::array<fit::SurfaceFit, 3>> planes_of_targets(const std::array<TargetPoint, 6>& targets);

}  // namespace lostline::datum
