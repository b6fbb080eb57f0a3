#include "datum/targets.h"

#include <Eigen/Dense>
#include <cmath>
#include <string>

#include "fit/estimate.h"

namespace lostline::datum {
namespace {

constexpr std::array<const char*, 6> kNames{"A1", "A2", "A3", "B1", "B2", "C1"};
constexpr double kFacing = 0.7;  // cosine of how far a face may look away from its plane

/// A plane that faces as its targets do; refused where one of them does not.
Result<fit::SurfaceFit> plane_at(const Vec3& normal, const Vec3& through,
                                 const std::array<TargetPoint, 6>& targets, std::size_t first,
                                 std::size_t count) {
  fit::SurfaceFit f;
  f.surface.kind = fit::Kind::Plane;
  f.surface.axis = normal;
  double facing = 0;
  for (std::size_t i = first; i < first + count; ++i) facing += normal.dot(targets[i].normal);
  if (facing < 0) f.surface.axis = -normal;
  f.surface.point = f.centroid = through;
  f.points = f.used = count;
  for (std::size_t i = first; i < first + count; ++i) {
    if (f.surface.axis.dot(targets[i].normal) < kFacing)
      return Error{ErrorCode::Degenerate,
                   std::string(kNames[i]) +
                       " lies on a face that looks another way than the plane of its targets. "
                       "Choose a place that faces along it."};
  }
  return f;
}

}  // namespace

Result<std::array<fit::SurfaceFit, 3>> planes_of_targets(
    const std::array<TargetPoint, 6>& targets) {
  const auto& [a1, a2, a3, b1, b2, c1] = targets;
  const Vec3 across = (a2.point - a1.point).cross(a3.point - a1.point);
  const double longest = std::max(
      {(a2.point - a1.point).norm(), (a3.point - a2.point).norm(), (a1.point - a3.point).norm()});
  if (!(across.norm() > 0.05 * longest * longest))
    return Error{ErrorCode::Degenerate,
                 "A1, A2 and A3 lie on one line: the turn about it stays open. Move one aside."};
  std::array<fit::SurfaceFit, 3> planes;
  auto on_primary =
      plane_at(across.normalized(), (a1.point + a2.point + a3.point) / 3, targets, 0, 3);
  if (!on_primary) return on_primary.error();
  fit::SurfaceFit& primary = planes[0] = *on_primary;
  const Vec3 up = primary.surface.axis;
  // Heights at the targets as a linear function over the plane: offset at the middle and two
  // slopes.
  const Vec3 u = any_perpendicular(up);
  const Vec3 v = up.cross(u);
  Eigen::Matrix3d rows;
  Vec3 variance;
  for (int i = 0; i < 3; ++i) {
    const TargetPoint& t = targets[static_cast<std::size_t>(i)];
    const Vec3 d = t.point - primary.centroid;
    rows.row(i) << 1, d.dot(u), d.dot(v);
    variance[i] = t.sigma * t.sigma;
  }
  const Eigen::Matrix3d inverse = rows.inverse();
  const Eigen::Matrix3d covariance = inverse * variance.asDiagonal() * inverse.transpose();
  primary.u_offset = 2 * std::sqrt(covariance(0, 0));
  primary.u_angle = fit::expanded_length(covariance.bottomRightCorner<2, 2>());

  Vec3 along = b2.point - b1.point;
  along -= along.dot(up) * up;
  if (!(along.norm() > 0.03 * longest))
    return Error{ErrorCode::Degenerate,
                 "B1 and B2 lie too near each other across the primary: the turn about its normal "
                 "stays open. Move them apart."};
  auto on_secondary =
      plane_at(up.cross(along).normalized(), 0.5 * (b1.point + b2.point), targets, 3, 2);
  if (!on_secondary) return on_secondary.error();
  fit::SurfaceFit& secondary = planes[1] = *on_secondary;
  secondary.u_offset = std::hypot(b1.sigma, b2.sigma);
  secondary.u_angle =
      std::hypot(2 * std::hypot(b1.sigma, b2.sigma) / along.norm(), primary.u_angle);

  auto on_tertiary =
      plane_at(up.cross(secondary.surface.axis).normalized(), c1.point, targets, 5, 1);
  if (!on_tertiary) return on_tertiary.error();
  fit::SurfaceFit& tertiary = planes[2] = *on_tertiary;
  tertiary.u_offset = 2 * c1.sigma;
  tertiary.u_angle = secondary.u_angle;
  return planes;
}

}  // namespace lostline::datum
