#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <numbers>
#include <set>

#include "survey/finish.h"

namespace lostline::survey {
namespace {

constexpr double kDegree = std::numbers::pi / 180;
constexpr double kParallel = 0.3 * kDegree;

bool turned(const Region& r) {
  return r.fit &&
         (r.fit->surface.kind == fit::Kind::Cylinder || r.fit->surface.kind == fit::Kind::Cone);
}

/// Regions on one surface count once: the largest stands for them.
std::vector<const Region*> members(const std::vector<Region>& regions) {
  std::vector<const Region*> result;
  std::set<std::uint32_t> known;
  for (const Region& r : regions) {
    if (!r.fit || r.triangles == 0) continue;
    if (r.shared != 0 && !known.insert(r.shared).second) continue;
    result.push_back(&r);
  }
  return result;
}

std::vector<std::uint32_t> ids(const std::vector<const Region*>& list) {
  std::vector<std::uint32_t> result;
  for (const Region* r : list) result.push_back(r->id);
  return result;
}

/// Parallel planes or axes, at least three.
void families(const std::vector<const Region*>& all, std::vector<Pattern>& found) {
  std::vector<char> used(all.size(), 0);
  for (std::size_t i = 0; i < all.size(); ++i) {
    const fit::SurfaceFit& f = *all[i]->fit;
    if (used[i] != 0 || !fit::has_direction(f.surface.kind) || f.u_angle > kParallel) continue;
    const bool plane = f.surface.kind == fit::Kind::Plane;
    std::vector<const Region*> list{all[i]};
    double departure = 0;
    for (std::size_t j = i + 1; j < all.size(); ++j) {
      const fit::SurfaceFit& g = *all[j]->fit;
      if (used[j] != 0 || !fit::has_direction(g.surface.kind) ||
          (g.surface.kind == fit::Kind::Plane) != plane)
        continue;
      const double angle = fit::angle_between(f.surface.axis, g.surface.axis);
      if (angle > std::max(0.1 * kDegree, std::min(std::hypot(f.u_angle, g.u_angle), kParallel)))
        continue;
      used[j] = 1;
      departure = std::max(departure, angle);
      list.push_back(all[j]);
    }
    if (list.size() < 3) continue;
    Pattern p;
    p.regions = ids(list);
    p.direction = f.surface.axis;
    p.centre = all[i]->centre;
    p.count = static_cast<int>(list.size());
    p.departure = departure;
    found.push_back(std::move(p));
  }
}

Vec3 axis_foot(const fit::Surface& s, const Vec3& p) {
  return s.point + (p - s.point).dot(s.axis) * s.axis;
}

/// Surfaces about one axis, at least two.
std::vector<Pattern> stacks(const std::vector<const Region*>& all, double tolerance) {
  std::vector<Pattern> found;
  std::vector<char> used(all.size(), 0);
  for (std::size_t i = 0; i < all.size(); ++i) {
    if (used[i] != 0 || !turned(*all[i]) || all[i]->fit->u_angle > kParallel) continue;
    const fit::Surface& s = all[i]->fit->surface;
    Pattern p;
    p.type = Pattern::Type::Stack;
    p.direction = s.axis;
    p.centre = s.point;
    p.regions = {all[i]->id};
    for (std::size_t j = i + 1; j < all.size(); ++j) {
      const fit::SurfaceFit& g = *all[j]->fit;
      const bool about = turned(*all[j]) || g.surface.kind == fit::Kind::Torus;
      if (used[j] != 0 || !about) continue;
      if (fit::angle_between(s.axis, g.surface.axis) >
          std::max(kParallel, std::min(g.u_angle, 0.03)))
        continue;
      // The nearest of both axes in the middle of the other's evidence.
      const double off = (axis_foot(s, g.centroid) - axis_foot(g.surface, g.centroid)).norm();
      if (off > std::max(tolerance, std::min(g.u_offset, 0.5))) continue;
      used[j] = 1;
      p.regions.push_back(all[j]->id);
      p.departure = std::max(p.departure, off);
    }
    p.count = static_cast<int>(p.regions.size());
    if (p.count >= 2) found.push_back(std::move(p));
  }
  return found;
}

/// Cylinders of one diameter and side that do not share an axis.
std::vector<std::vector<const Region*>> equal_sizes(const std::vector<const Region*>& all,
                                                    std::vector<Pattern>& found) {
  std::vector<const Region*> round;
  for (const Region* r : all) {
    if (r->fit->surface.kind == fit::Kind::Cylinder && r->fit->u_radius < 0.2) round.push_back(r);
  }
  std::stable_sort(round.begin(), round.end(), [](const Region* a, const Region* b) {
    return a->fit->surface.radius < b->fit->surface.radius;
  });
  std::vector<std::vector<const Region*>> groups;
  for (const bool hollow : {true, false}) {
    std::vector<const Region*> group;
    const auto close = [&] {
      if (group.size() >= 2) groups.push_back(group);
      group.clear();
    };
    for (const Region* r : round) {
      if (r->fit->surface.hollow != hollow) continue;
      if (!group.empty()) {
        const fit::SurfaceFit& f = *group.front()->fit;
        const double limit = std::clamp(std::hypot(f.u_radius, r->fit->u_radius), 0.02, 0.1);
        if (r->fit->surface.radius - f.surface.radius > limit) close();
      }
      group.push_back(r);
    }
    close();
  }
  for (const auto& group : groups) {
    Pattern p;
    p.type = Pattern::Type::EqualSizes;
    p.regions = ids(group);
    double sum = 0;
    for (const Region* r : group) sum += 2 * r->fit->surface.radius;
    p.value = sum / static_cast<double>(group.size());
    for (const Region* r : group)
      p.departure = std::max(p.departure, std::abs(2 * r->fit->surface.radius - p.value));
    p.count = static_cast<int>(group.size());
    p.direction = group.front()->fit->surface.axis;
    p.centre = group.front()->centre;
    found.push_back(std::move(p));
  }
  return groups;
}

/// Equal holes seen along their common axis.
struct Flat {
  std::vector<const Region*> holes;
  std::vector<Vec2> at;
  Vec3 origin, u, v, axis;
  [[nodiscard]] Vec3 to_space(const Vec2& p) const { return origin + p.x() * u + p.y() * v; }
};

/// Splits a group into sets of parallel axes, distinct in place.
std::vector<Flat> flatten(const std::vector<const Region*>& group) {
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
                                   [&](const Vec2& p) { return (p - at).norm() < 0.5; });
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
      if (around.size() < 3 || around.size() <= taken.size() || radius < 2) return;
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
    std::vector<std::pair<double, std::uint32_t>> order;
    for (std::size_t i = 0; i < n; ++i)
      order.emplace_back(std::round((y[i] - rows->first) / std::max(rows->pitch, 1.0)) * 1e4 + x[i],
                         flat.holes[i]->id);
    std::sort(order.begin(), order.end());
    for (const auto& o : order) p.regions.push_back(o.second);
    found.push_back(std::move(p));
    return;
  }
}

