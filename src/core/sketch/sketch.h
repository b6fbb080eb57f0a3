#pragma once

#include <cstdint>
#include <string>
#include <vector>

#include "base/geometry.h"
#include "base/result.h"
#include "section/plane_spline.h"

namespace lostline::sketch {

/// Stable name of a point, entity or constraint within its sketch; never used again.
using Id = std::uint32_t;

/// Built into every sketch: the origin of its plane and its two axes.
constexpr Id kOrigin = 1;
constexpr Id kXAxis = 2;
constexpr Id kYAxis = 3;
constexpr Id kFirstFree = 10;

struct Point {
  Id id = 0;
  Vec2 at = Vec2::Zero();  ///< mm
  bool own = false;        ///< drawn for itself: stays though no entity names it
};

/// The kinds of curves, described in curves/.
enum class EntityType { Line, Arc, Circle, Ellipse, EllipseArc, Spline, ClosedSpline };

/// A line from `a` to `b`; an arc about `centre` from `a` to `b`, counter-clockwise; a circle about
/// `centre`. An ellipse about `centre` whose two `poles` are the ends of its major and minor axis;
/// an arc of it from `a` to `b`, counter-clockwise. A spline of degree 3 with `poles` and `knots`,
/// from `a` to `b` on it, which are its outer poles unless it was cut; a closed one.
struct Entity {
  Id id = 0;
  EntityType type = EntityType::Line;
  Id a = 0;
  Id b = 0;
  Id centre = 0;
  double radius = 0;
  std::vector<Id> poles = {};
  std::vector<double> knots = {};  ///< as section::PlaneSpline has them
  bool construction = false;       ///< helps to draw: no part of a profile, explains no section

  /// Calls `take` for each point that the entity names; of fields that its kind does not use, 0.
  template <class Take>
  void each_point(const Take& take) const {
    take(a);
    take(b);
    take(centre);
    for (const Id pole : poles) take(pole);
  }
};

enum class ConstraintType {
  Coincident,     ///< two points, or a point and a line, arc or circle it lies on
  Horizontal,     ///< a line, or two points beside each other
  Vertical,       ///< a line, or two points above each other
  Parallel,       ///< two lines
  Perpendicular,  ///< two lines, or a line and a curve at its end that lies nearer to the line
  Tangent,        ///< line and arc or circle, or two of those
  Concentric,     ///< two arcs or circles
  Equal,          ///< two lengths or two radii
  Distance,       ///< two points, point and line, two lines, or one line (its length); value in mm
  Radius,         ///< an arc or circle; value in mm
  Midpoint,       ///< a point in the middle of a line
  Symmetric,      ///< two points, lines, or arcs or circles, about the line `third`
  Angle,          ///< two lines; value in rad, 0 … pi
  Collinear,      ///< two lines on one endless line
  Smooth,         ///< two curves with a common end: tangent there and bent alike
  Fixed,          ///< a point, where it is; a whole circle: its radius
  DistanceX,      ///< two points, as far as they lie apart along x; value in mm
  DistanceY,      ///< two points, along y; value in mm
  ArcLength,      ///< an arc, along itself; value in mm
};
const char* constraint_name(ConstraintType type);

/// A condition. Distances, radius, arc length and angle are dimensions: a reading until `driving`
/// is set, then `value` must hold.
struct Constraint {
  Id id = 0;
  ConstraintType type = ConstraintType::Coincident;
  Id first = 0;   ///< point or entity
  Id second = 0;  ///< 0 where there is only one
  Id third = 0;   ///< line of a symmetry; 0 elsewhere
  double value = 0;
  bool driving = false;
  bool reference = false;  ///< a dimension that follows from others: told, never decided

  [[nodiscard]] bool is_dimension() const {
    using enum ConstraintType;
    return type == Distance || type == DistanceX || type == DistanceY || type == Radius ||
           type == ArcLength || type == Angle;
  }
  /// Of the coordinates of two points, so that it turns with neither.
  [[nodiscard]] bool along_axis() const {
    return type == ConstraintType::DistanceX || type == ConstraintType::DistanceY;
  }
};

struct Sketch {
  std::vector<Point> points;
  std::vector<Entity> entities;
  std::vector<Constraint> constraints;
  Id next_id = kFirstFree;

