#include "sketch/curves/kinds.h"
#include "sketch/terms.h"

namespace lostline::sketch {
namespace {

class Line final : public CurveKind {
 public:
  [[nodiscard]] EntityType type() const override { return EntityType::Line; }
  [[nodiscard]] const char* key() const override { return "line"; }
  [[nodiscard]] bool has_ends() const override { return true; }
  [[nodiscard]] bool has_centre() const override { return false; }
  [[nodiscard]] bool has_radius() const override { return false; }
  [[nodiscard]] bool straight() const override { return true; }

  [[nodiscard]] std::unique_ptr<PlaneCurve> placed(const Sketch& s,
                                                   const Entity& e) const override {
    return straight_piece(s.position(e.a), s.position(e.b));
  }
  [[nodiscard]] Jet distance(Terms& t, const Entity& e, const JetPoint& p) const override {
    return signed_distance(p, t.line(e.id));
  }
  [[nodiscard]] JetPoint direction(Terms& t, const Entity& e, Id) const override {
    return t.point(e.b) - t.point(e.a);
  }
  [[nodiscard]] bool has_curvature() const override { return true; }
  [[nodiscard]] std::optional<Jet> curvature(Terms&, const Entity&, Id) const override {
    return Jet{};
  }

  [[nodiscard]] Entity piece(const Entity&, Id a, Id b) const override {
    return {0, EntityType::Line, a, b, 0, 0};
  }
  [[nodiscard]] std::optional<ConstraintType> alike() const override {
    return ConstraintType::Parallel;
  }
  [[nodiscard]] Entity mirrored(const Entity& e, const std::function<Id(Id)>& twin) const override {
    const Id a = twin(e.a);
    return {0, EntityType::Line, a, twin(e.b), 0, 0};
  }
  [[nodiscard]] Result<Entity> offset(const Sketch& s, const Entity& e, double left,
                                      Sketch& into) const override {
    const auto curve = placed(s, e);
    const Vec2 d = curve->direction(0);
    const Vec2 n(-d.y(), d.x());
    const Id a = into.add_point(curve->start() + left * n);
    return *into.find_entity(into.add_line(a, into.add_point(curve->end() + left * n)));
  }
  bool add_beside(Sketch& s, const Entity& original, const Entity&, Id a, Id b, bool measure,
                  bool) const override {
    const Id original_id = original.id;
    const Id line = s.add_line(a, b);
    s.add_constraint(ConstraintType::Parallel, original_id, line);
    if (measure) s.add_constraint(ConstraintType::Distance, original_id, line);
    return measure;
  }
};

}  // namespace

const CurveKind& line_kind() {
  static const Line kind;
  return kind;
}

}  // namespace lostline::sketch
