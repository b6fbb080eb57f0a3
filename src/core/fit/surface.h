#pragma once

#include <string>
#include <vector>

#include "base/geometry.h"

namespace lostline::fit {

/// Surfaces, and two curves of space that stand in for their axis: a line, a circle.
enum class Kind { Plane, Cylinder, Cone, Sphere, Torus, Line, Circle };

/// An unbounded analytic surface or curve, lengths in mm and angles in rad.
struct Surface {
  Kind kind = Kind::Plane;
  /// On the plane or line; on the axis of a cylinder or cone; centre of a sphere, torus or circle.
  Vec3 point = Vec3::Zero();
  /// Unit normal of a plane, pointing out of the material, or of a circle's plane; unit axis else;
  /// no meaning for a sphere.
  Vec3 axis = Vec3::UnitZ();
  /// Of a cylinder, sphere or circle; of a cone at `point`; major one of a torus.
  double radius = 0;
  double half_angle = 0;    ///< of a cone: the radius grows along `axis` by tan(half_angle)
  double minor_radius = 0;  ///< of a torus: that of its tube
  /// Material lies outside the radius (of a torus: outside the tube): a bore, not a boss.
  bool hollow = false;

  /// Signed distance, positive out of the material; of a line or circle the distance.
  [[nodiscard]] double distance(const Vec3& p) const;
  /// Unit normal out of the material at the foot of `p`.
  [[nodiscard]] Vec3 normal_at(const Vec3& p) const;
  [[nodiscard]] Vec3 apex() const;  ///< of a cone
};

const char* kind_name(Kind kind);  ///< "plane", "cylinder", "cone", "sphere", "torus", "line" …
bool is_curve(Kind kind);          ///< a line or a circle
/// Whether the surface has a direction: a normal or an axis. A sphere has none.
bool has_direction(Kind kind);

/// Unsigned angle between two directions without sense, 0..pi/2, accurate near 0.
double angle_between(const Vec3& a, const Vec3& b);

/// The surface after a rigid motion.
Surface transformed(const Surface& surface, const Transform& rigid);

}  // namespace lostline::fit