/// The plane in which most of the area is mirrored upon other regions or itself.
void mirrored(const std::vector<const Region*>& all, double tolerance,
              std::vector<Pattern>& found) {
  const std::size_t n = std::min<std::size_t>(all.size(), 120);
  double total = 0;
  for (std::size_t i = 0; i < n; ++i) total += all[i]->area;
  struct Plane {
    Vec3 normal;
    double offset;
  };
  std::vector<Plane> planes;
  const auto alike = [&](const Region& a, const Region& b, const Plane& plane) {
    const fit::Surface& s = a.fit->surface;
    const fit::Surface& t = b.fit->surface;
    if (s.kind != t.kind || s.hollow != t.hollow) return false;
    if (s.kind != fit::Kind::Plane &&
        std::abs(s.radius - t.radius) > std::max(0.1, 0.01 * s.radius) && s.kind != fit::Kind::Cone)
      return false;
    const auto image = [&](const Vec3& p) {
      return Vec3(p - 2 * (plane.normal.dot(p) - plane.offset) * plane.normal);
    };
    const Vec3 axis = s.axis - 2 * plane.normal.dot(s.axis) * plane.normal;
    if (fit::has_direction(s.kind)) {
      const double cosine = axis.dot(t.axis);
      if ((s.kind == fit::Kind::Plane ? cosine : std::abs(cosine)) < std::cos(0.3 * kDegree))
        return false;
    }
    const Vec3 centre = image(a.fit->centroid);
    const double near = 0.06 * std::sqrt(std::max(a.area, b.area)) + 1;
    if ((centre - b.fit->centroid).norm() > near) return false;
    if (s.kind == fit::Kind::Plane) return std::abs(t.distance(centre)) < tolerance;
    const Vec3 point = image(axis_foot(s, a.fit->centroid));
    return (point - axis_foot(t, point)).norm() < tolerance;
  };
  for (std::size_t i = 0; i < n && planes.size() < 150; ++i) {
    for (std::size_t j = i + 1; j < n; ++j) {
      const fit::Surface& s = all[i]->fit->surface;
      const fit::Surface& t = all[j]->fit->surface;
      if (s.kind != t.kind || s.hollow != t.hollow) continue;
      Plane p{};
      if (s.kind == fit::Kind::Plane) {
        const Vec3 d = s.axis - t.axis;
        if (d.norm() < 0.3) continue;
        p.normal = d.normalized();
        // Where both planes are equally far: mirrored points of the one on the other.
        const double along_s = p.normal.dot(s.axis);
        const double along_t = p.normal.dot(t.axis);
        p.offset = (s.axis.dot(s.point) - t.axis.dot(t.point)) / (along_s - along_t);
        // A slanted pair meets its mirror plane only when the bisector stands square.
        if (std::abs(along_s + along_t) > 0.01) continue;
      } else if (s.kind == fit::Kind::Cylinder && std::abs(s.radius - t.radius) < 0.1 &&
                 fit::angle_between(s.axis, t.axis) < kParallel) {
        const Vec3 a = axis_foot(s, all[i]->fit->centroid);
        const Vec3 b = axis_foot(t, a);
        if ((b - a).norm() < 1) continue;
        p.normal = (b - a).normalized();
        p.offset = p.normal.dot(0.5 * (a + b));
      } else {
        continue;
      }
      const bool known = std::any_of(planes.begin(), planes.end(), [&](const Plane& k) {
        const double sign = k.normal.dot(p.normal) > 0 ? 1 : -1;
        return fit::angle_between(k.normal, p.normal) < 0.2 * kDegree &&
               std::abs(k.offset - sign * p.offset) < tolerance;
      });
      if (!known) planes.push_back(p);
    }
  }
  for (const Plane& plane : planes) {
    Pattern p;
    p.type = Pattern::Type::MirroredPairs;
    p.direction = plane.normal;
    p.centre = plane.offset * plane.normal;
    double area = 0;
    std::vector<char> used(n, 0);
    for (std::size_t i = 0; i < n; ++i) {
      if (used[i] != 0) continue;
      for (std::size_t j = i; j < n; ++j) {
        if (used[j] != 0 || !alike(*all[i], *all[j], plane)) continue;
        area += all[i]->area + (i == j ? 0 : all[j]->area);
        used[i] = used[j] = 1;
        if (i != j) {
          p.regions.push_back(all[i]->id);
          p.regions.push_back(all[j]->id);
        }
        break;
      }
    }
    p.count = static_cast<int>(p.regions.size() / 2);
    if (p.count < 3 || area < 0.7 * total) continue;
    p.value = area / total;
    found.push_back(std::move(p));
  }
}

