#include "survey/hole_patterns.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <tuple>

namespace lostline::survey {
namespace {

/// Equal holes seen along their common axis.
struct Flat {
  std::vector<const Region*> holes;
  std::vector<Vec2> at;
  Vec3 origin, u, v, axis;
  [[nodiscard]] Vec3 to_space(const Vec2& p) const { return origin + p.x() * u + p.y() * v; }
};

/// Splits a group into sets of parallel axes, distinct in place.
std::vector<Flat> flatten(const std::vector<const Region*>& group, double tolerance) {
  std::vector<Flat> sets;
  for (const Region* r : group) {
    const fit::Surface& s = r->fit->surface;
    auto set = std::find_if(sets.begin(), sets.end(), [&](const Flat& f) {
      return fit::angle_between(f.axis, s.axis) <
             std::max(kParallel, std::min(r->fit->u_angle, 0.03));
    });
    if (set == sets.end()) {
      Flat f;
      f.origin = axis_foot(s, r->fit->centroid);
      f.axis = s.axis;
      f.u = any_perpendicular(s.axis);
      f.v = f.axis.cross(f.u);
      sets.push_back(f);
      set = sets.end() - 1;
    }
    const Vec3 d = axis_foot(s, r->fit->centroid) - set->origin;
    const Vec2 at(d.dot(set->u), d.dot(set->v));
    const bool known = std::any_of(set->at.begin(), set->at.end(),
                                   [&](const Vec2& p) { return (p - at).norm() < 3 * tolerance; });
    if (known) continue;
    set->holes.push_back(r);
    set->at.push_back(at);
  }
  return sets;
}

std::optional<Vec2> circle_centre(const Vec2& a, const Vec2& b, const Vec2& c) {
  Eigen::Matrix2d m;
  m.row(0) = 2 * (b - a).transpose();
  m.row(1) = 2 * (c - a).transpose();
  const double size = (b - a).norm() * (c - a).norm();
  if (std::abs(m.determinant()) < 0.05 * 4 * size) return std::nullopt;
  return Vec2(m.inverse() *
              Vec2(b.squaredNorm() - a.squaredNorm(), c.squaredNorm() - a.squaredNorm()));
}

/// The division of a full circle whose steps the angles keep within `slack`: the least that holds.
int division_of(const std::vector<double>& angles, double slack) {
  const int least = static_cast<int>(angles.size());
  for (int n = least; n <= 2 * least; ++n) {
    const double step = 2 * std::numbers::pi / n;
    const bool holds = std::all_of(angles.begin(), angles.end(), [&](double a) {
      return std::abs(std::remainder(a - angles[0], step)) < slack;
    });
    if (holds) return n;
  }
  return 0;
}

/// Takes the largest even circles of holes out of a set.
void bolt_circles(Flat& flat, const std::vector<Pattern>& stacks, double tolerance,
                  std::vector<Pattern>& found) {
  while (flat.at.size() >= 3) {
    Pattern best;
    std::vector<std::size_t> taken;
    const std::size_t n = std::min<std::size_t>(flat.at.size(), 40);
    const auto offer = [&](const Vec2& centre, double radius, bool on_axis) {
      std::vector<std::pair<double, std::size_t>> around;
      for (std::size_t i = 0; i < flat.at.size(); ++i) {
        const Vec2 d = flat.at[i] - centre;
        if (std::abs(d.norm() - radius) < tolerance)
          around.emplace_back(std::atan2(d.y(), d.x()), i);
      }
      if (around.size() < 3 || around.size() <= taken.size() || radius < 10 * tolerance) return;
      std::sort(around.begin(), around.end());
      std::vector<double> angles;
      for (const auto& a : around) angles.push_back(a.first);
      const int division = division_of(angles, 1.5 * tolerance / radius);
      if (division == 0 || static_cast<double>(around.size()) < 0.7 * division) return;
      // Four on a square are as well a grid, and three with one missing are anything: only about an
      // axis of the part are they a bolt circle.
      if ((division == 4 || division != static_cast<int>(around.size())) && !on_axis) return;
      taken.clear();
      best = Pattern();
      best.type = Pattern::Type::BoltCircle;
      best.direction = flat.axis;
      best.centre = flat.to_space(centre);
      best.value = 2 * radius;
      best.count = division;
      for (const auto& [angle, i] : around) {
        taken.push_back(i);
        best.regions.push_back(flat.holes[i]->id);
        const double ideal =
            angles[0] + std::round((angle - angles[0]) / (2 * std::numbers::pi / division)) *
                            (2 * std::numbers::pi / division);
        const Vec2 at = centre + radius * Vec2(std::cos(ideal), std::sin(ideal));
        best.departure = std::max(best.departure, (at - flat.at[i]).norm());
      }
    };
    const auto axis_near = [&](const Vec2& centre) {
      return std::any_of(stacks.begin(), stacks.end(), [&](const Pattern& s) {
        if (fit::angle_between(s.direction, flat.axis) > 0.01) return false;
        const Vec3 d = flat.to_space(centre) - s.centre;
        return (d - d.dot(s.direction) * s.direction).norm() < 2 * tolerance;
      });
    };
    for (std::size_t i = 0; i < n; ++i) {
      for (std::size_t j = i + 1; j < n; ++j) {
        for (std::size_t k = j + 1; k < n; ++k) {
          const auto centre = circle_centre(flat.at[i], flat.at[j], flat.at[k]);
          if (!centre) continue;
          const double radius = ((flat.at[i] - *centre).norm() + (flat.at[j] - *centre).norm() +
                                 (flat.at[k] - *centre).norm()) /
                                3;
          offer(*centre, radius, axis_near(*centre));
        }
      }
    }
    if (taken.empty()) return;
    found.push_back(best);
    std::sort(taken.rbegin(), taken.rend());
    for (const std::size_t i : taken) {
      flat.at.erase(flat.at.begin() + static_cast<std::ptrdiff_t>(i));
      flat.holes.erase(flat.holes.begin() + static_cast<std::ptrdiff_t>(i));
    }
  }
}

/// Even levels of some numbers: the first, the pitch and how many; empty when they are not even.
struct Levels {
  double first = 0;
  double pitch = 0;
  int count = 1;
  double departure = 0;
};
std::optional<Levels> levels_of(std::vector<double> values, double tolerance) {
  std::sort(values.begin(), values.end());
  std::vector<double> distinct;
  std::vector<int> counts;
  for (const double v : values) {
    if (distinct.empty() || v - distinct.back() > 2 * tolerance) {
      distinct.push_back(v);
      counts.push_back(1);
    } else {
      distinct.back() = (distinct.back() * counts.back() + v) / (counts.back() + 1);
      ++counts.back();
    }
  }
  Levels l{distinct.front(), 0, static_cast<int>(distinct.size()), 0};
  if (l.count > 1) l.pitch = (distinct.back() - distinct.front()) / (l.count - 1);
  for (std::size_t i = 0; i < distinct.size(); ++i) {
    l.departure =
        std::max(l.departure, std::abs(distinct[i] - l.first - static_cast<double>(i) * l.pitch));
  }
  if (l.departure > tolerance) return std::nullopt;
  return l;
}

/// A full grid or an even row of all holes of a set.
void grid(const Flat& flat, double tolerance, std::vector<Pattern>& found) {
  const std::size_t n = flat.at.size();
  if (n < 3 || n > 400) return;
  for (std::size_t j = 1; j < std::min<std::size_t>(n, 40); ++j) {
    const Vec2 along = (flat.at[j] - flat.at[0]).normalized();
    const Vec2 across(-along.y(), along.x());
    std::vector<double> x;
    std::vector<double> y;
    for (const Vec2& p : flat.at) {
      x.push_back(p.dot(along));
      y.push_back(p.dot(across));
    }
    const auto columns = levels_of(x, tolerance);
    const auto rows = levels_of(y, tolerance);
    if (!columns || !rows || static_cast<std::size_t>(columns->count * rows->count) != n) continue;
    if (rows->count > columns->count) continue;  // the other way round it comes too
    Pattern p;
    p.type = rows->count == 1 ? Pattern::Type::Row : Pattern::Type::Grid;
    p.direction = along.x() * flat.u + along.y() * flat.v;
    p.across = across.x() * flat.u + across.y() * flat.v;
    p.centre = flat.to_space(columns->first * along + rows->first * across);
    p.value = columns->pitch;
    p.second = rows->pitch;
    p.count = columns->count;
    p.rows = rows->count;
    p.departure = std::hypot(columns->departure, rows->departure);
    std::vector<std::tuple<long, double, std::uint32_t>> order;  // row by row, along each
    for (std::size_t i = 0; i < n; ++i) {
      const double row = rows->pitch > 0 ? (y[i] - rows->first) / rows->pitch : 0;
      order.emplace_back(std::lround(row), x[i], flat.holes[i]->id);
    }
    std::sort(order.begin(), order.end());
    for (const auto& o : order) p.regions.push_back(std::get<2>(o));
    found.push_back(std::move(p));
    return;
  }
}

}  // namespace

void arrange_holes(const std::vector<const Region*>& group, const std::vector<Pattern>& axes,
                   double tolerance, std::vector<Pattern>& found) {
  for (Flat& flat : flatten(group, tolerance)) {
    bolt_circles(flat, axes, tolerance, found);
    grid(flat, tolerance, found);
  }
}

}  // namespace lostline::survey
