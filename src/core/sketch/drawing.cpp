#include "sketch/drawing.h"

#include <Eigen/Dense>
#include <cmath>
#include <numbers>

namespace lostline::sketch {
namespace {

constexpr double kNothing = 1e-6;  // mm: places nearer than this are one

Error together() {
  return {ErrorCode::InvalidInput, "Two of these places fall together. Click them apart."};
}

void hold(Sketch& s, ConstraintType type, Id first, Id second = 0) {
  s.add_constraint(type, first, second);
}

/// Four lines round four corners.
std::vector<Id> round(Sketch& s, const std::vector<Id>& corners) {
  std::vector<Id> sides;
  for (std::size_t k = 0; k < corners.size(); ++k)
    sides.push_back(s.add_line(corners[k], corners[(k + 1) % corners.size()]));
  return sides;
}

/// Centre of the circle through three places; none in a line.
std::optional<Vec2> centre_of(const Vec2& a, const Vec2& b, const Vec2& c) {
  const Vec2 u = b - a;
  const Vec2 v = c - a;
  const double det = 2 * (u.x() * v.y() - u.y() * v.x());
  if (std::abs(det) < 1e-9 * u.norm() * v.norm()) return std::nullopt;
  return a + Vec2(v.y() * u.squaredNorm() - u.y() * v.squaredNorm(),
                  u.x() * v.squaredNorm() - v.x() * u.squaredNorm()) /
                 det;
}

/// Counter-clockwise from one direction to another, rad in [0, 2 pi).
double turn_from(const Vec2& a, const Vec2& b) {
  const double turn = std::atan2(a.x() * b.y() - a.y() * b.x(), a.dot(b));
  return turn < 0 ? turn + 2 * std::numbers::pi : turn;
}

}  // namespace

Id point_at(Sketch& sketch, const Spot& spot) {
  const bool there = spot.point == kOrigin || sketch.find_point(spot.point) != nullptr;
  return spot.point != 0 && there ? spot.point : sketch.add_point(spot.at);
}

Result<std::vector<Id>> draw_rectangle(Sketch& s, const Spot& corner, const Spot& opposite) {
  const Vec2 d = opposite.at - corner.at;
  if (std::abs(d.x()) < kNothing || std::abs(d.y()) < kNothing) return together();
  const Id a = point_at(s, corner);
  const Id b = s.add_point({opposite.at.x(), corner.at.y()});
  const Id c = point_at(s, opposite);
  const Id e = s.add_point({corner.at.x(), opposite.at.y()});
  const auto sides = round(s, {a, b, c, e});
  for (std::size_t k = 0; k < 4; ++k)
    hold(s, k % 2 == 0 ? ConstraintType::Horizontal : ConstraintType::Vertical, sides[k]);
  return sides;
}

Result<std::vector<Id>> draw_rectangle(Sketch& s, const Spot& a, const Spot& b, const Vec2& reach) {
  const Vec2 along = b.at - a.at;
  if (along.norm() < kNothing) return together();
  const Vec2 up = left_of(along.normalized());
  const double height = (reach - a.at).dot(up);
  if (std::abs(height) < kNothing) return together();
  const Id first = point_at(s, a);
  const Id second = point_at(s, b);
  const auto sides =
      round(s, {first, second, s.add_point(b.at + height * up), s.add_point(a.at + height * up)});
  hold(s, ConstraintType::Perpendicular, sides[0], sides[1]);
  hold(s, ConstraintType::Parallel, sides[0], sides[2]);
  hold(s, ConstraintType::Parallel, sides[1], sides[3]);
  return sides;
}

Result<std::vector<Id>> draw_slot(Sketch& s, const Spot& a, const Spot& b, const Vec2& edge) {
  const Vec2 along = b.at - a.at;
  if (along.norm() < kNothing) return together();
  const Vec2 side = left_of(along.normalized());
  const double radius = std::abs((edge - a.at).dot(side));
  if (radius < kNothing) return together();
  const Vec2 off = radius * side;
  const Id first = point_at(s, a);
  const Id second = point_at(s, b);
  const Id right_a = s.add_point(a.at - off);
  const Id right_b = s.add_point(b.at - off);
  const Id left_b = s.add_point(b.at + off);
  const Id left_a = s.add_point(a.at + off);
  const std::vector<Id> all{s.add_line(right_a, right_b),
                            s.add_arc(second, right_b, left_b, radius), s.add_line(left_b, left_a),
                            s.add_arc(first, left_a, right_a, radius)};
  for (std::size_t k = 0; k < 4; ++k) hold(s, ConstraintType::Tangent, all[k], all[(k + 1) % 4]);
  hold(s, ConstraintType::Equal, all[1], all[3]);
  return all;
}

Result<std::vector<Id>> draw_polygon(Sketch& s, const Spot& centre, const Spot& corner, int sides) {
  if (sides < 3 || sides > 60)
    return Error{ErrorCode::InvalidInput, "A polygon has 3 to 60 sides."};
  const Vec2 arm = corner.at - centre.at;
  if (arm.norm() < kNothing) return together();
  const Id middle = point_at(s, centre);
  std::vector<Id> corners{point_at(s, corner)};
  for (int k = 1; k < sides; ++k) {
    const Eigen::Rotation2Dd turn(2 * std::numbers::pi * k / sides);
    corners.push_back(s.add_point(centre.at + turn * arm));
  }
  auto all = round(s, corners);
  const Id on = s.add_circle(middle, arm.norm());
  s.entities.back().construction = true;
  for (const Id p : corners) hold(s, ConstraintType::Coincident, p, on);
  for (std::size_t k = 1; k < all.size(); ++k) hold(s, ConstraintType::Equal, all[0], all[k]);
  return all;
}

Result<std::vector<Id>> draw_ellipse(Sketch& s, const Spot& centre, const Vec2& major,
                                     const Vec2& edge) {
  const Vec2 arm = major - centre.at;
  if (arm.norm() < kNothing) return together();
  const Vec2 axis = arm.normalized();
  const Vec2 d = edge - centre.at;
  // Through the place: (x / a)^2 + (y / b)^2 = 1; beside the major axis, b is how far it lies off.
  const double x = d.dot(axis) / arm.norm();
  const double y = std::abs(d.dot(left_of(axis)));
  const double minor = y / std::sqrt(std::max(1 - x * x, 1e-4));
  if (minor < kNothing) return together();
  return std::vector<Id>{s.add_ellipse(point_at(s, centre), s.add_point(major),
                                       s.add_point(centre.at + minor * left_of(axis)))};
}

Result<std::vector<Id>> draw_arc_about(Sketch& s, const Spot& centre, const Spot& a,
                                       const Vec2& b) {
  const Vec2 from = a.at - centre.at;
  const Vec2 to = b - centre.at;
  const double radius = from.norm();
  if (radius < kNothing || to.norm() < kNothing ||
      (from.normalized() - to.normalized()).norm() < 1e-9)
    return together();
  const bool forward = turn_from(from, to) <= std::numbers::pi;
  const Id start = point_at(s, a);
  const Id end = s.add_point(centre.at + radius * to.normalized());
  return std::vector<Id>{
      s.add_arc(point_at(s, centre), forward ? start : end, forward ? end : start, radius)};
}

Result<std::vector<Id>> draw_round_through(Sketch& s, const Spot& a, const Spot& on, const Spot& b,
                                           bool whole) {
  const auto centre = centre_of(a.at, on.at, b.at);
  if (!centre)
    return Error{ErrorCode::InvalidInput,
                 "These three places lie in a line: no circle goes through them."};
  const double radius = (a.at - *centre).norm();
  if (whole) {
    const Id circle = s.add_circle(s.add_point(*centre), radius);
    for (const Spot& spot : {a, on, b}) {
      if (spot.point != 0) hold(s, ConstraintType::Coincident, spot.point, circle);
    }
    return std::vector<Id>{circle};
  }
  // Counter-clockwise from start to end through the place between.
  const bool forward =
      turn_from(a.at - *centre, on.at - *centre) < turn_from(a.at - *centre, b.at - *centre);
  const Id first = point_at(s, a);
  const Id last = point_at(s, b);
  return std::vector<Id>{
      s.add_arc(s.add_point(*centre), forward ? first : last, forward ? last : first, radius)};
}

Result<section::PlaneSpline> spline_through(std::vector<Vec2> places, bool closed) {
  if (closed && places.size() > 2 && (places.front() - places.back()).norm() < kNothing)
    places.pop_back();
  if (places.size() < (closed ? 3U : 2U))
    return Error{ErrorCode::InvalidInput,
                 closed ? "A closed spline needs three places." : "A spline needs two places."};
  for (std::size_t k = 1; k < places.size(); ++k) {
    if ((places[k] - places[k - 1]).norm() < kNothing) return together();
  }
  // A cubic needs four poles, a closed one five: with fewer places, middles between them as well,
  // on the bow through the neighbours.
  while (places.size() < (closed ? 5U : 4U)) {
    std::vector<Vec2> finer;
    const std::size_t n = places.size();
    for (std::size_t k = 0; k < n; ++k) {
      finer.push_back(places[k]);
      if (!closed && k + 1 == n) break;
      const Vec2& a = places[k];
      const Vec2& b = places[(k + 1) % n];
      const Vec2 next = closed || k + 2 < n ? places[(k + 2) % n] : places[k >= 1 ? k - 1 : k];
      const auto centre = n > 2 ? centre_of(a, b, next) : std::nullopt;
      Vec2 middle = 0.5 * (a + b);
      if (centre) {
        Vec2 out = middle - *centre;
        // Over more than half a turn the bow lies on the other side of the centre.
        if (out.norm() > 1e-9) middle = *centre + (a - *centre).norm() * out.normalized();
      }
      finer.push_back(middle);
    }
    places = std::move(finer);
  }
  const std::size_t n = places.size();
  std::vector<double> at{0};
  for (std::size_t k = 1; k < n + (closed ? 1 : 0); ++k)
    at.push_back(at.back() + (places[k % n] - places[k - 1]).norm());
  section::PlaneSpline s;
  s.closed = closed;
  s.poles.assign(n, Vec2::Zero());
  if (closed) {
    s.knots = at;
  } else {
    s.knots.assign(4, 0.0);
    for (std::size_t k = 1; k + 3 < n; ++k) s.knots.push_back((at[k] + at[k + 1] + at[k + 2]) / 3);
    s.knots.insert(s.knots.end(), 4, at.back());
  }
  Eigen::MatrixXd matrix =
      Eigen::MatrixXd::Zero(static_cast<Eigen::Index>(n), static_cast<Eigen::Index>(n));
  Eigen::MatrixXd right(static_cast<Eigen::Index>(n), 2);
  for (std::size_t k = 0; k < n; ++k) {
    const section::PlaneSpline::Local l = s.local(at[k]);
    for (int m = 0; m < 4; ++m)
      matrix(static_cast<Eigen::Index>(k), static_cast<Eigen::Index>(l.pole[m])) += l.value[m];
    right.row(static_cast<Eigen::Index>(k)) = places[k].transpose();
  }
  const Eigen::MatrixXd poles = matrix.fullPivLu().solve(right);
  for (std::size_t k = 0; k < n; ++k)
    s.poles[k] = poles.row(static_cast<Eigen::Index>(k)).transpose();
  return s;
}

Result<std::vector<Id>> draw_spline(Sketch& s, const std::vector<Spot>& through, bool closed) {
  std::vector<Vec2> places;
  for (const Spot& spot : through) places.push_back(spot.at);
  const auto spline = spline_through(places, closed);
  if (!spline) return spline.error();
  if (closed) return std::vector<Id>{s.add_spline(*spline)};
  const Id a = point_at(s, through.front());
  const Id b = point_at(s, through.back());
  return std::vector<Id>{s.add_spline(*spline, a, b)};
}

}  // namespace lostline::sketch
