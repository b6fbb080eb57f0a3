#include "sketch/system.h"

#include <array>
#include <cmath>

namespace lostline::sketch {
namespace {

Jet operator+(const Jet& a, const Jet& b) { return {a.v + b.v, a.d + b.d}; }
Jet operator-(const Jet& a, const Jet& b) { return {a.v - b.v, a.d - b.d}; }
Jet operator*(const Jet& a, const Jet& b) { return {a.v * b.v, a.v * b.d + b.v * a.d}; }
Jet operator*(double a, const Jet& b) { return {a * b.v, a * b.d}; }
Jet operator/(const Jet& a, const Jet& b) { return {a.v / b.v, (a.d - (a.v / b.v) * b.d) / b.v}; }
Jet operator-(const Jet& a, double b) { return {a.v - b, a.d}; }
Jet root(const Jet& a) {
  const double r = std::sqrt(std::max(a.v, 1e-24));
  return {r, a.d / (2 * r)};
}

Jet angle_of(const Jet& y, const Jet& x) {
  const double squared = std::max(x.v * x.v + y.v * y.v, 1e-24);
  return {std::atan2(y.v, x.v), (x.v * y.d - y.v * x.d) / squared};
}

struct JetPoint {
  Jet x, y;
};
JetPoint operator-(const JetPoint& a, const JetPoint& b) { return {a.x - b.x, a.y - b.y}; }
JetPoint middle(const JetPoint& a, const JetPoint& b) {
  return {0.5 * (a.x + b.x), 0.5 * (a.y + b.y)};
}
Jet cross(const JetPoint& a, const JetPoint& b) { return a.x * b.y - a.y * b.x; }
Jet dot(const JetPoint& a, const JetPoint& b) { return a.x * b.x + a.y * b.y; }
Jet length(const JetPoint& a) { return root(dot(a, a)); }

struct JetLine {
  JetPoint a, b;
};
Jet signed_distance(const JetPoint& p, const JetLine& line) {
  const JetPoint d = line.b - line.a;
  return cross(d, p - line.a) / length(d);
}

bool is_line_ref(const Sketch& s, Id id) {
  if (id == kXAxis || id == kYAxis) return true;
  const Entity* e = s.find_entity(id);
  return e != nullptr && e->type == EntityType::Line;
}
bool is_round(const Sketch& s, Id id) {
  const Entity* e = s.find_entity(id);
  return e != nullptr && e->type != EntityType::Line;
}
bool is_point_ref(const Sketch& s, Id id) { return id == kOrigin || s.find_point(id) != nullptr; }

}  // namespace

/// Maps the unknowns that one equation touches to slots of its jets.
struct System::Scope {
  const System& system;
  const Eigen::VectorXd& x;
  std::array<Eigen::Index, Jet::kSize> slots{};
  int used = 0;

