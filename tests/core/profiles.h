// Plane profiles of known curves, and their scans: truth that only this generator knows.
#pragma once

#include <algorithm>
#include <cmath>
#include <functional>
#include <memory>
#include <numbers>
#include <random>
#include <string>
#include <vector>

#include "base/geometry.h"
#include "scan/mesh.h"

namespace lostline::testing {

/// One designed curve, run through from start to end with material on the left.
struct TrueCurve {
  enum class Type { Line, Arc, Circle, Ellipse, Spline } type = Type::Line;
  Vec2 a, b;  ///< ends
  Vec2 centre = Vec2::Zero();
  double radius = 0;  ///< major one of an ellipse
  double minor = 0;
  Vec2 axis = Vec2::UnitX();
  double start = 0, sweep = 0;  ///< rad, of the parameter; sweep negative clockwise
  std::vector<Vec2> poles;      ///< of a Bezier chain: cubic, ends shared
  bool tangent_next = false;

  [[nodiscard]] Vec2 at(double u) const {  // 0 to 1
    switch (type) {
      case Type::Line:
        return a + u * (b - a);
      case Type::Arc:
      case Type::Circle: {
        const double t = start + u * sweep;
        return centre + radius * Vec2(std::cos(t), std::sin(t));
      }
      case Type::Ellipse: {
        const double t = start + u * sweep;
        return centre + radius * std::cos(t) * axis +
               minor * std::sin(t) * Vec2(-axis.y(), axis.x());
      }
      case Type::Spline:
        break;
    }
    const auto spans = static_cast<double>((poles.size() - 1) / 3);
    const double s = std::min(u * spans, spans - 1e-12);
    const auto k = static_cast<std::size_t>(s);
    const double v = s - static_cast<double>(k);
    const double w = 1 - v;
    return w * w * w * poles[3 * k] + 3 * w * w * v * poles[3 * k + 1] +
           3 * w * v * v * poles[3 * k + 2] + v * v * v * poles[3 * k + 3];
  }
  [[nodiscard]] double length() const {
    double sum = 0;
    for (int k = 0; k < 200; ++k) sum += (at((k + 1) / 200.0) - at(k / 200.0)).norm();
    return sum;
  }
};

/// Curves end to start; closed unless told.
struct TrueLoop {
  std::vector<TrueCurve> curves;
  bool closed = true;
  std::string shape;  ///< "rectangle", "slot", "polygon" or none
  double length_of = 0, width_of = 0, corner_radius = 0;  ///< of the shape
  int sides = 0;
};

struct TrueProfile {
  std::vector<TrueLoop> loops;
};

inline TrueCurve line_curve(const Vec2& a, const Vec2& b) {
  TrueCurve c;
  c.a = a;
  c.b = b;
  return c;
}

inline TrueCurve arc_curve(const Vec2& centre, double radius, double start, double sweep) {
  TrueCurve c;
  c.type = TrueCurve::Type::Arc;
  c.centre = centre;
  c.radius = radius;
  c.start = start;
  c.sweep = sweep;
  c.a = c.at(0);
  c.b = c.at(1);
  return c;
}

inline TrueLoop circle_loop(const Vec2& centre, double radius, bool hole) {
  TrueCurve c = arc_curve(centre, radius, 0.3, (hole ? -2 : 2) * std::numbers::pi);
  c.type = TrueCurve::Type::Circle;
  return {{c}, true, {}, 0, 0, 0, 0};
}

inline TrueLoop ellipse_loop(const Vec2& centre, double major, double minor, double turn,
                             bool hole) {
  TrueCurve c;
  c.type = TrueCurve::Type::Ellipse;
  c.centre = centre;
  c.radius = major;
  c.minor = minor;
  c.axis = Vec2(std::cos(turn), std::sin(turn));
  c.start = 0.4;
  c.sweep = (hole ? -2 : 2) * std::numbers::pi;
  c.a = c.b = c.at(0);
  return {{c}, true, {}, 0, 0, 0, 0};
}

/// A polygon whose corner k is sharp (0), rounded with a radius (above 0) or bevelled with legs of
/// the value's size (below 0).
inline TrueLoop cornered(const std::vector<Vec2>& corners, const std::vector<double>& dressed) {
  const std::size_t n = corners.size();
  TrueLoop loop;
  std::vector<Vec2> from(n), to(n);  // where the corner begins and ends
  std::vector<TrueCurve> at_corner(n);
  for (std::size_t k = 0; k < n; ++k) {
    const Vec2& p = corners[k];
    const Vec2 d = (p - corners[(k + n - 1) % n]).normalized();
    const Vec2 e = (corners[(k + 1) % n] - p).normalized();
    from[k] = to[k] = p;
    const double turn = std::atan2(d.x() * e.y() - d.y() * e.x(), d.dot(e));
    if (dressed[k] > 0) {
      const double back = dressed[k] * std::tan(std::abs(turn) / 2);
      from[k] = p - back * d;
      to[k] = p + back * e;
      const Vec2 left(-d.y(), d.x());
      const double sense = turn > 0 ? 1 : -1;
      const Vec2 centre = from[k] + sense * dressed[k] * left;
      const Vec2 arm = from[k] - centre;
      at_corner[k] = arc_curve(centre, dressed[k], std::atan2(arm.y(), arm.x()), turn);
    } else if (dressed[k] < 0) {
      from[k] = p + dressed[k] * d;
      to[k] = p - dressed[k] * e;
      at_corner[k] = line_curve(from[k], to[k]);
    }
  }
  for (std::size_t k = 0; k < n; ++k) {
    TrueCurve side = line_curve(to[k], from[(k + 1) % n]);
    side.tangent_next = dressed[(k + 1) % n] > 0;
    loop.curves.push_back(side);
    if (dressed[(k + 1) % n] != 0) {
      TrueCurve c = at_corner[(k + 1) % n];
      c.tangent_next = dressed[(k + 1) % n] > 0;
      loop.curves.push_back(c);
    }
  }
  return loop;
}

inline std::vector<Vec2> turned_points(std::vector<Vec2> points, const Vec2& centre, double turn) {
  for (Vec2& p : points) p = centre + Eigen::Rotation2Dd(turn) * p;
  return points;
}

inline TrueLoop rectangle_loop(const Vec2& centre, double length, double width, double radius,
                               double turn, bool hole) {
  std::vector<Vec2> p{{-length / 2, -width / 2},
                      {length / 2, -width / 2},
                      {length / 2, width / 2},
                      {-length / 2, width / 2}};
  p = turned_points(p, centre, turn);
  if (hole) std::reverse(p.begin(), p.end());
  TrueLoop loop = cornered(p, std::vector<double>(4, radius));
  loop.shape = "rectangle";
  loop.length_of = length;
  loop.width_of = width;
  loop.corner_radius = radius;
  return loop;
}

inline TrueLoop polygon_loop(const Vec2& centre, int sides, double across, double radius,
                             double turn, bool hole) {
  std::vector<Vec2> p;
  const double reach = across / 2 / std::cos(std::numbers::pi / sides);
  for (int k = 0; k < sides; ++k) {
    const double t = turn + 2 * std::numbers::pi * k / sides;
    p.emplace_back(centre + reach * Vec2(std::cos(t), std::sin(t)));
  }
  if (hole) std::reverse(p.begin(), p.end());
  TrueLoop loop = cornered(p, std::vector<double>(static_cast<std::size_t>(sides), radius));
  loop.shape = "polygon";
  loop.sides = sides;
  loop.width_of = across;
  loop.corner_radius = radius;
  return loop;
}

inline TrueLoop slot_loop(const Vec2& centre, double between, double radius, double turn,
                          bool hole) {
  const Vec2 d(std::cos(turn), std::sin(turn));
  const Vec2 n(-d.y(), d.x());
  const Vec2 a = centre - 0.5 * between * d;
  const Vec2 b = centre + 0.5 * between * d;
  TrueLoop loop;
  loop.curves = {
      line_curve(a - radius * n, b - radius * n), arc_curve(b, radius, turn - kPi / 2, kPi),
      line_curve(b + radius * n, a + radius * n), arc_curve(a, radius, turn + kPi / 2, kPi)};
  if (hole) {
    std::reverse(loop.curves.begin(), loop.curves.end());
    for (TrueCurve& c : loop.curves) {
      std::swap(c.a, c.b);
      c.start += c.sweep;
      c.sweep = -c.sweep;
    }
  }
  for (TrueCurve& c : loop.curves) c.tangent_next = true;
  loop.shape = "slot";
  loop.length_of = between;
  loop.width_of = 2 * radius;
  return loop;
}

/// A scan of the walls over a profile, as far as a section square to them sees: triangles between
/// jittered points, moved along the normal by noise; corners as a scanner rounds them, by a mean
/// over `blur` mm.
struct ProfileScan {
  double spacing = 0.6;
  double noise = 0.02;
  double blur = 0.2;  ///< standard deviation of the mean, mm
  double gap = 0;     ///< of each loop, share of its length without points
  unsigned seed = 1;
};

inline scan::Mesh scan_of(const TrueProfile& profile, const ProfileScan& how) {
  scan::Mesh mesh;
  std::mt19937 random(how.seed);
  std::normal_distribution<double> normal(0, 1);
  std::uniform_real_distribution<double> uniform(-0.5, 0.5);
  constexpr int kRows = 6;
  for (const TrueLoop& loop : profile.loops) {
    std::vector<double> lengths{0};
    for (const TrueCurve& c : loop.curves) lengths.push_back(lengths.back() + c.length());
    const double whole = lengths.back();
    const auto point = [&](double s) {
      if (loop.closed) s -= whole * std::floor(s / whole);
      s = std::clamp(s, 0.0, whole);
      std::size_t k = 0;
      while (k + 1 < loop.curves.size() && s > lengths[k + 1]) ++k;
      const double l = lengths[k + 1] - lengths[k];
      return loop.curves[k].at(l > 0 ? std::min(1.0, (s - lengths[k]) / l) : 0);
    };
    std::vector<double> corners;  // where the curve does not run on smoothly
    for (std::size_t k = 0; k < loop.curves.size(); ++k) {
      if (!loop.curves[k].tangent_next && loop.curves.size() > 1) corners.push_back(lengths[k + 1]);
    }
    const auto seen = [&](double s) {  // as the scanner rounds it
      double off = 1e300;
      for (const double corner : corners) {
        double d = std::abs(s - corner);
        if (loop.closed) d = std::min(d, std::abs(d - whole));
        off = std::min(off, d);
      }
      if (!(how.blur > 0) || off > 3 * how.blur) return point(s);
      Vec2 sum = Vec2::Zero();
      double weights = 0;
      for (int k = -6; k <= 6; ++k) {
        const double w = std::exp(-0.125 * k * k);
        sum += w * point(s + 0.5 * k * how.blur);
        weights += w;
      }
      return Vec2(sum / weights);
    };
    const auto columns = std::max<std::size_t>(8, static_cast<std::size_t>(whole / how.spacing));
    const double step = whole / static_cast<double>(columns);
    const std::size_t count = loop.closed ? columns : columns + 1;
    const auto base = static_cast<std::uint32_t>(mesh.vertices.size());
    for (std::size_t i = 0; i < count; ++i) {
      for (int r = 0; r < kRows; ++r) {
        const double shift = (r % 2 == 0 ? 0.0 : 0.5) + 0.6 * uniform(random);
        double s = (static_cast<double>(i) + shift) * step;
        if (!loop.closed) s = std::clamp(s, 0.0, whole);
        const Vec2 p = seen(s);
        const Vec2 d = (seen(s + 0.05 * step) - seen(s - 0.05 * step)).normalized();
        const Vec2 moved = p + how.noise * normal(random) * Vec2(d.y(), -d.x());
        const double z = (r - 0.5 * (kRows - 1) + 0.5 * uniform(random)) * step * 0.866;
        mesh.vertices.emplace_back(moved.x(), moved.y(), z);
      }
    }
    const double gap_at = (uniform(random) + 0.5) * whole;
    for (std::size_t i = 0; i < (loop.closed ? columns : columns); ++i) {
      const double s = static_cast<double>(i) * step;
      double from_gap = std::abs(s - gap_at);
      if (loop.closed) from_gap = std::min(from_gap, whole - from_gap);
      if (from_gap < 0.5 * how.gap * whole) continue;
      const auto at = [&](std::size_t c, int r) {
        return base + static_cast<std::uint32_t>((c % count) * kRows) +
               static_cast<std::uint32_t>(r);
      };
      for (int r = 0; r + 1 < kRows; ++r) {
        // Outward normals: material on the left.
        if (r % 2 == 0) {
          mesh.triangles.push_back({at(i, r), at(i + 1, r), at(i, r + 1)});
          mesh.triangles.push_back({at(i + 1, r), at(i + 1, r + 1), at(i, r + 1)});
        } else {
          mesh.triangles.push_back({at(i, r), at(i + 1, r), at(i + 1, r + 1)});
          mesh.triangles.push_back({at(i, r), at(i + 1, r + 1), at(i, r + 1)});
        }
      }
    }
  }
  return mesh;
}

}  // namespace lostline::testing
