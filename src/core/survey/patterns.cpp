#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <set>

#include "survey/finish.h"
#include "survey/hole_patterns.h"

namespace lostline::survey {
namespace {

bool turned(const Region& r) { return r.fit && fit::is_turned(r.fit->surface.kind); }

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
    const bool plane = fit::is_flat(f.surface.kind);
    std::vector<const Region*> list{all[i]};
    double departure = 0;
    for (std::size_t j = i + 1; j < all.size(); ++j) {
      const fit::SurfaceFit& g = *all[j]->fit;
      if (used[j] != 0 || !fit::has_direction(g.surface.kind) ||
          (fit::is_flat(g.surface.kind)) != plane)
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
      if (off > std::max(tolerance, std::min(g.u_offset, 3 * tolerance))) continue;
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
                                                    double tolerance, std::vector<Pattern>& found) {
  std::vector<const Region*> round;
  for (const Region* r : all) {
    if (r->fit->surface.kind == fit::Kind::Cylinder && r->fit->u_radius < 1.5 * tolerance)
      round.push_back(r);
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
        const double limit =
            std::clamp(std::hypot(f.u_radius, r->fit->u_radius), tolerance / 8, tolerance / 1.5);
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
    if (!fit::is_flat(s.kind) &&
        std::abs(s.radius - t.radius) > std::max(tolerance / 1.5, 0.01 * s.radius) &&
        s.kind != fit::Kind::Cone)
      return false;
    const auto image = [&](const Vec3& p) {
      return Vec3(p - 2 * (plane.normal.dot(p) - plane.offset) * plane.normal);
    };
    const Vec3 axis = s.axis - 2 * plane.normal.dot(s.axis) * plane.normal;
    if (fit::has_direction(s.kind)) {
      const double cosine = axis.dot(t.axis);
      if ((fit::is_flat(s.kind) ? cosine : std::abs(cosine)) < std::cos(0.3 * kDegree))
        return false;
    }
    const Vec3 centre = image(a.fit->centroid);
    const double near = 0.06 * std::sqrt(std::max(a.area, b.area)) + 7 * tolerance;
    if ((centre - b.fit->centroid).norm() > near) return false;
    if (fit::is_flat(s.kind)) return std::abs(t.distance(centre)) < tolerance;
    const Vec3 point = image(axis_foot(s, a.fit->centroid));
    return (point - axis_foot(t, point)).norm() < tolerance;
  };
  for (std::size_t i = 0; i < n && planes.size() < 150; ++i) {
    for (std::size_t j = i + 1; j < n; ++j) {
      const fit::Surface& s = all[i]->fit->surface;
      const fit::Surface& t = all[j]->fit->surface;
      if (s.kind != t.kind || s.hollow != t.hollow) continue;
      Plane p{};
      if (fit::is_flat(s.kind)) {
        const Vec3 d = s.axis - t.axis;
        if (d.norm() < 0.3) continue;
        p.normal = d.normalized();
        // Where both planes are equally far: mirrored points of the one on the other.
        const double along_s = p.normal.dot(s.axis);
        const double along_t = p.normal.dot(t.axis);
        p.offset = (s.axis.dot(s.point) - t.axis.dot(t.point)) / (along_s - along_t);
        // A slanted pair meets its mirror plane only when the bisector stands square.
        if (std::abs(along_s + along_t) > 0.01) continue;
      } else if (s.kind == fit::Kind::Cylinder && std::abs(s.radius - t.radius) < tolerance / 1.5 &&
                 fit::angle_between(s.axis, t.axis) < kParallel) {
        const Vec3 a = axis_foot(s, all[i]->fit->centroid);
        const Vec3 b = axis_foot(t, a);
        if ((b - a).norm() < 7 * tolerance) continue;
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
        if (s.kind != fit::Kind::Cone && !fit::is_flat(s.kind)) continue;
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

double usual_departure(const std::vector<Region>& regions) {
  Box3 box;
  for (const Region& r : regions) {
    if (r.fit && r.triangles > 0) box.extend(r.centre);
  }
  return 1e-3 * (box.isEmpty() ? 0.0 : box.diagonal().norm());
}

std::vector<Pattern> find_patterns(const std::vector<Region>& regions, double tolerance) {
  const std::vector<const Region*> all = members(regions);
  if (!(tolerance > 0)) tolerance = usual_departure(regions);
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
  for (const auto& group : equal_sizes(all, tolerance, sizes))
    arrange_holes(group, single, tolerance, found);
  found.insert(found.end(), axes.begin(), axes.end());
  found.insert(found.end(), sizes.begin(), sizes.end());
  mirrored(all, 2 * tolerance, found);
  drafts(all, found);
  families(all, found);
  return found;
}

}  // namespace lostline::survey
