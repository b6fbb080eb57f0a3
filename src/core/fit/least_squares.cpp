#include "fit/least_squares.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <optional>
#include <vector>

#include "base/parallel.h"

namespace lostline::fit {
namespace {

/// The upper triangle R and Q^T r of a tall system, all that the damped steps need.
struct Reduced {
  Eigen::MatrixXd r;
  Eigen::VectorXd rhs;

  /// By how much a step reduces the sum of squares as the linear system has it; without the
  /// difference of two large sums.
  [[nodiscard]] double reduction(const Eigen::VectorXd& step) const {
    const Eigen::VectorXd moved = r.triangularView<Eigen::Upper>() * step;
    return -moved.dot(2 * rhs + moved);
  }
};

constexpr Eigen::Index kBlock = 2048;  // rows that fit the cache with their columns

/// By Cholesky's factor of the normal equations: a pass over the rows and no more. Empty where the
/// columns, made equally long, are nearer to dependent than that squares of their angles tell.
/// Blocks are summed in their order, so that it is the same on any number of cores.
std::optional<Reduced> reduce_well_held(const Eigen::MatrixXd& jacobian,
                                        const Eigen::VectorXd& residuals) {
  const Eigen::Index n = jacobian.rows();
  const Eigen::Index p = jacobian.cols();
  const Eigen::Index blocks = (n + kBlock - 1) / kBlock;
  std::vector<Eigen::MatrixXd> parts(static_cast<std::size_t>(blocks));
  parallel_for(parts.size(), 4, [&](std::size_t begin, std::size_t end) {
    for (std::size_t b = begin; b < end; ++b) {
      const Eigen::Index first = static_cast<Eigen::Index>(b) * kBlock;
      const Eigen::Index rows = std::min(kBlock, n - first);
      Eigen::MatrixXd gram(p + 1, p + 1);
      for (Eigen::Index i = 0; i < p; ++i) {
        const auto column = jacobian.col(i).segment(first, rows);
        for (Eigen::Index j = i; j < p; ++j)
          gram(i, j) = column.dot(jacobian.col(j).segment(first, rows));
        gram(i, p) = column.dot(residuals.segment(first, rows));
      }
      parts[b] = std::move(gram);
    }
  });
  Eigen::MatrixXd normal = Eigen::MatrixXd::Zero(p, p);
  Eigen::VectorXd gradient = Eigen::VectorXd::Zero(p);
  for (const Eigen::MatrixXd& part : parts) {
    normal.triangularView<Eigen::Upper>() += part.topLeftCorner(p, p);
    gradient += part.col(p).head(p);
  }
  const Eigen::VectorXd length = normal.diagonal().cwiseSqrt();
  if (!(length.minCoeff() > 0)) return std::nullopt;
  Eigen::MatrixXd scaled = Eigen::MatrixXd(normal.selfadjointView<Eigen::Upper>());
  scaled = length.cwiseInverse().asDiagonal() * scaled * length.cwiseInverse().asDiagonal();
  const Eigen::LLT<Eigen::MatrixXd, Eigen::Upper> factor(scaled);
  // Half of the sixteen figures are lost to the squares; at this pivot four are left, and the steps
  // still converge by four figures each.
  constexpr double kHeld = 1e-2;
  if (factor.info() != Eigen::Success) return std::nullopt;
  const Eigen::MatrixXd triangle = factor.matrixU();
  if (triangle.diagonal().minCoeff() < kHeld) return std::nullopt;
  Reduced reduced;
  reduced.r = triangle * length.asDiagonal();
  reduced.rhs = reduced.r.transpose().triangularView<Eigen::Lower>().solve(gradient);
  return reduced;
}

/// Householder QR of blocks of rows that fit the cache, then of their stacked triangles: as
/// accurate as of all rows at once, and the same on any number of cores. Source: J. Demmel et al.,
/// Communication-optimal parallel and sequential QR and LU factorizations, SIAM J. Sci. Comput. 34
/// (2012).
Reduced reduce(const Eigen::MatrixXd& jacobian, const Eigen::VectorXd& residuals) {
  const Eigen::Index n = jacobian.rows();
  const Eigen::Index p = jacobian.cols();
  const auto triangle = [&](Eigen::Index first, Eigen::Index rows) -> Eigen::MatrixXd {
    Eigen::MatrixXd joined(rows, p + 1);
    joined << jacobian.middleRows(first, rows), residuals.segment(first, rows);
    const Eigen::HouseholderQR<Eigen::Ref<Eigen::MatrixXd>> qr(joined);
    return joined.topRows(std::min(rows, p + 1)).triangularView<Eigen::Upper>();
  };
  Eigen::MatrixXd whole;
  if (n <= 2 * kBlock) {
    whole = triangle(0, n);
  } else {
    if (auto reduced = reduce_well_held(jacobian, residuals)) return *std::move(reduced);
    const Eigen::Index blocks = (n + kBlock - 1) / kBlock;
    Eigen::MatrixXd stacked = Eigen::MatrixXd::Zero(blocks * (p + 1), p + 1);
    parallel_for(static_cast<std::size_t>(blocks), 1, [&](std::size_t begin, std::size_t end) {
      for (auto b = static_cast<Eigen::Index>(begin); b < static_cast<Eigen::Index>(end); ++b) {
        const Eigen::Index first = b * kBlock;
        const Eigen::MatrixXd part = triangle(first, std::min(kBlock, n - first));
        stacked.middleRows(b * (p + 1), part.rows()) = part;
      }
    });
    const Eigen::HouseholderQR<Eigen::Ref<Eigen::MatrixXd>> qr(stacked);
    whole = stacked.topRows(p + 1).triangularView<Eigen::Upper>();
  }
  return {whole.topLeftCorner(p, p), whole.col(p).head(p)};
}

}  // namespace

Result<LeastSquaresResult> minimise(const LeastSquaresProblem& problem,
                                    const Eigen::VectorXd& start,
                                    const LeastSquaresOptions& options, const Task& task) {
  const auto plus = [&](const Eigen::VectorXd& x, const Eigen::VectorXd& step) -> Eigen::VectorXd {
    return problem.plus ? problem.plus(x, step) : Eigen::VectorXd(x + step);
  };
  LeastSquaresResult result;
  result.x = start;
  Eigen::VectorXd residuals;
  Eigen::MatrixXd jacobian;
  Eigen::VectorXd next_residuals;
  Eigen::MatrixXd next_jacobian;
  problem.evaluate(result.x, residuals, &jacobian);
  const Eigen::Index p = jacobian.cols();
  if (residuals.size() < p) {
    return Error{ErrorCode::InvalidInput, "There are fewer points than unknowns."};
  }
  if (!residuals.allFinite() || !jacobian.allFinite()) {
    return Error{ErrorCode::InvalidInput, "The start or the data hold a value that is not finite."};
  }
  result.sum_of_squares = residuals.squaredNorm();
  Reduced reduced = reduce(jacobian, residuals);
  Eigen::VectorXd scale = reduced.r.colwise().norm().cwiseMax(1e-300);
  double damping = options.initial_damping;
  double growth = 2;
  bool converged = false;

  for (; result.iterations < options.max_iterations && !converged; ++result.iterations) {
    if (task.stopped()) return cancelled();
    scale = scale.cwiseMax(reduced.r.colwise().norm().transpose());
    Eigen::MatrixXd system(2 * p, p);
    system.topRows(p) = reduced.r;
    system.bottomRows(p) = Eigen::MatrixXd((std::sqrt(damping) * scale).asDiagonal());
    Eigen::VectorXd rhs = Eigen::VectorXd::Zero(2 * p);
    rhs.head(p) = -reduced.rhs;
    const Eigen::VectorXd step = system.colPivHouseholderQr().solve(rhs);
    if (!step.allFinite()) break;

    const double predicted = reduced.reduction(step);
    const double state_size = scale.cwiseProduct(step).norm();
    const bool tiny =
        state_size <= options.relative_step * (std::sqrt(result.sum_of_squares) + 1e-300) ||
        predicted <= options.relative_reduction * result.sum_of_squares;
    const Eigen::VectorXd next = plus(result.x, step);
    // Most steps are taken: the Jacobian is wanted then.
    problem.evaluate(next, next_residuals, &next_jacobian);
    const double next_sum = next_residuals.squaredNorm();
    if (std::isfinite(next_sum) && next_sum <= result.sum_of_squares) {
      const double gain = predicted > 0 ? (result.sum_of_squares - next_sum) / predicted : 1.0;
      result.x = next;
      result.sum_of_squares = next_sum;
      residuals.swap(next_residuals);
      jacobian.swap(next_jacobian);
      reduced = reduce(jacobian, residuals);
      if (!reduced.r.allFinite()) break;
      damping = std::max(1e-20, damping * std::max(1.0 / 3.0, 1 - std::pow(2 * gain - 1, 3)));
      growth = 2;
      converged = tiny || next_sum == 0;
    } else {
      // A step too small to reduce the sum in floating point is the end, not a failure.
      converged = tiny && std::isfinite(next_sum);
      damping *= growth;
      growth *= 2;
    }
  }
  const Eigen::ColPivHouseholderQR<Eigen::MatrixXd> rank(reduced.r *
                                                         scale.cwiseInverse().asDiagonal());
  if (rank.rank() < p || rank.maxPivot() <= 0 ||
      std::abs(rank.matrixR()(p - 1, p - 1)) < 1e-11 * rank.maxPivot()) {
    return Error{ErrorCode::Degenerate, "The points do not determine all parameters."};
  }
  if (!converged) {
    return Error{ErrorCode::NotConverged, "The fit did not settle within the allowed iterations."};
  }
  const Eigen::MatrixXd inverse =
      reduced.r.triangularView<Eigen::Upper>().solve(Eigen::MatrixXd::Identity(p, p));
  result.normal_inverse = inverse * inverse.transpose();
  return result;
}

}  // namespace lostline::fit
