#include "sketch/crossing.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace lostline::sketch {
namespace {

constexpr double kTurn = 2 * std::numbers::pi;
constexpr double kNear = 1e-7;  // mm: ends that touch a crossing count as being there

double cross(const Vec2& a, const Vec2& b) { return a.x() * b.y() - a.y() * b.x(); }
double wrapped(double angle) {
  angle = std::fmod(angle, kTurn);
  return angle < 0 ? angle + kTurn : angle;
}

}  // namespace

double parameter(const Sketch& s, const Entity& e, const Vec2& p) {
  if (e.type == EntityType::Line) {
    const Vec2 a = s.position(e.a);
    return (p - a).dot((s.position(e.b) - a).normalized());
  }
  const Vec2 d = p - s.position(e.centre);
  const double angle = std::atan2(d.y(), d.x());
  return e.type == EntityType::Circle ? wrapped(angle) : wrapped(angle - arc_angles(s, e).start);
}
double length_of(const Sketch& s, const Entity& e) {
  if (e.type == EntityType::Line) return (s.position(e.b) - s.position(e.a)).norm();
  return e.type == EntityType::Circle ? kTurn : arc_angles(s, e).sweep;
}

std::vector<Vec2> meetings(const Sketch& s, const Entity& a, const Entity& b) {
  std::vector<Vec2> found;
  const auto line_line = [&] {
    const Vec2 p = s.position(a.a);
    const Vec2 d = s.position(a.b) - p;
    const Vec2 q = s.position(b.a);
    const Vec2 e = s.position(b.b) - q;
    const double det = cross(d, e);
    if (std::abs(det) < 1e-12 * d.norm() * e.norm()) return;
    found.emplace_back(p + d * (cross(q - p, e) / det));
  };
  const auto line_round = [&](const Entity& line, const Entity& round) {
    const Vec2 p = s.position(line.a);
    const Vec2 d = (s.position(line.b) - p).normalized();
    const Vec2 c = s.position(round.centre);
    const double along = (c - p).dot(d);
    const double off = cross(d, c - p);
    const double square = round.radius * round.radius - off * off;
    if (square < 0) return;
    for (const double side : {-1.0, 1.0})
      found.emplace_back(p + d * (along + side * std::sqrt(square)));
  };
  const auto round_round = [&] {
    const Vec2 c = s.position(a.centre);
    const Vec2 d = s.position(b.centre) - c;
    const double distance = d.norm();
    if (distance < 1e-12) return;
    const double along =
        (distance * distance + a.radius * a.radius - b.radius * b.radius) / (2 * distance);
    const double square = a.radius * a.radius - along * along;
    if (square < 0) return;
    const Vec2 u = d / distance;
    const Vec2 v(-u.y(), u.x());
    for (const double side : {-1.0, 1.0})
      found.emplace_back(c + along * u + side * std::sqrt(square) * v);
  };
  const bool la = a.type == EntityType::Line;
  const bool lb = b.type == EntityType::Line;
  if (la && lb)
    line_line();
  else if (la)
    line_round(a, b);
  else if (lb)
    line_round(b, a);
  else
    round_round();
  return found;
}

bool lies_on(const Sketch& s, const Entity& e, const Vec2& p) {
  const double t = parameter(s, e, p);
  if (e.type == EntityType::Circle) return true;
  const double slack = e.type == EntityType::Line ? kNear : kNear / std::max(e.radius, 1e-9);
  return (t > -slack && t < length_of(s, e) + slack) || t > kTurn - slack;
}

std::vector<Crossing> crossings(const Sketch& s, const Entity& e) {
  std::vector<Crossing> list;
  const double whole = length_of(s, e);
  const double slack = e.type == EntityType::Line ? kNear : kNear / std::max(e.radius, 1e-9);
  for (const Entity& other : s.entities) {
    if (other.id == e.id) continue;
    for (const Vec2& p : meetings(s, e, other)) {
      if (!lies_on(s, other, p)) continue;
      const double t = parameter(s, e, p);
      // Its own ends are no cuts.
      if (e.type != EntityType::Circle && (t < slack || t > whole - slack)) continue;
      list.push_back({t, p, other.id});
    }
  }
  std::sort(list.begin(), list.end(),
            [](const Crossing& a, const Crossing& b) { return a.at < b.at; });
  return list;
}

}  // namespace lostline::sketch
