#include <numbers>

#include "sketch/curves/round.h"

namespace lostline::sketch {
namespace {

class Circle final : public RoundKind {
 public:
  [[nodiscard]] EntityType type() const override { return EntityType::Circle; }
  [[nodiscard]] const char* key() const override { return "circle"; }
  [[nodiscard]] bool has_ends() const override { return false; }

  [[nodiscard]] std::unique_ptr<PlaneCurve> placed(const Sketch& s,
                                                   const Entity& e) const override {
    return round_piece({s.position(e.centre), e.radius, 0, 2 * std::numbers::pi});
  }
  [[nodiscard]] Entity mirrored(const Entity& e, const std::function<Id(Id)>& twin) const override {
    return {0, EntityType::Circle, 0, 0, twin(e.centre), e.radius};
  }
  [[nodiscard]] Result<Entity> offset(const Sketch& s, const Entity& e, double outward,
                                      Sketch& into) const override {
    const auto radius = radius_beside(s, e, outward);
    if (!radius) return radius.error();
    return *into.find_entity(into.add_circle(into.add_point(s.position(e.centre)), *radius));
  }
  bool add_beside(Sketch& s, const Entity& original, const Entity& offset, Id, Id, bool measure,
                  bool) const override {
    const Id circle = s.add_circle(original.centre, offset.radius);
    if (measure) s.add_constraint(ConstraintType::Radius, circle);
    return measure;
  }
};

}  // namespace

const CurveKind& circle_kind() {
  static const Circle kind;
  return kind;
}

}  // namespace lostline::sketch
