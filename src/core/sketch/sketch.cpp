#include "sketch/sketch.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "sketch/curve_kind.h"

namespace lostline::sketch {
namespace {

template <class Items>
auto find_in(Items& items, Id id) -> decltype(items.data()) {
  for (auto& item : items) {
    if (item.id == id) return &item;
  }
  return nullptr;
}

}  // namespace

Id Sketch::add_point(const Vec2& at) {
  points.push_back({next_id, at});
  return next_id++;
}
Id Sketch::add_own_point(const Vec2& at) {
  points.push_back({next_id, at, true});
  return next_id++;
}
Id Sketch::add_entity(Entity entity) {
  entity.id = next_id++;
  entities.push_back(entity);
  return entity.id;
}
Id Sketch::add_line(Id a, Id b) { return add_entity({0, EntityType::Line, a, b, 0, 0}); }
Id Sketch::add_arc(Id centre, Id a, Id b, double radius) {
  return add_entity({0, EntityType::Arc, a, b, centre, radius});
}
Id Sketch::add_circle(Id centre, double radius) {
  return add_entity({0, EntityType::Circle, 0, 0, centre, radius});
}
Id Sketch::add_ellipse(Id centre, Id major, Id minor, Id a, Id b) {
  Entity e{0, a != 0 ? EntityType::EllipseArc : EntityType::Ellipse, a, b, centre};
  e.poles = {major, minor};
  return add_entity(std::move(e));
}
Id Sketch::add_spline(const section::PlaneSpline& spline, Id a, Id b) {
  Entity e{0, spline.closed ? EntityType::ClosedSpline : EntityType::Spline};
  e.knots = spline.knots;
  for (std::size_t k = 0; k < spline.poles.size(); ++k) {
    const bool first = k == 0 && a != 0;
    const bool last = k + 1 == spline.poles.size() && b != 0;
    e.poles.push_back(first ? a : last ? b : add_point(spline.poles[k]));
  }
  if (!spline.closed) {
    e.a = e.poles.front();
    e.b = e.poles.back();
  }
  return add_entity(std::move(e));
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
  std::erase_if(points, [&](const Point& p) { return p.own && p.id == id; });
  std::erase_if(points, [&](const Point& p) {
    return !p.own && std::none_of(entities.begin(), entities.end(), [&](const Entity& e) {
      bool used = false;
      e.each_point([&](Id point) { used |= point == p.id; });
      return used;
    });
  });
  const auto exists = [&](Id ref) {
    return ref < kFirstFree || find_point(ref) != nullptr || find_entity(ref) != nullptr;
  };
  std::erase_if(constraints, [&](const Constraint& c) {
    return !exists(c.first) || !exists(c.second) || !exists(c.third);
  });
}

Sketch without_construction(const Sketch& sketch) {
  Sketch result = sketch;
  std::erase_if(result.entities, [](const Entity& e) { return e.construction; });
  return result;
}

double drift_of(const Sketch& sketch, const Entity& entity, const Vec2& p, Vec2* foot) {
  return placed(sketch, entity)->drift(p, foot);
}

double measured_value(const Sketch& sketch, const Constraint& dimension) {
  if (dimension.type == ConstraintType::Radius) {
    const Entity* e = sketch.find_entity(dimension.first);
    return e != nullptr ? e->radius : 0.0;
  }
  if (dimension.along_axis()) {
    const Vec2 off = sketch.position(dimension.second) - sketch.position(dimension.first);
    return std::abs(dimension.type == ConstraintType::DistanceX ? off.x() : off.y());
  }
  if (dimension.type == ConstraintType::ArcLength) {
    const Entity* e = sketch.find_entity(dimension.first);
    if (e == nullptr) return 0;
    const Vec2 a = sketch.position(e->a) - sketch.position(e->centre);
    const Vec2 b = sketch.position(e->b) - sketch.position(e->centre);
    const double sweep = std::atan2(cross(a, b), a.dot(b));
    return e->radius * (sweep > 0 ? sweep : sweep + 2 * std::numbers::pi);
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
  if (const Entity* e = sketch.find_entity(id))
    return std::string(kind_of(*e).key()) + ' ' + std::to_string(id);
  for (const Entity& e : sketch.entities) {
    if (e.centre == id) return "centre of " + name_of(sketch, e.id);
    if (std::find(e.poles.begin(), e.poles.end(), id) != e.poles.end())
      return "pole of " + name_of(sketch, e.id);
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
