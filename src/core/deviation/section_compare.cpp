#include "deviation/section_compare.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace lostline::deviation {
namespace {

/// Faces are triangulated each for itself: corners at one place become one, so that a cut runs
/// through.
scan::Mesh joined(const scan::Mesh& mesh) {
  constexpr double kCell = 1e-5;
  std::map<std::array<long long, 3>, std::uint32_t> known;
  std::vector<std::uint32_t> place(mesh.vertices.size());
  scan::Mesh result;
  for (std::size_t i = 0; i < mesh.vertices.size(); ++i) {
    const Vec3 c = mesh.vertices[i] / kCell;
    const auto [it, fresh] =
        known.try_emplace({std::llround(c.x()), std::llround(c.y()), std::llround(c.z())},
                          static_cast<std::uint32_t>(result.vertices.size()));
    if (fresh) result.vertices.push_back(mesh.vertices[i]);
    place[i] = it->second;
  }
  for (scan::Triangle t : mesh.triangles) {
    for (std::uint32_t& v : t) v = place[v];
    if (t[0] != t[1] && t[1] != t[2] && t[2] != t[0]) result.triangles.push_back(t);
  }
  return result;
}

}  // namespace

Result<section::Section> cut_solid(const model::Model& solid, const Placement& plane) {
  const auto fine = model::tessellate(solid, {0.005, 0.05});
  if (!fine) return fine.error();
  const section::SectionIndex index(std::make_shared<const scan::Mesh>(joined(fine->mesh)));
  section::SectionOptions options;
  options.fewest_points = 2;
  options.bridge_spacings = 0.01;
  return index.cut(plane, options);
}

SectionComparison compare_sections(section::Section scan, section::Section model, double reach,
                                   double tolerance) {
  SectionComparison result;
  struct Segment {
    Vec2 a, b;
  };
  std::vector<Segment> segments;
  for (const section::Polyline& line : model.polylines) {
    const std::size_t n = line.points.size();
    for (std::size_t i = 0; i + (line.closed ? 0 : 1) < n; ++i)
      segments.push_back({line.points[i], line.points[(i + 1) % n]});
  }
  double sum = 0;
  double squares = 0;
  std::size_t within = 0;
  for (const section::Polyline& line : scan.polylines) {
    for (const Vec2& p : line.points) {
      double best = reach * reach;
      const Segment* nearest = nullptr;
      Vec2 foot = p;
      for (const Segment& s : segments) {
        const Vec2 d = s.b - s.a;
        const double t = std::clamp((p - s.a).dot(d) / std::max(d.squaredNorm(), 1e-300), 0.0, 1.0);
        const Vec2 at = s.a + t * d;
        const double distance = (at - p).squaredNorm();
        if (distance < best) {
          best = distance;
          nearest = &s;
          foot = at;
        }
      }
      if (nearest == nullptr) {
        ++result.far;
        continue;
      }
      // Material lies on the left of the model's section.
      const Vec2 d = nearest->b - nearest->a;
      const Vec2 off = p - foot;
      const double side = d.x() * off.y() - d.y() * off.x();
      const double value = (side > 0 ? -1 : 1) * std::sqrt(best);
      result.whiskers.push_back({foot, p, value});
      sum += value;
      squares += value * value;
      within += std::abs(value) <= tolerance ? 1 : 0;
      if (std::abs(value) > std::abs(result.greatest)) {
        result.greatest = value;
        result.greatest_at = p;
      }
    }
  }
  const double n = static_cast<double>(result.whiskers.size());
  if (n > 0) {
    result.mean = sum / n;
    result.rms = std::sqrt(squares / n);
    result.within_fraction = static_cast<double>(within) / n;
  }
  result.scan = std::move(scan);
  result.model = std::move(model);
  return result;
}

}  // namespace lostline::deviation
