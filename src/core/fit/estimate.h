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

/// How noise that neighbours share inflates the covariance of a fit, in the basis in which it is
/// the identity for independent noise: p x p, eigenvalues >= 1; the identity for fewer than 50
/// points. See fit_surface.
/// @param leverage  N x p: the fit's hat matrix is leverage times its transpose.
Eigen::MatrixXd shared_noise(const Eigen::Ref<const Eigen::Matrix3Xd>& points,
                             const Eigen::Ref<const Eigen::VectorXd>& residuals,
                             const Eigen::MatrixXd& leverage);

/// Half width that the length of a normal vector with this covariance stays within as often as a
/// single number stays within two standard deviations (95.45 %). The sum of squares is taken as a
/// scaled chi-squared of equal mean and variance: F. E. Satterthwaite, Biometrics Bull. 2 (1946).
double expanded_length(const Eigen::Ref<const Eigen::MatrixXd>& covariance);

}  // namespace lostline::fit
