#include "sketch/held_step.h"

#include <Eigen/SparseCholesky>
#include <algorithm>
#include <vector>

namespace lostline::sketch {

struct HeldStep::Factors {
  Sparse whole;  // [H J'; J 0]
  Eigen::SimplicialLDLT<Sparse, Eigen::Lower, Eigen::AMDOrdering<int>> ldlt;
  Eigen::Index n = 0, m = 0;
};

HeldStep::HeldStep(const Sparse& h, const Sparse& j) : factors_(std::make_unique<Factors>()) {
  Factors& f = *factors_;
  f.n = h.rows();
  f.m = j.rows();
  // Above the rounding of what the weakest numbers of H make of a row that follows from others.
  constexpr double kRegular = 1e-7;
  std::vector<Eigen::Triplet<double>> entries;
  entries.reserve(static_cast<std::size_t>(h.nonZeros() + 2 * j.nonZeros() + f.m));
  for (Eigen::Index k = 0; k < h.outerSize(); ++k)
    for (Sparse::InnerIterator it(h, k); it; ++it)
      entries.emplace_back(it.row(), it.col(), it.value());
  for (Eigen::Index k = 0; k < j.outerSize(); ++k) {
    for (Sparse::InnerIterator it(j, k); it; ++it) {
      entries.emplace_back(f.n + it.row(), it.col(), it.value());
      entries.emplace_back(it.col(), f.n + it.row(), it.value());
    }
  }
  f.whole.resize(f.n + f.m, f.n + f.m);
  f.whole.setFromTriplets(entries.begin(), entries.end());
  for (Eigen::Index k = 0; k < f.m; ++k) entries.emplace_back(f.n + k, f.n + k, -kRegular);
  Sparse regular(f.n + f.m, f.n + f.m);
  regular.setFromTriplets(entries.begin(), entries.end());
  f.ldlt.compute(regular);
}

HeldStep::~HeldStep() = default;

bool HeldStep::good() const { return factors_->ldlt.info() == Eigen::Success; }

Eigen::VectorXd HeldStep::solve(const Eigen::VectorXd& g, const Eigen::VectorXd& c) const {
  const Factors& f = *factors_;
  Eigen::VectorXd right(f.n + f.m);
  right << g, c;
  Eigen::VectorXd x = f.ldlt.solve(right);
  double before = 1e300;
  for (int round = 0; round < 12; ++round) {
    const Eigen::VectorXd rest = right - f.whole * x;
    const double size = rest.cwiseAbs().maxCoeff();
    if (!(size < 0.5 * before)) break;  // what contradicts itself stays
    before = size;
    x += f.ldlt.solve(rest);
    if (size < 1e-15 * (1 + right.cwiseAbs().maxCoeff())) break;
  }
  return x.head(f.n);
}

}  // namespace lostline::sketch
