#include "sketch/constraint_kinds.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "sketch/curve_kind.h"
#include "sketch/terms.h"

namespace lostline::sketch {

const Entity* Refs::entity(Id id) const { return system_.entity(id); }
bool Refs::point(Id id) const { return id == kOrigin || system_.point_unknown(id) >= 0; }
bool Refs::own_line(Id id) const { return is_straight(entity(id)); }
bool Refs::straight(Id id) const { return id == kXAxis || id == kYAxis || own_line(id); }
bool Refs::radius(Id id) const {
  const Entity* e = entity(id);
  return has_radius(e) && kind_of(*e).has_centre();
}
bool Refs::on_curve(Id id) const { return straight(id) || entity(id) != nullptr; }
bool Refs::has_ends(Id id) const {
  const Entity* e = entity(id);
  return e != nullptr && kind_of(*e).has_ends();
}
Id Refs::common_end(Id first, Id second) const {
  if (!has_ends(first) || !has_ends(second)) return 0;
  const Entity& a = *entity(first);
  const Entity& b = *entity(second);
  Id shared = 0;
  for (const Id p : {a.a, a.b}) {
    if (p == b.a || p == b.b) shared = p;
  }
  return shared;
}

namespace {

using Jets = std::vector<Jet>;

JetPoint along(const JetLine& line) { return line.b - line.a; }

JetPoint mirrored(const JetPoint& p, const JetLine& about) {
  const JetPoint d = along(about);
  const Jet twice = 2.0 * (signed_distance(p, about) / length(d));
  return {p.x + twice * d.y, p.y - twice * d.x};
}

// Scaled to millimetres at the shorter one's end, so that all equations weigh alike.
Jet turned(const Jet& turn, const JetPoint& d, const JetPoint& e) {
  const double scale = std::min(std::max(length(d).v, 1e-6), std::max(length(e).v, 1e-6));
  return scale * (turn / (length(d) * length(e)));
}

Jet signed_length(const Constraint& c, const Refs& refs, Terms& t) {
  if (c.second == 0) return length(along(t.line(c.first)));
  const bool first_line = refs.straight(c.first);
  const bool second_line = refs.straight(c.second);
  if (first_line && second_line) {
    const JetLine one = t.line(c.first);
    const JetLine two = t.line(c.second);
    // The axes are endless: measure a real line from them, never the other way round.
    return c.second < kFirstFree ? signed_distance(middle(one.a, one.b), two)
                                 : signed_distance(middle(two.a, two.b), one);
  }
  if (first_line) return signed_distance(t.point(c.second), t.line(c.first));
  if (second_line) return signed_distance(t.point(c.first), t.line(c.second));
  return length(t.point(c.first) - t.point(c.second));
}

constexpr ConstraintKind kCoincident{ConstraintType::Coincident, "coincident",
                                     [](const Refs& r, const Constraint& c) {
                                       if (!r.point(c.first)) return 0;
                                       return r.point(c.second) ? 2 : r.on_curve(c.second) ? 1 : 0;
                                     },
                                     [](const Equation& eq, Terms& t) -> Jets {
                                       const Constraint& c = eq.constraint;
                                       if (eq.count == 1)
                                         return {t.distance(c.second, t.point(c.first))};
                                       const JetPoint d = t.point(c.first) - t.point(c.second);
                                       return {d.x, d.y};
                                     }};

int two_points(const Refs& r, const Constraint& c) {
  return r.point(c.first) && r.point(c.second) ? 1 : 0;
}
int line_or_two_points(const Refs& r, const Constraint& c) {
  if (c.second == 0) return r.own_line(c.first) ? 1 : 0;
  return two_points(r, c);
}
/// From one end to the other of a line, or from point to point.
JetPoint reach_of(const Constraint& c, Terms& t) {
  return c.second == 0 ? along(t.line(c.first)) : t.point(c.second) - t.point(c.first);
}
int two_lines(const Refs& r, const Constraint& c) {
  return r.straight(c.first) && r.straight(c.second) ? 1 : 0;
}

constexpr ConstraintKind kHorizontal{
    ConstraintType::Horizontal, "horizontal", line_or_two_points,
    [](const Equation& eq, Terms& t) -> Jets { return {reach_of(eq.constraint, t).y}; }};

constexpr ConstraintKind kVertical{
    ConstraintType::Vertical, "vertical", line_or_two_points,
    [](const Equation& eq, Terms& t) -> Jets { return {reach_of(eq.constraint, t).x}; }};

constexpr ConstraintKind kParallel{ConstraintType::Parallel, "parallel", two_lines,
                                   [](const Equation& eq, Terms& t) -> Jets {
                                     const JetPoint d = along(t.line(eq.constraint.first));
                                     const JetPoint e = along(t.line(eq.constraint.second));
                                     return {turned(cross(d, e), d, e)};
                                   }};

/// Of a line and a curve the curve; 0 for two lines, and for what does not go with it.
Id curve_beside_line(const Refs& r, const Constraint& c) {
  if (two_lines(r, c)) return 0;
  const Id curve = r.straight(c.first) ? c.second : c.first;
  return (r.straight(c.first) || r.straight(c.second)) && r.has_ends(curve) ? curve : 0;
}

constexpr ConstraintKind kPerpendicular{
    ConstraintType::Perpendicular, "perpendicular",
    [](const Refs& r, const Constraint& c) {
      return two_lines(r, c) || curve_beside_line(r, c) != 0 ? 1 : 0;
    },
    [](const Equation& eq, Terms& t) -> Jets {
      const Constraint& c = eq.constraint;
      const Id curve = curve_beside_line(t.refs(), c);
      if (curve != 0) {
        const JetPoint d = kind_of(t.entity(curve)).direction(t, t.entity(curve), eq.shared);
        const JetPoint e = along(t.line(curve == c.first ? c.second : c.first));
        return {turned(dot(d, e), d, e)};
      }
      const JetPoint d = along(t.line(c.first));
      const JetPoint e = along(t.line(c.second));
      return {turned(dot(d, e), d, e)};
    },
    [](const Refs& r, Equation& eq, Terms& now) {
      const Id curve = curve_beside_line(r, eq.constraint);
      if (curve == 0) return;
      const Entity& e = now.entity(curve);
      const Id line = curve == eq.constraint.first ? eq.constraint.second : eq.constraint.first;
      const auto off = [&](Id end) {
        return std::abs(signed_distance(now.point(end), now.line(line)).v);
      };
      eq.shared = off(e.a) <= off(e.b) ? e.a : e.b;
    }};

constexpr ConstraintKind kTangent{
    ConstraintType::Tangent, "tangent",
    [](const Refs& r, const Constraint& c) {
      if (r.common_end(c.first, c.second) != 0) {
        // Two straight pieces that run on smoothly are parallel.
        return r.straight(c.first) && r.straight(c.second) ? 0 : 1;
      }
      const bool first = r.radius(c.first);
      const bool second = r.radius(c.second);
      return (first && second) || (first && r.straight(c.second)) || (r.straight(c.first) && second)
                 ? 1
                 : 0;
    },
    [](const Equation& eq, Terms& t) -> Jets {
      const Constraint& c = eq.constraint;
      const Refs refs = t.refs();
      if (eq.shared != 0) {
        // With a shared end the distance of the centre is already greatest when tangent; the
        // direction there is not.
        const Entity& a = t.entity(c.first);
        const Entity& b = t.entity(c.second);
        const JetPoint d = kind_of(a).direction(t, a, eq.shared);
        const JetPoint e = kind_of(b).direction(t, b, eq.shared);
        return {turned(cross(d, e), d, e)};
      }
      if (refs.radius(c.first) && refs.radius(c.second)) {
        const Entity& one = t.entity(c.first);
        const Entity& two = t.entity(c.second);
        const Jet a = t.radius(one);
        const Jet b = t.radius(two);
        return {length(t.centre(one) - t.centre(two)) - (eq.side > 0    ? a + b
                                                         : eq.side > -2 ? a - b
                                                                        : b - a)};
      }
      const bool first_line = refs.straight(c.first);
      const Entity& round = t.entity(first_line ? c.second : c.first);
      const JetLine line = t.line(first_line ? c.first : c.second);
      return {eq.side * signed_distance(t.centre(round), line) - t.radius(round)};
    },
    [](const Refs& r, Equation& eq, Terms& now) {
      const Constraint& c = eq.constraint;
      eq.shared = r.common_end(c.first, c.second);
      if (eq.shared != 0) return;
      if (r.radius(c.first) && r.radius(c.second)) {
        const Entity& a = now.entity(c.first);
        const Entity& b = now.entity(c.second);
        const double d = (now.place(a.centre) - now.place(b.centre)).norm();
        const bool outside =
            std::abs(d - a.radius - b.radius) <= std::abs(d - std::abs(a.radius - b.radius));
        eq.side = outside ? 1 : a.radius >= b.radius ? -1 : -2;
        return;
      }
      const bool first_line = r.straight(c.first);
      const Entity& round = now.entity(first_line ? c.second : c.first);
      const Jet off = signed_distance(now.centre(round), now.line(first_line ? c.first : c.second));
      eq.side = off.v < 0 ? -1 : 1;
    }};

constexpr ConstraintKind kConcentric{ConstraintType::Concentric, "concentric",
                                     [](const Refs& r, const Constraint& c) {
                                       return r.radius(c.first) && r.radius(c.second) ? 2 : 0;
                                     },
                                     [](const Equation& eq, Terms& t) -> Jets {
                                       const JetPoint d = t.centre(t.entity(eq.constraint.first)) -
                                                          t.centre(t.entity(eq.constraint.second));
                                       return {d.x, d.y};
                                     }};

constexpr ConstraintKind kEqual{
    ConstraintType::Equal, "equal",
    [](const Refs& r, const Constraint& c) {
      return (r.radius(c.first) && r.radius(c.second)) ||
                     (r.own_line(c.first) && r.own_line(c.second))
                 ? 1
                 : 0;
    },
    [](const Equation& eq, Terms& t) -> Jets {
      const Constraint& c = eq.constraint;
      if (t.refs().radius(c.first))
        return {t.radius(t.entity(c.first)) - t.radius(t.entity(c.second))};
      return {length(along(t.line(c.first))) - length(along(t.line(c.second)))};
    }};

constexpr ConstraintKind kDistance{
    ConstraintType::Distance, "distance",
    [](const Refs& r, const Constraint& c) {
      if (c.second == 0) return r.own_line(c.first) ? 1 : 0;
      const auto known = [&](Id id) { return r.straight(id) || r.point(id); };
      return known(c.first) && known(c.second) ? 1 : 0;
    },
    [](const Equation& eq, Terms& t) -> Jets {
      return {eq.side * signed_length(eq.constraint, t.refs(), t) - eq.constraint.value};
    },
    [](const Refs& r, Equation& eq, Terms& now) {
      eq.side = signed_length(eq.constraint, r, now).v < 0 ? -1 : 1;
    }};

constexpr ConstraintKind kRadius{
    ConstraintType::Radius, "radius",
    [](const Refs& r, const Constraint& c) { return r.radius(c.first) ? 1 : 0; },
    [](const Equation& eq, Terms& t) -> Jets {
      return {t.radius(t.entity(eq.constraint.first)) - eq.constraint.value};
    }};

constexpr ConstraintKind kMidpoint{ConstraintType::Midpoint, "midpoint",
                                   [](const Refs& r, const Constraint& c) {
                                     return r.point(c.first) && r.own_line(c.second) ? 2 : 0;
                                   },
                                   [](const Equation& eq, Terms& t) -> Jets {
                                     const JetLine line = t.line(eq.constraint.second);
                                     const JetPoint d =
                                         t.point(eq.constraint.first) - middle(line.a, line.b);
                                     return {d.x, d.y};
                                   }};

constexpr ConstraintKind kSymmetric{
    ConstraintType::Symmetric, "symmetric",
    [](const Refs& r, const Constraint& c) {
      if (!r.straight(c.third)) return 0;
      if (r.point(c.first) && r.point(c.second)) return 2;
      if (r.own_line(c.first) && r.own_line(c.second) && c.first != c.third && c.second != c.third)
        return 2;
      return r.radius(c.first) && r.radius(c.second) ? 3 : 0;
    },
    [](const Equation& eq, Terms& t) -> Jets {
      const Constraint& c = eq.constraint;
      if (t.refs().own_line(c.first)) {
        // The ends of one lie on the other when they are mirrored: endless lines, whatever ends.
        const JetLine one = t.line(c.first);
        const JetLine two = t.line(c.second);
        const JetLine about = t.line(c.third);
        return {signed_distance(mirrored(one.a, about), two),
                signed_distance(mirrored(one.b, about), two)};
      }
      const bool rounds = eq.count == 3;
      const JetPoint p = rounds ? t.centre(t.entity(c.first)) : t.point(c.first);
      const JetPoint q = rounds ? t.centre(t.entity(c.second)) : t.point(c.second);
      const JetLine about = t.line(c.third);
      const JetPoint d = along(about);
      Jets all{signed_distance(middle(p, q), about), dot(q - p, d) / length(d)};
      if (rounds) all.push_back(t.radius(t.entity(c.first)) - t.radius(t.entity(c.second)));
      return all;
    }};

Jet turn_between(const Constraint& c, Terms& t) {
  const JetPoint d = along(t.line(c.first));
  const JetPoint e = along(t.line(c.second));
  return angle_of(cross(d, e), dot(d, e));
}

constexpr ConstraintKind kAngle{
    ConstraintType::Angle, "angle", two_lines,
    [](const Equation& eq, Terms& t) -> Jets {
      Jet off = eq.side * turn_between(eq.constraint, t) - eq.constraint.value;
      off.v = std::remainder(off.v, 2 * std::numbers::pi);  // round the back the turn changes sign
      return {eq.reach * off};
    },
    [](const Refs&, Equation& eq, Terms& now) {
      eq.side = turn_between(eq.constraint, now).v < 0 ? -1 : 1;
      // In millimetres at the shorter line's end, so that an angle weighs like a distance.
      const double first = length(along(now.line(eq.constraint.first))).v;
      const double second = length(along(now.line(eq.constraint.second))).v;
      eq.reach = std::max(1e-6, eq.constraint.first < kFirstFree    ? second
                                : eq.constraint.second < kFirstFree ? first
                                                                    : std::min(first, second));
    }};

int straight_beside(const Refs& r, const Constraint& c) {
  if (!two_lines(r, c)) return 0;
  return r.own_line(c.first) || r.own_line(c.second) ? 2 : 0;
}

constexpr ConstraintKind kCollinear{
    ConstraintType::Collinear, "collinear", straight_beside,
    [](const Equation& eq, Terms& t) -> Jets {
      // The ends of a drawn line lie on the other one.
      const Constraint& c = eq.constraint;
      const bool own = t.refs().own_line(c.second);
      const JetLine on = t.line(own ? c.first : c.second);
      const JetLine line = t.line(own ? c.second : c.first);
      return {signed_distance(line.a, on), signed_distance(line.b, on)};
    }};

constexpr ConstraintKind kSmooth{
    ConstraintType::Smooth, "smooth",
    [](const Refs& r, const Constraint& c) {
      if (r.common_end(c.first, c.second) == 0) return 0;
      const CurveKind& one = kind_of(*r.entity(c.first));
      const CurveKind& two = kind_of(*r.entity(c.second));
      // What cannot change how it bends is no partner for its like.
      const auto free = [](const CurveKind& k) { return !k.straight() && !k.has_radius(); };
      return (free(one) || free(two)) && one.has_curvature() && two.has_curvature() ? 2 : 0;
    },
    [](const Equation& eq, Terms& t) -> Jets {
      const Entity& one = t.entity(eq.constraint.first);
      const Entity& two = t.entity(eq.constraint.second);
      const JetPoint d = kind_of(one).direction(t, one, eq.shared);
      const JetPoint e = kind_of(two).direction(t, two, eq.shared);
      // One runs into the end and the other out of it, or both alike: then the sense of bending
      // turns round.
      const bool on = (one.b == eq.shared) != (two.b == eq.shared);
      const Jet bend = *kind_of(one).curvature(t, one, eq.shared) -
                       (on ? 1.0 : -1.0) * *kind_of(two).curvature(t, two, eq.shared);
      // As the height of a bow over the shorter curve, so that it weighs like a distance.
      const double reach = std::min((t.place(one.a) - t.place(one.b)).norm(),
                                    (t.place(two.a) - t.place(two.b)).norm());
      return {turned(cross(d, e), d, e), reach * reach / 8 * bend};
    },
    [](const Refs& r, Equation& eq, Terms&) {
      eq.shared = r.common_end(eq.constraint.first, eq.constraint.second);
    }};

constexpr ConstraintKind kFixed{ConstraintType::Fixed, "fixed",
                                [](const Refs& r, const Constraint& c) {
                                  if (c.second != 0 || c.first == kOrigin) return 0;
                                  if (r.point(c.first)) return 2;
                                  // The radius of a whole circle, which no end of it holds.
                                  return r.radius(c.first) && !r.has_ends(c.first) ? 1 : 0;
                                },
                                [](const Equation& eq, Terms& t) -> Jets {
                                  if (eq.count == 1)
                                    return {t.radius(t.entity(eq.constraint.first)) - eq.place.x()};
                                  const JetPoint p = t.point(eq.constraint.first);
                                  return {p.x - eq.place.x(), p.y - eq.place.y()};
                                },
                                [](const Refs&, Equation& eq, Terms& now) {
                                  const Id what = eq.constraint.first;
                                  eq.place = eq.count == 1 ? Vec2(now.radius(now.entity(what)).v, 0)
                                                           : now.place(what);
                                }};

/// How far two points lie apart along an axis of the plane.
template <Jet JetPoint::*kAlong>
constexpr ConstraintKind distance_along(ConstraintType type, const char* name) {
  return {type, name, two_points,
          [](const Equation& eq, Terms& t) -> Jets {
            return {eq.side * (reach_of(eq.constraint, t).*kAlong) - eq.constraint.value};
          },
          [](const Refs&, Equation& eq, Terms& now) {
            eq.side = (reach_of(eq.constraint, now).*kAlong).v < 0 ? -1 : 1;
          }};
}
constexpr ConstraintKind kDistanceX =
    distance_along<&JetPoint::x>(ConstraintType::DistanceX, "distance along x");
constexpr ConstraintKind kDistanceY =
    distance_along<&JetPoint::y>(ConstraintType::DistanceY, "distance along y");

constexpr ConstraintKind kArcLength{
    ConstraintType::ArcLength, "arc length",
    [](const Refs& r, const Constraint& c) {
      return c.second == 0 && r.radius(c.first) && r.has_ends(c.first) ? 1 : 0;
    },
    [](const Equation& eq, Terms& t) -> Jets {
      const Entity& arc = t.entity(eq.constraint.first);
      const JetPoint centre = t.centre(arc);
      const JetPoint a = t.point(arc.a) - centre;
      const JetPoint b = t.point(arc.b) - centre;
      Jet sweep = angle_of(cross(a, b), dot(a, b));
      if (sweep.v <= 0) sweep.v += 2 * std::numbers::pi;  // counter-clockwise from a to b
      return {t.radius(arc) * sweep - eq.constraint.value};
    }};

constexpr std::array kKinds{kCoincident, kHorizontal, kVertical,  kParallel,  kPerpendicular,
                            kTangent,    kConcentric, kEqual,     kDistance,  kRadius,
                            kMidpoint,   kSymmetric,  kAngle,     kCollinear, kSmooth,
                            kFixed,      kDistanceX,  kDistanceY, kArcLength};

}  // namespace

std::span<const ConstraintKind> constraint_kinds() { return kKinds; }

const ConstraintKind& kind_of(ConstraintType type) {
  return *std::find_if(kKinds.begin(), kKinds.end(),
                       [&](const ConstraintKind& k) { return k.type == type; });
}

const char* constraint_name(ConstraintType type) { return kind_of(type).name; }

}  // namespace lostline::sketch
