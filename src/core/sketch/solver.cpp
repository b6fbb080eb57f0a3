#include "sketch/solver.h"

#include <algorithm>
#include <cmath>

#include "sketch/contradiction.h"
#include "sketch/freedoms.h"
#include "sketch/system.h"

namespace lostline::sketch {
namespace {

Sparse diagonal(const Eigen::VectorXd& weights) {
  Sparse d(weights.size(), weights.size());
  d.reserve(Eigen::VectorXi::Constant(weights.size(), 1));
  for (Eigen::Index i = 0; i < weights.size(); ++i) d.insert(i, i) = weights[i];
  return d;
}

void analyse(const System& system, const Eigen::VectorXd& x, Solution& solution) {
  Eigen::VectorXd f;
  Sparse jacobian;
  system.evaluate(x, f, jacobian);
  const Freedoms freedoms = freedoms_of(jacobian);
  solution.freedoms = static_cast<int>(freedoms.count);
  solution.state = solution.freedoms == 0 ? State::Held : State::Loose;
  for (const Entity& e : solution.sketch.entities) {
    const auto on = system.unknowns_of(e);
    if (std::any_of(on.begin(), on.end(),
                    [&](Eigen::Index i) { return freedoms.loose[static_cast<std::size_t>(i)]; }))
      solution.loose_entities.push_back(e.id);
  }
  for (const Eigen::Index row : freedoms.following) {
    const Id owner = system.owner(row);
    if (owner != 0 && (solution.redundant.empty() || solution.redundant.back() != owner))
      solution.redundant.push_back(owner);
  }
}

}  // namespace

Result<Solution> solve(const Sketch& sketch, Asked asked) {
  Result<System> system = System::build(sketch, true);
  if (!system) return system.error();
  Eigen::VectorXd x = system->start();
  Solution solution;
  const bool holds = settle(*system, x);
  solution.sketch = system->applied(x);
  solution.state = holds ? State::Solved : State::Clashing;
  if (asked == Asked::Places) return solution;
  if (holds) {
    analyse(*system, x, solution);
  } else {
    solution.clashing = contradicting(*system, x);
  }
  return solution;
}

Result<Sketch> solved_places(const Sketch& sketch) {
  auto solved = solve(sketch, Asked::Places);
  if (!solved) return solved.error();
  if (solved->state != State::Clashing) return std::move(solved->sketch);
  solved = solve(sketch);
  std::string names;
  for (const Id id : solved->clashing) {
    if (!names.empty()) names += ", ";
    names += describe(sketch, *sketch.find_constraint(id));
  }
  return Error{ErrorCode::Degenerate, "These constraints contradict each other: " + names +
                                          ". Delete or lift one of them."};
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

Result<Solution> drag(const Sketch& sketch, Id point, const Vec2& target, Asked asked) {
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
  if (!settle(*system, x))
    return Error{ErrorCode::NotConverged, "The constraints do not let the point go there."};
  Solution solution;
  solution.sketch = system->applied(x);
  solution.state = State::Solved;
  if (asked == Asked::All) analyse(*system, x, solution);
  return solution;
}

}  // namespace lostline::sketch
