#pragma once

#include <Eigen/SparseCore>
#include <memory>

namespace lostline::sketch {

using Sparse = Eigen::SparseMatrix<double>;

/// Solves for the step s that minimises s' H s / 2 - s' g under J s = c, H positive definite, by a
/// sparse factorisation of the whole: about as many operations as the sketch has numbers, times how
/// closely they hang together. Rows of J may follow from others.
/// Source: quasi-definite systems, R. Vanderbei, SIAM J. Optimization 5 (1995), with iterative
/// refinement of the regularisation.
class HeldStep {
 public:
  HeldStep(const Sparse& h, const Sparse& j);
  ~HeldStep();
  HeldStep(const HeldStep&) = delete;
  HeldStep& operator=(const HeldStep&) = delete;

  /// Whether the factorisation exists.
  [[nodiscard]] bool good() const;
  [[nodiscard]] Eigen::VectorXd solve(const Eigen::VectorXd& g, const Eigen::VectorXd& c) const;

 private:
  struct Factors;
  std::unique_ptr<Factors> factors_;
};

}  // namespace lostline::sketch