  Id add_point(const Vec2& at);
  /// A point drawn for itself.
  Id add_own_point(const Vec2& at);
  /// Adds a curve under a new id, whatever its own says.
  Id add_entity(Entity entity);
  Id add_line(Id a, Id b);
  Id add_arc(Id centre, Id a, Id b, double radius);
  Id add_circle(Id centre, double radius);
  /// @param major, minor  ends of the axes; @param a, b  ends of an arc of it, 0 for a whole one.
  Id add_ellipse(Id centre, Id major, Id minor, Id a = 0, Id b = 0);
  /// Adds a spline with points at its poles. `a` and `b` stand for its outer poles where given.
  Id add_spline(const section::PlaneSpline& spline, Id a = 0, Id b = 0);
  Id add_constraint(ConstraintType type, Id first, Id second = 0, double value = 0,
                    bool driving = false, Id third = 0);

  [[nodiscard]] const Point* find_point(Id id) const;
  [[nodiscard]] const Entity* find_entity(Id id) const;
  [[nodiscard]] const Constraint* find_constraint(Id id) const;
  [[nodiscard]] Constraint* find_constraint(Id id);
  /// Position of a point; the origin for kOrigin. The id must exist.
  [[nodiscard]] Vec2 position(Id point) const;
  /// Removes an entity, constraint or own point, the constraints that name it, and points nobody
  /// uses.
  void remove(Id id);
};

/// Without what only helps to draw: the entities that make profiles and explain a section.
Sketch without_construction(const Sketch& sketch);

/// PlaneCurve::drift of one entity; for many points place the curve once (curve_kind.h).
double drift_of(const Sketch& sketch, const Entity& entity, const Vec2& p, Vec2* foot = nullptr);

/// Present value of a dimension in mm (rad for an angle), whatever its state.
double measured_value(const Sketch& sketch, const Constraint& dimension);

/// "line 12", "arc 15", "x axis": for messages.
std::string name_of(const Sketch& sketch, Id id);
/// "parallel (line 12, line 14)".
std::string describe(const Sketch& sketch, const Constraint& constraint);

/// Makes the corner that two lines were meant to have: extends both to where they meet, drops what
/// lies between them in their chain (a broken or worn corner), and rounds it with a tangent arc
/// when `radius` > 0.
/// @param arc  receives the id of the arc, if given.
/// @errors InvalidInput  not two lines, or parallel ones, or a radius too large for them;  NotFound
/// they are not of one chain.
Result<Sketch> make_corner(const Sketch& sketch, Id first_line, Id second_line, double radius,
                           Id* arc = nullptr);

/// Cuts an entity where others cross it and drops the stretch that holds `at`; new ends lie on what
/// cut them. A circle becomes an arc. What nothing crosses goes as a whole.
/// @errors NotFound  the entity is gone.
Result<Sketch> trim(const Sketch& sketch, Id entity, const Vec2& at);
/// Lengthens the end of a line or arc that is nearer to `at` to the next entity it meets.
/// @errors NotFound;  InvalidInput  nothing lies ahead of that end, or a circle.
Result<Sketch> extend(const Sketch& sketch, Id entity, const Vec2& at);
/// Copies entities to the other side of a line, held symmetric to the originals.
/// @errors InvalidInput  no line to mirror about, or nothing to mirror.
Result<Sketch> mirror(const Sketch& sketch, const std::vector<Id>& entities, Id about);

/// Draws the chain of an entity once more at a distance: lines parallel, arcs about the same
/// centres, held so; corners meet again. One dimension of the offset is added.
/// @param distance  mm, to the left of the chain's direction when positive; of a closed one:
/// outward.
/// @errors InvalidInput  the distance is zero, or larger than an arc's radius allows;  NotFound.
Result<Sketch> offset(const Sketch& sketch, Id entity, double distance);

/// A closed chain of entities, outer ones counter-clockwise.
struct Loop {
  struct Use {
    Id entity;
    bool reversed;
  };
  std::vector<Use> uses;
  double area = 0;  ///< signed, mm2

  [[nodiscard]] bool uses_entity(Id id) const {
    for (const Use& use : uses) {
      if (use.entity == id) return true;
    }
    return false;
  }
};
/// The closed loops of a sketch: circles, and chains of lines and arcs whose ends are shared or
/// coincident, construction left out. Entities of open chains are left out and listed in `open`, if
/// given.
std::vector<Loop> find_loops(const Sketch& sketch, std::vector<Id>* open = nullptr);

/// Chains that do not close, each from a loose end or a fork to the next; their area is 0.
std::vector<Loop> open_chains(const Sketch& sketch);

/// Corners in order, without repeating the first.
using Polygon = std::vector<Vec2>;
/// A loop with its arcs and circles as chords of at most 3.75 degrees (0.05 % of the radius).
Polygon polygon_of(const Sketch& sketch, const Loop& loop);
/// Crossing number of a ray from `p`: odd is inside.
bool contains(const Polygon& polygon, const Vec2& p);
double signed_area(const Polygon& polygon);  ///< mm2, positive counter-clockwise

}  // namespace lostline::sketch
