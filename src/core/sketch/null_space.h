#pragma once

#include <Eigen/Core>

namespace lostline::sketch {

constexpr double kHoldTolerance = 1e-9;  ///< mm: constraints hold when every equation is below it

/// An orthonormal basis of the directions that J does not see; the identity when J has no rows.
Eigen::MatrixXd null_space(const Eigen::MatrixXd& jacobian, Eigen::Index unknowns);

}  // namespace lostline::sketch
