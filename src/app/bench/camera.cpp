#include "bench/camera.h"

#include <algorithm>
#include <cmath>

namespace lostline::app {

void Camera::orbit(double dx, double dy) {
  // About the part's z and the screen's x: upright stays upright.
  const Eigen::AngleAxisd turn(dx * 0.008, Vec3::UnitZ());
  const Eigen::AngleAxisd tilt(dy * 0.008, Vec3::UnitX());
  rotation = (Eigen::Quaterniond(tilt) * rotation * Eigen::Quaterniond(turn)).normalized();
}

void Camera::pan(double dx, double dy) {
  target += rotation.conjugate() * Vec3(-dx / scale, dy / scale, 0);
}

void Camera::zoom(double factor, const QPointF& at) {
  const double next = std::clamp(scale * factor, 0.01, 5000.0);
  const Vec3 off(at.x() - size.width() / 2, size.height() / 2 - at.y(), 0);
  target += rotation.conjugate() * Vec3(off * (1 / scale - 1 / next));
  scale = next;
}

void Camera::fit(const Box3& box, double left_inset) {
  if (box.isEmpty()) return;
  target = box.center();
  Eigen::AlignedBox2d flat;
  for (int corner = 0; corner < 8; ++corner) {
    const Vec3 p = rotation * (box.corner(static_cast<Box3::CornerType>(corner)) - target);
    flat.extend(Vec2(p.x(), p.y()));
  }
  const double width = std::max(flat.sizes().x(), 1e-6);
  const double height = std::max(flat.sizes().y(), 1e-6);
  scale = std::min(
      std::max(100.0, size.width() - (left_inset > 0 ? 60 : 120) - 0.85 * left_inset) / width,
      (size.height() - 120) / height);
  scale = std::clamp(scale, 0.01, 5000.0);
  pan(0.42 * left_inset, 0);
}

void Camera::look(const Vec3& normal, const Vec3& up) {
  const Vec3 z = normal.normalized();
  const Vec3 x = up.cross(z).normalized();
  Eigen::Matrix3d rows;
  rows.row(0) = x.transpose();
  rows.row(1) = z.cross(x).transpose();
  rows.row(2) = z.transpose();
  rotation = Eigen::Quaterniond(rows);
}

QPointF Camera::toScreen(const Vec3& p) const {
  const Vec3 e = rotation * (p - target);
  return {size.width() / 2 + e.x() * scale, size.height() / 2 - e.y() * scale};
}

Vec3 Camera::viewDirection() const { return rotation.conjugate() * Vec3(0, 0, -1); }

Vec3 Camera::rayOrigin(const QPointF& at) const {
  const Vec3 eye((at.x() - size.width() / 2) / scale, (size.height() / 2 - at.y()) / scale, 1e4);
  return target + rotation.conjugate() * eye;
}

Eigen::Matrix4f Camera::matrix(double depth) const {
  Eigen::Matrix4d view = Eigen::Matrix4d::Identity();
  view.topLeftCorner<3, 3>() = rotation.toRotationMatrix();
  view.topRightCorner<3, 1>() = -(rotation * target);
  Eigen::Matrix4d projection = Eigen::Matrix4d::Identity();
  projection(0, 0) = 2 * scale / size.width();
  projection(1, 1) = 2 * scale / size.height();
  projection(2, 2) = -1 / depth;
  return (projection * view).cast<float>();
}

}  // namespace lostline::app
