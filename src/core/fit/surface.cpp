#include "fit/surface.h"

#include <cmath>

#include "fit/surface_kernels.h"

namespace lostline::fit {
namespace {

/// From the circle in a torus's middle to the point.
Vec3 off_ring(const Surface& s, const Vec3& d) {
  Vec3 radial = d - d.dot(s.axis) * s.axis;
  const double rho = radial.norm();
  radial = rho > 1e-12 ? Vec3(radial / rho) : any_perpendicular(s.axis);
  return d - s.radius * radial;
}

}  // namespace

Vec2 foot_on_ellipse(double a, double b, const Vec2& p) {
  // In the first quadrant by Newton's method on the angle of the osculating circle's centre.
  const Vec2 q = p.cwiseAbs();
  Vec2 t(0.70710678, 0.70710678);
  for (int i = 0; i < 6; ++i) {
    const Vec2 at(a * t.x(), b * t.y());
    const double e = a * a - b * b;
    const Vec2 centre(e * std::pow(t.x(), 3) / a, -e * std::pow(t.y(), 3) / b);
    const double r = (at - centre).norm();
    const Vec2 to = q - centre;
    const double size = std::max(to.norm(), 1e-300);
    t = Vec2((to.x() * r / size + centre.x()) / a, (to.y() * r / size + centre.y()) / b);
    t = t.cwiseMax(0.0).cwiseMin(1.0);
    t.normalize();
  }
  return {std::copysign(a * t.x(), p.x()), std::copysign(b * t.y(), p.y())};
}

double Surface::distance(const Vec3& p) const {
  const Vec3 d = p - point;
  const double z = d.dot(axis);
  double outward = 0;
  const bool bounds = with_surface(
      kind, [&]<Kind kKind>() { outward = slopes_at<kKind>(Numbers(*this), d, z).distance; });
  if (bounds) return hollow && !is_flat(kind) ? -outward : outward;
  if (kind == Kind::Line) return (d - z * axis).norm();
  if (kind == Kind::Circle) return off_ring(*this, d).norm();
  if (kind == Kind::Point) return d.norm();
  const Vec2 flat(d.dot(major), d.dot(axis.cross(major)));
  return std::hypot((flat - foot_on_ellipse(radius, minor_radius, flat)).norm(), z);
}

Vec3 Surface::normal_at(const Vec3& p) const {
  const Vec3 d = p - point;
  Vec3 outward = axis;
  const bool bounds = with_surface(kind, [&]<Kind kKind>() {
    outward = slopes_at<kKind>(Numbers(*this), d, d.dot(axis)).outward;
  });
  if (!bounds) {
    outward = kind == Kind::Point ? d : off_ring(*this, d);
    const double size = outward.norm();
    outward = size > 1e-12 ? Vec3(outward / size) : axis;
  }
  return hollow && !is_flat(kind) ? Vec3(-outward) : outward;
}

Vec3 Surface::apex() const { return point - axis * (radius / std::tan(half_angle)); }

double angle_between(const Vec3& a, const Vec3& b) {
  return std::atan2(a.cross(b).norm(), std::abs(a.dot(b)));
}

Surface transformed(const Surface& surface, const Transform& rigid) {
  Surface result = surface;
  result.point = rigid * surface.point;
  result.axis = (rigid.linear() * surface.axis).normalized();
  result.major = (rigid.linear() * surface.major).normalized();
  return result;
}

}  // namespace lostline::fit
