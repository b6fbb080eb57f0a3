#include "base/geometry.h"

namespace lostline {

Placement placement_on(const Vec3& origin, const Vec3& normal) {
  Placement result;
  result.origin = origin;
  result.normal = normal.normalized();
  // The coordinate axis that lies most nearly in the plane gives x, so that sections look the way
  // the part lies.
  Vec3 best = Vec3::UnitX();
  double smallest = 2.0;
  for (int axis = 0; axis < 3; ++axis) {
    const double along = std::abs(result.normal[axis]);
    if (along < smallest - 1e-9) {
      smallest = along;
      best = Vec3::Unit(axis);
    }
  }
  result.x = (best - result.normal * best.dot(result.normal)).normalized();
  result.y = result.normal.cross(result.x);
  return result;
}

}  // namespace lostline
