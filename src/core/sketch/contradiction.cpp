#include "sketch/contradiction.h"

#include <algorithm>
#include <cmath>
#include <unordered_set>

#include "sketch/held_step.h"

namespace lostline::sketch {
namespace {

using Ids = std::vector<Id>;

/// Source: U. Junker, QuickXplain: preferred explanations and relaxations for over-constrained
/// problems, AAAI (2004).
class Explanation {
 public:
  explicit Explanation(const Sketch& sketch) : sketch_(sketch) {}

  /// @param all  those to choose from, oldest first; together they must contradict.
  [[nodiscard]] Ids among(const Ids& all) { return explain({}, false, all); }

  [[nodiscard]] bool holds(const Ids& constraints) {
    const std::unordered_set<Id> kept(constraints.begin(), constraints.end());
    Sketch reduced = sketch_;
    std::erase_if(reduced.constraints, [&](const Constraint& c) { return !kept.contains(c.id); });
    const Result<System> system = System::build(reduced, true);
    if (!system) return false;
    effort_ += system->unknowns();
    Eigen::VectorXd x = system->start();
    return settle(*system, x);
  }

 private:
  [[nodiscard]] Ids explain(const Ids& given, bool grown, const Ids& open) {
    if (grown && !holds(given)) return {};
    if (open.size() == 1 || effort_ > kMost) return open;
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

  static constexpr Eigen::Index kMost = 100'000;  // unknowns solved for: about a second
  const Sketch& sketch_;
  Eigen::Index effort_ = 0;
};

/// What the given constraints name, with what they hold together, and nothing else.
Sketch only_named(const Sketch& sketch, const std::unordered_set<Id>& constraints) {
  std::unordered_set<Id> named;
  for (const Constraint& c : sketch.constraints) {
    if (constraints.contains(c.id)) named.insert({c.first, c.second, c.third});
  }
  Sketch part = sketch;
  std::erase_if(part.constraints, [&](const Constraint& c) { return !constraints.contains(c.id); });
  std::erase_if(part.entities, [&](const Entity& e) { return !named.contains(e.id); });
  for (const Entity& e : part.entities) e.each_point([&](Id p) { named.insert(p); });
  std::erase_if(part.points, [&](const Point& p) { return !named.contains(p.id); });
  return part;
}

Sparse even_weights(Eigen::Index n) {
  Sparse even(n, n);
  even.setIdentity();
  return even;
}

}  // namespace

bool settle(const System& system, Eigen::VectorXd& x) {
  if (system.equations() == 0) return true;
  // What rounding and slow convergence may leave where no step helps any more, of the tolerance.
  constexpr double kLeft = 1e3;
  const double tolerance = system.hold_tolerance();
  Eigen::VectorXd f;
  Sparse jacobian;
  system.evaluate(x, f, jacobian);
  const Sparse even = even_weights(x.size());
  const Eigen::VectorXd nowhere = Eigen::VectorXd::Zero(x.size());
  for (int iteration = 0; iteration < 60; ++iteration) {
    if (f.cwiseAbs().maxCoeff() < tolerance) return true;
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
      return f.cwiseAbs().maxCoeff() < kLeft * tolerance;
    x = next;
    f = next_f;
  }
  return f.cwiseAbs().maxCoeff() < kLeft * tolerance;
}

std::vector<Id> contradicting(const System& system, const Eigen::VectorXd& x) {
  Ids active;
  for (const Constraint& c : system.sketch().constraints) {
    if (!c.is_dimension() || c.driving) active.push_back(c.id);
  }
  if (active.empty()) return {};
  // Where the squares are least, what is left of the equations is a balance of those that pull
  // against each other; the others are at rest.
  constexpr double kAtRest = 1e-6;  // of the largest
  Eigen::VectorXd f;
  Sparse jacobian;
  system.evaluate(x, f, jacobian);
  const double largest = f.cwiseAbs().maxCoeff();
  std::unordered_set<Id> pulling;
  for (Eigen::Index row = 0; row < f.size(); ++row) {
    if (system.owner(row) != 0 && std::abs(f[row]) > kAtRest * largest)
      pulling.insert(system.owner(row));
  }
  if (!pulling.empty() && pulling.size() < active.size()) {
    const Sketch part = only_named(system.sketch(), pulling);
    Ids some = active;
    std::erase_if(some, [&](Id id) { return !pulling.contains(id); });
    Explanation within(part);
    if (!within.holds(some)) return within.among(some);
  }
  return Explanation(system.sketch()).among(active);
}

}  // namespace lostline::sketch
