// How well resolved curves are those of a profile that is known.
#pragma once

#include <map>

#include "profiles.h"
#include "section/resolve.h"

namespace lostline::testing {

/// A place on a resolved curve, u from 0 to 1.
inline Vec2 place_on(const section::Curve& c, double u) {
  using section::CurveType;
  if (c.type == CurveType::Line) return c.start + u * (c.end - c.start);
  if (c.type == CurveType::Spline)
    return c.spline.at(c.spline.low() + u * (c.spline.high() - c.spline.low()));
  const bool oval = c.type == CurveType::Ellipse;
  const Vec2 x = oval ? c.major_axis : Vec2(Vec2::UnitX());
  const Vec2 y(-x.y(), x.x());
  const double minor = oval ? c.minor_radius : c.radius;
  const auto parameter = [&](const Vec2& p) {
    return std::atan2(y.dot(p - c.centre) / minor, x.dot(p - c.centre) / c.radius);
  };
  const double from = c.whole ? 0 : parameter(c.start);
  double sweep = c.whole ? kTurn : parameter(c.end) - from;
  if (!c.whole && c.counter_clockwise && sweep <= 0) sweep += kTurn;
  if (!c.whole && !c.counter_clockwise && sweep >= 0) sweep -= kTurn;
  const double t = from + u * sweep;
  return c.centre + c.radius * std::cos(t) * x + minor * std::sin(t) * y;
}

inline double length_of(const section::Curve& c) {
  double sum = 0;
  for (int k = 0; k < 60; ++k) sum += (place_on(c, (k + 1) / 60.0) - place_on(c, k / 60.0)).norm();
  return sum;
}

/// Counts over profiles.
struct ProfileScore {
  int profiles = 0, right = 0;  ///< all curves longer than four spacings found, and no other
  int curves = 0, found = 0;    ///< true ones longer than four spacings
  int told = 0, wrong = 0;      ///< resolved ones longer than four spacings
  int joints = 0, joints_right = 0;
  int radii = 0, radii_held = 0;  ///< by U

  void add(const TrueProfile& truth, const std::vector<section::Curve>& told_curves,
           double spacing);
};

inline bool same_type(const TrueCurve& t, const section::Curve& c) {
  return static_cast<int>(t.type) == static_cast<int>(c.type);
}

inline void ProfileScore::add(const TrueProfile& truth, const std::vector<section::Curve>& all,
                              double spacing) {
  std::vector<const TrueCurve*> curve;
  std::vector<std::vector<Vec2>> samples;
  for (const TrueLoop& loop : truth.loops) {
    for (const TrueCurve& c : loop.curves) {
      curve.push_back(&c);
      const int n = std::max(20, static_cast<int>(2 * c.length() / spacing));
      samples.emplace_back();
      for (int k = 0; k <= n; ++k) samples.back().push_back(c.at(static_cast<double>(k) / n));
    }
  }
  const auto owner = [&](const section::Curve& c) {
    std::map<std::size_t, int> votes;
    for (int k = 1; k < 10; ++k) {
      const Vec2 p = place_on(c, k / 10.0);
      std::size_t nearest = 0;
      double least = 1e300;
      for (std::size_t t = 0; t < samples.size(); ++t) {
        for (const Vec2& s : samples[t]) {
          if ((s - p).squaredNorm() >= least) continue;
          least = (s - p).squaredNorm();
          nearest = t;
        }
      }
      if (++votes[nearest] >= 5) return nearest;
    }
    return samples.size();
  };
  bool good = true;
  std::vector<std::size_t> match(curve.size(), all.size());
  for (std::size_t i = 0; i < all.size(); ++i) {
    const double length = length_of(all[i]);
    const std::size_t t = owner(all[i]);
    const bool long_enough = length > 4 * spacing;
    told += long_enough;
    if (t < curve.size() && same_type(*curve[t], all[i]) && length >= 0.6 * curve[t]->length() &&
        match[t] == all.size()) {
      match[t] = i;
    } else if (long_enough) {
      ++wrong;
      good = false;
    }
  }
  for (std::size_t t = 0; t < curve.size(); ++t) {
    if (curve[t]->length() < 4 * spacing) continue;
    ++curves;
    const bool hit = match[t] < all.size();
    found += hit;
    good &= hit;
    if (!hit || !all[match[t]].u_radius) continue;
    ++radii;
    radii_held += std::abs(all[match[t]].radius - curve[t]->radius) <= *all[match[t]].u_radius;
  }
  std::size_t base = 0;
  for (const TrueLoop& loop : truth.loops) {
    const std::size_t n = loop.curves.size();
    for (std::size_t k = 0; k + (loop.closed ? 0 : 1) < n && n > 1; ++k) {
      const std::size_t a = match[base + k];
      const std::size_t b = match[base + (k + 1) % n];
      if (a >= all.size() || b >= all.size()) continue;
      const bool forward = all[a].joined && (all[a].end - all[b].start).norm() < 1e-9;
      const bool backward = all[b].joined && (all[b].end - all[a].start).norm() < 1e-9;
      if (!forward && !backward) continue;
      ++joints;
      joints_right += all[forward ? a : b].tangent == loop.curves[k].tangent_next;
    }
    base += n;
  }
  ++profiles;
  right += good;
}

}  // namespace lostline::testing
