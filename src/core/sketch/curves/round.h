#pragma once

#include "sketch/curves/kinds.h"
#include "sketch/terms.h"

namespace lostline::sketch {

/// What arcs and circles share: a centre and a radius.
class RoundKind : public CurveKind {
 public:
  [[nodiscard]] bool has_centre() const override { return true; }
  [[nodiscard]] bool has_radius() const override { return true; }

  [[nodiscard]] Jet distance(Terms& t, const Entity& e, const JetPoint& p) const override {
    return length(p - t.centre(e)) - t.radius(e);
  }
  [[nodiscard]] Entity piece(const Entity& whole, Id a, Id b) const override {
    return {0, EntityType::Arc, a, b, whole.centre, whole.radius};
  }
  [[nodiscard]] std::optional<ConstraintType> alike() const override { return ConstraintType::Equal; }

 protected:
  /// @errors InvalidInput  a distance that leaves no radius.
  [[nodiscard]] static Result<double> radius_beside(const Sketch& s, const Entity& e,
                                                    double outward) {
    const double radius = e.radius + outward;
    if (radius > 1e-6) return radius;
    return Error{ErrorCode::InvalidInput,
                 "The distance is larger than the radius of " + name_of(s, e.id) + "."};
  }
};

}  // namespace lostline::sketch
