#pragma once

#include <Eigen/Core>
#include <algorithm>
#include <cmath>
#include <type_traits>

#include "fit/surface.h"

// Distance from the unbounded surfaces and its slopes, once for every use: signed distances,
// normals, fits and comparisons with a model are made from these.

namespace lostline::fit {

/// Distance outward of a point from a surface (the material taken to lie inside), in terms of where
/// the point lies along the axis (z) and across it (rho), and its derivatives. Of one point
/// (double), or of many side by side (an array of Eigen); then what is the same for all points is
/// one number.
template <class T, class Slope = T, class Last = T>
struct ProfileSlopes {
  T distance;
  Slope by_z;
  Slope by_rho;
  Slope by_radius;
  Last by_last;  ///< by the half angle of a cone, or the minor radius of a torus
};
template <Kind kKind, class T>
using ProfileSlopesOf =
    ProfileSlopes<T, std::conditional_t<kKind == Kind::Sphere || kKind == Kind::Torus, T, double>,
                  std::conditional_t<kKind == Kind::Cone, T, double>>;

/// The same at one point, with the directions in space.
struct Slopes : ProfileSlopes<double> {
  Vec3 radial = Vec3::Zero();    ///< unit, away from the axis
  Vec3 outward = Vec3::UnitZ();  ///< unit normal at the foot
};

/// The numbers of a surface as the kernels take them.
struct Numbers {
  Vec3 axis;
  double radius;
  double cosine, sine;  ///< of the half angle
  double minor;

  explicit Numbers(const Surface& s)
      : axis(s.axis),
        radius(s.radius),
        cosine(std::cos(s.half_angle)),
        sine(std::sin(s.half_angle)),
        minor(s.minor_radius) {}
  Numbers(const Vec3& axis_, double radius_, double half_angle, double minor_)
      : axis(axis_),
        radius(radius_),
        cosine(std::cos(half_angle)),
        sine(std::sin(half_angle)),
        minor(minor_) {}
};

[[gnu::always_inline]] inline double at_least(double value, double least) {
  return std::max(value, least);
}
template <class Derived>
[[gnu::always_inline]] inline auto at_least(const Eigen::ArrayBase<Derived>& value, double least) {
  return value.max(least);
}
[[gnu::always_inline]] inline void fill(double& value, double with) { value = with; }
template <class Derived>
[[gnu::always_inline]] inline void fill(Eigen::ArrayBase<Derived>& value, double with) {
  value.setConstant(with);
}

/// @param z    of the points along the axis, from the surface's own point.
/// @param rho  away from it; not looked at for a plane.
template <Kind kKind, class T>
[[gnu::always_inline]] inline void profile_slopes(const Numbers& n, const T& z, const T& rho,
                                                  ProfileSlopesOf<kKind, T>& s) {
  using std::sqrt;
  if constexpr (kKind == Kind::Plane) {
    s.distance = z;
    s.by_z = 1;
    s.by_rho = s.by_radius = s.by_last = 0;
  } else if constexpr (kKind == Kind::Sphere || kKind == Kind::Torus) {
    // A circle in the half-plane about the axis; the sphere's about a place on the axis.
    const T off = rho - (kKind == Kind::Torus ? n.radius : 0.0);
    const T size = at_least(sqrt(off * off + z * z), 1e-12);
    s.distance = size - (kKind == Kind::Torus ? n.minor : n.radius);
    s.by_rho = off / size;
    s.by_z = z / size;
    if constexpr (kKind == Kind::Torus) {
      s.by_radius = -s.by_rho;
      s.by_last = -1;
    } else {
      fill(s.by_radius, -1);
      s.by_last = 0;
    }
  } else if constexpr (kKind == Kind::Cylinder) {
    s.distance = rho - n.radius;
    s.by_rho = 1;
    s.by_radius = -1;
    s.by_z = s.by_last = 0;
  } else {
    static_assert(kKind == Kind::Cone);
    s.distance = (rho - n.radius) * n.cosine - z * n.sine;
    s.by_rho = n.cosine;
    s.by_z = -n.sine;
    s.by_radius = -n.cosine;
    s.by_last = (n.radius - rho) * n.sine - z * n.cosine;
  }
}

/// @param d  the point, from the surface's own point.
/// @param z  d along the axis.
template <Kind kKind>
[[gnu::always_inline]] inline Slopes slopes_at(const Numbers& n, const Vec3& d, double z) {
  Slopes s;
  double rho = 0;
  if constexpr (kKind != Kind::Plane) {
    const Vec3 across = d - z * n.axis;
    rho = across.norm();
    s.radial = rho > 1e-12 ? Vec3(across / rho) : any_perpendicular(n.axis);
  }
  profile_slopes<kKind, double>(n, z, rho, s);
  s.outward = s.by_rho * s.radial + s.by_z * n.axis;
  return s;
}

/// Calls `use.template operator()<kKind>()` for one of the kinds that bound material; false for a
/// curve or point.
template <class Use>
bool with_surface(Kind kind, const Use& use) {
  switch (kind) {
    case Kind::Plane:
      use.template operator()<Kind::Plane>();
      return true;
    case Kind::Cylinder:
      use.template operator()<Kind::Cylinder>();
      return true;
    case Kind::Cone:
      use.template operator()<Kind::Cone>();
      return true;
    case Kind::Sphere:
      use.template operator()<Kind::Sphere>();
      return true;
    case Kind::Torus:
      use.template operator()<Kind::Torus>();
      return true;
    case Kind::Line:
    case Kind::Circle:
    case Kind::Ellipse:
    case Kind::Point:
      return false;
  }
  return false;
}

}  // namespace lostline::fit
