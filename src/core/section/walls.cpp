#include "section/walls.h"

#include <cmath>

namespace lostline::section {
namespace {

constexpr double kSlanted = 0.34;  // sine of 20 degrees: more is no wall, drafted ones are less
constexpr double kClean = 0.97;    // of the length; corners take the rest

bool clean(const WallShare& share) { return share.walls > kClean && share.whole > kClean; }

}  // namespace

WallShare wall_share(const Section& section, const scan::Mesh& mesh) {
  double length = 0;
  WallShare share;
  for (const Polyline& line : section.polylines) {
    if (line.support || line.triangles.size() != line.points.size()) continue;
    const double whole = line.length();
    length += whole;
    if (line.closed && line.gaps.empty()) share.whole += whole;
    for (std::size_t i = 0; i + 1 < line.points.size(); ++i) {
      if (line.triangles[i] == scan::kNone) continue;
      const Vec3 normal = mesh.area_vector(line.triangles[i]).normalized();
      if (std::abs(normal.dot(section.plane.normal)) < kSlanted)
        share.walls += (line.points[i + 1] - line.points[i]).norm();
    }
  }
  if (!(length > 0)) return {};
  share.walls /= length;
  share.whole /= length;
  return share;
}

std::optional<double> cleaner_level(const SectionIndex& index, const Placement& plane, double step,
                                    double reach) {
  const auto at = [&](double level) {
    return wall_share(index.cut(plane.shifted(level)), index.mesh());
  };
  const WallShare here = at(0);
  // What is no plate at all (a ball, a free shape) has no such level near.
  if (clean(here) || !(step > 0)) return std::nullopt;
  for (int k = 1; k * step <= reach; ++k) {
    for (const double level : {k * step, -k * step}) {
      if (!clean(at(level))) continue;
      // Well inside of the wall, not at its first clean step.
      const double further = level + (level > 0 ? 2 : -2) * step;
      return clean(at(further)) ? further : level;
    }
  }
  return std::nullopt;
}

}  // namespace lostline::section
