#include "survey/finish.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace lostline::survey {

void judge_finish(std::vector<Region>& regions) {
  // The smoothest fifth of the fitted area shows what the scanner alone contributes; a surface
  // clearly rougher was not machined (common practice, no source).
  std::vector<std::pair<double, double>> sigma_area;
  double total = 0;
  for (const Region& r : regions) {
    if (!r.fit) continue;
    sigma_area.emplace_back(r.fit->sigma, r.area);
    total += r.area;
  }
  std::sort(sigma_area.begin(), sigma_area.end());
  double floor = 0;
  double sum = 0;
  for (const auto& [sigma, area] : sigma_area) {
    floor = sigma;
    sum += area;
    if (sum >= 0.2 * total) break;
  }
  for (Region& r : regions) {
    const bool machined = r.fit && r.fit->sigma <= 1.8 * floor;
    r.finish = machined ? Finish::Machined : Finish::AsCast;
    r.trust = !r.fit ? 0.1 : machined ? 1.0 : 0.3;
  }
}

std::vector<FoundRelation> find_relations(const std::vector<Region>& regions) {
  std::vector<FoundRelation> relations;
  constexpr double kLoose = 0.1 * std::numbers::pi / 180;
  for (std::size_t i = 0; i < regions.size(); ++i) {
    for (std::size_t j = i + 1; j < regions.size(); ++j) {
      if (!regions[i].fit || !regions[j].fit) continue;
      const fit::SurfaceFit& a = *regions[i].fit;
      const fit::SurfaceFit& b = *regions[j].fit;
      if (!fit::has_direction(a.surface.kind) || !fit::has_direction(b.surface.kind)) continue;
      const double angle = fit::angle_between(a.surface.axis, b.surface.axis);
      const double limit = std::max(kLoose, std::hypot(a.u_angle, b.u_angle));
      if (limit > 0.05) continue;  // too uncertain to say anything
      // A plane's direction is its normal, so plane and cylinder are parallel when normal and axis
      // are square.
      const bool mixed =
          (a.surface.kind == fit::Kind::Plane) != (b.surface.kind == fit::Kind::Plane);
      if (angle < limit) {
        if (a.surface.kind != fit::Kind::Plane && !mixed) {
          const Vec3 d = b.surface.point - a.surface.point;
          const double offset = (d - d.dot(a.surface.axis) * a.surface.axis).norm();
          if (offset < std::max(0.05, std::hypot(a.u_offset, b.u_offset))) {
            relations.push_back(
                {FoundRelation::Type::Coaxial, regions[i].id, regions[j].id, angle, offset});
            continue;
          }
        }
        relations.push_back(
            {mixed ? FoundRelation::Type::Perpendicular : FoundRelation::Type::Parallel,
             regions[i].id, regions[j].id, angle, 0});
      } else if (std::abs(std::numbers::pi / 2 - angle) < limit) {
        relations.push_back(
            {mixed ? FoundRelation::Type::Parallel : FoundRelation::Type::Perpendicular,
             regions[i].id, regions[j].id, std::abs(std::numbers::pi / 2 - angle), 0});
      }
    }
  }
  return relations;
}

}  // namespace lostline::survey
