#include <Eigen/Core>
#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>
#include <optional>
#include <set>
#include <tuple>

#include "section/resolve.h"
#include "sketch/curve_kind.h"
#include "sketch/solver.h"
#include "sketch/system.h"

namespace lostline::sketch {
namespace {

/// Takes candidates that hold within tolerance and do not follow from those taken before. The
/// directions in which the constraints so far hold the sketch are kept as an orthonormal basis; a
/// candidate is independent when its equations have a part outside of it. So a candidate costs the
/// numbers that it touches times the rank, and only one that is taken costs the whole sketch.
class Suggestions {
  /// The basis so far, orthonormal columns.
  [[nodiscard]] auto held() const { return basis_.leftCols(rank_); }

 public:
  Suggestions(const Sketch& sketch, const Task& task) : trial_(sketch), task_(task) {
    const auto solution = solve(trial_);
    if (!solution || solution->state == State::Clashing) return;
    trial_ = solution->sketch;
    const auto system = System::build(trial_, true);
    if (!system) return;
    system_ = *system;
    x_ = system->start();
    Eigen::VectorXd f;
    Eigen::MatrixXd jacobian;
    system->evaluate(x_, f, jacobian);
    basis_.resize(x_.size(), x_.size());
    for (Eigen::Index row = 0; row < jacobian.rows(); ++row) hold(jacobian.row(row).transpose());
    possible_ = true;
  }
  void offer(ConstraintType type, Id first, Id second = 0) {
    if (!possible_ || task_.stopped()) return;
    const auto [low, high] = std::minmax(first, second);
    if (!known_.insert({type, low, high}).second || present(type, low, high)) return;
    const auto rows = system_->rows_of({0, type, first, second, 0, 0, false}, x_);
    if (!rows) return;
    bool adds = false;
    for (const System::Row& row : *rows) {
      // What lies in the basis, from the few numbers that the row touches.
      Eigen::VectorXd inside = Eigen::VectorXd::Zero(rank_);
      double squared = 0;
      for (const auto& [i, d] : row.slopes) {
        inside += d * held().row(i).transpose();
        squared += d * d;
      }
      if (squared - inside.squaredNorm() <= kFollows * kFollows * squared) continue;
      adds = true;
      Eigen::VectorXd r = Eigen::VectorXd::Zero(x_.size());
      for (const auto& [i, d] : row.slopes) r[i] += d;
      const Eigen::VectorXd outside = r - held() * inside;
      // The sketch takes the step that makes it hold, along what was free.
      x_ -= outside * (row.value / outside.squaredNorm());
      hold(r);
    }
    if (!adds) return;
    trial_.add_constraint(type, first, second);
    found_.push_back(trial_.constraints.back());
  }
  /// Those taken, without any that contradict after all.
  std::vector<Constraint> take() {
    for (int round = 0; possible_ && round < 8 && !found_.empty(); ++round) {
      const auto solution = solve(trial_);
      if (solution && solution->state != State::Clashing) break;
      if (!solution || solution->clashing.empty()) {
        drop(found_.back().id);
        continue;
      }
      // The last one taken gives way.
      Id last = 0;
      for (const Id id : solution->clashing) {
        for (const Constraint& c : found_) last = c.id == id ? std::max(last, id) : last;
      }
      drop(last != 0 ? last : found_.back().id);
    }
    return std::move(found_);
  }

 private:
  // Equations that follow from others do so exactly only where all hold; here they hold to the
  // second order of the tolerances (0.12 rad at most), far below this, and independent ones have a
  // part outside that is far above.
  static constexpr double kFollows = 0.05;

  void hold(Eigen::VectorXd row) {
    const double size = row.norm();
    for (int pass = 0; pass < 2; ++pass) row -= held() * (held().transpose() * row);
    if (rank_ >= basis_.cols() || !(row.norm() > 1e-7 * size)) return;
    basis_.col(rank_++) = row.normalized();
  }
  [[nodiscard]] bool present(ConstraintType type, Id low, Id high) const {
    return std::any_of(trial_.constraints.begin(), trial_.constraints.end(), [&](const auto& c) {
      return c.type == type && std::minmax(c.first, c.second) == std::minmax(low, high);
    });
  }
  void drop(Id id) {
    trial_.remove(id);
    std::erase_if(found_, [&](const Constraint& c) { return c.id == id; });
  }