  Jet unknown(Eigen::Index i) {
    int slot = 0;
    while (slot < used && slots[static_cast<std::size_t>(slot)] != i) ++slot;
    if (slot == used) slots[static_cast<std::size_t>(used++)] = i;
    Jet jet;
    jet.v = x[i];
    jet.d[slot] = 1;
    return jet;
  }
  JetPoint point(Id id) {
    const Eigen::Index i = system.point_unknown(id);
    if (i < 0) return {};  // the origin
    return {unknown(i), unknown(i + 1)};
  }
  Jet radius(Id id) { return unknown(system.radius_unknown(id)); }
  JetPoint centre(Id id) { return point(system.sketch_.find_entity(id)->centre); }
  JetLine line(Id id) {
    JetLine fixed;
    if (id == kXAxis) {
      fixed.b.x.v = 1;
      return fixed;
    }
    if (id == kYAxis) {
      fixed.b.y.v = 1;
      return fixed;
    }
    const Entity* e = system.sketch_.find_entity(id);
    return {point(e->a), point(e->b)};
  }
};

Eigen::Index System::point_unknown(Id point) const {
  const auto it = point_index_.find(point);
  return it == point_index_.end() ? -1 : it->second;
}
Eigen::Index System::radius_unknown(Id entity) const {
  const auto it = radius_index_.find(entity);
  return it == radius_index_.end() ? -1 : it->second;
}

std::vector<Eigen::Index> System::unknowns_of(const Entity& entity) const {
  std::vector<Eigen::Index> result;
  for (const Id id : {entity.a, entity.b, entity.centre}) {
    const Eigen::Index i = point_unknown(id);
    if (i >= 0) result.insert(result.end(), {i, i + 1});
  }
  if (radius_unknown(entity.id) >= 0) result.push_back(radius_unknown(entity.id));
  return result;
}

Result<System> System::build(const Sketch& sketch, bool hold_dimensions) {
  System system(sketch);
  Eigen::Index n = 0;
  for (const Point& p : sketch.points) {
    system.point_index_[p.id] = n;
    n += 2;
  }
  for (const Entity& e : sketch.entities) {
    if (e.type != EntityType::Line) system.radius_index_[e.id] = n++;
  }
  system.x_.resize(n);
  for (const Point& p : sketch.points) system.x_.segment<2>(system.point_index_[p.id]) = p.at;
  for (const Entity& e : sketch.entities) {
    if (e.type != EntityType::Line) system.x_[system.radius_index_[e.id]] = e.radius;
    if (e.type != EntityType::Arc) continue;
    for (const Id end : {e.a, e.b}) {
      Equation equation;
      equation.constraint.first = e.id;
      equation.constraint.second = end;
      system.equations_.push_back(equation);
      system.owners_.push_back(0);
      ++system.rows_;
    }
  }
  for (const Constraint& c : sketch.constraints) {
    if (c.is_dimension() && !(c.driving && hold_dimensions)) continue;
    if (const Status status = system.add(c); !status) return status.error();
  }
  return system;
}

Status System::add(const Constraint& c) {
  const auto unsuitable = [&]() -> Status {
    return Error{ErrorCode::InvalidInput,
                 "The constraint " + describe(sketch_, c) + " does not go with these things."};
  };
  const bool two_lines = is_line_ref(sketch_, c.first) && is_line_ref(sketch_, c.second);
  const bool two_rounds = is_round(sketch_, c.first) && is_round(sketch_, c.second);
  if (c.second != 0 && c.first == c.second) return unsuitable();
  Equation equation;
  equation.constraint = c;
  switch (c.type) {
    case ConstraintType::Coincident:
      if (!is_point_ref(sketch_, c.first)) return unsuitable();
      if (!is_point_ref(sketch_, c.second) && !is_line_ref(sketch_, c.second) &&
          !is_round(sketch_, c.second))
        return unsuitable();
      equation.count = is_point_ref(sketch_, c.second) ? 2 : 1;
      break;
    case ConstraintType::Horizontal:
    case ConstraintType::Vertical:
      if (!is_line_ref(sketch_, c.first) || c.first < kFirstFree) return unsuitable();
      break;
    case ConstraintType::Parallel:
    case ConstraintType::Perpendicular:
      if (!two_lines) return unsuitable();
      break;
    case ConstraintType::Concentric:
      if (!two_rounds) return unsuitable();
      equation.count = 2;
      break;
    case ConstraintType::Equal:
      if (!two_rounds && !(two_lines && c.first >= kFirstFree && c.second >= kFirstFree))
        return unsuitable();
      break;
    case ConstraintType::Radius:
      if (!is_round(sketch_, c.first)) return unsuitable();
      break;
    case ConstraintType::Midpoint:
      if (!is_point_ref(sketch_, c.first) || !is_line_ref(sketch_, c.second) ||
          c.second < kFirstFree)
        return unsuitable();
      equation.count = 2;
      break;
    case ConstraintType::Symmetric: {
      const bool points = is_point_ref(sketch_, c.first) && is_point_ref(sketch_, c.second);
      if ((!points && !two_rounds) || !is_line_ref(sketch_, c.third)) return unsuitable();
      equation.count = points ? 2 : 3;
      break;
    }
    case ConstraintType::Angle:
      if (!two_lines) return unsuitable();
      break;
    case ConstraintType::Tangent: {
      const bool mixed = (is_line_ref(sketch_, c.first) && is_round(sketch_, c.second)) ||
                         (is_round(sketch_, c.first) && is_line_ref(sketch_, c.second));
      if (!mixed && !two_rounds) return unsuitable();
      const Entity* a = sketch_.find_entity(c.first);
      const Entity* b = sketch_.find_entity(c.second);
      if (a != nullptr && b != nullptr) {
        for (const Id p : {a->a, a->b}) {
          if (p != 0 && (p == b->a || p == b->b)) {
            equation.at_shared_end = true;
            equation.shared = p;
          }
        }
      }
      break;
    }
    case ConstraintType::Distance: {
      const bool known_first = is_line_ref(sketch_, c.first) || is_point_ref(sketch_, c.first);
      const bool known_second = is_line_ref(sketch_, c.second) || is_point_ref(sketch_, c.second);
      if (!known_first || (c.second != 0 && !known_second)) return unsuitable();
      if (c.second == 0 && (!is_line_ref(sketch_, c.first) || c.first < kFirstFree))
        return unsuitable();
      break;
    }
  }
  // The side of a distance or tangency is the one it has now.
  Scope scope{*this, x_};
  const std::vector<Jet> now = residual(equation, x_, scope);
  if (c.type == ConstraintType::Distance || c.type == ConstraintType::Angle) {
    equation.sign = now[0].v + c.value < 0 ? -1 : 1;
  } else if (c.type == ConstraintType::Tangent && !equation.at_shared_end) {
    if (two_rounds) {
      const Entity* a = sketch_.find_entity(c.first);
      const Entity* b = sketch_.find_entity(c.second);
      const double d = (sketch_.position(a->centre) - sketch_.position(b->centre)).norm();
      equation.sign =
          std::abs(d - a->radius - b->radius) <= std::abs(d - std::abs(a->radius - b->radius)) ? 1
          : a->radius >= b->radius                                                             ? -1
                                                                                               : -2;
    } else {
      const Id round = is_round(sketch_, c.first) ? c.first : c.second;
      const double offset = now[0].v + sketch_.find_entity(round)->radius;
      equation.sign = offset < 0 ? -1 : 1;
    }
  }
  equations_.push_back(equation);
  owners_.insert(owners_.end(), static_cast<std::size_t>(equation.count), c.id);
  rows_ += equation.count;
  return Done{};
}

std::vector<Jet> System::residual(const Equation& eq, const Eigen::VectorXd&, Scope& s) const {
  const Constraint& c = eq.constraint;
  if (c.id == 0) return {length(s.point(c.second) - s.centre(c.first)) - s.radius(c.first)};
  const bool first_line = is_line_ref(sketch_, c.first);
  const bool second_line = c.second != 0 && is_line_ref(sketch_, c.second);
  switch (c.type) {
    case ConstraintType::Coincident: {
      if (second_line) return {signed_distance(s.point(c.first), s.line(c.second))};
      if (is_round(sketch_, c.second))
        return {length(s.point(c.first) - s.centre(c.second)) - s.radius(c.second)};
      const JetPoint d = s.point(c.first) - s.point(c.second);
      return {d.x, d.y};
    }
    case ConstraintType::Horizontal:
    case ConstraintType::Vertical: {
      const JetLine line = s.line(c.first);
      const JetPoint d = line.b - line.a;
      return {c.type == ConstraintType::Horizontal ? d.y : d.x};
    }
    case ConstraintType::Parallel:
    case ConstraintType::Perpendicular: {
      const JetLine one = s.line(c.first);
      const JetLine two = s.line(c.second);
      const JetPoint d = one.b - one.a;
      const JetPoint e = two.b - two.a;
      // Scaled to millimetres at the shorter line's end, so that all equations weigh alike.
      const Jet turn = c.type == ConstraintType::Parallel ? cross(d, e) : dot(d, e);
      const double scale = std::min(std::max(length(d).v, 1e-6), std::max(length(e).v, 1e-6));
      return {scale * (turn / (length(d) * length(e)))};
    }
    case ConstraintType::Concentric: {
      const JetPoint d = s.centre(c.first) - s.centre(c.second);
      return {d.x, d.y};
    }
    case ConstraintType::Equal: {
      if (!first_line) return {s.radius(c.first) - s.radius(c.second)};
      const JetLine one = s.line(c.first);
      const JetLine two = s.line(c.second);
      return {length(one.b - one.a) - length(two.b - two.a)};
    }
    case ConstraintType::Radius:
      return {s.radius(c.first) - c.value};
    case ConstraintType::Midpoint: {
      const JetLine line = s.line(c.second);
      const JetPoint d = s.point(c.first) - middle(line.a, line.b);
      return {d.x, d.y};
    }
    case ConstraintType::Symmetric: {
      const bool rounds = is_round(sketch_, c.first);
      const JetPoint p = rounds ? s.centre(c.first) : s.point(c.first);
      const JetPoint q = rounds ? s.centre(c.second) : s.point(c.second);
      const JetLine about = s.line(c.third);
      const JetPoint d = about.b - about.a;
      std::vector<Jet> both{signed_distance(middle(p, q), about), dot(q - p, d) / length(d)};
      if (rounds) both.push_back(s.radius(c.first) - s.radius(c.second));
      return both;
    }
    case ConstraintType::Angle: {
      const JetLine one = s.line(c.first);
      const JetLine two = s.line(c.second);
      const JetPoint d = one.b - one.a;
      const JetPoint e = two.b - two.a;
      return {eq.sign * angle_of(cross(d, e), dot(d, e)) - c.value};
    }
    case ConstraintType::Tangent: {
      if (!first_line && !second_line) {
        const JetPoint between = s.centre(c.first) - s.centre(c.second);
        if (eq.at_shared_end) {
          const JetPoint p = s.point(eq.shared);
          const JetPoint a = p - s.centre(c.first);
          const JetPoint b = p - s.centre(c.second);
          const double scale = std::min(length(a).v, length(b).v);
          return {scale * (cross(a, b) / (length(a) * length(b)))};
        }
        const Jet a = s.radius(c.first);
        const Jet b = s.radius(c.second);
        return {length(between) - (eq.sign > 0 ? a + b : eq.sign > -2 ? a - b : b - a)};
      }
      const Id round = first_line ? c.second : c.first;
      const JetLine line = s.line(first_line ? c.first : c.second);
      if (eq.at_shared_end) {
        // With a shared end the distance of the centre is already greatest when tangent; the angle
        // there is not.
        const JetPoint arm = s.point(eq.shared) - s.centre(round);
        const JetPoint d = line.b - line.a;
        const double scale = std::min(length(arm).v, length(d).v);
        return {scale * (dot(arm, d) / (length(arm) * length(d)))};
      }
      return {eq.sign * signed_distance(s.centre(round), line) - s.radius(round)};
    }
    case ConstraintType::Distance: {
      Jet value;
      if (c.second == 0) {
        const JetLine line = s.line(c.first);
        value = length(line.b - line.a);
      } else if (first_line && second_line) {
        const JetLine other = s.line(c.second);
        // The axes are endless: measure a real line from them, never the other way round.
        value = c.second < kFirstFree
                    ? signed_distance(middle(s.line(c.first).a, s.line(c.first).b), other)
                    : signed_distance(middle(other.a, other.b), s.line(c.first));
      } else if (first_line) {
        value = signed_distance(s.point(c.second), s.line(c.first));
      } else if (second_line) {
        value = signed_distance(s.point(c.first), s.line(c.second));
      } else {
        value = length(s.point(c.first) - s.point(c.second));
      }
      return {eq.sign * value - c.value};
    }
  }
  return {};
}

void System::evaluate(const Eigen::VectorXd& x, Eigen::VectorXd& f,
                      Eigen::MatrixXd& jacobian) const {
  f.setZero(rows_);
  jacobian.setZero(rows_, x_.size());
  Eigen::Index row = 0;
  for (const Equation& equation : equations_) {
    Scope scope{*this, x};
    for (const Jet& jet : residual(equation, x, scope)) {
      f[row] = jet.v;
      for (int k = 0; k < scope.used; ++k)
        jacobian(row, scope.slots[static_cast<std::size_t>(k)]) += jet.d[k];
      ++row;
    }
  }
}

Eigen::VectorXd System::gradient(const Constraint& dimension, const Eigen::VectorXd& x) const {
  Equation equation;
  equation.constraint = dimension;
  equation.constraint.value = 0;
  Scope scope{*this, x};
  const Jet jet = residual(equation, x, scope)[0];
  Eigen::VectorXd g = Eigen::VectorXd::Zero(x_.size());
  for (int k = 0; k < scope.used; ++k) g[scope.slots[static_cast<std::size_t>(k)]] += jet.d[k];
  return g;
}

Sketch System::applied(const Eigen::VectorXd& x) const {
  Sketch result = sketch_;
  for (Point& p : result.points) p.at = x.segment<2>(point_index_.at(p.id));
  for (Entity& e : result.entities) {
    if (e.type != EntityType::Line) e.radius = x[radius_index_.at(e.id)];
  }
  return result;
}

}  // namespace lostline::sketch
