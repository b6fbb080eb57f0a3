#include "sketch/dimension_scheme.h"

#include <algorithm>
#include <cmath>

#include "sketch/curve_kind.h"
#include "sketch/independent.h"
#include "sketch/shapes.h"

namespace lostline::sketch {
namespace {

class Scheme {
 public:
  Scheme(const Sketch& sketch, const SchemeOptions& options, const Task& task)
      : sketch_(sketch), options_(options), taken_(sketch, task, true) {
    for (const Entity& e : sketch.entities) {
      if (is_straight(&e)) lines_.push_back(&e);
      if (has_radius(&e)) (kind_of(e).has_ends() ? arcs_ : circles_).push_back(&e);
    }
    // The longest and largest carry the dimensions.
    const auto size = [&](const Entity* e) { return placed(sketch_, *e)->range(); };
    std::stable_sort(lines_.begin(), lines_.end(),
                     [&](const Entity* a, const Entity* b) { return size(a) > size(b); });
    const auto larger = [](const Entity* a, const Entity* b) { return a->radius > b->radius; };
    std::stable_sort(circles_.begin(), circles_.end(), larger);
    std::stable_sort(arcs_.begin(), arcs_.end(), larger);
  }

  DimensionScheme made() {
    for (const Entity* e : circles_) taken_.offer(ConstraintType::Radius, e->id);
    of_shapes();
    bolt_circles();
    for (const Entity* e : arcs_) taken_.offer(ConstraintType::Radius, e->id);
    of_ellipses();
    sides();
    for (const Entity* e : circles_) from_axes(e->centre);
    slopes();
    for (const Entity* e : arcs_) from_axes(e->centre);
    ends();
    return {taken_.take(), taken_.freedoms()};
  }

 private:
  [[nodiscard]] bool along(const Entity& line, const Vec2& axis) const {
    const Vec2 d = (sketch_.position(line.b) - sketch_.position(line.a)).normalized();
    constexpr double kParallel = 2e-3;  // rad
    return std::abs(d.x() * axis.y() - d.y() * axis.x()) < kParallel;
  }
  void distance(Id first, Id second) {
    const Constraint c{0, ConstraintType::Distance, first, second};
    if (measured_value(sketch_, c) > options_.nothing)
      taken_.offer(ConstraintType::Distance, first, second);
  }
  void from_axes(Id point) {
    distance(point, kYAxis);
    distance(point, kXAxis);
  }
  void of_shapes() {
    for (const Shape& shape : find_shapes(sketch_)) {
      std::vector<Id> lines;
      std::vector<Id> arcs;
      for (const Id id : shape.entities)
        (is_straight(sketch_.find_entity(id)) ? lines : arcs).push_back(id);
      if (!arcs.empty()) taken_.offer(ConstraintType::Radius, arcs.front());
      if (shape.type == Shape::Type::Slot)
        distance(sketch_.find_entity(arcs[0])->centre, sketch_.find_entity(arcs[1])->centre);
      const std::size_t half = lines.size() / 2;
      if (shape.type == Shape::Type::Rectangle) {
        distance(lines[0], lines[2]);
        distance(lines[1], lines[3]);
      } else if (shape.type == Shape::Type::Polygon && lines.size() % 2 == 0) {
        distance(lines[0], lines[half]);
      }
    }
  }
  /// Three and more circles of one size about a centre that another circle or the origin has.
  void bolt_circles() {
    constexpr double kAlike = 0.02;  // of the size
    std::vector<Id> middles{kOrigin};
    for (const Entity* e : circles_) middles.push_back(e->centre);
    for (std::size_t i = 0; i < circles_.size(); ++i) {
      for (const Id middle : middles) {
        const Vec2 about = sketch_.position(middle);
        const double reach = (sketch_.position(circles_[i]->centre) - about).norm();
        if (reach < 2 * circles_[i]->radius) continue;
        std::vector<Id> ring;
        for (const Entity* other : circles_) {
          const double off = (sketch_.position(other->centre) - about).norm();
          if (std::abs(other->radius - circles_[i]->radius) < kAlike * circles_[i]->radius &&
              std::abs(off - reach) < kAlike * reach)
            ring.push_back(other->centre);
        }
        if (ring.size() < 3 || ring.front() != circles_[i]->centre) continue;
        for (const Id centre : ring) distance(centre, middle);
      }
    }
  }
  void of_ellipses() {
    for (const Entity& e : sketch_.entities) {
      if (e.type != EntityType::Ellipse && e.type != EntityType::EllipseArc) continue;
      distance(e.centre, e.poles[0]);
      distance(e.centre, e.poles[1]);
      from_axes(e.centre);
      from_axes(e.poles[0]);
    }
  }
  /// Sides parallel to an axis, from it. Of a turned part those along it first: its diameters.
  void sides() {
    for (const bool upright : {options_.turned, !options_.turned}) {
      for (const Entity* line : lines_) {
        if (along(*line, upright ? Vec2(Vec2::UnitY()) : Vec2(Vec2::UnitX())))
          distance(line->id, upright ? kYAxis : kXAxis);
      }
    }
  }
  void slopes() {
    for (const Entity* line : lines_) {
      if (along(*line, Vec2::UnitX()) || along(*line, Vec2::UnitY())) continue;
      taken_.offer(ConstraintType::Angle, line->id, options_.turned ? kYAxis : kXAxis);
    }
  }
  void ends() {
    for (const Entity& e : sketch_.entities) {
      if (!kind_of(e).has_ends()) continue;
      from_axes(e.a);
      from_axes(e.b);
    }
    for (const Entity* line : lines_) taken_.offer(ConstraintType::Distance, line->id);
  }

  const Sketch& sketch_;
  SchemeOptions options_;
  Independent taken_;
  std::vector<const Entity*> lines_, circles_, arcs_;
};

}  // namespace

DimensionScheme dimension_scheme(const Sketch& sketch, const SchemeOptions& options,
                                 const Task& task) {
  DimensionScheme scheme = Scheme(sketch, options, task).made();
  for (Constraint& c : scheme.dimensions) c.driving = false;
  return scheme;
}

}  // namespace lostline::sketch
