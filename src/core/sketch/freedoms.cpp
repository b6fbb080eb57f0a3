#include "sketch/freedoms.h"

#include <algorithm>
#include <cmath>
#include <queue>
#include <random>
#include <utility>

namespace lostline::sketch {
namespace {

// Part of an equation, of its own size, below which it says nothing that those before it did not:
// well above what is left of the equations where they hold, far below an angle that is meant.
constexpr double kFollows = 1e-7;

using Rows = Eigen::SparseMatrix<double, Eigen::RowMajor>;

/// The equations, each of length one.
Rows unit_rows(const Sparse& jacobian) {
  Rows rows = jacobian;
  for (Eigen::Index k = 0; k < rows.outerSize(); ++k) {
    const double size = rows.row(k).norm();
    if (size > 0) rows.row(k) /= size;
  }
  rows.makeCompressed();
  return rows;
}

/// Takes equations one after the other, each less what those before it say of its unknowns.
class Elimination {
 public:
  explicit Elimination(const Rows& rows)
      : work_(Eigen::VectorXd::Zero(rows.cols())),
        solved_(static_cast<std::size_t>(rows.cols()), -1),
        met_(static_cast<std::size_t>(rows.cols()), 0),
        use_(static_cast<std::size_t>(rows.cols()), 0) {
    for (Eigen::Index k = 0; k < rows.outerSize(); ++k)
      for (Rows::InnerIterator it(rows, k); it; ++it) ++use_[at(it.col())];
  }

  /// False when the equation follows from those taken.
  bool take(const Rows& rows, Eigen::Index k) {
    for (Rows::InnerIterator it(rows, k); it; ++it) {
      --use_[at(it.col())];
      meet(it.col());
      work_[it.col()] += it.value();
    }
    // Each taken equation is free of the unknowns that those before it solve for, so in the order
    // in which they were taken one pass is enough.
    while (!due_.empty()) {
      const Equation& known = taken_[static_cast<std::size_t>(due_.top())];
      due_.pop();
      const double times = work_[known.solves];
      work_[known.solves] = 0;
      if (times == 0) continue;
      for (const auto& [i, value] : known.rest) {
        meet(i);
        work_[i] -= times * value;
      }
    }
    const bool adds = keep();
    for (const Eigen::Index i : touched_) {
      work_[i] = 0;
      met_[at(i)] = 0;
    }
    touched_.clear();
    return adds;
  }
  /// Unknowns that all equations taken allow, those that none is solved for being taken by chance.
  Eigen::VectorXd motion(std::mt19937_64& random) const {
    std::normal_distribution<double> any;
    Eigen::VectorXd x(work_.size());
    for (double& value : x) value = any(random);
    // An equation names unknowns that later ones are solved for.
    for (auto known = taken_.rbegin(); known != taken_.rend(); ++known) {
      double sum = 0;
      for (const auto& [i, value] : known->rest) sum += value * x[i];
      x[known->solves] = -sum;
    }
    return x;
  }
  [[nodiscard]] Eigen::Index rank() const { return static_cast<Eigen::Index>(taken_.size()); }

 private:
  struct Equation {
    Eigen::Index solves = 0;
    std::vector<std::pair<Eigen::Index, double>> rest;  // the factor of `solves` being one
  };

  static std::size_t at(Eigen::Index i) { return static_cast<std::size_t>(i); }
  void meet(Eigen::Index i) {
    if (std::exchange(met_[at(i)], 1) != 0) return;
    touched_.push_back(i);
    if (solved_[at(i)] >= 0) due_.push(solved_[at(i)]);
  }
  /// Solves what is left for one of its unknowns: not a small part of it, and of these the one that
  /// the fewest equations to come name.
  bool keep() {
    constexpr double kSmall = 0.1;      // of the largest part
    constexpr double kNothing = 1e-13;  // what rounding leaves
    double largest = 0;
    for (const Eigen::Index i : touched_) largest = std::max(largest, std::abs(work_[i]));
    if (!(largest > kFollows)) return false;
    Equation kept;
    int fewest = -1;
    for (const Eigen::Index i : touched_) {
      if (std::abs(work_[i]) < kSmall * largest || (fewest >= 0 && use_[at(i)] >= fewest)) continue;
      kept.solves = i;
      fewest = use_[at(i)];
    }
    for (const Eigen::Index i : touched_) {
      if (i != kept.solves && std::abs(work_[i]) > kNothing)
        kept.rest.emplace_back(i, work_[i] / work_[kept.solves]);
    }
    solved_[at(kept.solves)] = static_cast<int>(taken_.size());
    taken_.push_back(std::move(kept));
    return true;
  }

  Eigen::VectorXd work_;
  std::vector<int> solved_;  // by unknown: the equation that is solved for it, or -1
  std::vector<char> met_;
  std::vector<int> use_;  // by unknown: how many equations to come name it
  std::vector<Eigen::Index> touched_;
  std::priority_queue<int, std::vector<int>, std::greater<>> due_;
  std::vector<Equation> taken_;
};

}  // namespace

Eigen::Index count_freedoms(const Sparse& jacobian) {
  const Rows rows = unit_rows(jacobian);
  Elimination elimination(rows);
  for (Eigen::Index k = 0; k < rows.rows(); ++k) elimination.take(rows, k);
  return jacobian.cols() - elimination.rank();
}

Freedoms freedoms_of(const Sparse& jacobian) {
  Freedoms result;
  const Eigen::Index n = jacobian.cols();
  const Rows rows = unit_rows(jacobian);
  Elimination elimination(rows);
  for (Eigen::Index k = 0; k < rows.rows(); ++k) {
    if (!elimination.take(rows, k)) result.following.push_back(k);
  }
  result.count = n - elimination.rank();
  result.loose.assign(static_cast<std::size_t>(n), result.count > 0);
  if (result.count == 0 || rows.rows() == 0) return result;
  // A motion taken by chance leaves a number where it is that could move with chance 0; six of them
  // move each by far more than the threshold.
  constexpr double kMoves = 1e-6;  // of the number that moves most
  std::mt19937_64 random(1);
  Eigen::VectorXd most = Eigen::VectorXd::Zero(n);
  for (int k = 0; k < 6; ++k) most = most.cwiseMax(elimination.motion(random).cwiseAbs());
  const double largest = most.maxCoeff();
  for (Eigen::Index i = 0; i < n; ++i)
    result.loose[static_cast<std::size_t>(i)] = most[i] > kMoves * largest;
  return result;
}

}  // namespace lostline::sketch
