#include "project/seen_in_sketch.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include "fit/surface_kind.h"
#include "sketch/drawing.h"

namespace lostline::project {
namespace {

// The line in which a plane nearer to parallel cuts the sketch's lies anywhere: at a degree, U of
// the plane counts 57 times (common practice, no source).
constexpr double kLeastCut = 1 / kDegrees;
// Bores and bosses stand upright on a sketch within their draft and the scan's error; what leans
// further is meant as a line (common practice, no source).
constexpr double kUpright = 10 / kDegrees;
constexpr double kPastEvidence = 0.05;  // share of its length that a line runs on at each end

/// Points that a fit or region rests on, part coordinates.
std::vector<Vec3> evidence_points(const Document& d, const FitRef& ref) {
  std::vector<Vec3> points;
  const Transform to_part = d.to_part();
  const Fit* kept = ref.fit != 0 ? d.find_fit(ref.fit) : nullptr;
  if (kept != nullptr && !kept->points.empty()) {
    for (const Vec3& p : kept->points) points.push_back(to_part * p);
    return points;
  }
  std::vector<std::uint32_t> triangles;
  if (kept != nullptr && kept->triangles)
    triangles = *kept->triangles;
  else if (ref.region != 0 && d.survey)
    triangles = survey::triangles_of(*d.survey, ref.region);
  if (!d.scan) return points;
  for (const std::uint32_t t : triangles) points.push_back(to_part * d.scan->mesh->centroid(t));
  return points;
}

/// The stretch of a line in the plane beside which the evidence lies.
sketch::StraightForm along_evidence(const Vec2& on, const Vec2& along, const Placement& plane,
                                    const std::vector<Vec3>& evidence, double fallback) {
  double low = evidence.empty() ? -fallback : std::numeric_limits<double>::infinity();
  double high = evidence.empty() ? fallback : -std::numeric_limits<double>::infinity();
  for (const Vec3& p : evidence) {
    const double t = (plane.to_plane(p) - on).dot(along);
    low = std::min(low, t);
    high = std::max(high, t);
  }
  const double past = kPastEvidence * (high - low);
  return {on + (low - past) * along, on + (high + past) * along};
}

}  // namespace

Placement plane_of(const TracedSketch& sketch) { return sketch.base.shifted(sketch.level); }

Result<model::PlaneView> fit_seen(const Document& document, const FitRef& ref,
                                  const Placement& plane) {
  const fit::SurfaceFit* found = document.fit_of(ref);
  if (found == nullptr)
    return Error{ErrorCode::NotFound, "This is gone, or free-form: it has no axis and no plane."};
  const fit::Surface s = fit::transformed(found->surface, document.to_part());
  const std::vector<Vec3> evidence = evidence_points(document, ref);
  constexpr double kAlone = 10;  // mm to both sides where nothing else tells a length
  model::PlaneView view;
  if (fit::is_flat(s.kind)) {
    const Vec3 cut = s.axis.cross(plane.normal);
    if (cut.norm() < std::sin(kLeastCut))
      return Error{ErrorCode::InvalidInput,
                   document.name_of(ref) +
                       " lies along the plane of the sketch: they meet in no line that could be "
                       "relied on."};
    // From the evidence's middle down the plane's slope into the sketch's plane.
    Vec3 at = document.to_part() * found->centroid;
    at -= s.distance(at) * s.axis;
    const Vec3 down = s.axis.cross(cut.normalized());
    const Vec3 on = at - plane.level_of(at) / down.dot(plane.normal) * down;
    const Vec2 along(cut.dot(plane.x), cut.dot(plane.y));
    view.curves.emplace_back(
        along_evidence(plane.to_plane(on), along.normalized(), plane, evidence, kAlone));
    return view;
  }
  if (!fit::has_direction(s.kind) || fit::has_centre(s.kind)) {
    view.points.push_back(plane.to_plane(s.point));
    return view;
  }
  const double lean = std::asin(std::min(1.0, s.axis.cross(plane.normal).norm()));
  if (lean <= kUpright) {
    view.points.push_back(
        plane.to_plane(s.point - plane.level_of(s.point) / s.axis.dot(plane.normal) * s.axis));
    return view;
  }
  const Vec2 along(s.axis.dot(plane.x), s.axis.dot(plane.y));
  view.curves.emplace_back(
      along_evidence(plane.to_plane(s.point), along.normalized(), plane, evidence, kAlone));
  return view;
}

sketch::Sketch with_seen(const TracedSketch& sketch, const model::PlaneView& view,
                         std::vector<sketch::Id>* added) {
  constexpr double kSameEnd = 1e-4;  // mm: far below what is measured, far above rounding
  return sketch::bring_in(sketch.sketch, view.curves, view.points, kSameEnd, added);
}

}  // namespace lostline::project
