#include <algorithm>
#include <cmath>
#include <map>

#include "sketch/curve_kind.h"
#include "sketch/freedoms.h"
#include "sketch/held_step.h"
#include "sketch/nearest_curve.h"
#include "sketch/section_judge.h"
#include "sketch/solver.h"
#include "sketch/system.h"

namespace lostline::sketch {
namespace {

struct Evidence {
  Vec2 point;
  std::size_t entity;         // index into the sketch's entities
  std::size_t order;          // place along the section, for the correlation along it
  Vec2 chord = Vec2::Zero();  // of the mesh's edge that it was cut from, see section::Polyline
};

std::vector<Evidence> gather(const Sketch& sketch, const section::Section& section,
                             const FitOptions& options) {
  std::vector<Evidence> evidence;
  const NearestCurve curves(sketch);
  std::size_t order = 0;
  for (const section::Polyline& line : section.polylines) {
    const bool chords = line.chords.size() == line.points.size();
    curves.along(line.points, options.reach, [&](std::size_t k, const NearestCurve::Found& found) {
      const Entity& e = sketch.entities[found.entity];
      if (kind_of(e).has_ends()) {
        const Vec2 a = sketch.position(e.a);
        const Vec2 b = sketch.position(e.b);
        const double margin = std::min(options.corner_margin, 0.2 * (a - b).norm());
        if ((found.foot - a).norm() < margin || (found.foot - b).norm() < margin) return;
      }
      evidence.push_back({line.points[k], found.entity, order + k + 1,
                          chords ? line.chords[k] : Vec2(Vec2::Zero())});
    });
    order += line.points.size();
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
    if (sum <= 0.02 * variance) break;
    factor += 2 * sum / variance;
  }
  return factor;
}

/// A sketch that has settled on a section, with the quadratic form about it.
struct Settled {
  System system;
  Eigen::VectorXd x;
  Sparse hessian, jacobian;
  std::vector<Evidence> evidence;
  std::vector<double> residuals;  // of the evidence
  double cut_off = 1e300;         // mm: what lies further off does not count
  int rounds = 0;
  bool settled = false;
};

// Unknowns without evidence (the centre of a short arc along its chord) stay where they are by a
// weight far below that of one point.
constexpr double kStay = 1e-7;

Result<Settled> settle_on(const Sketch& sketch, const section::Section& section,
                          const FitOptions& options, const Task& task) {
  Sketch start = sketch;
  if (!options.hold_dimensions) {
    for (Constraint& c : start.constraints) c.driving = false;
  }
  const Result<Sketch> solved = solved_places(start);
  if (!solved) return solved.error();
  Result<System> built = System::build(*solved, true);
  if (!built) return built.error();
  const System& system = *built;
  const Eigen::Index n = system.unknowns();
  Eigen::VectorXd x = system.start();
  Settled result{system, {}, Sparse(n, n), {}, {}, {}, 1e300, 0, false};
  std::vector<Evidence>& evidence = result.evidence;
  std::vector<Eigen::Triplet<double>> entries;
  Sparse& hessian = result.hessian;
  Eigen::VectorXd f;
  Sparse& jacobian = result.jacobian;
  std::vector<std::pair<Eigen::Index, double>> row;
  std::vector<double>& residuals = result.residuals;
  double& cut_off = result.cut_off;
  Eigen::VectorXd gradient;
  // A pole of a spline may slide along it and change nothing: it stays by a tenth of the weight of
  // a point.
  Eigen::VectorXd stay = Eigen::VectorXd::Constant(n, kStay);
  for (const Entity& e : system.sketch().entities) {
    if (e.knots.empty()) continue;
    for (const Id pole : e.poles) {
      const Eigen::Index i = system.point_unknown(pole);
      if (i >= 0) stay[i] = stay[i + 1] = 0.1;
    }
  }
  // Residuals at x, and the quadratic form about it.
  const auto look = [&](const Sketch& current) {
    entries.clear();
    for (Eigen::Index i = 0; i < n; ++i) entries.emplace_back(i, i, stay[i]);
    gradient.setZero(n);
    residuals.clear();
    for (const Evidence& item : evidence) {
      const Entity& e = current.entities[item.entity];
      double r = system.distance(e, item.point, x, row);
      // A point on a chord of what is round lies within it.
      if (kind_of(e).has_radius() && e.radius > 0) {
        const Vec2 arm = (item.point - current.position(e.centre)).normalized();
        const double along = -arm.y() * item.chord.x() + arm.x() * item.chord.y();
        r += 0.5 * along * along / e.radius;
      }
      residuals.push_back(r);
      if (std::abs(r) > cut_off) continue;
      for (const auto& [i, di] : row) {
        gradient[i] += di * r;
        for (const auto& [j, dj] : row) entries.emplace_back(i, j, di * dj);
      }
    }
    hessian.setFromTriplets(entries.begin(), entries.end());
    system.evaluate(x, f, jacobian);
  };
  double damping = 0;
  double before = 1e300;
  for (int iteration = 0; iteration < 60; ++iteration) {
    if (task.stopped()) return cancelled();
    const Sketch current = system.applied(x);
    if (iteration % 5 == 0 && iteration < 20) evidence = gather(current, section, options);
    if (evidence.empty()) {
      return Error{ErrorCode::InvalidInput,
                   "No section points lie near the sketch, so there is nothing to fit it to."};
    }
    look(current);
    std::vector<double> sizes;
    for (const double r : residuals) sizes.push_back(std::abs(r));
    const auto middle = sizes.begin() + static_cast<std::ptrdiff_t>(sizes.size() / 2);
    std::nth_element(sizes.begin(), middle, sizes.end());
    if (iteration < 12) cut_off = 3.5 * 1.4826 * *middle + 1e-6;
    // Steps that do not grow smaller are damped: where a line goes over into a flat arc, the place
    // of their end is told by little.
    Sparse damped = hessian;
    if (damping > 0)
      for (Eigen::Index i = 0; i < n; ++i) damped.coeffRef(i, i) *= 1 + damping;
    const HeldStep held(damped, jacobian);
    Eigen::VectorXd step =
        held.good() ? held.solve(-gradient, -f) : Eigen::VectorXd::Constant(n, std::nan(""));
    if (!step.allFinite())
      return Error{ErrorCode::NotConverged, "The sketch did not settle on the section."};
    const double largest = step.cwiseAbs().maxCoeff();
    if (largest > 5) step *= 5 / largest;
    x += step;
    if (iteration > 3) damping = largest > 0.5 * before ? std::max(1e-3, 4 * damping) : damping / 4;
    if (damping < 1e-4) damping = 0;
    before = largest;
    result.rounds = iteration + 1;
    result.settled = largest < 1e-10;
    if (iteration > 15 && result.settled) break;
  }
  // To a grid far finer than what holds, so that the same sketch comes out to the last bit wherever
  // the fit began.
  constexpr double kGrid = 68719476736.0;  // 2^36 a mm
  if (result.settled) x = (x * kGrid).array().round().matrix() / kGrid;
  look(system.applied(x));
  result.x = x;
  return result;
}

/// Noise: pooled over the entities; correlation: per entity, the worst that a reading depends on is
/// close to the pooled one.
struct Noise {
  double variance = 0;  ///< of one point, inflated for what neighbours share
  double rms = 0;
  std::size_t points = 0;
};
Noise noise_of(const Settled& s, double freedoms) {
  std::map<std::size_t, std::vector<double>> by_entity;
  double sum = 0;
  Noise noise;
  for (std::size_t i = 0; i < s.evidence.size(); ++i) {
    if (std::abs(s.residuals[i]) > s.cut_off) continue;
    by_entity[s.evidence[i].entity].push_back(s.residuals[i]);
    sum += s.residuals[i] * s.residuals[i];
    ++noise.points;
  }
  const auto count = static_cast<double>(noise.points);
  noise.rms = std::sqrt(sum / std::max(count, 1.0));
  double factor = 0;
  for (const auto& [entity, list] : by_entity)
    factor += inflation_along(list) * static_cast<double>(list.size()) / count;
  noise.variance = sum / std::max(count - freedoms, 1.0) * std::max(1.0, factor);
  return noise;
}

}  // namespace

Result<FitResult> fit_to_section(const Sketch& sketch, const section::Section& section,
                                 const FitOptions& options, const Task& task) {
  auto fit = settle_on(sketch, section, options, task);
  if (!fit) return fit.error();
  FitResult result;
  result.rounds = fit->rounds;
  result.settled = fit->settled;
  Result<Solution> final_solution = solve(fit->system.applied(fit->x), options.asked);
  if (!final_solution) return final_solution.error();
  result.solution = *std::move(final_solution);

  const Noise noise = noise_of(*fit, static_cast<double>(count_freedoms(fit->jacobian)));
  result.points = noise.points;
  result.rms = noise.rms;
  Sparse stiffer = fit->hessian;
  for (Eigen::Index i = 0; i < stiffer.rows(); ++i) stiffer.coeffRef(i, i) += 9 * kStay;
  const HeldStep free_to_move(fit->hessian, fit->jacobian);
  const HeldStep stayed(stiffer, fit->jacobian);
  const Eigen::VectorXd held_back = Eigen::VectorXd::Zero(fit->system.equations());
  for (const Constraint& c : result.solution.sketch.constraints) {
    if (!c.is_dimension()) continue;
    const Eigen::VectorXd g = fit->system.gradient(c, fit->x);
    const double spread = noise.variance * g.dot(free_to_move.solve(g, held_back));
    // What only the weight that keeps things in place decides is ten times as sure with ten times
    // that weight; no section point bears on it.
    const bool told = noise.variance * g.dot(stayed.solve(g, held_back)) >= 0.5 * spread;
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

struct SectionJudge::State {
  State(Settled settled, const Noise& n)
      : fit(std::move(settled)), free_to_move(fit.hessian, fit.jacobian), noise(n) {}
  Settled fit;
  HeldStep free_to_move;
  Noise noise;
};

Result<SectionJudge> SectionJudge::of(const Sketch& sketch, const section::Section& section,
                                      const FitOptions& options, const Task& task) {
  FitOptions undecided = options;
  undecided.hold_dimensions = false;
  auto fit = settle_on(sketch, section, undecided, task);
  if (!fit) return fit.error();
  const auto freedoms = static_cast<double>(fit->system.unknowns() - fit->system.equations());
  const Noise noise = noise_of(*fit, std::max(0.0, freedoms));
  SectionJudge judge;
  judge.state_ = std::make_shared<const State>(*std::move(fit), noise);
  return judge;
}

std::optional<SectionJudge::Departure> SectionJudge::departure(const Constraint& c) const {
  const auto rows = state_->fit.system.rows_of(c, state_->fit.x);
  if (!rows) return std::nullopt;
  const Eigen::VectorXd held_back = Eigen::VectorXd::Zero(state_->fit.system.equations());
  Departure worst;
  for (const System::Row& row : *rows) {
    Eigen::VectorXd g = Eigen::VectorXd::Zero(state_->fit.system.unknowns());
    for (const auto& [i, d] : row.slopes) g[i] += d;
    const double spread = std::sqrt(
        std::max(0.0, state_->noise.variance * g.dot(state_->free_to_move.solve(g, held_back))));
    const double off = std::abs(row.value);
    // What the present constraints say already has no spread.
    const double in_u = off < 1e-9 ? 0 : spread > 0 ? off / spread : 1e300;
    if (in_u >= worst.deviations) worst = {off, in_u, 0};
  }
  // The least sum of squares grows by the squared departure over its variance, the noise being one.
  const Noise& noise = state_->noise;
  const double grown = worst.deviations * worst.deviations * noise.variance;
  worst.rms =
      std::sqrt(noise.rms * noise.rms + grown / std::max(static_cast<double>(noise.points), 1.0));
  return worst;
}

double SectionJudge::rms() const { return state_->noise.rms; }

Drift measure_drift(const Sketch& sketch, const section::Section& section, double reach) {
  Drift drift;
  const NearestCurve curves(sketch);
  double sum = 0;
  for (const section::Polyline& line : section.polylines) {
    curves.along(line.points, reach, [&](std::size_t k, const NearestCurve::Found& found) {
      const Vec2& p = line.points[k];
      drift.whiskers.push_back({found.foot, p, found.drift, sketch.entities[found.entity].id});
      sum += found.drift * found.drift;
      if (std::abs(found.drift) > std::abs(drift.greatest)) {
        drift.greatest = found.drift;
        drift.greatest_at = p;
      }
    });
  }
  if (!drift.whiskers.empty())
    drift.rms = std::sqrt(sum / static_cast<double>(drift.whiskers.size()));
  return drift;
}

}  // namespace lostline::sketch
