#pragma once

#include "sketch/sketch.h"

namespace lostline::project {

/// Whether a dimension of a sketch is stated as a diameter: of whole circles, and in a turned
/// sketch (half of a part about its y axis) what is measured from the axis.
bool states_diameter(const sketch::Sketch& sketch, const sketch::Constraint& dimension,
                     bool turned);

/// What is stated for a dimension's value of 1: 2 for a diameter, 180 / pi for an angle, else 1.
double stated_factor(const sketch::Sketch& sketch, const sketch::Constraint& dimension,
                     bool turned);

}  // namespace lostline::project
