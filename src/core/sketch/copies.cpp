#include "sketch/copies.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <numbers>
#include <set>

#include "sketch/curve_kind.h"
#include "sketch/solver.h"

namespace lostline::sketch {
namespace {

Error nothing() { return {ErrorCode::InvalidInput, "Pick curves or points first."}; }

bool upright_or_level(const Constraint& c) {
  return c.type == ConstraintType::Horizontal || c.type == ConstraintType::Vertical ||
         c.along_axis();
}

/// What is picked: entities, and the points they and the picks name.
struct Picked {
  std::set<Id> entities, points;

  Picked(const Sketch& sketch, const std::vector<Id>& items) {
    for (const Id id : items) {
      if (const Entity* e = sketch.find_entity(id)) {
        entities.insert(id);
        e->each_point([&](Id p) {
          if (sketch.find_point(p) != nullptr) points.insert(p);
        });
      } else if (sketch.find_point(id) != nullptr) {
        points.insert(id);
      }
    }
  }
  [[nodiscard]] bool holds(Id id) const {
    return id == 0 || entities.contains(id) || points.contains(id);
  }
  [[nodiscard]] bool holds(const Constraint& c) const {
    return holds(c.first) && holds(c.second) && holds(c.third);
  }
};

/// Adds what is picked of another sketch once more.
struct Copier {
  const Sketch& from;
  const Picked& picked;
  Sketch& into;
  std::map<Id, Id> twins;  // of points, entities

