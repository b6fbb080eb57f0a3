#pragma once

#include <Eigen/Core>
#include <functional>

#include "base/task.h"

namespace lostline::fit {

/// What steps need of a linearised problem.
struct NormalEquations {
  Eigen::MatrixXd products;   ///< J^T J, P x P; the upper triangle
  Eigen::VectorXd gradient;   ///< J^T r
  double sum_of_squares = 0;  ///< r^T r
};

/// A nonlinear least-squares problem: minimise |r(x)|^2.
struct LeastSquaresProblem {
  /// Fills `residuals` (N) and, when `jacobian` is not null, `*jacobian` (N x P): the derivative of
  /// the residuals by the step taken by `plus`.
  std::function<void(const Eigen::VectorXd& x, Eigen::VectorXd& residuals,
                     Eigen::MatrixXd* jacobian)>
      evaluate;
  /// x moved by a step of P numbers. Default: x + step. Used where x is over-parametrised (unit
  /// vectors).
  std::function<Eigen::VectorXd(const Eigen::VectorXd& x, const Eigen::VectorXd& step)> plus;
  /// The same as `evaluate` summed up, where that is faster. Used as long as the columns are well
  /// held.
  std::function<NormalEquations(const Eigen::VectorXd& x)> normal = {};
};

struct LeastSquaresOptions {
  int max_iterations = 200;           ///< enough for the hardest of the certified problems
  double relative_step = 1e-12;       ///< converged when the scaled step is below
  double relative_reduction = 1e-15;  ///< or the predicted reduction of the sum of squares is
  double initial_damping = 1e-3;      ///< of the column norms
};

struct LeastSquaresResult {
  Eigen::VectorXd x;
  double sum_of_squares = 0;
  int iterations = 0;
  Eigen::MatrixXd
      normal_inverse;  ///< (J^T J)^-1, P x P: times the residual variance it is the covariance
};

/// Levenberg-Marquardt with scaling by column norms; by a QR factorisation of the Jacobian, or of
/// many residuals by the normal equations as long as the columns are well held.
/// @errors InvalidInput  fewer residuals than parameters, or not finite at the start;  Degenerate
/// the Jacobian has no full
///         rank at the solution;  NotConverged;  Cancelled.
/// O(N P^2) per iteration, deterministic, thread-safe.
/// Source: J. J. Moré, The Levenberg-Marquardt algorithm: implementation and theory (1978); damping
/// after H. B. Nielsen, IMM-REP-1999-05.
Result<LeastSquaresResult> minimise(const LeastSquaresProblem& problem,
                                    const Eigen::VectorXd& start,
                                    const LeastSquaresOptions& options = {}, const Task& task = {});

}  // namespace lostline::fit
