#include "reading/curve_evidence.h"

#include <map>

namespace lostline::reading {
namespace {

constexpr double kMost = 0.5;  // of a curve's section: what rests on two regions rests on neither

}  // namespace

std::vector<CurveEvidence> curve_evidence(const Document& document, const TracedSketch& sketch,
                                          const sketch::Drift& drift) {
  std::vector<CurveEvidence> evidence;
  if (!document.survey) return evidence;
  const std::vector<std::uint32_t>& region_of = document.survey->triangle_region;
  std::map<sketch::Id, std::map<std::uint32_t, double>> lengths;
  // The whiskers come in the order of the section's points; those far from every curve have none.
  auto whisker = drift.whiskers.begin();
  for (const section::Polyline& line : sketch.section.polylines) {
    const std::size_t n = line.points.size();
    for (std::size_t i = 0; i < n && whisker != drift.whiskers.end(); ++i) {
      if (whisker->point != line.points[i]) continue;
      const sketch::Id entity = whisker++->entity;
      if (line.triangles.size() != n || (i + 1 == n && !line.closed)) continue;
      const std::uint32_t triangle = line.triangles[i];
      const std::uint32_t region = triangle < region_of.size() ? region_of[triangle] : 0;
      lengths[entity][region] += (line.points[(i + 1) % n] - line.points[i]).norm();
    }
  }
  for (const auto& [entity, by_region] : lengths) {
    CurveEvidence best{entity};
    double whole = 0;
    double most = 0;
    for (const auto& [region, length] : by_region) {
      whole += length;
      if (region == 0 || length <= most) continue;
      most = length;
      best.region = region;
    }
    if (best.region == 0 || most < kMost * whole) continue;
    best.share = most / whole;
    evidence.push_back(best);
  }
  return evidence;
}

}  // namespace lostline::reading