  void add(const PlaneMotion& motion) {
    twins.clear();
    for (const Id p : picked.points) {
      const Point& point = *from.find_point(p);
      const Vec2 at = motion(point.at);
      twins[p] = point.own ? into.add_own_point(at) : into.add_point(at);
    }
    for (const Id id : picked.entities) {
      Entity e = *from.find_entity(id);
      for (Id* p : {&e.a, &e.b, &e.centre}) *p = twin(*p);
      for (Id& p : e.poles) p = twin(p);
      e.radius *= motion.scale;
      twins[id] = into.add_entity(std::move(e));
    }
  }
  /// The origin and the axes stay what they are.
  [[nodiscard]] Id twin(Id id) const {
    const auto it = twins.find(id);
    return it != twins.end() ? it->second : id;
  }
};

}  // namespace

Vec2 PlaneMotion::operator()(const Vec2& p) const {
  return about + scale * (Eigen::Rotation2Dd(turn) * (p - about)) + shift;
}

bool PlaneMotion::keeps_axes() const {
  return std::abs(std::remainder(turn, std::numbers::pi)) < 1e-12;
}

Result<Sketch> move(const Sketch& sketch, const std::vector<Id>& items, const PlaneMotion& motion) {
  const Picked picked(sketch, items);
  if (picked.points.empty()) return nothing();
  if (!(motion.scale > 1e-9)) return Error{ErrorCode::InvalidInput, "The scale must be above 0."};
  Sketch result = sketch;
  for (Point& p : result.points) {
    if (picked.points.contains(p.id)) p.at = motion(p.at);
  }
  for (Entity& e : result.entities) {
    if (picked.entities.contains(e.id)) e.radius *= motion.scale;
  }
  std::erase_if(result.constraints, [&](const Constraint& c) {
    if (!picked.holds(c.first)) return false;
    return c.type == ConstraintType::Fixed || (upright_or_level(c) && !motion.keeps_axes());
  });
  for (Constraint& c : result.constraints) {
    if (c.is_dimension() && c.type != ConstraintType::Angle && picked.holds(c))
      c.value *= motion.scale;
  }
  const auto solved = solve(result, Asked::Places);
  if (!solved) return solved.error();
  if (solved->state == State::Clashing)
    return Error{ErrorCode::InvalidInput,
                 "Constraints with the rest of the sketch do not let it go there."};
  return solved->sketch;
}

Result<Sketch> copy(const Sketch& sketch, const std::vector<Id>& items, const PlaneMotion& motion,
                    int times) {
  constexpr int kMost = 500;  // copies, beyond which a number was mistyped
  const Picked picked(sketch, items);
  if (picked.points.empty()) return nothing();
  if (times < 1 || times > kMost)
    return Error{ErrorCode::InvalidInput, "Between 1 and 500 copies can be made."};
  if (!(motion.scale > 1e-9)) return Error{ErrorCode::InvalidInput, "The scale must be above 0."};
  Sketch result = sketch;
  Copier copier{sketch, picked, result, {}};
  PlaneMotion step = motion;
  for (int k = 1; k <= times; ++k) {
    step.turn = k * motion.turn;
    step.scale = std::pow(motion.scale, k);
    step.shift = k * motion.shift;
    copier.add(step);
    for (const Constraint& c : sketch.constraints) {
      if (!picked.holds(c) || c.type == ConstraintType::Fixed) continue;
      if (upright_or_level(c) && !step.keeps_axes()) continue;
      if (!c.is_dimension())
        result.add_constraint(c.type, copier.twin(c.first), copier.twin(c.second), 0, false,
                              copier.twin(c.third));
    }
    if (motion.scale != 1) continue;
    // Sizes follow the original's, so that one decision changes all.
    for (const Id id : picked.entities) {
      const Entity& e = *sketch.find_entity(id);
      if (has_radius(&e) && !e.construction)
        result.add_constraint(ConstraintType::Equal, id, copier.twin(id));
    }
    for (const Constraint& c : sketch.constraints) {
      if (c.type == ConstraintType::Distance && c.second == 0 && picked.holds(c))
        result.add_constraint(ConstraintType::Equal, c.first, copier.twin(c.first));
    }
  }
  return result;
}

Sketch part_of(const Sketch& sketch, const std::vector<Id>& items) {
  const Picked picked(sketch, items);
  Sketch part = sketch;
  std::erase_if(part.entities, [&](const Entity& e) { return !picked.entities.contains(e.id); });
  std::erase_if(part.points, [&](const Point& p) { return !picked.points.contains(p.id); });
  std::erase_if(part.constraints, [&](const Constraint& c) { return !picked.holds(c); });
  return part;
}

Sketch paste(const Sketch& sketch, const Sketch& part, std::vector<Id>* added) {
  std::vector<Id> items;
  for (const Entity& e : part.entities) items.push_back(e.id);
  for (const Point& p : part.points) items.push_back(p.id);
  const Picked picked(part, items);
  Sketch result = sketch;
  Copier copier{part, picked, result, {}};
  copier.add({});
  for (const Constraint& c : part.constraints)
    result.add_constraint(c.type, copier.twin(c.first), copier.twin(c.second), c.value, c.driving,
                          copier.twin(c.third));
  if (added != nullptr) {
    for (const Entity& e : part.entities) added->push_back(copier.twin(e.id));
  }
  return result;
}

Result<Sketch> break_at(const Sketch& sketch, Id entity, const Vec2& at) {
  const Entity* found = sketch.find_entity(entity);
  if (found == nullptr) return Error{ErrorCode::NotFound, "This curve is gone."};
  const Entity e = *found;
  const CurveKind& kind = kind_of(e);
  const auto curve = placed(sketch, e);
  if (curve->closed() || !kind.has_ends())
    return Error{ErrorCode::InvalidInput,
                 name_of(sketch, entity) + " has no ends: trim it instead."};
  Vec2 foot;
  curve->drift(at, &foot);
  const double small = std::max(1e-6, 1e-6 * curve->range() * curve->pace());
  if ((foot - curve->start()).norm() < small || (foot - curve->end()).norm() < small)
    return Error{ErrorCode::InvalidInput, "This place is an end of the curve already."};
  Sketch result = sketch;
  const Id middle = result.add_point(foot);
  Entity rest = kind.piece(e, middle, e.b);
  rest.construction = e.construction;
  for (Entity& own : result.entities) {
    if (own.id != entity) continue;
    own = kind.piece(e, e.a, middle);
    own.id = entity;
    own.construction = e.construction;
  }
  const Id second = result.add_entity(std::move(rest));
  // A line broken stays straight, an arc keeps its circle.
  if (kind.straight())
    result.add_constraint(ConstraintType::Collinear, entity, second);
  else if (const auto alike = kind.alike())
    result.add_constraint(*alike, entity, second);
  // What sat on the far end (tangent, smooth) names the second piece now.
  for (Constraint& c : result.constraints) {
    if (c.type != ConstraintType::Tangent && c.type != ConstraintType::Smooth) continue;
    const std::array sides{std::pair(&c.first, c.second), std::pair(&c.second, c.first)};
    for (const auto& [mine, other] : sides) {
      const Entity* next = sketch.find_entity(other);
      if (*mine == entity && next != nullptr && kind_of(*next).has_ends() &&
          (next->a == e.b || next->b == e.b))
        *mine = second;
    }
  }
  return result;
}

Result<Sketch> join(const Sketch& sketch, Id first, Id second, double reach) {
  const Entity* one = sketch.find_entity(first);
  const Entity* two = sketch.find_entity(second);
  if (one == nullptr || two == nullptr) return Error{ErrorCode::NotFound, "A curve is gone."};
  if (first == second || one->type != two->type || !kind_of(*one).has_ends() ||
      !(kind_of(*one).straight() || kind_of(*one).has_radius()))
    return Error{ErrorCode::InvalidInput, "Two lines or two arcs can be joined."};
  const auto a = placed(sketch, *one);
  const auto b = placed(sketch, *two);
  for (const Vec2& p : {b->start(), b->middle(), b->end()}) {
    // From the endless curve of the first.
    if ((a->at(a->parameter(p)) - p).norm() > reach)
      return Error{ErrorCode::InvalidInput, name_of(sketch, second) +
                                                " does not lie on the curve of " +
                                                name_of(sketch, first) + "."};
  }
  Sketch result = sketch;
  Id start = one->a;
  Id end = one->b;
  if (kind_of(*one).straight()) {
    double low = 0;
    double high = a->range();
    for (const Id p : {two->a, two->b}) {
      const double t = a->parameter(sketch.position(p));
      if (t < low) {
        low = t;
        start = p;
      } else if (t > high) {
        high = t;
        end = p;
      }
    }
  } else {
    // Round the nearer gap.
    const double forward = (b->start() - a->end()).norm();
    const double backward = (b->end() - a->start()).norm();
    (forward <= backward ? end : start) = forward <= backward ? two->b : two->a;
  }
  for (Entity& e : result.entities) {
    if (e.id != first) continue;
    e.a = start;
    e.b = end;
  }
  // What named the second names the first now, as far as that says anything.
  for (Constraint& c : result.constraints) {
    for (Id* id : {&c.first, &c.second, &c.third}) {
      if (*id == second) *id = first;
    }
  }
  std::erase_if(result.constraints,
                [](const Constraint& c) { return c.second != 0 && c.first == c.second; });
  result.remove(second);
  return result;
}

}  // namespace lostline::sketch
