#include "fit/surface.h"

#include <cmath>

namespace lostline::fit {

double Surface::distance(const Vec3& p) const {
  const Vec3 d = p - point;
  if (kind == Kind::Plane) return d.dot(axis);
  const double z = d.dot(axis);
  const double rho = (d - z * axis).norm();
  const double outward = kind == Kind::Cylinder
                             ? rho - radius
                             : (rho - radius) * std::cos(half_angle) - z * std::sin(half_angle);
  return hollow ? -outward : outward;
}

Vec3 Surface::normal_at(const Vec3& p) const {
  if (kind == Kind::Plane) return axis;
  const Vec3 d = p - point;
  Vec3 radial = d - d.dot(axis) * axis;
  const double rho = radial.norm();
  radial = rho > 1e-12 ? Vec3(radial / rho) : any_perpendicular(axis);
  const Vec3 outward = std::cos(half_angle) * radial - std::sin(half_angle) * axis;
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
  }
  return "";
}

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
