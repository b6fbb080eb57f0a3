#include <algorithm>
#include <cmath>
#include <map>
#include <optional>

#include "sketch/crossing.h"
#include "sketch/sketch.h"

namespace lostline::sketch {
namespace {

/// A new end on what cut the entity there.
Id new_end(Sketch& s, const Crossing& at) {
  const Id point = s.add_point(at.point);
  s.add_constraint(ConstraintType::Coincident, point, at.by);
  return point;
}

Entity* mutable_entity(Sketch& s, Id id) {
  for (Entity& e : s.entities) {
    if (e.id == id) return &e;
  }
  return nullptr;
}

/// Points that no entity uses any more go, with what names them.
void drop_loose_points(Sketch& s) {
  const Id nobody = s.add_point(Vec2::Zero());
  s.remove(nobody);
}

}  // namespace

Result<Sketch> trim(const Sketch& sketch, Id entity, const Vec2& at) {
  const Entity* found = sketch.find_entity(entity);
  if (found == nullptr) return Error{ErrorCode::NotFound, "This line or arc is gone."};
  const Entity e = *found;
  Sketch result = sketch;
  const std::vector<Crossing> cuts = crossings(sketch, e);
  const CurveKind& kind = kind_of(e);
  const auto curve = placed(sketch, e);
  const double t = curve->parameter(at);
  std::optional<Crossing> before;
  std::optional<Crossing> after;
  for (const Crossing& c : cuts) {
    if (c.at <= t) before = c;
    if (c.at > t && !after) after = c;
  }
  if (curve->closed()) {
    if (cuts.size() < 2) {
      result.remove(entity);
      return result;
    }
    if (!before) before = cuts.back();
    if (!after) after = cuts.front();
    // What stays runs from the cut after to the cut before.
    const Id a = new_end(result, *after);
    const Id b = new_end(result, *before);
    Entity* opened = mutable_entity(result, entity);
    *opened = kind.piece(*opened, a, b);
    opened->id = entity;
    opened->construction = e.construction;
    return result;
  }
  if (!before && !after) {
    result.remove(entity);
    return result;
  }
  if (before && after) {  // a piece at either end stays
    const Id first_end = new_end(result, *before);
    const Id second_start = new_end(result, *after);
    const Id last = e.b;
    mutable_entity(result, entity)->b = first_end;
    Entity far = kind.piece(e, second_start, last);
    far.construction = e.construction;
    const Id rest = result.add_entity(std::move(far));
    if (const auto alike = kind.alike()) result.add_constraint(*alike, entity, rest);
  } else if (before) {
    mutable_entity(result, entity)->b = new_end(result, *before);
  } else {
    mutable_entity(result, entity)->a = new_end(result, *after);
  }
  drop_loose_points(result);
  return result;
}

Result<Sketch> extend(const Sketch& sketch, Id entity, const Vec2& at) {
  const Entity* found = sketch.find_entity(entity);
  if (found == nullptr) return Error{ErrorCode::NotFound, "This line or arc is gone."};
  const Entity e = *found;
  const auto curve = placed(sketch, e);
  if (curve->closed())
    return Error{ErrorCode::InvalidInput, name_of(sketch, entity) + " has no end to extend."};
  const bool at_end =
      (at - sketch.position(e.b)).squaredNorm() <= (at - sketch.position(e.a)).squaredNorm();
  const double whole = curve->range();
  std::optional<Crossing> next;
  double nearest = 1e300;
  for (const Entity& other : sketch.entities) {
    if (other.id == e.id) continue;
    const auto by = placed(sketch, other);
    for (const Vec2& p : meetings(curve->form(), by->form())) {
      if (!by->holds(p)) continue;
      const double t = curve->parameter(p);
      const double ahead = at_end ? t - whole : curve->period() - t;
      if (ahead < 1e-9 || (curve->period() > 0 && ahead > curve->period() - whole) ||
          ahead >= nearest)
        continue;
      nearest = ahead;
      next = Crossing{0, p, other.id};
    }
  }
  if (!next) return Error{ErrorCode::InvalidInput, "Nothing lies ahead of this end."};
  Sketch result = sketch;
  const Id point = new_end(result, *next);
  Entity* longer = mutable_entity(result, entity);
  (at_end ? longer->b : longer->a) = point;
  drop_loose_points(result);
  return result;
}

Result<Sketch> mirror(const Sketch& sketch, const std::vector<Id>& entities, Id about) {
  Vec2 foot = Vec2::Zero();
  Vec2 along = about == kXAxis ? Vec2::UnitX() : Vec2::UnitY();
  if (about >= kFirstFree) {
    const Entity* line = sketch.find_entity(about);
    if (!is_straight(line))
      return Error{ErrorCode::InvalidInput, "Pick a line to mirror about last."};
    foot = sketch.position(line->a);
    along = (sketch.position(line->b) - foot).normalized();
  } else if (about != kXAxis && about != kYAxis) {
    return Error{ErrorCode::InvalidInput, "Pick a line to mirror about last."};
  }
  Sketch result = sketch;
  std::map<Id, Id> twins;
  const auto twin = [&](Id point) {
    const auto it = twins.find(point);
    if (it != twins.end()) return it->second;
    const Vec2 d = sketch.position(point) - foot;
    const Id made = result.add_point(foot + 2 * d.dot(along) * along - d);
    result.add_constraint(ConstraintType::Symmetric, point, made, 0, false, about);
    twins[point] = made;
    return made;
  };
  int made = 0;
  for (const Id id : entities) {
    const Entity* e = sketch.find_entity(id);
    if (e == nullptr || id == about) continue;
    ++made;
    const CurveKind& kind = kind_of(*e);
    Entity other = kind.mirrored(*e, twin);
    other.construction = e->construction;
    const Id copy = result.add_entity(std::move(other));
    // Where ends are symmetric the radius follows from them.
    if (kind.has_radius() && !kind.has_ends())
      result.add_constraint(ConstraintType::Equal, id, copy);
  }
  if (made == 0) return Error{ErrorCode::InvalidInput, "Pick what is to be mirrored first."};
  return result;
}

}  // namespace lostline::sketch
