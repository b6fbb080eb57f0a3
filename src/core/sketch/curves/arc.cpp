#include <cmath>
#include <numbers>

#include "sketch/curves/round.h"

namespace lostline::sketch {
namespace {

class Arc final : public RoundKind {
 public:
  [[nodiscard]] EntityType type() const override { return EntityType::Arc; }
  [[nodiscard]] const char* key() const override { return "arc"; }
  [[nodiscard]] bool has_ends() const override { return true; }

  [[nodiscard]] std::unique_ptr<PlaneCurve> placed(const Sketch& s,
                                                   const Entity& e) const override {
    const Vec2 centre = s.position(e.centre);
    const Vec2 a = s.position(e.a) - centre;
    const Vec2 b = s.position(e.b) - centre;
    const double start = std::atan2(a.y(), a.x());
    double sweep = std::atan2(b.y(), b.x()) - start;
    if (sweep < 0) sweep += 2 * std::numbers::pi;
    return round_piece({centre, e.radius, start, sweep});
  }
  [[nodiscard]] int tie_count(const Entity&) const override { return 2; }
  [[nodiscard]] std::vector<Jet> ties(Terms& t, const Entity& e) const override {
    return {distance(t, e, t.point(e.a)), distance(t, e, t.point(e.b))};
  }
  [[nodiscard]] JetPoint direction(Terms& t, const Entity& e, Id end) const override {
    const JetPoint arm = t.point(end) - t.centre(e);
    return {-1 * arm.y, arm.x};
  }
  [[nodiscard]] bool has_curvature() const override { return true; }
  [[nodiscard]] std::optional<Jet> curvature(Terms& t, const Entity& e, Id) const override {
    Jet one;
    one.v = 1;
    return one / t.radius(e);
  }

  [[nodiscard]] Entity mirrored(const Entity& e, const std::function<Id(Id)>& twin) const override {
    // Mirrored, an arc runs the other way round.
    const Id centre = twin(e.centre);
    const Id a = twin(e.b);
    return {0, EntityType::Arc, a, twin(e.a), centre, e.radius};
  }
  [[nodiscard]] Result<Entity> offset(const Sketch& s, const Entity& e, double left,
                                      Sketch& into) const override {
    const auto radius = radius_beside(s, e, -left);  // counter-clockwise: left is inwards
    if (!radius) return radius.error();
    const Vec2 c = s.position(e.centre);
    const double share = *radius / e.radius;
    const Id centre = into.add_point(c);
    const Id a = into.add_point(c + share * (s.position(e.a) - c));
    const Id b = into.add_point(c + share * (s.position(e.b) - c));
    return *into.find_entity(into.add_arc(centre, a, b, *radius));
  }
  bool add_beside(Sketch& s, const Entity& original, const Entity& offset, Id a, Id b, bool measure,
                  bool alone) const override {
    const Id arc = s.add_arc(original.centre, a, b, offset.radius);
    if (!measure || !alone) return false;
    s.add_constraint(ConstraintType::Radius, arc);
    return true;
  }
};

}  // namespace

const CurveKind& arc_kind() {
  static const Arc kind;
  return kind;
}

}  // namespace lostline::sketch
