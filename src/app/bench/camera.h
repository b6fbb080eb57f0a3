#pragma once

#include <QPointF>
#include <QSizeF>

#include "base/geometry.h"

namespace lostline::app {

/// A parallel projection, as on a drawing: part coordinates to widget pixels.
class Camera {
 public:
  Vec3 target = Vec3::Zero();
  Eigen::Quaterniond rotation =
      Eigen::Quaterniond::Identity();  ///< part to eye; eye looks along -z, y up
  double scale = 4;                    ///< pixels per mm
  QSizeF size{800, 600};

  /// Turns about `pivot`, which stays where it is on the screen.
  void orbit(double dx, double dy, const Vec3& pivot);
  void pan(double dx, double dy);
  /// Zooms by a factor, keeping what is under `at`.
  void zoom(double factor, const QPointF& at);
  /// Fits a box into the view.
  void fit(const Box3& box);
  /// Zooms so that a box of the screen fills it.
  void zoomTo(const QRectF& box);
  /// What was drawn in part coordinates `p` is now at `motion * p`: the picture stays.
  void follow(const Transform& motion);
  /// Looks against `normal` with `up` upwards.
  void look(const Vec3& normal, const Vec3& up);

  [[nodiscard]] QPointF toScreen(const Vec3& p) const;
  /// Ray under a pixel: a point well before everything, and the direction of view.
  [[nodiscard]] Vec3 rayOrigin(const QPointF& at) const;
  [[nodiscard]] Vec3 viewDirection() const;
  [[nodiscard]] Eigen::Matrix4f matrix(double depth) const;
};

}  // namespace lostline::app
