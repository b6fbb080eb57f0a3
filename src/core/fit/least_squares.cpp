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

constexpr Eigen::Index kRowBlock = 2048;  // rows that fit the cache with their columns

/// Sums in blocks, added in their order, so that they are the same on any number of cores.
NormalEquations sum_up(const Eigen::MatrixXd& jacobian, const Eigen::VectorXd& residuals) {
  const Eigen::Index n = jacobian.rows();
  const Eigen::Index p = jacobian.cols();
  const Eigen::Index blocks = (n + kRowBlock - 1) / kRowBlock;
  std::vector<Eigen::MatrixXd> parts(static_cast<std::size_t>(blocks));
  parallel_for(parts.size(), 4, [&](std::size_t begin, std::size_t end) {
    for (std::size_t b = begin; b < end; ++b) {
      const Eigen::Index first = static_cast<Eigen::Index>(b) * kRowBlock;
      const Eigen::Index rows = std::min(kRowBlock, n - first);
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
  NormalEquations sums{Eigen::MatrixXd::Zero(p, p), Eigen::VectorXd::Zero(p),
                       residuals.squaredNorm()};
  for (const Eigen::MatrixXd& part : parts) {
    sums.products.triangularView<Eigen::Upper>() += part.topLeftCorner(p, p);
    sums.gradient += part.col(p).head(p);
  }
  return sums;
}

/// By Cholesky's factor of the normal equations: a pass over the rows and no more. Empty where the
/// columns, made equally long, are nearer to dependent than that squares of their angles tell.
std::optional<Reduced> reduce_well_held(const NormalEquations& sums) {
  const Eigen::VectorXd length = sums.products.diagonal().cwiseSqrt();
  if (!(length.minCoeff() > 0) || !sums.gradient.allFinite()) return std::nullopt;
  Eigen::MatrixXd scaled = Eigen::MatrixXd(sums.products.selfadjointView<Eigen::Upper>());
  scaled = length.cwiseInverse().asDiagonal() * scaled * length.cwiseInverse().asDiagonal();
  const Eigen::LLT<Eigen::MatrixXd, Eigen::Upper> factor(scaled);
  // Half of the sixteen figures are lost to the squares; at this pivot four are left, and the steps
  // still converge by four figures each.
  constexpr double kHeld = 1e-2;
  if (factor.info() != Eigen::Success) return std::nullopt;
  const Eigen::MatrixXd triangle = factor.matrixU();
  if (!(triangle.diagonal().minCoeff() >= kHeld)) return std::nullopt;
  Reduced reduced;
  reduced.r = triangle * length.asDiagonal();
  reduced.rhs = reduced.r.transpose().triangularView<Eigen::Lower>().solve(sums.gradient);
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
  if (n <= 2 * kRowBlock) {
    whole = triangle(0, n);
  } else {
    if (auto reduced = reduce_well_held(sum_up(jacobian, residuals))) return *std::move(reduced);
    const Eigen::Index blocks = (n + kRowBlock - 1) / kRowBlock;
    Eigen::MatrixXd stacked = Eigen::MatrixXd::Zero(blocks * (p + 1), p + 1);
    parallel_for(static_cast<std::size_t>(blocks), 1, [&](std::size_t begin, std::size_t end) {
      for (auto b = static_cast<Eigen::Index>(begin); b < static_cast<Eigen::Index>(end); ++b) {
        const Eigen::Index first = b * kRowBlock;
        const Eigen::MatrixXd part = triangle(first, std::min(kRowBlock, n - first));
        stacked.middleRows(b * (p + 1), part.rows()) = part;
      }
    });
    const Eigen::HouseholderQR<Eigen::Ref<Eigen::MatrixXd>> qr(stacked);
    whole = stacked.topRows(p + 1).triangularView<Eigen::Upper>();
  }
  return {whole.topLeftCorner(p, p), whole.col(p).head(p)};
}

/// A problem about one state.
struct Linear {
  double sum_of_squares = 0;
  Reduced reduced;
  bool finite = true;
};

/// Linearises a problem again and again in the same memory.
class Lineariser {
 public:
  explicit Lineariser(const LeastSquaresProblem& problem) : problem_(problem) {}

  Linear at(const Eigen::VectorXd& x) {
    if (problem_.normal) {
      const NormalEquations sums = problem_.normal(x);
      if (auto reduced = reduce_well_held(sums))
        return {sums.sum_of_squares, *std::move(reduced), std::isfinite(sums.sum_of_squares)};
    }
    problem_.evaluate(x, residuals_, &jacobian_);
    Linear linear;
    linear.sum_of_squares = residuals_.squaredNorm();
    linear.finite = std::isfinite(linear.sum_of_squares) && jacobian_.allFinite();
    if (linear.finite && residuals_.size() >= jacobian_.cols())
      linear.reduced = reduce(jacobian_, residuals_);
    return linear;
  }

 private:
  const LeastSquaresProblem& problem_;
  Eigen::VectorXd residuals_;
  Eigen::MatrixXd jacobian_;
};

}  // namespace

Result<LeastSquaresResult> minimise(const LeastSquaresProblem& problem,
                                    const Eigen::VectorXd& start,
                                    const LeastSquaresOptions& options, const Task& task) {
  const auto plus = [&](const Eigen::VectorXd& x, const Eigen::VectorXd& step) -> Eigen::VectorXd {
    return problem.plus ? problem.plus(x, step) : Eigen::VectorXd(x + step);
  };
  Lineariser lineariser(problem);
  LeastSquaresResult result;
  result.x = start;
  Linear here = lineariser.at(result.x);
  if (!here.finite)
    return Error{ErrorCode::InvalidInput, "The start or the data hold a value that is not finite."};
  const Eigen::Index p = here.reduced.r.cols();
  if (p == 0) return Error{ErrorCode::InvalidInput, "There are fewer points than unknowns."};
  Eigen::VectorXd scale = here.reduced.r.colwise().norm().cwiseMax(1e-300);
  double damping = options.initial_damping;
  double growth = 2;
  double last_size = 0;  // of the step before, where it was taken
  bool converged = false;

  for (; result.iterations < options.max_iterations && !converged; ++result.iterations) {
    if (task.stopped()) return cancelled();
    scale = scale.cwiseMax(here.reduced.r.colwise().norm().transpose());
    Eigen::MatrixXd system(2 * p, p);
    system.topRows(p) = here.reduced.r;
    system.bottomRows(p) = Eigen::MatrixXd((std::sqrt(damping) * scale).asDiagonal());
    Eigen::VectorXd rhs = Eigen::VectorXd::Zero(2 * p);
    rhs.head(p) = -here.reduced.rhs;
    const Eigen::VectorXd step = system.colPivHouseholderQr().solve(rhs);
    if (!step.allFinite()) break;

    const double predicted = here.reduced.reduction(step);
    const double size = scale.cwiseProduct(step).norm();
    // What is left after a step shrinks as the steps do (E. Hairer, G. Wanner, Solving Ordinary
    // Differential Equations II (1996), IV.8, for simplified Newton iterations).
    const double shrink = last_size > 0 ? size / last_size : 1;
    const double left = shrink < 0.1 ? size * shrink / (1 - shrink) : size;
    const bool tiny = left <= options.relative_step * (std::sqrt(here.sum_of_squares) + 1e-300) ||
                      predicted <= options.relative_reduction * here.sum_of_squares;
    const Eigen::VectorXd next = plus(result.x, step);
    // Most steps are taken: what the next one needs is made at once.
    Linear there = lineariser.at(next);
    if (there.finite && there.sum_of_squares <= here.sum_of_squares) {
      const double gain =
          predicted > 0 ? (here.sum_of_squares - there.sum_of_squares) / predicted : 1.0;
      result.x = next;
      here = std::move(there);
      last_size = size;
      if (!here.reduced.r.allFinite()) break;
      damping = std::max(1e-20, damping * std::max(1.0 / 3.0, 1 - std::pow(2 * gain - 1, 3)));
      growth = 2;
      converged = tiny || here.sum_of_squares == 0;
    } else {
      // A step too small to reduce the sum in floating point is the end, not a failure.
      converged = tiny && there.finite;
      last_size = 0;
      damping *= growth;
      growth *= 2;
    }
  }
  result.sum_of_squares = here.sum_of_squares;
  const Eigen::ColPivHouseholderQR<Eigen::MatrixXd> rank(here.reduced.r *
                                                         scale.cwiseInverse().asDiagonal());
  if (rank.rank() < p || rank.maxPivot() <= 0 ||
      std::abs(rank.matrixR()(p - 1, p - 1)) < 1e-11 * rank.maxPivot()) {
    return Error{ErrorCode::Degenerate, "The points do not determine all parameters."};
  }
  if (!converged) {
    return Error{ErrorCode::NotConverged, "The fit did not settle within the allowed iterations."};
  }
  const Eigen::MatrixXd inverse =
      here.reduced.r.triangularView<Eigen::Upper>().solve(Eigen::MatrixXd::Identity(p, p));
  result.normal_inverse = inverse * inverse.transpose();
  return result;
}

}  // namespace lostline::fit
