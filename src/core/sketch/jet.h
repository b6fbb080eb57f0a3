#pragma once

#include <Eigen/Core>
#include <algorithm>
#include <cmath>

#include "base/geometry.h"

namespace lostline::sketch {

/// A value with its derivatives by the unknowns that one equation touches: exact derivatives
/// without writing them down. A tangency of two splines within them touches sixteen unknowns, the
/// most so far.
struct Jet {
  static constexpr int kSize = 16;
  double v = 0;
  Eigen::Matrix<double, kSize, 1> d = Eigen::Matrix<double, kSize, 1>::Zero();
};

inline Jet operator+(const Jet& a, const Jet& b) { return {a.v + b.v, a.d + b.d}; }
inline Jet operator-(const Jet& a, const Jet& b) { return {a.v - b.v, a.d - b.d}; }
inline Jet operator*(const Jet& a, const Jet& b) { return {a.v * b.v, a.v * b.d + b.v * a.d}; }
inline Jet operator*(double a, const Jet& b) { return {a * b.v, a * b.d}; }
inline Jet operator/(const Jet& a, const Jet& b) {
  return {a.v / b.v, (a.d - (a.v / b.v) * b.d) / b.v};
}
inline Jet operator-(const Jet& a, double b) { return {a.v - b, a.d}; }
inline Jet root(const Jet& a) {
  const double r = std::sqrt(std::max(a.v, 1e-24));
  return {r, a.d / (2 * r)};
}
inline Jet angle_of(const Jet& y, const Jet& x) {
  const double squared = std::max(x.v * x.v + y.v * y.v, 1e-24);
  return {std::atan2(y.v, x.v), (x.v * y.d - y.v * x.d) / squared};
}

struct JetPoint {
  Jet x, y;
};
inline JetPoint operator-(const JetPoint& a, const JetPoint& b) { return {a.x - b.x, a.y - b.y}; }
inline JetPoint middle(const JetPoint& a, const JetPoint& b) {
  return {0.5 * (a.x + b.x), 0.5 * (a.y + b.y)};
}
using lostline::cross;
inline Jet cross(const JetPoint& a, const JetPoint& b) { return a.x * b.y - a.y * b.x; }
inline Jet dot(const JetPoint& a, const JetPoint& b) { return a.x * b.x + a.y * b.y; }
inline Jet length(const JetPoint& a) { return root(dot(a, a)); }

struct JetLine {
  JetPoint a, b;
};
/// Positive on the left of the line.
inline Jet signed_distance(const JetPoint& p, const JetLine& line) {
  const JetPoint d = line.b - line.a;
  return cross(d, p - line.a) / length(d);
}

}  // namespace lostline::sketch
