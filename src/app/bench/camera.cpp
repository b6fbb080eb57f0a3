#include "bench/camera.h"

#include <algorithm>
#include <cmath>

namespace lostline::app {
namespace {

// Pixels per mm: a part of 60 m in a window, a hair filling it.
constexpr double kLeastScale = 0.01;
constexpr double kMostScale = 5000;

}  // namespace

void Camera::orbit(double dx, double dy, const Vec3& pivot) {
  const Vec3 seen = rotation * (pivot - target);
  // About the part's z and the screen's x: upright stays upright.
  const Eigen::AngleAxisd turn(dx * 0.008, Vec3::UnitZ());
  const Eigen::AngleAxisd tilt(dy * 0.008, Vec3::UnitX());
  rotation = (Eigen::Quaterniond(tilt) * rotation * Eigen::Quaterniond(turn)).normalized();
  target = pivot - rotation.conjugate() * seen;
}

void Camera::pan(double dx, double dy) {
  target += rotation.conjugate() * Vec3(-dx / scale, dy / scale, 0);
}

void Camera::zoom(double factor, const QPointF& at) {
  const double next = std::clamp(scale * factor, kLeastScale, kMostScale);
  const Vec3 off(at.x() - size.width() / 2, size.height() / 2 - at.y(), 0);
  target += rotation.conjugate() * Vec3(off * (1 / scale - 1 / next));
  scale = next;
}

void Camera::zoomTo(const QRectF& box) {
  if (box.width() < 2 || box.height() < 2) return;
  pan(size.width() / 2 - box.center().x(), size.height() / 2 - box.center().y());
  scale = std::clamp(scale * std::min(size.width() / box.width(), size.height() / box.height()),
                     kLeastScale, kMostScale);
}

void Camera::follow(const Transform& motion) {
  target = motion * target;
  rotation = (rotation * Eigen::Quaterniond(motion.linear()).conjugate()).normalized();
}

void Camera::fit(const Box3& box) {
  if (box.isEmpty()) return;
  target = box.center();
  Eigen::AlignedBox2d flat;
  for (int corner = 0; corner < 8; ++corner) {
    const Vec3 p = rotation * (box.corner(static_cast<Box3::CornerType>(corner)) - target);
    flat.extend(Vec2(p.x(), p.y()));
  }
  const double width = std::max(flat.sizes().x(), 1e-6);
  const double height = std::max(flat.sizes().y(), 1e-6);
  constexpr double kFree = 120;  // pixels: the sheet's edge and some air on both sides
  scale = std::min(std::max(100.0, size.width() - kFree) / width,
                   std::max(100.0, size.height() - kFree) / height);
  scale = std::clamp(scale, kLeastScale, kMostScale);
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
