#include "project/stated.h"

#include <numbers>

#include "sketch/curve_kind.h"

namespace lostline::project {

bool states_diameter(const sketch::Sketch& sketch, const sketch::Constraint& c, bool turned) {
  if (c.type == sketch::ConstraintType::Radius) {
    const sketch::Entity* e = sketch.find_entity(c.first);
    return sketch::has_radius(e) && !sketch::kind_of(*e).has_ends();
  }
  return turned && c.type == sketch::ConstraintType::Distance &&
         (c.first == sketch::kYAxis || c.second == sketch::kYAxis);
}

double stated_factor(const sketch::Sketch& sketch, const sketch::Constraint& c, bool turned) {
  if (c.type == sketch::ConstraintType::Angle) return 180 / std::numbers::pi;
  return states_diameter(sketch, c, turned) ? 2 : 1;
}

}  // namespace lostline::project
