#pragma once

#include <Eigen/Core>

// How uncertainties are stated: expanded so that they hold with 95.45 %, what k = 2 means for one
// normal variable, in as many dimensions as a quantity has.

namespace lostline::fit {

/// Times the standard uncertainty of one coordinate: the radius that holds 95.45 % of a normal
/// deviation of 1, 2 or 3 dimensions that spreads alike in all (chi-squared quantiles).
double coverage_factor(int dimensions);

/// Length that holds 95.45 % of a normal deviation with this covariance; between the cases of 1, 2
/// and 3 equal directions by the effective number of freedoms. Source: F. Satterthwaite, An
/// approximate distribution of estimates of variance components, Biometrics Bull. 2 (1946).
double expanded_length(const Eigen::Ref<const Eigen::MatrixXd>& covariance);

}  // namespace lostline::fit
