#pragma once

#include <algorithm>
#include <cmath>

#include "fit/surface.h"

// Distance from the unbounded surfaces and its slopes, once for every use: signed distances,
// normals, fits and comparisons with a model are made from these.

namespace lostline::fit {

/// Distance outward of a point from a surface (the material taken to lie inside), in terms of where
/// the point lies along the axis (z) and across it (rho), and its derivatives.
struct Slopes {
  double distance = 0;
  double by_z = 1;
  double by_rho = 0;
  double by_radius = -1;
  double by_last = 0;            ///< by the half angle of a cone, or the minor radius of a torus
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

/// @param d  the point, from the surface's own point.
/// @param z  d along the axis.
template <Kind kKind>
[[gnu::always_inline]] inline Slopes slopes_at(const Numbers& n, const Vec3& d, double z) {
  Slopes s;
  if constexpr (kKind == Kind::Plane) {
    s.distance = z;
    s.outward = n.axis;
  } else if constexpr (kKind == Kind::Sphere) {
    const double size = d.norm();
    s.distance = size - n.radius;
    s.outward = size > 1e-12 ? Vec3(d / size) : n.axis;
  } else {
    const Vec3 across = d - z * n.axis;
    const double rho = across.norm();
    s.radial = rho > 1e-12 ? Vec3(across / rho) : any_perpendicular(n.axis);
    if constexpr (kKind == Kind::Torus) {
      const double off = rho - n.radius;
      const double q = std::max(std::sqrt(off * off + z * z), 1e-12);
      s.distance = q - n.minor;
      s.by_rho = off / q;
      s.by_z = z / q;
      s.by_radius = -s.by_rho;
      s.by_last = -1;
      s.outward = s.by_rho * s.radial + s.by_z * n.axis;
    } else if constexpr (kKind == Kind::Cylinder) {
      s.distance = rho - n.radius;
      s.by_rho = 1;
      s.by_z = 0;
      s.outward = s.radial;
    } else {
      static_assert(kKind == Kind::Cone);
      s.distance = (rho - n.radius) * n.cosine - z * n.sine;
      s.by_rho = n.cosine;
      s.by_z = -n.sine;
      s.by_radius = -n.cosine;
      s.by_last = -(rho - n.radius) * n.sine - z * n.cosine;
      s.outward = n.cosine * s.radial - n.sine * n.axis;
    }
  }
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
