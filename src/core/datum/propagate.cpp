#include "datum/propagate.h"

#include <cmath>

#include "fit/surface_kind.h"
#include "fit/uncertainty.h"

namespace lostline::datum {
namespace {

using fit::SurfaceFit;
using Shifts = fit::SurfaceKind::Shifts;

/// The ways in which a fit is uncertain, each as the fit moved by one standard uncertainty to the
/// side of a sign.
std::vector<SurfaceFit> moved_by_one(const SurfaceFit& f, double sign) {
  const fit::SurfaceKind& kind = fit::about(f.surface.kind);
  const Vec3 u = any_perpendicular(f.surface.axis);
  const Vec3 v = f.surface.axis.cross(u);
  std::vector<Vec3> shifts;
  if (kind.shifts != Shifts::Along) shifts = {u, v};
  if (kind.shifts != Shifts::Across) shifts.push_back(f.surface.axis);
  std::vector<SurfaceFit> moved;
  const double place = sign * f.u_offset / fit::coverage_factor(static_cast<int>(shifts.size()));
  for (const Vec3& d : shifts) {
    moved.push_back(f);
    moved.back().surface.point += place * d;
  }
  if (kind.direction == nullptr) return moved;
  const double turn = sign * f.u_angle / fit::coverage_factor(2);
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

Result<SurfaceFit> propagated(const std::vector<SurfaceFit>& from, const Construct& construct,
                              SurfaceFit result) {
  Eigen::Matrix3d place = Eigen::Matrix3d::Zero();
  Eigen::Matrix3d direction = Eigen::Matrix3d::Zero();
  const Vec3 here = place_at(result.surface, result.centroid);
  for (std::size_t i = 0; i < from.size(); ++i) {
    const std::vector<SurfaceFit> one_way = moved_by_one(from[i], 1);
    const std::vector<SurfaceFit> other_way = moved_by_one(from[i], -1);
    for (std::size_t k = 0; k < one_way.size(); ++k) {
      std::vector<SurfaceFit> fits = from;
      fits[i] = one_way[k];
      auto made = construct(fits);
      if (!made) {
        fits[i] = other_way[k];
        made = construct(fits);
      }
      if (!made)
        return Error{ErrorCode::Degenerate,
                     "What this rests on is not certain enough for it: within the uncertainty of "
                     "the " +
                         std::string(fit::kind_name(from[i].surface.kind)) + " that is number " +
                         std::to_string(i + 1) + " it cannot be made at all. " +
                         made.error().message};
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
