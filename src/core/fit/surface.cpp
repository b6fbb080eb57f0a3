#include "fit/surface.h"

#include <cmath>

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
  switch (kind) {
    case Kind::Plane:
      return z;
    case Kind::Cylinder:
      outward = (d - z * axis).norm() - radius;
      break;
    case Kind::Cone:
      outward = ((d - z * axis).norm() - radius) * std::cos(half_angle) - z * std::sin(half_angle);
      break;
    case Kind::Sphere:
      outward = d.norm() - radius;
      break;
    case Kind::Torus:
      outward = off_ring(*this, d).norm() - minor_radius;
      break;
    case Kind::Line:
      return (d - z * axis).norm();
    case Kind::Circle:
      return off_ring(*this, d).norm();
    case Kind::Ellipse: {
      const Vec2 flat(d.dot(major), d.dot(axis.cross(major)));
      return std::hypot((flat - foot_on_ellipse(radius, minor_radius, flat)).norm(), z);
    }
    case Kind::Point:
      return d.norm();
  }
  return hollow ? -outward : outward;
}

Vec3 Surface::normal_at(const Vec3& p) const {
  if (kind == Kind::Plane) return axis;
  const Vec3 d = p - point;
  Vec3 outward;
  if (kind == Kind::Sphere || kind == Kind::Torus || is_curve(kind) || kind == Kind::Point) {
    outward = kind == Kind::Sphere || kind == Kind::Point ? d : off_ring(*this, d);
    const double size = outward.norm();
    outward = size > 1e-12 ? Vec3(outward / size) : axis;
  } else {
    Vec3 radial = d - d.dot(axis) * axis;
    const double rho = radial.norm();
    radial = rho > 1e-12 ? Vec3(radial / rho) : any_perpendicular(axis);
    outward = std::cos(half_angle) * radial - std::sin(half_angle) * axis;
  }
  return hollow ? Vec3(-outward) : outward;
}

Vec3 Surface::apex() const { return point - axis * (radius / std::tan(half_angle)); }

const char* kind_name(Kind kind) {
  switch (kind) {
    case Kind::Plane:
      return "plane";
    case Kind::Cylinder:
      return "cylinder";
    case Kind::Cone:
      return "cone";
    case Kind::Sphere:
      return "sphere";
    case Kind::Torus:
      return "torus";
    case Kind::Line:
      return "line";
    case Kind::Circle:
      return "circle";
    case Kind::Ellipse:
      return "ellipse";
    case Kind::Point:
      return "point";
  }
  return "";
}

bool is_curve(Kind kind) {
  return kind == Kind::Line || kind == Kind::Circle || kind == Kind::Ellipse;
}

bool has_direction(Kind kind) { return kind != Kind::Sphere && kind != Kind::Point; }

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