/// Planes and cones at one small angle to a direction of pull.
void drafts(const std::vector<const Region*>& all, std::vector<Pattern>& found) {
  std::vector<Vec3> pulls;
  for (const Region* r : all) {
    if (!fit::has_direction(r->fit->surface.kind) || r->fit->u_angle > kParallel) continue;
    const bool known = std::any_of(pulls.begin(), pulls.end(), [&](const Vec3& d) {
      return fit::angle_between(d, r->fit->surface.axis) < kParallel;
    });
    if (!known && pulls.size() < 12) pulls.push_back(r->fit->surface.axis);
  }
  Pattern best;
  double most = 0;
  for (const Vec3& axis : pulls) {
    for (const double sense : {1.0, -1.0}) {
      const Vec3 pull = sense * axis;
      struct Wall {
        double angle;
        double u;
        const Region* region;
      };
      std::vector<Wall> walls;
      for (const Region* r : all) {
        const fit::Surface& s = r->fit->surface;
        if (s.kind == fit::Kind::Cone && fit::angle_between(s.axis, pull) > kParallel) continue;
        if (s.kind != fit::Kind::Cone && s.kind != fit::Kind::Plane) continue;
        const double u = s.kind == fit::Kind::Cone ? r->fit->u_half_angle : r->fit->u_angle;
        const double angle = std::asin(std::clamp(s.normal_at(r->centre).dot(pull), -1.0, 1.0));
        if (angle > 0.3 * kDegree + u && angle < 10 * kDegree && u < 0.2 * kDegree)
          walls.push_back({angle, u, r});
      }
      for (const Wall& w : walls) {
        Pattern p;
        double area = 0;
        double sum = 0;
        for (const Wall& other : walls) {
          if (std::abs(other.angle - w.angle) > std::max(0.12 * kDegree, std::hypot(w.u, other.u)))
            continue;
          p.regions.push_back(other.region->id);
          area += other.region->area;
          sum += other.angle * other.region->area;
          p.departure = std::max(p.departure, std::abs(other.angle - w.angle));
        }
        if (p.regions.size() < 3 || area <= most) continue;
        most = area;
        p.type = Pattern::Type::Draft;
        p.direction = pull;
        p.centre = w.region->centre;
        p.value = sum / area;
        p.count = static_cast<int>(p.regions.size());
        best = p;
      }
    }
  }
  if (most > 0) found.push_back(best);
}

}  // namespace

