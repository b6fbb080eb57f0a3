#pragma once

#include <string>
#include <vector>

#include "base/geometry.h"

namespace lostline::fit {

/// Surfaces; curves of space that stand in for their axis: a line, a circle, an ellipse; and a
/// point, which is constructed, never fitted.
enum class Kind { Plane, Cylinder, Cone, Sphere, Torus, Line, Circle, Ellipse, Point };

/// An unbounded analytic surface or curve, lengths in mm and angles in rad.
struct Surface {
  Kind kind = Kind::Plane;
  /// On the plane or line; on the axis of a cylinder or cone; centre of a sphere, torus or circle.
  Vec3 point = Vec3::Zero();
  /// Unit normal of a plane, pointing out of the material, or of a circle's or ellipse's plane;
  /// unit axis else; no meaning for a sphere or point.
  Vec3 axis = Vec3::UnitZ();
  /// Of a cylinder, sphere or circle; of a cone at `point`; major one of a torus or ellipse.
  double radius = 0;
  double half_angle = 0;       ///< of a cone: the radius grows along `axis` by tan(half_angle)
  double minor_radius = 0;     ///< of a torus: that of its tube; of an ellipse
  Vec3 major = Vec3::UnitX();  ///< of an ellipse: unit direction of its long axis, square to `axis`
  /// Material lies outside the radius (of a torus: outside the tube): a bore, not a boss.
  bool hollow = false;

  /// Signed distance, positive out of the material; of a line or circle the distance.
  [[nodiscard]] double distance(const Vec3& p) const;
  /// Unit normal out of the material at the foot of `p`.
  [[nodiscard]] Vec3 normal_at(const Vec3& p) const;
  [[nodiscard]] Vec3 apex() const;  ///< of a cone
};

const char* kind_name(Kind kind);  ///< "plane", "cylinder", "cone", "sphere", "torus", "line" …
bool is_curve(Kind kind);          ///< a line, a circle or an ellipse
/// Whether the surface has a direction: a normal or an axis. A sphere or a point has none.
bool has_direction(Kind kind);
bool is_flat(Kind kind);    ///< a plane: one level along its normal
bool is_turned(Kind kind);  ///< a straight line turned about an axis: a cylinder or a cone
bool has_centre(
    Kind kind);  ///< `point` fixes all three shifts: a sphere, torus, circle, ellipse, point

/// Nearest point of the ellipse with half axes `a` along x and `b` along y. Iterates over
/// the circles of curvature; within 1e-9 of the axes after six steps (checked against dense
/// sampling, no source).
Vec2 foot_on_ellipse(double a, double b, const Vec2& p);

/// Unsigned angle between two directions without sense, 0..pi/2, accurate near 0.
double angle_between(const Vec3& a, const Vec3& b);

/// The surface at a distance, positive out of the material. A radius may become negative: the
/// surface is then gone.
Surface at_distance(Surface surface, double distance);

/// The surface after a rigid motion.
Surface transformed(const Surface& surface, const Transform& rigid);

}  // namespace lostline::fit