  Sketch trial_;
  std::optional<System> system_;  // of the sketch at the start; its unknowns stay
  const Task& task_;
  Eigen::VectorXd x_;
  Eigen::MatrixXd basis_;  // the first `rank_` columns
  Eigen::Index rank_ = 0;
  bool possible_ = false;
  std::set<std::tuple<ConstraintType, Id, Id>> known_;
  std::vector<Constraint> found_;
};

struct LineInfo {
  Id id;
  double angle;  // (-pi/2, pi/2]
  double length;
};

double fold(double angle) {  // to (-pi/2, pi/2]
  constexpr double kPi = std::numbers::pi;
  while (angle > kPi / 2) angle -= kPi;
  while (angle <= -kPi / 2) angle += kPi;
  return angle;
}

/// Along the curve at one of its ends.
Vec2 end_direction(const Sketch& s, const Entity& e, Id at) {
  const auto curve = placed(s, e);
  return curve->direction(at == e.a ? 0 : curve->range());
}

}  // namespace

Sketch sketch_from_section(const section::Section& section, double tolerance, double spacing) {
  Sketch sketch;
  for (const section::Polyline& line : section.polylines) {
    if (line.support || line.length() < 8 * spacing) continue;
    section::ResolveOptions options;
    options.tolerance = tolerance;
    const auto curves = section::resolve(line, options);
    if (!curves) continue;
    Id first_start = 0;
    Id previous_end = 0;
    for (std::size_t i = 0; i < curves->size(); ++i) {
      const section::Curve& c = (*curves)[i];
      if (c.type == section::CurveType::Circle) {
        sketch.add_circle(sketch.add_point(c.centre), c.radius);
        continue;
      }
      const Id start = previous_end != 0 ? previous_end : sketch.add_point(c.start);
      if (i == 0) first_start = start;
      const bool closes = c.joined && i + 1 == curves->size();
      const Id end = closes ? first_start : sketch.add_point(c.end);
      if (c.type == section::CurveType::Line) {
        sketch.add_line(start, end);
      } else {
        const Id centre = sketch.add_point(c.centre);
        if (c.counter_clockwise)
          sketch.add_arc(centre, start, end, c.radius);
        else
          sketch.add_arc(centre, end, start, c.radius);
      }
      previous_end = c.joined ? end : 0;
    }
  }
  return sketch;
}

std::vector<Constraint> suggest_constraints(const Sketch& sketch, const SuggestOptions& options,
                                            const Task& task) {
  Suggestions suggestions(sketch, task);
  std::vector<LineInfo> lines;
  for (const Entity& e : sketch.entities) {
    if (!is_straight(&e)) continue;
    const Vec2 d = sketch.position(e.b) - sketch.position(e.a);
    lines.push_back({e.id, fold(std::atan2(d.y(), d.x())), d.norm()});
  }
  std::stable_sort(lines.begin(), lines.end(),
                   [](const LineInfo& a, const LineInfo& b) { return a.length > b.length; });
  // Ends that meet smoothly are tangent. Twice the angle: the direction at the end of a short arc
  // is less sure.
  for (std::size_t i = 0; i < sketch.entities.size(); ++i) {
    for (std::size_t j = i + 1; j < sketch.entities.size(); ++j) {
      const Entity& a = sketch.entities[i];
      const Entity& b = sketch.entities[j];
      if (!kind_of(a).has_ends() || !kind_of(b).has_ends()) continue;
      if (is_straight(&a) && is_straight(&b)) continue;
      for (const Id p : {a.a, a.b}) {
        if (p != b.a && p != b.b) continue;
        const Vec2 da = end_direction(sketch, a, p);
        const Vec2 db = end_direction(sketch, b, p);
        if (std::abs(da.x() * db.y() - da.y() * db.x()) < 6 * options.angle)
          suggestions.offer(ConstraintType::Tangent, a.id, b.id);
      }
    }
  }
  for (const LineInfo& line : lines) {
    if (std::abs(line.angle) < options.angle)
      suggestions.offer(ConstraintType::Horizontal, line.id);
    if (std::numbers::pi / 2 - std::abs(line.angle) < options.angle)
      suggestions.offer(ConstraintType::Vertical, line.id);
  }
  // A line along a datum axis lies on it.
  for (const LineInfo& line : lines) {
    const Entity& e = *sketch.find_entity(line.id);
    const Vec2 a = sketch.position(e.a);
    const Vec2 b = sketch.position(e.b);
    if (std::abs(line.angle) < options.angle && std::abs(a.y() + b.y()) < 2 * options.length)
      suggestions.offer(ConstraintType::Coincident, e.a, kXAxis);
    if (std::numbers::pi / 2 - std::abs(line.angle) < options.angle &&
        std::abs(a.x() + b.x()) < 2 * options.length)
      suggestions.offer(ConstraintType::Coincident, e.a, kYAxis);
  }
  for (std::size_t i = 0; i < lines.size(); ++i) {
    for (std::size_t j = i + 1; j < lines.size(); ++j) {
      const double turn = std::abs(fold(lines[i].angle - lines[j].angle));
      if (turn < options.angle)
        suggestions.offer(ConstraintType::Parallel, lines[i].id, lines[j].id);
      if (std::numbers::pi / 2 - turn < options.angle)
        suggestions.offer(ConstraintType::Perpendicular, lines[i].id, lines[j].id);
    }
  }
  std::vector<const Entity*> rounds;
  for (const Entity& e : sketch.entities) {
    if (has_radius(&e)) rounds.push_back(&e);
  }
  for (const Entity* e : rounds) {
    if (sketch.position(e->centre).norm() < options.length)
      suggestions.offer(ConstraintType::Coincident, e->centre, kOrigin);
  }
  for (std::size_t i = 0; i < rounds.size(); ++i) {
    for (std::size_t j = i + 1; j < rounds.size(); ++j) {
      const Entity& a = *rounds[i];
      const Entity& b = *rounds[j];
      if ((sketch.position(a.centre) - sketch.position(b.centre)).norm() < options.length) {
        suggestions.offer(ConstraintType::Concentric, a.id, b.id);
      }
      // The radius of a short arc is read less surely than that of a full circle.
      const double slack = options.length * (kind_of(a).has_ends() ? 3 : 1) +
                           0.02 * (kind_of(a).has_ends() ? a.radius : 0);
      if (a.type == b.type && std::abs(a.radius - b.radius) < slack)
        suggestions.offer(ConstraintType::Equal, a.id, b.id);
    }
  }
  return suggestions.take();
}

}  // namespace lostline::sketch
