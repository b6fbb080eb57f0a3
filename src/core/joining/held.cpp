#include "joining/held.h"

#include <Eigen/Dense>
#include <cmath>

#include "base/linear.h"

namespace lostline::joining {
namespace {

/// Within some motions, those for which a sort of evidence holds a share of its way, ascending.
struct Modes {
  Eigen::VectorXd share;
  Eigen::MatrixXd motions;  ///< in columns; of unit spread
};
Modes modes_of(const Equations& sort, const Eigen::MatrixXd& within) {
  Eigen::MatrixXd spread = product_tn(within, product(sort.spread, within));
  spread.diagonal().array() += 1e-9 * std::max(spread.diagonal().maxCoeff(), 1e-300);
  const Eigen::LLT<Eigen::MatrixXd> llt(spread);
  const Eigen::MatrixXd lower = llt.matrixL();
  const auto solve = [&](const Eigen::MatrixXd& m) -> Eigen::MatrixXd {
    return lower.triangularView<Eigen::Lower>().solve(m);
  };
  const Eigen::MatrixXd half = solve(product_tn(within, product(sort.normal, within)));
  const auto eigen = symmetric_eigen<Eigen::Dynamic>(Eigen::MatrixXd(solve(half.transpose())));
  const Eigen::MatrixXd own = lower.transpose().triangularView<Eigen::Upper>().solve(eigen.vectors);
  return {eigen.values, product(within, own)};
}

void add_motion(const Modes& modes, Eigen::Index k, Eigen::MatrixXd& inverse) {
  inverse.noalias() += modes.motions.col(k) * modes.motions.col(k).transpose() / modes.share[k];
}

/// The standard deviation to which a sort tells a motion, in the unit of the unknowns.
double told(const Modes& modes, Eigen::Index k) {
  return modes.motions.col(k).cwiseAbs().maxCoeff() / std::sqrt(std::max(modes.share[k], 1e-300));
}

}  // namespace

Held held_by(const std::vector<Equations>& sorts, std::span<const double> least, double coarsest) {
  const Eigen::Index n = sorts.front().normal.rows();
  Held held;
  held.rest = Eigen::MatrixXd::Zero(n, n);
  Eigen::MatrixXd open = Eigen::MatrixXd::Identity(n, n);
  for (std::size_t s = 0; s < sorts.size(); ++s) {
    held.inverse.emplace_back(Eigen::MatrixXd::Zero(n, n));
    if (open.cols() == 0 || !(sorts[s].spread.diagonal().maxCoeff() > 0)) continue;
    const Modes modes = modes_of(sorts[s], open);
    std::vector<Eigen::Index> left;
    for (Eigen::Index k = 0; k < modes.share.size(); ++k) {
      if (modes.share[k] > least[s] && (s == 0 || told(modes, k) < coarsest))
        add_motion(modes, k, held.inverse.back());
      else
        left.push_back(k);
    }
    open = modes.motions(Eigen::all, left);
  }
  held.loose = open;
  if (open.cols() == 0) return held;
  held.loose.colwise().normalize();
  constexpr double kNothing = 1e-7;  // exact surfaces hold no more along themselves
  const Modes modes = modes_of(sorts.front(), open);
  for (Eigen::Index k = 0; k < modes.share.size(); ++k) {
    if (modes.share[k] > kNothing) add_motion(modes, k, held.rest);
  }
  return held;
}

}  // namespace lostline::joining
