#include "reading/draw_section.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <numbers>

#include "fit/surface_kind.h"
#include "reading/curve_evidence.h"
#include "sketch/curve_kind.h"
#include "sketch/solver.h"

namespace lostline::reading {
namespace {

// A bore that leans by more does not cut a circle.
constexpr double kUpright = 0.02;  // rad
// What was made to end within so much of a turn would show how it ends, as section::ResolveOptions
// has it of one level.
constexpr double kSeenWhole = 200 * kDegree;

/// How much of the way round its axis the triangles of a region show, rad.
double seen_round(const Document& d, std::uint32_t region, const fit::Surface& surface) {
  const Vec3 u = any_perpendicular(surface.axis).normalized();
  const Vec3 v = surface.axis.cross(u);
  constexpr std::size_t kBins = 72;
  std::array<bool, kBins> seen{};
  for (const std::uint32_t t : survey::triangles_of(*d.survey, region)) {
    const Vec3 p = d.scan->mesh->centroid(t) - surface.point;
    const double turn = std::atan2(p.dot(v), p.dot(u)) / (2 * std::numbers::pi) + 0.5;
    seen[std::min(kBins - 1, static_cast<std::size_t>(turn * kBins))] = true;
  }
  return 2 * std::numbers::pi / kBins *
         static_cast<double>(std::count(seen.begin(), seen.end(), true));
}

/// The circle that a bore or pin cuts, where its region says that it is one.
std::optional<sketch::RoundForm> circle_of(const Document& d, const TracedSketch& traced,
                                           std::uint32_t region) {
  const fit::SurfaceFit* fit = d.fit_of({region, 0});
  if (fit == nullptr || fit->surface.kind != fit::Kind::Cylinder) return std::nullopt;
  if (seen_round(d, region, fit->surface) < kSeenWhole) return std::nullopt;
  const fit::Surface s = fit::transformed(fit->surface, d.to_part());
  if (fit::angle_between(s.axis, traced.base.normal) > kUpright) return std::nullopt;
  const double along =
      (traced.level - traced.base.level_of(s.point)) / s.axis.dot(traced.base.normal);
  return sketch::RoundForm{traced.base.to_plane(s.point + along * s.axis), s.radius, 0,
                           2 * std::numbers::pi};
}

}  // namespace

sketch::Sketch draw_section(const Document& document, const TracedSketch& traced,
                            const section::Section& section) {
  sketch::Sketch drawn = sketch::sketch_from_section(
      section, traced.tolerance, document.scan ? document.scan->health.spacing : 0);
  if (!document.survey || traced.turn || traced.silhouette) return drawn;
  std::map<sketch::Id, int> users;
  for (const sketch::Entity& e : drawn.entities) e.each_point([&](sketch::Id p) { ++users[p]; });
  const auto in_the_open = [&](const sketch::Entity& e) {
    return sketch::has_radius(&e) && sketch::kind_of(e).has_ends() && users[e.a] == 1 &&
           users[e.b] == 1;
  };
  if (std::none_of(drawn.entities.begin(), drawn.entities.end(), in_the_open)) return drawn;
  TracedSketch here = traced;
  here.section = section;
  here.sketch = drawn;
  std::map<std::uint32_t, std::vector<sketch::Id>> arcs;  // by region
  std::map<std::uint32_t, bool> drawn_whole;
  for (const CurveEvidence& e :
       curve_evidence(document, here, sketch::measure_drift(drawn, section, here.reach()))) {
    const sketch::Entity& entity = *drawn.find_entity(e.entity);
    if (in_the_open(entity))
      arcs[e.region].push_back(e.entity);
    else if (sketch::has_radius(&entity) && !sketch::kind_of(entity).has_ends())
      drawn_whole[e.region] = true;
  }
  for (const auto& [region, ids] : arcs) {
    const auto circle = circle_of(document, traced, region);
    if (!circle) continue;
    bool whole = drawn_whole[region];
    for (const sketch::Id id : ids) {
      const auto arc = sketch::placed(drawn, *drawn.find_entity(id));
      const auto off = [&](const Vec2& p) {
        return std::abs((p - circle->centre).norm() - circle->radius);
      };
      if (std::max({off(arc->start()), off(arc->middle()), off(arc->end())}) > traced.tolerance)
        continue;
      drawn.remove(id);
      if (!whole) drawn.add_circle(drawn.add_point(circle->centre), circle->radius);
      whole = true;
    }
  }
  return drawn;
}

}  // namespace lostline::reading
