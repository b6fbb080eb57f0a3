#include "reading/hole_head.h"

#include <algorithm>
#include <cmath>

#include "sketch/curve_kind.h"

namespace lostline::reading {
namespace {

using project::Document;
using project::TracedSketch;

/// Lowest and highest level of a region above a plane, a hundredth left out at each end.
std::pair<double, double> span_of(const Document& d, std::uint32_t region, const Placement& base) {
  std::vector<double> levels;
  const Transform to_part = d.to_part();
  const auto& mesh = *d.scan->mesh;
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    if (d.survey->triangle_region[t] != region) continue;
    for (int k = 0; k < 3; ++k) levels.push_back(base.level_of(to_part * mesh.corner(t, k)));
  }
  if (levels.empty()) return {0, 0};
  std::sort(levels.begin(), levels.end());
  const std::size_t skip = levels.size() / 100;
  return {levels[skip], levels[levels.size() - 1 - skip]};
}

/// The plane of the survey square to the axis whose level is nearest to one that is looked for.
struct Flat {
  double level, u;
};
std::optional<Flat> flat_near(const Document& d, const Placement& base, double level, bool upward,
                              double within) {
  constexpr double kSquare = 0.999;  // cosine, 2.5 degrees
  std::optional<Flat> best;
  for (const survey::Region& region : d.survey->regions) {
    if (!region.fit || !fit::is_flat(region.fit->surface.kind)) continue;
    const fit::Surface plane = fit::transformed(region.fit->surface, d.to_part());
    const double along = plane.axis.dot(base.normal);
    if (std::abs(along) < kSquare || (along > 0) != upward) continue;
    const double here = base.level_of(plane.point);
    if (std::abs(here - level) > within ||
        (best && std::abs(best->level - level) <= std::abs(here - level)))
      continue;
    best = Flat{here, region.fit->u_offset};
  }
  return best;
}

/// The head about one axis.
std::optional<HeadReading> head_at(const Document& d, const Placement& base, const Vec2& centre,
                                   double diameter) {
  constexpr double kParallel = 0.9986;  // cosine, 3 degrees
  constexpr double kWider = 1.12;       // than the hole: less is the hole itself
  constexpr double kWidest = 5;
  const double spacing = d.scan->health.spacing;
  const survey::Region* best = nullptr;
  double best_radius = 1e300;
  for (const survey::Region& region : d.survey->regions) {
    if (!region.fit) continue;
    const fit::Surface s = fit::transformed(region.fit->surface, d.to_part());
    const bool cone = s.kind == fit::Kind::Cone;
    if ((!cone && s.kind != fit::Kind::Cylinder) || !s.hollow ||
        std::abs(s.axis.dot(base.normal)) < kParallel)
      continue;
    const Vec2 at = base.to_plane(s.point);
    if ((at - centre).norm() > std::max(0.15 * diameter, 2 * spacing)) continue;
    const auto [low, high] = span_of(d, region.id, base);
    double radius = s.radius;
    if (cone) {  // at its wide end
      const double rise = s.axis.dot(base.normal) * std::tan(s.half_angle);
      const double here = base.level_of(s.point);
      radius = std::max(s.radius + rise * (low - here), s.radius + rise * (high - here));
    }
    if (2 * radius < kWider * diameter || 2 * radius > kWidest * diameter || radius >= best_radius)
      continue;
    best = &region;
    best_radius = radius;
  }
  if (best == nullptr) return std::nullopt;
  const fit::Surface s = fit::transformed(best->fit->surface, d.to_part());
  const auto [low, high] = span_of(d, best->id, base);
  HeadReading reading;
  reading.holes = 1;
  // What a scanner rounds at the edges.
  const double near = 3 * spacing;
  if (s.kind == fit::Kind::Cylinder) {
    reading.head = model::Hole::Head::Counterbore;
    reading.diameter = 2 * s.radius;
    reading.u_diameter = 2 * best->fit->u_radius;
    // Its floor is a flat that looks out of the hole at one end.
    const auto below = flat_near(d, base, low, true, near);
    const auto above = flat_near(d, base, high, false, near);
    reading.from_below =
        above && (!below || std::abs(above->level - high) < std::abs(below->level - low));
    const double floor_at = reading.from_below ? high : low;
    const double mouth_at = reading.from_below ? low : high;
    const Flat floor = (reading.from_below ? above : below).value_or(Flat{floor_at, spacing});
    const Flat mouth =
        flat_near(d, base, mouth_at, !reading.from_below, near).value_or(Flat{mouth_at, spacing});
    reading.entry = mouth.level;
    reading.u_entry = mouth.u;
    reading.depth = std::abs(mouth.level - floor.level);
    reading.u_depth = std::hypot(mouth.u, floor.u);
  } else {
    reading.head = model::Hole::Head::Countersink;
    reading.angle = 2 * s.half_angle;
    reading.u_angle = 2 * best->fit->u_half_angle;
    const double rise = s.axis.dot(base.normal) * std::tan(s.half_angle);
    reading.from_below = rise < 0;
    const double mouth_at = reading.from_below ? low : high;
    const Flat mouth =
        flat_near(d, base, mouth_at, !reading.from_below, near).value_or(Flat{mouth_at, spacing});
    reading.entry = mouth.level;
    reading.u_entry = mouth.u;
    reading.diameter = 2 * (s.radius + rise * (mouth.level - base.level_of(s.point)));
    reading.u_diameter = 2 * std::hypot(best->fit->u_radius, std::abs(rise) * mouth.u);
  }
  return reading;
}

}  // namespace

std::optional<HeadReading> read_head(const Document& document, const TracedSketch& sketch,
                                     const std::vector<sketch::Id>& circles, double diameter) {
  if (!document.scan || !document.survey) return std::nullopt;
  std::optional<HeadReading> all;
  double weights = 0;
  HeadReading sum;
  for (const sketch::Id id : circles) {
    const sketch::Entity* circle = sketch.sketch.find_entity(id);
    const sketch::Point* point = sketch.sketch.find_point(id);
    if (circle == nullptr && point == nullptr) continue;
    const Vec2 centre = point != nullptr ? point->at : sketch.sketch.position(circle->centre);
    const auto one = head_at(document, sketch.base, centre, diameter);
    if (!one) continue;
    // Those of another kind or size are another step's.
    if (all && (one->head != all->head || one->from_below != all->from_below ||
                std::abs(one->diameter - all->diameter) > 0.05 * all->diameter))
      continue;
    if (!all) all = *one;
    const double w = 1 / std::max(one->u_diameter * one->u_diameter, 1e-8);
    weights += w;
    sum.diameter += w * one->diameter;
    sum.depth += w * one->depth;
    sum.angle += w * one->angle;
    sum.entry += w * one->entry;
    ++sum.holes;
  }
  if (!all) return std::nullopt;
  all->diameter = sum.diameter / weights;
  all->u_diameter = std::sqrt(1 / weights);
  all->depth = sum.depth / weights;
  all->angle = sum.angle / weights;
  all->entry = sum.entry / weights;
  all->holes = sum.holes;
  return all;
}

}  // namespace lostline::reading
