#pragma once

#include "fit/surface_fit.h"
#include "fit/uncertainty.h"

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

/// How noise that neighbours share inflates the covariance of a fit, in the basis in which it is
/// the identity for independent noise: p x p, eigenvalues >= 1; the identity for fewer than 50
/// points. See fit_surface.
/// @param slopes  N x p, of the residuals by the unknowns.
/// @param root    p x p, such that the fit's hat matrix is (slopes root) times its transpose.
Eigen::MatrixXd shared_noise(const Eigen::Ref<const Eigen::Matrix3Xd>& points,
                             const Eigen::Ref<const Eigen::VectorXd>& residuals,
                             const Eigen::MatrixXd& slopes, const Eigen::MatrixXd& root);

/// Diagonal of the box of points, mm; 0 for none.
double extent_of(const Eigen::Ref<const Eigen::Matrix3Xd>& points);

}  // namespace lostline::fit
