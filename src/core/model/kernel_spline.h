#pragma once

#include <optional>
#include <vector>

#include "sketch/plane_curve.h"

namespace lostline::model {

/// A B-spline of any degree, rational or not, as files have them.
struct KernelSpline {
  int degree = 3;
  std::vector<Vec2> poles;
  std::vector<double> weights;  ///< one a pole; empty: all alike
  std::vector<double> knots;    ///< with repeats
};

/// As a sketch has it: of degree 3 and without weights; others are approached within 1 um.
/// Empty where poles and knots do not make a curve.
std::optional<sketch::SplineForm> sketch_spline(const KernelSpline& spline);

}  // namespace lostline::model