const char* pattern_name(Pattern::Type type) {
  switch (type) {
    case Pattern::Type::Family:
      return "parallel family";
    case Pattern::Type::Stack:
      return "coaxial stack";
    case Pattern::Type::EqualSizes:
      return "equal diameters";
    case Pattern::Type::BoltCircle:
      return "bolt circle";
    case Pattern::Type::Row:
      return "row";
    case Pattern::Type::Grid:
      return "grid";
    case Pattern::Type::MirroredPairs:
      return "mirrored pairs";
    case Pattern::Type::Draft:
      return "common draft";
  }
  return "";
}

std::vector<Pattern> find_patterns(const std::vector<Region>& regions, double tolerance) {
  const std::vector<const Region*> all = members(regions);
  std::vector<Pattern> found;
  const std::vector<Pattern> axes = stacks(all, tolerance);
  std::vector<Pattern> single = axes;  // any turned surface may be a bolt circle's middle
  for (const Region* r : all) {
    if (!turned(*r)) continue;
    Pattern p;
    p.direction = r->fit->surface.axis;
    p.centre = r->fit->surface.point;
    single.push_back(p);
  }
  std::vector<Pattern> sizes;
  for (const auto& group : equal_sizes(all, sizes)) {
    for (Flat& flat : flatten(group)) {
      bolt_circles(flat, single, tolerance, found);
      grid(flat, tolerance, found);
    }
  }
  found.insert(found.end(), axes.begin(), axes.end());
  found.insert(found.end(), sizes.begin(), sizes.end());
  mirrored(all, 2 * tolerance, found);
  drafts(all, found);
  families(all, found);
  return found;
}

}  // namespace lostline::survey
