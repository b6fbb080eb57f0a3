// Profiles made at random: plates with openings, and halves of turned parts.
#pragma once

#include "profiles.h"

namespace lostline::testing {

struct Dice {
  std::mt19937 g;
  double u(double a, double b) { return std::uniform_real_distribution<double>(a, b)(g); }
  bool chance(double p) { return u(0, 1) < p; }
  int i(int a, int b) { return std::uniform_int_distribution<int>(a, b)(g); }
};
inline double nice(double v) {  // designed values
  const double step = v > 50 ? 5 : v > 10 ? 1 : v > 2 ? 0.5 : 0.25;
  return std::max(step, std::round(v / step) * step);
}
/// `size` mm over all, details not below `least`.
inline TrueLoop random_outline(Dice& r, double size, double least) {
  const int n = r.i(4, 8);
  std::vector<Vec2> corners;
  const double turn = r.chance(0.5) ? 0 : r.u(0, 3);
  if (r.chance(0.5)) {  // square corners: an L, T or plain plate
    const double w = size, h = size * r.u(0.4, 0.9);
    corners = {{0, 0}, {w, 0}, {w, h * 0.5}, {w * 0.6, h * 0.5}, {w * 0.6, h}, {0, h}};
    if (r.chance(0.4)) corners = {{0, 0}, {w, 0}, {w, h}, {0, h}};
    for (Vec2& p : corners) p -= Vec2(w / 2, h / 2);
    corners = turned_points(corners, Vec2::Zero(), turn);
  } else {
    for (int k = 0; k < n; ++k) {
      const double t = 2 * std::numbers::pi * (k + r.u(-0.25, 0.25)) / n;
      corners.push_back(size / 2 * r.u(0.65, 1) * Vec2(std::cos(t), std::sin(t)));
    }
  }
  const std::size_t m = corners.size();
  std::vector<double> dressed(m, 0);
  for (std::size_t k = 0; k < m; ++k) {
    const double a = (corners[k] - corners[(k + m - 1) % m]).norm();
    const double b = (corners[k] - corners[(k + 1) % m]).norm();
    const Vec2 d = (corners[k] - corners[(k + m - 1) % m]) / a;
    const Vec2 e = (corners[(k + 1) % m] - corners[k]) / b;
    const double angle = std::abs(std::atan2(d.x() * e.y() - d.y() * e.x(), d.dot(e)));
    const double most = 0.3 * std::min(a, b);
    if (r.chance(0.4)) {
      const double radius = nice(r.u(least, std::max(least, most / std::tan(angle / 2))));
      if (radius * std::tan(angle / 2) < most && radius * angle > 1.2 * least) dressed[k] = radius;
    } else if (r.chance(0.35)) {
      const double leg = nice(r.u(least, most));
      if (leg < most && leg > least) dressed[k] = -leg;
    }
  }
  TrueLoop loop = cornered(corners, dressed);
  for (std::size_t k = 0; k < loop.curves.size(); ++k) {
    TrueCurve& c = loop.curves[k];
    TrueCurve& before = loop.curves[(k + loop.curves.size() - 1) % loop.curves.size()];
    const double l = c.length();
    if (c.type != TrueCurve::Type::Line || l < 6 * least || c.tangent_next || before.tangent_next)
      continue;
    const double dice = r.u(0, 1);
    const Vec2 d = (c.b - c.a) / l;
    const Vec2 out(d.y(), -d.x());
    if (dice < 0.2) {  // bulge
      const double s = l * r.u(0.08, 0.3) * (r.chance(0.6) ? 1 : -1);
      const double radius = (l * l / 4 + s * s) / (2 * std::abs(s));
      const Vec2 centre = 0.5 * (c.a + c.b) + (s > 0 ? 1 : -1) * (std::abs(s) - radius) * out;
      const Vec2 x = c.a - centre;
      const double half = std::asin(std::min(1.0, l / 2 / radius));
      c = arc_curve(centre, radius, std::atan2(x.y(), x.x()), (s > 0 ? 2 : -2) * half);
    } else if (dice < 0.3) {  // half an ellipse
      TrueCurve e;
      e.type = TrueCurve::Type::Ellipse;
      e.centre = 0.5 * (c.a + c.b);
      e.radius = l / 2;
      e.minor = l / 2 * r.u(0.3, 0.8);
      e.axis = d;
      e.start = -std::numbers::pi;
      e.sweep = std::numbers::pi;
      e.a = c.a;
      e.b = c.b;
      c = e;
    } else if (dice < 0.38) {  // a free stretch
      TrueCurve f;
      f.type = TrueCurve::Type::Spline;
      const double h = l * r.u(0.08, 0.2);
      const Vec2 p1 = c.a + l / 5 * d + h * r.u(-1.5, 1.5) * out;
      const Vec2 p2 = 0.5 * (c.a + c.b) + h * r.u(-1.5, 1.5) * out;
      const Vec2 p3 = c.b - l / 5 * d + h * r.u(-1.5, 1.5) * out;
      const Vec2 q2 = 0.5 * (p1 + p2), q4 = 0.5 * (p2 + p3);
      f.poles = {c.a, p1, q2, 0.5 * (q2 + q4), q4, p3, c.b};
      f.a = c.a;
      f.b = c.b;
      c = f;
    }
  }
  return loop;
}
inline TrueProfile random_plate(Dice& r, double size, double least) {
  TrueProfile p;
  p.loops.push_back(random_outline(r, size, least));
  const int holes = r.i(1, 5);
  for (int k = 0; k < holes; ++k) {
    const Vec2 at(size * (1.2 + k), size * r.u(-0.3, 0.3));
    const double d = nice(std::max(4 * least, size * r.u(0.05, 0.25)));
    switch (r.i(0, 5)) {
      case 0:
      case 1:
        p.loops.push_back(circle_loop(at, d / 2, true));
        break;
      case 2:
        p.loops.push_back(slot_loop(at, nice(d * r.u(0.8, 2)), d / 2, r.u(0, 3), true));
        break;
      case 3: {
        const double rad = r.chance(0.5) ? 0 : nice(d * r.u(0.15, 0.3));
        p.loops.push_back(
            rectangle_loop(at, nice(1.7 * d), d, rad > 1.6 * least ? rad : 0, r.u(0, 3), true));
        break;
      }
      case 4:
        p.loops.push_back(
            polygon_loop(at, r.chance(0.7) ? 6 : r.i(3, 8), 1.6 * d, 0, r.u(0, 3), true));
        break;
      default:
        p.loops.push_back(ellipse_loop(at, d, nice(d * r.u(0.4, 0.8)), r.u(0, 3), true));
        break;
    }
  }
  return p;
}
/// Half a turned part: radius over length, open.
inline TrueProfile random_turned(Dice& r, double size, double least) {
  std::vector<Vec2> c{{0, 0}};
  double x = nice(size * r.u(0.1, 0.25)), y = 0;
  c.emplace_back(x, y);
  const int n = r.i(4, 9);
  for (int k = 0; k < n; ++k) {
    const double h = nice(std::max(3 * least, size * r.u(0.04, 0.18)));
    if (r.chance(0.2)) {  // cone
      const double nx = std::max(3 * least, x + h * r.u(-0.6, 0.6));
      if (std::abs(nx - x) < 0.05 * h) continue;
      x = nx;
      y += h;
      c.emplace_back(x, y);
    } else {
      y += h;
      c.emplace_back(x, y);
    }
    if (k + 1 == n) break;
    const double nx = nice(size * r.u(0.06, 0.3));
    if (std::abs(nx - x) < 2.5 * least) continue;
    x = nx;
    c.emplace_back(x, y);
  }
  c.emplace_back(0, y);
  std::vector<Vec2> t;
  for (const Vec2& p : c)
    if (t.empty() || (p - t.back()).norm() > 1e-9) t.push_back(p);
  // drop collinear
  for (std::size_t k = 1; k + 1 < t.size();) {
    const Vec2 d = (t[k] - t[k - 1]).normalized(), e = (t[k + 1] - t[k]).normalized();
    if (std::abs(d.x() * e.y() - d.y() * e.x()) < 1e-6)
      t.erase(t.begin() + static_cast<long>(k));
    else
      ++k;
  }
  std::vector<double> dressed(t.size(), 0);
  for (std::size_t k = 1; k + 1 < t.size(); ++k) {
    const double a = (t[k] - t[k - 1]).norm(), b = (t[k + 1] - t[k]).norm();
    const Vec2 d = (t[k] - t[k - 1]) / a, e = (t[k + 1] - t[k]) / b;
    const double angle = std::abs(std::atan2(d.x() * e.y() - d.y() * e.x(), d.dot(e)));
    const double most = 0.35 * std::min(a, b);
    if (angle < 0.3) continue;
    if (r.chance(0.35)) {
      const double rad = nice(r.u(least, most / std::tan(angle / 2)));
      if (rad * std::tan(angle / 2) < most && rad * angle > 1.2 * least) dressed[k] = rad;
    } else if (r.chance(0.35)) {
      const double leg = nice(r.u(least, most));
      if (leg < most && leg > 0.8 * least) dressed[k] = -leg;
    }
  }
  TrueLoop loop = cornered(t, dressed);
  // without the closing line along the axis
  loop.closed = false;
  loop.curves.pop_back();
  TrueProfile p;
  p.loops.push_back(loop);
  return p;
}

}  // namespace lostline::testing
