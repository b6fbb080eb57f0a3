#pragma once

#include <vector>

#include "base/geometry.h"

namespace lostline::patch {

/// A B-spline surface of degree 3 in both directions, not rational, clamped, over [0, 1] x [0, 1].
struct SplineSurface {
  static constexpr int kDegree = 3;
  std::size_t nu = 0, nv = 0;            ///< poles in each direction, 4 and more
  std::vector<Vec3> poles;               ///< row by row: pole (i, j) at [i * nv + j]
  std::vector<double> u_knots, v_knots;  ///< poles + 4 values each, ascending, ends four times

  /// Whether it has as many poles and knots as it needs, those in order and all numbers finite.
  [[nodiscard]] bool sound() const;
  /// With inner knots spread evenly.
  static SplineSurface even(std::size_t nu, std::size_t nv);

  /// The four poles of one direction that a parameter depends on, with values and derivatives.
  struct Local {
    std::size_t first;
    double value[4], slope[4], bend[4];
  };
  [[nodiscard]] Local local_u(double u) const;
  [[nodiscard]] Local local_v(double v) const;
  [[nodiscard]] Vec3 at(double u, double v) const;
  struct Jet {
    Vec3 at, du, dv, duu, duv, dvv;
  };
  [[nodiscard]] Jet jet(double u, double v) const;
  [[nodiscard]] Vec3 normal(double u, double v) const;  ///< unit
  /// Parameters of the nearest point, from a near one; within [0, 1].
  [[nodiscard]] Vec2 foot(const Vec3& p, const Vec2& from, int rounds = 8) const;
};

using SplineSurfaces = std::vector<SplineSurface>;

}  // namespace lostline::patch
