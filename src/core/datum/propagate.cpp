#include "datum/propagate.h"

#include <cmath>

#include "fit/surface_kind.h"
#include "fit/uncertainty.h"

namespace lostline::datum {
namespace {

using fit::SurfaceFit;
using Shifts = fit::SurfaceKind::Shifts;

/// The ways in which a fit is uncertain, each as the fit moved by one standard uncertainty.
std::vector<SurfaceFit> moved_by_one(const SurfaceFit& f) {
  const fit::SurfaceKind& kind = fit::about(f.surface.kind);
  const Vec3 u = any_perpendicular(f.surface.axis);
  const Vec3 v = f.surface.axis.cross(u);
  std::vector<Vec3> shifts;
  if (kind.shifts != Shifts::Along) shifts = {u, v};
  if (kind.shifts != Shifts::Across) shifts.push_back(f.surface.axis);
  std::vector<SurfaceFit> moved;
  const double place = f.u_offset / fit::coverage_factor(static_cast<int>(shifts.size()));
  for (const Vec3& d : shifts) {
    moved.push_back(f);
    moved.back().surface.point += place * d;
  }
  if (kind.direction == nullptr) return moved;
  const double turn = f.u_angle / fit::coverage_factor(2);
  for (const Vec3& about : {u, v}) {
    const Transform motion = Eigen::Translation3d(f.centroid) * Eigen::AngleAxisd(turn, about) *
                             Eigen::Translation3d(-f.centroid);
    moved.push_back(f);
    moved.back().surface = fit::transformed(f.surface, motion);
  }
  return moved;
}

/// Where a feature runs past a place: the part of its position that it has.
Vec3 place_at(const fit::Surface& s, const Vec3& p) {
  switch (fit::about(s.kind).shifts) {
    case Shifts::Along:
      return p - s.axis.dot(p - s.point) * s.axis;
    case Shifts::Across:
      return s.point + s.axis.dot(p - s.point) * s.axis;
    case Shifts::All:
      return s.point;
  }
  return s.point;
}

}  // namespace

SurfaceFit propagated(const std::vector<SurfaceFit>& from, const Construct& construct,
                      SurfaceFit result) {
  Eigen::Matrix3d place = Eigen::Matrix3d::Zero();
  Eigen::Matrix3d direction = Eigen::Matrix3d::Zero();
  const Vec3 here = place_at(result.surface, result.centroid);
  for (std::size_t i = 0; i < from.size(); ++i) {
    for (const SurfaceFit& other : moved_by_one(from[i])) {
      std::vector<SurfaceFit> fits = from;
      fits[i] = other;
      const auto made = construct(fits);
      if (!made) continue;  // on the verge of what can be made at all
      const fit::Surface& s = made->surface;
      Vec3 d = place_at(s, result.centroid) - here;
      if (fit::about(s.kind).shifts == Shifts::Along)
        d = d.dot(result.surface.axis) * result.surface.axis;
      place += d * d.transpose();
      const double sense = s.axis.dot(result.surface.axis) < 0 ? -1 : 1;
      const Vec3 t = sense * s.axis - result.surface.axis;
      direction += t * t.transpose();
    }
  }
  result.u_offset = fit::expanded_length(place);
  result.u_angle = fit::has_direction(result.surface.kind) ? fit::expanded_length(direction) : 0;
  return result;
}

}  // namespace lostline::datum
