#pragma once

#include "fit/surface_fit.h"

// What the starts of fits and the fits themselves share.

namespace lostline::fit {

int fewest_points(Kind kind);
Error too_few(Kind kind, Eigen::Index have, int need);

struct Circle2 {
  Vec2 centre;
  double radius;
};
/// Algebraic circle fit, the start for the geometric one. Source: I. Kåsa, IEEE Trans. Instrum.
/// Meas. 25 (1976).
Result<Circle2> algebraic_circle(const Eigen::Matrix2Xd& p);

}  // namespace lostline::fit
