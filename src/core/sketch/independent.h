#pragma once

#include <optional>
#include <set>
#include <tuple>

#include "base/task.h"
#include "sketch/system.h"

namespace lostline::sketch {

/// Takes constraints that hold within a tolerance and do not follow from those taken before. The
/// directions in which the constraints so far hold the sketch are kept as an orthonormal basis; a
/// candidate is independent when its equations have a part outside of it. So a candidate costs the
/// numbers that it touches times the rank, and only one that is taken costs the whole sketch.
class Independent {
 public:
  /// @param dimensions  whether dimensions that are only read hold too, at what they read.
  Independent(const Sketch& sketch, const Task& task, bool dimensions = false);

  /// Takes a constraint, a dimension at what it measures now. False when it follows from others, is
  /// there already or does not go with what it names.
  bool offer(ConstraintType type, Id first, Id second = 0);
  /// Numbers of the sketch that nothing holds yet.
  [[nodiscard]] int freedoms() const;
  /// Those taken, without any that contradict after all.
  std::vector<Constraint> take();

 private:
  [[nodiscard]] auto held() const { return basis_.leftCols(rank_); }
  void hold(Eigen::VectorXd row);
  [[nodiscard]] bool present(ConstraintType type, Id low, Id high) const;
  void drop(Id id);

  Sketch trial_;
  std::optional<System> system_;  // of the sketch at the start; its unknowns stay
  const Task& task_;
  Eigen::VectorXd x_;
  Eigen::MatrixXd basis_;  // the first `rank_` columns
  Eigen::Index rank_ = 0;
  std::set<std::tuple<ConstraintType, Id, Id>> known_;
  std::vector<Constraint> found_;
};

}  // namespace lostline::sketch
