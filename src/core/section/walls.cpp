#include "section/walls.h"

#include <cmath>
#include <functional>

namespace lostline::section {
namespace {

constexpr double kSlanted = 0.34;  // sine of 20 degrees: more is no wall, drafted ones are less
constexpr double kClean = 0.97;    // of the length; corners take the rest
/// A plate has as many holes; but those stand in walls.
constexpr std::size_t kManyRuns = 30;
constexpr double kMostly = 0.5;  // of the length

bool clean(const WallShare& share) { return share.walls > kClean && share.whole > kClean; }

/// The nearest good level to 0; well inside of where they are good, not at the first of them.
std::optional<double> nearest_level(double step, double reach,
                                    const std::function<bool(double)>& good) {
  if (!(step > 0)) return std::nullopt;
  for (int k = 1; k * step <= reach; ++k) {
    for (const double level : {k * step, -k * step}) {
      if (!good(level)) continue;
      const double further = level + (level > 0 ? 2 : -2) * step;
      return good(further) ? further : level;
    }
  }
  return std::nullopt;
}

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

bool runs_along_a_face(const Section& section, const scan::Mesh& mesh) {
  return section.polylines.size() > kManyRuns && wall_share(section, mesh).walls < kMostly;
}

std::optional<double> level_off_the_face(const SectionIndex& index, const Placement& plane,
                                         double step, double reach) {
  return nearest_level(step, reach, [&](double level) {
    const Section cut = index.cut(plane.shifted(level));
    return !cut.polylines.empty() && !runs_along_a_face(cut, index.mesh());
  });
}

std::optional<double> cleaner_level(const SectionIndex& index, const Placement& plane, double step,
                                    double reach) {
  const auto good = [&](double level) {
    return clean(wall_share(index.cut(plane.shifted(level)), index.mesh()));
  };
  // What is no plate at all (a ball, a free shape) has no such level near.
  return good(0) ? std::nullopt : nearest_level(step, reach, good);
}

}  // namespace lostline::section
