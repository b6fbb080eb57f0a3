#include "sketch/sketch.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

namespace lostline::sketch {
namespace {

template <class Items>
auto find_in(Items& items, Id id) -> decltype(items.data()) {
  for (auto& item : items) {
    if (item.id == id) return &item;
  }
  return nullptr;
}

double wrap_angle(double angle) {  // to [0, 2 pi)
  constexpr double kTurn = 2 * std::numbers::pi;
  angle = std::fmod(angle, kTurn);
  return angle < 0 ? angle + kTurn : angle;
}

double cross(const Vec2& a, const Vec2& b) { return a.x() * b.y() - a.y() * b.x(); }

}  // namespace

const char* constraint_name(ConstraintType type) {
  switch (type) {
    case ConstraintType::Coincident:
      return "coincident";
    case ConstraintType::Horizontal:
      return "horizontal";
    case ConstraintType::Vertical:
      return "vertical";
    case ConstraintType::Parallel:
      return "parallel";
    case ConstraintType::Perpendicular:
      return "perpendicular";
    case ConstraintType::Tangent:
      return "tangent";
    case ConstraintType::Concentric:
      return "concentric";
    case ConstraintType::Equal:
      return "equal";
    case ConstraintType::Distance:
      return "distance";
    case ConstraintType::Radius:
      return "radius";
    case ConstraintType::Midpoint:
      return "midpoint";
    case ConstraintType::Symmetric:
      return "symmetric";
    case ConstraintType::Angle:
      return "angle";
  }
  return "";
}

Id Sketch::add_point(const Vec2& at) {
  points.push_back({next_id, at});
  return next_id++;
}
Id Sketch::add_line(Id a, Id b) {
  entities.push_back({next_id, EntityType::Line, a, b, 0, 0});
  return next_id++;
}
Id Sketch::add_arc(Id centre, Id a, Id b, double radius) {
  entities.push_back({next_id, EntityType::Arc, a, b, centre, radius});
  return next_id++;
}
Id Sketch::add_circle(Id centre, double radius) {
  entities.push_back({next_id, EntityType::Circle, 0, 0, centre, radius});
  return next_id++;
}
Id Sketch::add_constraint(ConstraintType type, Id first, Id second, double value, bool driving,
                          Id third) {
  constraints.push_back({next_id, type, first, second, third, value, driving});
  return next_id++;
}

const Point* Sketch::find_point(Id id) const { return find_in(points, id); }
const Entity* Sketch::find_entity(Id id) const { return find_in(entities, id); }
const Constraint* Sketch::find_constraint(Id id) const { return find_in(constraints, id); }
Constraint* Sketch::find_constraint(Id id) { return find_in(constraints, id); }

Vec2 Sketch::position(Id point) const {
  if (point == kOrigin) return Vec2::Zero();
  const Point* p = find_point(point);
  return p != nullptr ? p->at : Vec2(Vec2::Zero());
}

void Sketch::remove(Id id) {
  std::erase_if(constraints, [&](const Constraint& c) { return c.id == id; });
  std::erase_if(entities, [&](const Entity& e) { return e.id == id; });
  std::erase_if(points, [&](const Point& p) {
    return std::none_of(entities.begin(), entities.end(), [&](const Entity& e) {
      return e.a == p.id || e.b == p.id || e.centre == p.id;
    });
  });
  const auto exists = [&](Id ref) {
    return ref < kFirstFree || find_point(ref) != nullptr || find_entity(ref) != nullptr;
  };
  std::erase_if(constraints, [&](const Constraint& c) {
    return !exists(c.first) || !exists(c.second) || !exists(c.third);
  });
}

ArcAngles arc_angles(const Sketch& sketch, const Entity& arc) {
  const Vec2 c = sketch.position(arc.centre);
  const Vec2 a = sketch.position(arc.a) - c;
  const Vec2 b = sketch.position(arc.b) - c;
  const double start = std::atan2(a.y(), a.x());
  return {start, wrap_angle(std::atan2(b.y(), b.x()) - start)};
}

double drift_of(const Sketch& sketch, const Entity& entity, const Vec2& p, Vec2* foot) {
  if (entity.type == EntityType::Line) {
    const Vec2 a = sketch.position(entity.a);
    const Vec2 d = sketch.position(entity.b) - a;
    const double squared = d.squaredNorm();
    const double t = squared > 0 ? d.dot(p - a) / squared : 0.0;
    const Vec2 nearest = a + std::clamp(t, 0.0, 1.0) * d;
    if (foot != nullptr) *foot = nearest;
    return std::copysign((p - nearest).norm(), cross(d, p - a));
  }
  const Vec2 c = sketch.position(entity.centre);
  const Vec2 d = p - c;
  const double length = d.norm();
  if (entity.type == EntityType::Arc) {
    const ArcAngles angles = arc_angles(sketch, entity);
    if (wrap_angle(std::atan2(d.y(), d.x()) - angles.start) > angles.sweep) {
      const Vec2 a = sketch.position(entity.a);
      const Vec2 b = sketch.position(entity.b);
      const Vec2 end = (p - a).squaredNorm() < (p - b).squaredNorm() ? a : b;
      if (foot != nullptr) *foot = end;
      return std::copysign((p - end).norm(), length - entity.radius);
    }
  }
  if (foot != nullptr)
    *foot = length > 0 ? Vec2(c + d * (entity.radius / length)) : Vec2(c + Vec2(entity.radius, 0));
  return length - entity.radius;
}

double measured_value(const Sketch& sketch, const Constraint& dimension) {
  if (dimension.type == ConstraintType::Radius) {
    const Entity* e = sketch.find_entity(dimension.first);
    return e != nullptr ? e->radius : 0.0;
  }
  struct Ends {
    Vec2 a, b;
    bool line;
  };
  const auto ends = [&](Id id) -> Ends {
    if (id == kXAxis) return {Vec2::Zero(), Vec2::UnitX(), true};
    if (id == kYAxis) return {Vec2::Zero(), Vec2::UnitY(), true};
    if (const Entity* e = sketch.find_entity(id))
      return {sketch.position(e->a), sketch.position(e->b), true};
    return {sketch.position(id), sketch.position(id), false};
  };
  const auto from_line = [](const Vec2& p, const Ends& line) {
    const Vec2 d = line.b - line.a;
    return d.norm() > 0 ? std::abs(cross(d, p - line.a)) / d.norm() : (p - line.a).norm();
  };
  const Ends first = ends(dimension.first);
  if (dimension.type == ConstraintType::Angle) {
    const Ends other = ends(dimension.second);
    const Vec2 d = first.b - first.a;
    const Vec2 e = other.b - other.a;
    return std::abs(std::atan2(cross(d, e), d.dot(e)));
  }
  if (dimension.second == 0) return (first.b - first.a).norm();
  const Ends second = ends(dimension.second);
  if (first.line && second.line) return from_line(0.5 * (second.a + second.b), first);
  if (first.line) return from_line(second.a, first);
  if (second.line) return from_line(first.a, second);
  return (first.a - second.a).norm();
}

std::string name_of(const Sketch& sketch, Id id) {
  if (id == kOrigin) return "origin";
  if (id == kXAxis) return "x axis";
  if (id == kYAxis) return "y axis";
  if (const Entity* e = sketch.find_entity(id)) {
    const char* kind = e->type == EntityType::Line  ? "line "
                       : e->type == EntityType::Arc ? "arc "
                                                    : "circle ";
    return kind + std::to_string(id);
  }
  for (const Entity& e : sketch.entities) {
    if (e.centre == id) return "centre of " + name_of(sketch, e.id);
  }
  return "point " + std::to_string(id);
}

std::string describe(const Sketch& sketch, const Constraint& c) {
  std::string text = std::string(constraint_name(c.type)) + " (" + name_of(sketch, c.first);
  if (c.second != 0) text += ", " + name_of(sketch, c.second);
  if (c.third != 0) text += ", " + name_of(sketch, c.third);
  return text + ")";
}

}  // namespace lostline::sketch
