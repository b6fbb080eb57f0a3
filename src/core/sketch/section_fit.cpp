#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <map>

#include "base/linear.h"
#include "sketch/curve_kind.h"
#include "sketch/null_space.h"
#include "sketch/solver.h"
#include "sketch/system.h"

namespace lostline::sketch {
namespace {

struct Evidence {
  Vec2 point;
  std::size_t entity;  // index into the sketch's entities
  std::size_t order;   // place along the section, for the correlation along it
};

using Curves = std::vector<std::unique_ptr<PlaneCurve>>;

Curves placed_curves(const Sketch& sketch) {
  Curves curves;
  for (const Entity& e : sketch.entities) curves.push_back(placed(sketch, e));
  return curves;
}

std::vector<Evidence> gather(const Sketch& sketch, const section::Section& section,
                             const FitOptions& options) {
  std::vector<Evidence> evidence;
  const Curves curves = placed_curves(sketch);
  std::size_t order = 0;
  for (const section::Polyline& line : section.polylines) {
    for (const Vec2& p : line.points) {
      ++order;
      double nearest = options.reach;
      std::size_t entity = sketch.entities.size();
      Vec2 foot = Vec2::Zero();
      for (std::size_t i = 0; i < sketch.entities.size(); ++i) {
        Vec2 here;
        const double d = std::abs(curves[i]->drift(p, &here));
        if (d < nearest) {
          nearest = d;
          entity = i;
          foot = here;
        }
      }
      if (entity == sketch.entities.size()) continue;
      const Entity& e = sketch.entities[entity];
      if (kind_of(e).has_ends()) {
        const Vec2 a = sketch.position(e.a);
        const Vec2 b = sketch.position(e.b);
        const double margin = std::min(options.corner_margin, 0.2 * (a - b).norm());
        if ((foot - a).norm() < margin || (foot - b).norm() < margin) continue;
      }
      evidence.push_back({p, entity, order});
    }
  }
  return evidence;
}

/// Variance factor for residuals that agree along the section: one plus twice the summed
/// autocorrelation over the first lags, while positive. Source: initial positive sequence, C.
/// Geyer, Practical Markov chain Monte Carlo, Statistical Science 7 (1992).
double inflation_along(const std::vector<double>& residuals) {
  const std::size_t n = residuals.size();
  if (n < 20) return 1;
  double variance = 0;
  for (const double r : residuals) variance += r * r;
  double factor = 1;
  for (std::size_t lag = 1; lag < std::min<std::size_t>(n / 3, 200); ++lag) {
    double sum = 0;
    for (std::size_t i = lag; i < n; ++i) sum += residuals[i] * residuals[i - lag];
    if (sum < 0.02 * variance) break;
    factor += 2 * sum / variance;
  }
  return factor;
}

}  // namespace

Result<FitResult> fit_to_section(const Sketch& sketch, const section::Section& section,
                                 const FitOptions& options, const Task& task) {
  Sketch start = sketch;
  if (!options.hold_dimensions) {
    for (Constraint& c : start.constraints) c.driving = false;
  }
  Result<Solution> solved = solve(start);
  if (!solved) return solved.error();
  if (solved->state == State::Clashing) {
    std::string names;
    for (const Id id : solved->clashing) {
      if (!names.empty()) names += ", ";
      names += describe(sketch, *sketch.find_constraint(id));
    }
    return Error{ErrorCode::Degenerate, "These constraints contradict each other: " + names +
                                            ". Delete or lift one of them."};
  }
  Result<System> built = System::build(solved->sketch, true);
  if (!built) return built.error();
  const System& system = *built;
  const Eigen::Index n = system.unknowns();
  Eigen::VectorXd x = system.start();
  FitResult result;
  std::vector<Evidence> evidence;
  Eigen::MatrixXd hessian;
  Eigen::MatrixXd basis;
  Eigen::VectorXd f;
  Eigen::MatrixXd jacobian;
  std::vector<std::pair<Eigen::Index, double>> row;
  std::vector<double> residuals;
  double cut_off = 1e300;
  // Unknowns without evidence (the centre of a short arc along its chord) stay where they are by a
  // weight far below that of one point.
  constexpr double kStay = 1e-7;
  for (int iteration = 0; iteration < 40; ++iteration) {
    if (task.stopped()) return cancelled();
    const Sketch current = system.applied(x);
    if (iteration % 5 == 0 && iteration < 20) evidence = gather(current, section, options);
    if (evidence.empty()) {
      return Error{ErrorCode::InvalidInput,
                   "No section points lie near the sketch, so there is nothing to fit it to."};
    }
    hessian = kStay * Eigen::MatrixXd::Identity(n, n);
    Eigen::VectorXd gradient = Eigen::VectorXd::Zero(n);
    residuals.clear();
    std::vector<double> sizes;
    for (const Evidence& item : evidence) {
      const double r = system.distance(current.entities[item.entity], item.point, x, row);
      residuals.push_back(r);
      sizes.push_back(std::abs(r));
      if (std::abs(r) > cut_off) continue;
      for (const auto& [i, di] : row) {
        gradient[i] += di * r;
        for (const auto& [j, dj] : row) hessian(i, j) += di * dj;
      }
    }
    const auto middle = sizes.begin() + static_cast<std::ptrdiff_t>(sizes.size() / 2);
    std::nth_element(sizes.begin(), middle, sizes.end());
    if (iteration < 12) cut_off = 3.5 * 1.4826 * *middle + 1e-6;
    system.evaluate(x, f, jacobian);
    const Eigen::VectorXd particular =
        system.equations() > 0 ? least_norm_step(jacobian, f) : Eigen::VectorXd::Zero(n);
    basis = null_space(jacobian, n);
    Eigen::VectorXd step = particular;
    if (basis.cols() > 0) {
      const Eigen::MatrixXd reduced = product_tn(basis, product(hessian, basis));
      const Eigen::VectorXd slope = gradient + hessian * particular;
      step -= basis * solve_symmetric(reduced, basis.transpose() * slope).col(0);
    }
    if (!step.allFinite())
      return Error{ErrorCode::NotConverged, "The sketch did not settle on the section."};
    const double largest = step.cwiseAbs().maxCoeff();
    if (largest > 5) step *= 5 / largest;
    x += step;
    result.rounds = iteration + 1;
    result.settled = largest < 1e-10;
    if (iteration > 15 && result.settled) break;
  }
  Result<Solution> final_solution = solve(system.applied(x));
  if (!final_solution) return final_solution.error();
  result.solution = *std::move(final_solution);

  // Noise: pooled over the entities; correlation: per entity, the worst that a reading depends on
  // is close to the pooled one.
  std::map<std::size_t, std::vector<double>> by_entity;
  double sum = 0;
  for (std::size_t i = 0; i < evidence.size(); ++i) {
    if (std::abs(residuals[i]) > cut_off) continue;
    by_entity[evidence[i].entity].push_back(residuals[i]);
    sum += residuals[i] * residuals[i];
    ++result.points;
  }
  const double freedoms = static_cast<double>(basis.cols());
  const double count = static_cast<double>(result.points);
  result.rms = std::sqrt(sum / std::max(count, 1.0));
  double factor = 0;
  for (const auto& [entity, list] : by_entity)
    factor += inflation_along(list) * static_cast<double>(list.size()) / count;
  const double variance = sum / std::max(count - freedoms, 1.0) * std::max(1.0, factor);
  const auto covariance_with = [&](double stay) -> Eigen::MatrixXd {
    if (basis.cols() == 0) return Eigen::MatrixXd::Zero(n, n);
    const Eigen::MatrixXd stiffer = hessian + stay * Eigen::MatrixXd::Identity(n, n);
    const Eigen::MatrixXd reduced = product_tn(basis, product(stiffer, basis));
    return variance * product(basis, solve_symmetric(reduced, basis.transpose()));
  };
  const Eigen::MatrixXd covariance = covariance_with(0);
  const Eigen::MatrixXd stayed = covariance_with(9 * kStay);
  for (const Constraint& c : result.solution.sketch.constraints) {
    if (!c.is_dimension()) continue;
    const Eigen::VectorXd g = system.gradient(c, x);
    const double spread = g.dot(covariance * g);
    // What only the weight that keeps things in place decides is ten times as sure with ten times
    // that weight; no section point bears on it.
    const bool told = g.dot(stayed * g) >= 0.5 * spread;
    result.readings.push_back(
        {c.id, measured_value(result.solution.sketch, c),
         told ? std::optional(2 * std::sqrt(std::max(0.0, spread))) : std::nullopt});
  }
  if (!options.hold_dimensions) {
    for (Constraint& c : result.solution.sketch.constraints) {
      const Constraint* original = sketch.find_constraint(c.id);
      c.driving = original->driving;
      c.value = original->value;
    }
  }
  return result;
}

Drift measure_drift(const Sketch& sketch, const section::Section& section, double reach) {
  Drift drift;
  const Curves curves = placed_curves(sketch);
  double sum = 0;
  for (const section::Polyline& line : section.polylines) {
    for (const Vec2& p : line.points) {
      double nearest = reach;
      Drift::Whisker whisker{};
      for (std::size_t i = 0; i < curves.size(); ++i) {
        Vec2 foot;
        const double d = curves[i]->drift(p, &foot);
        if (std::abs(d) < nearest) {
          nearest = std::abs(d);
          whisker = {foot, p, d, sketch.entities[i].id};
        }
      }
      if (whisker.entity == 0) continue;
      drift.whiskers.push_back(whisker);
      sum += whisker.value * whisker.value;
      if (std::abs(whisker.value) > std::abs(drift.greatest)) {
        drift.greatest = whisker.value;
        drift.greatest_at = p;
      }
    }
  }
  if (!drift.whiskers.empty())
    drift.rms = std::sqrt(sum / static_cast<double>(drift.whiskers.size()));
  return drift;
}

}  // namespace lostline::sketch
