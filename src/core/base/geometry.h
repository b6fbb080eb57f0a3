#pragma once

#include <Eigen/Core>
#include <Eigen/Geometry>
#include <cmath>
#include <numbers>

namespace lostline {

using Vec2 = Eigen::Vector2d;
using Vec3 = Eigen::Vector3d;
/// A rigid motion, possibly with a uniform scale when a unit is settled.
using Transform = Eigen::Affine3d;

/// Axis-aligned box in mm; `empty()` until a point is added.
using Box3 = Eigen::AlignedBox3d;

constexpr double kPi = std::numbers::pi;
constexpr double kTurn = 2 * kPi;       ///< a full turn, rad
constexpr double kDegree = kPi / 180;   ///< one degree, rad
constexpr double kDegrees = 180 / kPi;  ///< one radian, degrees

/// The same angle from 0 to a full turn, rad.
inline double wrapped(double angle) {
  angle = std::fmod(angle, kTurn);
  return angle < 0 ? angle + kTurn : angle;
}

/// The third component of the cross product of two vectors of a plane.
inline double cross(const Vec2& a, const Vec2& b) { return a.x() * b.y() - a.y() * b.x(); }

/// The vector turned by a quarter to the left.
inline Vec2 left_of(const Vec2& d) { return {-d.y(), d.x()}; }

/// A unit vector perpendicular to the unit vector `n`; continuous except near one direction.
inline Vec3 any_perpendicular(const Vec3& n) {
  const Vec3 helper = std::abs(n.x()) < 0.6 ? Vec3::UnitX() : Vec3::UnitY();
  return n.cross(helper).normalized();
}

/// A plane with a 2D frame in it: point(u, v) = origin + u x + v y; right-handed with `normal`.
struct Placement {
  Vec3 origin = Vec3::Zero();
  Vec3 x = Vec3::UnitX();
  Vec3 y = Vec3::UnitY();
  Vec3 normal = Vec3::UnitZ();

  [[nodiscard]] Vec3 to_space(const Vec2& p, double level = 0.0) const {
    return origin + p.x() * x + p.y() * y + level * normal;
  }
  [[nodiscard]] Vec2 to_plane(const Vec3& p) const {
    const Vec3 d = p - origin;
    return {d.dot(x), d.dot(y)};
  }
  [[nodiscard]] double level_of(const Vec3& p) const { return (p - origin).dot(normal); }
  [[nodiscard]] Placement shifted(double level) const {
    Placement moved = *this;
    moved.origin += level * normal;
    return moved;
  }
};

/// A frame in the plane through `origin` with unit `normal`; x as close to a coordinate axis as the
/// plane allows.
Placement placement_on(const Vec3& origin, const Vec3& normal);

}  // namespace lostline
