#pragma once

#include <array>
#include <vector>

#include "base/geometry.h"

namespace lostline::section {

/// A B-spline curve in the plane, of degree 3, not rational. Open ones are clamped: they begin at
/// their first pole and end at their last. Closed ones are periodic: poles [0, n) repeat.
struct PlaneSpline {
  static constexpr int kDegree = 3;
  std::vector<Vec2> poles;
  /// Open: poles + 4 values, ascending, the first four and last four equal. Closed: poles + 1
  /// values, one period.
  std::vector<double> knots;
  bool closed = false;

  [[nodiscard]] bool empty() const { return poles.empty(); }
  [[nodiscard]] double low() const { return closed ? knots.front() : knots[3]; }
  [[nodiscard]] double high() const { return closed ? knots.back() : knots[knots.size() - 4]; }

  /// The four poles that a parameter depends on, with value, first and second derivative of each
  /// one's share.
  struct Local {
    std::size_t pole[4];
    double value[4], slope[4], bend[4];
  };
  [[nodiscard]] Local local(double t) const;
  [[nodiscard]] Vec2 at(double t) const;
  [[nodiscard]] Vec2 slope(double t) const;
  [[nodiscard]] Vec2 bend(double t) const;
  /// The parameter of the nearest point: Newton from the best of samples, four a span.
  [[nodiscard]] double parameter(const Vec2& p) const;
  /// The same from a parameter known to be near.
  [[nodiscard]] double parameter_near(const Vec2& p, double t) const;
  [[nodiscard]] double length() const;
  /// The piece from one parameter to a larger one, clamped; of a closed one past its seam too.
  [[nodiscard]] PlaneSpline between(double from, double to) const;
  /// Four points for each span: the same curve as Bezier pieces.
  [[nodiscard]] std::vector<std::array<Vec2, 4>> beziers() const;

 private:
  [[nodiscard]] Vec2 blossom(long span, const std::array<double, 3>& at) const;
};

/// Parameter t of the point (a cos t, b sin t) nearest to `p`, of an ellipse about the origin with
/// its major axis along x; in (-pi, pi].
double ellipse_parameter(double a, double b, const Vec2& p);

/// Clamped or periodic knots spread so that each span holds as much of `measure`, ascending samples
/// of the parameter.
PlaneSpline spline_over(const std::vector<double>& parameters, std::size_t poles, bool closed);

}  // namespace lostline::section
