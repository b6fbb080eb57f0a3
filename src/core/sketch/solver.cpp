#include "sketch/solver.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

#include "base/linear.h"
#include "sketch/held_step.h"
#include "sketch/null_space.h"
#include "sketch/system.h"

namespace lostline::sketch {
namespace {

Sparse diagonal(const Eigen::VectorXd& weights) {
  Sparse d(weights.size(), weights.size());
  d.reserve(Eigen::VectorXi::Constant(weights.size(), 1));
  for (Eigen::Index i = 0; i < weights.size(); ++i) d.insert(i, i) = weights[i];
  return d;
}

/// Newton steps of least norm until the constraints hold; true when they do.
bool project(const System& system, Eigen::VectorXd& x) {
  if (system.equations() == 0) return true;
  Eigen::VectorXd f;
  Sparse jacobian;
  system.evaluate(x, f, jacobian);
  const Sparse even = diagonal(Eigen::VectorXd::Ones(x.size()));
  const Eigen::VectorXd nowhere = Eigen::VectorXd::Zero(x.size());
  for (int iteration = 0; iteration < 60; ++iteration) {
    if (f.cwiseAbs().maxCoeff() < kHoldTolerance) return true;
    const HeldStep held(even, jacobian);
    if (!held.good()) return false;
    const Eigen::VectorXd step = held.solve(nowhere, -f);
    double scale = 1;
    Eigen::VectorXd next;
    Eigen::VectorXd next_f;
    for (int halving = 0; halving < 8; ++halving, scale *= 0.5) {
      next = x + scale * step;
      system.evaluate(next, next_f, jacobian);
      if (next_f.squaredNorm() < f.squaredNorm()) break;
    }
    if (!(next_f.squaredNorm() < f.squaredNorm() * (1 - 1e-9)))
      return f.cwiseAbs().maxCoeff() < 1e-6;
    x = next;
    f = next_f;
  }
  return f.cwiseAbs().maxCoeff() < 1e-6;
}

using Ids = std::vector<Id>;

/// Finds a smallest set of constraints that contradict each other: none of it can be spared for the
/// contradiction. Older constraints are taken as given where there is a choice.
/// Source: U. Junker, QuickXplain: preferred explanations and relaxations for over-constrained
/// problems, AAAI (2004).
class Contradiction {
 public:
  explicit Contradiction(const Sketch& sketch) : sketch_(sketch) {}

  /// @param all  those to choose from, oldest first; together they must contradict.
  [[nodiscard]] Ids among(const Ids& all) const { return explain({}, false, all); }

 private:
  [[nodiscard]] bool holds(const Ids& constraints) const {
    Sketch reduced = sketch_;
    std::erase_if(reduced.constraints, [&](const Constraint& c) {
      return std::find(constraints.begin(), constraints.end(), c.id) == constraints.end();
    });
    const Result<System> system = System::build(reduced, true);
    if (!system) return false;
    Eigen::VectorXd x = system->start();
    return project(*system, x);
  }
  [[nodiscard]] Ids explain(const Ids& given, bool grown, const Ids& open) const {
    if (grown && !holds(given)) return {};
    if (open.size() == 1) return open;
    const auto half = open.begin() + static_cast<std::ptrdiff_t>(open.size() / 2);
    const Ids older(open.begin(), half);
    const Ids newer(half, open.end());
    const Ids second = explain(joined(given, older), true, newer);
    const Ids first = explain(joined(given, second), !second.empty(), older);
    return joined(first, second);
  }
  static Ids joined(Ids a, const Ids& b) {
    a.insert(a.end(), b.begin(), b.end());
    return a;
  }

