#include <algorithm>
#include <cmath>
#include <vector>

#include "sketch/curve_kind.h"

namespace lostline::sketch {
namespace {

/// Entities passed when walking from one line to another over shared points, and the points where
/// the walk leaves and arrives.
struct Walk {
  std::vector<Id> between;
  Id leave = 0;
  Id arrive = 0;
};

bool walk(const Sketch& s, const Entity& from, Id start, Id to, Walk& result) {
  result = {{}, start, 0};
  const Entity* at = &from;
  Id point = start;
  for (std::size_t steps = 0; steps <= s.entities.size(); ++steps) {
    const Entity* next = nullptr;
    for (const Entity& e : s.entities) {
      if (e.id != at->id && kind_of(e).has_ends() && (e.a == point || e.b == point)) next = &e;
    }
    if (next == nullptr) return false;
    if (next->id == to) {
      result.arrive = point;
      return true;
    }
    result.between.push_back(next->id);
    point = next->a == point ? next->b : next->a;
    at = next;
  }
  return false;
}

}  // namespace

Result<Sketch> make_corner(const Sketch& sketch, Id first_line, Id second_line, double radius,
                           Id* arc) {
  const Entity* first = sketch.find_entity(first_line);
  const Entity* second = sketch.find_entity(second_line);
  if (!is_straight(first) || !is_straight(second) || first == second) {
    return Error{ErrorCode::InvalidInput, "A corner needs two different lines."};
  }
  if (!(radius >= 0) || !std::isfinite(radius))
    return Error{ErrorCode::InvalidInput, "The corner's radius must be zero or more."};
  // Between two lines of an outline there are two ways round; the corner lies on the one towards
  // which both lines run, the shorter one if both would do.
  std::vector<Walk> walks;
  for (const Id start : {first->a, first->b}) {
    Walk one;
    if (walk(sketch, *first, start, second_line, one)) walks.push_back(std::move(one));
  }
  if (walks.empty()) return Error{ErrorCode::NotFound, "The two lines are not of one outline."};
  std::stable_sort(walks.begin(), walks.end(), [](const Walk& a, const Walk& b) {
    return a.between.size() < b.between.size();
  });
  const Walk* chosen = nullptr;
  Vec2 d, e, meet;
  double turn = 0;
  double back = 0;
  for (const Walk& way : walks) {
    const Vec2 p = sketch.position(first->a == way.leave ? first->b : first->a);
    const Vec2 q = sketch.position(second->a == way.arrive ? second->b : second->a);
    d = (sketch.position(way.leave) - p).normalized();
    e = (sketch.position(way.arrive) - q).normalized();
    turn = d.x() * e.y() - d.y() * e.x();
    if (std::abs(turn) < 0.02)
      return Error{ErrorCode::InvalidInput,
                   "The two lines are nearly parallel and do not make a corner."};
    const Vec2 between = q - p;
    meet = p + d * ((between.x() * e.y() - between.y() * e.x()) / turn);
    back = radius > 0 ? radius / std::tan(std::acos(std::clamp(d.dot(e), -1.0, 1.0)) / 2) : 0.0;
    if ((meet - p).dot(d) > back && (meet - q).dot(e) > back) {
      chosen = &way;
      break;
    }
  }
  if (chosen == nullptr)
    return Error{
        ErrorCode::InvalidInput,
        "The lines do not run towards a common corner, or the radius is too large for them."};
  const Walk& best = *chosen;
  Sketch result = sketch;
  const auto set_end = [&](Id line, Id old_point, Id new_point) {
    for (Entity& entity : result.entities) {
      if (entity.id != line) continue;
      (entity.a == old_point ? entity.a : entity.b) = new_point;
    }
  };
  if (radius > 0) {
    const Id a = result.add_point(meet - back * d);
    const Id b = result.add_point(meet - back * e);
    const Vec2 inward = (-d - e).normalized();
    const Id centre = result.add_point(meet + inward * std::hypot(radius, back));
    set_end(first_line, best.leave, a);
    set_end(second_line, best.arrive, b);
    // From the first line's end to the second's the arc turns with the outline.
    const Id round =
        turn < 0 ? result.add_arc(centre, a, b, radius) : result.add_arc(centre, b, a, radius);
    result.add_constraint(ConstraintType::Tangent, first_line, round);
    result.add_constraint(ConstraintType::Tangent, round, second_line);
    if (arc != nullptr) *arc = round;
  } else {
    const Id corner = result.add_point(meet);
    set_end(first_line, best.leave, corner);
    set_end(second_line, best.arrive, corner);
  }
  for (const Id id : best.between) result.remove(id);
  // Points that nothing uses any more go with an id that names nothing.
  result.remove(0);
  return result;
}

}  // namespace lostline::sketch
