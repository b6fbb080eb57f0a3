#include <Eigen/Core>
#include <algorithm>
#include <cmath>
#include <functional>
#include <map>
#include <numbers>
#include <optional>
#include <set>
#include <tuple>

#include "section/resolve.h"
#include "sketch/curve_kind.h"
#include "sketch/independent.h"
#include "sketch/section_judge.h"
#include "sketch/shapes.h"
#include "sketch/solver.h"
#include "sketch/system.h"

namespace lostline::sketch {
namespace {

struct LineInfo {
  Id id;
  double angle;  // (-pi/2, pi/2]
  double length;
};

double fold(double angle) {  // to (-pi/2, pi/2]
  while (angle > kPi / 2) angle -= kPi;
  while (angle <= -kPi / 2) angle += kPi;
  return angle;
}

/// Along the curve at one of its ends.
Vec2 end_direction(const Sketch& s, const Entity& e, Id at) {
  const auto curve = placed(s, e);
  return curve->direction(at == e.a ? 0 : curve->range());
}

using Allows = std::function<bool(const Constraint&)>;

/// Offers what holds within the tolerances and is allowed.
class Offers {
 public:
  Offers(const Sketch& sketch, const Task& task, const Allows& allows)
      : independent_(sketch, task), allows_(allows) {}
  void offer(ConstraintType type, Id first, Id second = 0) {
    if (!allows_ || allows_({0, type, first, second, 0, 0, false}))
      independent_.offer(type, first, second);
  }
  std::vector<Constraint> take() { return independent_.take(); }

 private:
  Independent independent_;
  const Allows& allows_;
};

std::vector<Constraint> suggested(const Sketch& sketch, const SuggestOptions& options,
                                  const Task& task, const Allows& allows) {
  Offers suggestions(sketch, task, allows);
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
  // What keeps a shape that one (equal sides of a polygon), beyond what follows already.
  for (const Shape& shape : find_shapes(sketch)) {
    for (const Constraint& c : constraints_of(sketch, shape))
      suggestions.offer(c.type, c.first, c.second);
  }
  return suggestions.take();
}

}  // namespace

std::vector<Constraint> suggest_constraints(const Sketch& sketch, const SuggestOptions& options,
                                            const Task& task) {
  return suggested(sketch, options, task, {});
}

Suggestions suggestions_with_cost(const Sketch& sketch, const section::Section& section,
                                  const FitOptions& fit, double nothing,
                                  const SuggestOptions& options, const Task& task) {
  Suggestions result;
  const auto judge = SectionJudge::of(sketch, section, fit, task);
  constexpr double kSure = 3.3;  // standard uncertainties: one in a thousand is left out wrongly
  const Allows allows = [&](const Constraint& c) {
    const auto departure = judge->departure(c);
    return departure && (departure->deviations < kSure || departure->off < nothing);
  };
  if (judge) result.rms = judge->rms();
  for (const Constraint& c : suggested(sketch, options, task, judge ? allows : Allows()))
    result.all.push_back({c, judge ? judge->departure(c) : std::nullopt});
  return result;
}

std::vector<Constraint> suggest_constraints(const Sketch& sketch, const section::Section& section,
                                            const FitOptions& fit, double nothing,
                                            const SuggestOptions& options, const Task& task) {
  std::vector<Constraint> constraints;
  for (const Suggestion& s :
       suggestions_with_cost(sketch, section, fit, nothing, options, task).all)
    constraints.push_back(s.constraint);
  return constraints;
}

}  // namespace lostline::sketch