  const Sketch& sketch_;
};

void analyse(const System& system, const Eigen::VectorXd& x, Solution& solution) {
  Eigen::VectorXd f;
  Eigen::MatrixXd jacobian;
  system.evaluate(x, f, jacobian);
  const Eigen::MatrixXd basis = null_space(jacobian, system.unknowns());
  solution.freedoms = static_cast<int>(basis.cols());
  solution.state = solution.freedoms == 0 ? State::Held : State::Loose;
  for (const Entity& e : solution.sketch.entities) {
    double freedom = 0;
    for (const Eigen::Index i : system.unknowns_of(e)) freedom += basis.row(i).squaredNorm();
    if (freedom > 1e-8) solution.loose_entities.push_back(e.id);
  }
  // An equation that adds no rank to those before it follows from them.
  Eigen::MatrixXd kept(0, system.unknowns());
  for (Eigen::Index row = 0; row < jacobian.rows(); ++row) {
    Eigen::VectorXd r = jacobian.row(row).transpose();
    const double size = r.norm();
    for (int pass = 0; pass < 2; ++pass) r -= kept.transpose() * (kept * r);
    if (r.norm() > 1e-7 * std::max(size, 1e-12)) {
      kept.conservativeResize(kept.rows() + 1, Eigen::NoChange);
      kept.row(kept.rows() - 1) = r.normalized().transpose();
    } else if (system.owner(row) != 0 &&
               (solution.redundant.empty() || solution.redundant.back() != system.owner(row))) {
      solution.redundant.push_back(system.owner(row));
    }
  }
}

}  // namespace

Eigen::MatrixXd null_space(const Eigen::MatrixXd& jacobian, Eigen::Index unknowns) {
  if (jacobian.rows() == 0) return Eigen::MatrixXd::Identity(unknowns, unknowns);
  return null_space_of(jacobian, 1e-9);
}

Result<Solution> solve(const Sketch& sketch) {
  Result<System> system = System::build(sketch, true);
  if (!system) return system.error();
  Eigen::VectorXd x = system->start();
  Solution solution;
  const bool holds = project(*system, x);
  solution.sketch = system->applied(x);
  if (holds) {
    analyse(*system, x, solution);
    return solution;
  }
  solution.state = State::Clashing;
  Ids active;
  for (const Constraint& c : sketch.constraints) {
    if (!c.is_dimension() || c.driving) active.push_back(c.id);
  }
  if (!active.empty()) solution.clashing = Contradiction(sketch).among(active);
  return solution;
}

namespace {

/// Moves the unknowns so that the point at `at` comes as near to a target as the constraints let
/// it.
void drag_step(const System& system, Eigen::Index at, const Vec2& target, Eigen::VectorXd& x) {
  // Weight that keeps the rest where it is: so small that the point lags behind by nothing seen.
  constexpr double kStay = 1e-6;
  constexpr int kIterations = 12;
  Eigen::VectorXd f;
  Sparse jacobian;
  Eigen::VectorXd wanted = x;
  wanted.segment<2>(at) = target;
  Eigen::VectorXd weights = Eigen::VectorXd::Constant(x.size(), kStay);
  weights[at] = weights[at + 1] = 1;
  const Sparse metric = diagonal(weights);
  for (int iteration = 0; iteration < kIterations; ++iteration) {
    system.evaluate(x, f, jacobian);
    const HeldStep held(metric, jacobian);
    if (!held.good()) return;
    const Eigen::VectorXd step = held.solve(weights.cwiseProduct(wanted - x), -f);
    x += step;
    if (step.norm() < 1e-10) break;
  }
}

}  // namespace

Result<Solution> drag(const Sketch& sketch, Id point, const Vec2& target, bool analysed) {
  Result<System> system = System::build(sketch, true);
  if (!system) return system.error();
  const Eigen::Index at = system->point_unknown(point);
  if (at < 0) return Error{ErrorCode::InvalidInput, "This point cannot be dragged."};
  Eigen::VectorXd x = system->start();
  // A far target is approached step after step, as a hand would: each turns the sketch by little.
  constexpr double kStep = 0.1;  // of the sketch's size
  constexpr double kMost = 40;
  const Vec2 from = x.segment<2>(at);
  Eigen::AlignedBox2d box;
  for (const Point& p : sketch.points) box.extend(p.at);
  const double steps =
      std::clamp(std::ceil((target - from).norm() / std::max(kStep * box.diagonal().norm(), 1e-9)),
                 1.0, kMost);
  for (int k = 1; k <= static_cast<int>(steps); ++k)
    drag_step(*system, at, from + k / steps * (target - from), x);
  if (!project(*system, x))
    return Error{ErrorCode::NotConverged, "The constraints do not let the point go there."};
  Solution solution;
  solution.sketch = system->applied(x);
  if (analysed) analyse(*system, x, solution);
  return solution;
}

}  // namespace lostline::sketch
