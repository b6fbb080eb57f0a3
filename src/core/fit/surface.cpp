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
  }
  return hollow ? -outward : outward;
}

Vec3 Surface::normal_at(const Vec3& p) const {
  if (kind == Kind::Plane) return axis;
  const Vec3 d = p - point;
  Vec3 outward;
  if (kind == Kind::Sphere || kind == Kind::Torus || kind == Kind::Circle) {
    outward = kind == Kind::Sphere ? d : off_ring(*this, d);
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
  }
  return "";
}

bool is_curve(Kind kind) { return kind == Kind::Line || kind == Kind::Circle; }

bool has_direction(Kind kind) { return kind != Kind::Sphere; }

double angle_between(const Vec3& a, const Vec3& b) {
  return std::atan2(a.cross(b).norm(), std::abs(a.dot(b)));
}

Surface transformed(const Surface& surface, const Transform& rigid) {
  Surface result = surface;
  result.point = rigid * surface.point;
  result.axis = (rigid.linear() * surface.axis).normalized();
  return result;
}

}  // namespace lostline::fit
