#pragma once

#include "base/task.h"
#include "sketch/sketch.h"

namespace lostline::sketch {

/// Dimensions as a draughtsman would put them, in pencil.
struct DimensionScheme {
  std::vector<Constraint> dimensions;  ///< with ids of their own, values as measured, not driving
  int freedoms = 0;                    ///< left when all are decided: poles of splines, and what
                                       ///< no dimension can hold
};

struct SchemeOptions {
  /// The sketch is half of a turned part about the y axis: diameters from the axis, lengths along
  /// it.
  bool turned = false;
  double nothing = 1e-3;  ///< mm: what lies this near to a datum has no distance from it
};

/// A complete scheme without a chain or a double: what the constraints and dimensions of the sketch
/// leave open, and no more. Features of size first (diameters, radii, the numbers of shapes, bolt
/// circles and pitches), then places from the axes of the sketch, sides parallel to them before
/// centres, and slopes by their angle.
/// Source of the order: common practice of drawing offices after ISO 129-1:2018, 5 (each feature
/// once, no closed chain, from functional faces).
DimensionScheme dimension_scheme(const Sketch& sketch, const SchemeOptions& options = {},
                                 const Task& task = {});

}  // namespace lostline::sketch
