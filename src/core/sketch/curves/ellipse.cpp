#include <cmath>

#include "sketch/curves/kinds.h"
#include "sketch/terms.h"

namespace lostline::sketch {
namespace {

/// An ellipse about a centre with the ends of its axes as points: the second axis is square to the
/// first.
class EllipseKind : public CurveKind {
 public:
  [[nodiscard]] bool has_centre() const override { return true; }
  [[nodiscard]] bool has_radius() const override { return false; }
  [[nodiscard]] bool complete(const Entity& e) const override {
    return e.poles.size() == 2 && e.knots.empty();
  }

  [[nodiscard]] std::unique_ptr<PlaneCurve> placed(const Sketch& s,
                                                   const Entity& e) const override {
    EllipticForm form;
    form.centre = s.position(e.centre);
    const Vec2 major = s.position(e.poles[0]) - form.centre;
    form.major = std::max(major.norm(), 1e-12);
    form.axis = major / form.major;
    form.minor = std::max((s.position(e.poles[1]) - form.centre).norm(), 1e-12);
    form.sweep = kTurn;
    if (!has_ends()) return elliptic_piece(form);
    const auto whole = elliptic_piece(form);
    form.start = whole->parameter(s.position(e.a));
    form.sweep = whole->parameter(s.position(e.b)) - form.start;
    if (form.sweep <= 0) form.sweep += kTurn;
    return elliptic_piece(form);
  }
  [[nodiscard]] int tie_count(const Entity&) const override { return has_ends() ? 3 : 1; }
  [[nodiscard]] std::vector<Jet> ties(Terms& t, const Entity& e) const override {
    const JetPoint u = t.point(e.poles[0]) - t.centre(e);
    const JetPoint v = t.point(e.poles[1]) - t.centre(e);
    std::vector<Jet> all{dot(u, v) / length(u)};
    if (!has_ends()) return all;
    all.push_back(distance(t, e, t.point(e.a)));
    all.push_back(distance(t, e, t.point(e.b)));
    return all;
  }
  /// Along the normal at the foot; the foot's parameter need not follow, since the curve there runs
  /// across that normal.
  [[nodiscard]] Jet distance(Terms& t, const Entity& e, const JetPoint& p) const override {
    const JetPoint c = t.centre(e);
    const JetPoint u = t.point(e.poles[0]) - c;
    const JetPoint v = t.point(e.poles[1]) - c;
    const Foot f = foot(u, v, {p.x.v - c.x.v, p.y.v - c.y.v});
    const double co = std::cos(f.t);
    const double si = std::sin(f.t);
    const Jet dx = p.x - c.x - co * u.x - f.side * si * v.x;
    const Jet dy = p.y - c.y - co * u.y - f.side * si * v.y;
    return f.normal.x() * dx + f.normal.y() * dy;
  }
  [[nodiscard]] JetPoint direction(Terms& t, const Entity& e, Id end) const override {
    const JetPoint c = t.centre(e);
    const JetPoint u = t.point(e.poles[0]) - c;
    const JetPoint v = t.point(e.poles[1]) - c;
    const JetPoint p = t.point(end);
    // Square to the gradient of (d u)^2 / |u|^4 + (d v)^2 / |v|^4, at what the end is now.
    const JetPoint d = p - c;
    const Jet a = dot(d, u) / (dot(u, u) * dot(u, u));
    const Jet b = dot(d, v) / (dot(v, v) * dot(v, v));
    const Jet gx = a * u.x + b * v.x;
    const Jet gy = a * u.y + b * v.y;
    return {-1 * gy, gx};
  }

  [[nodiscard]] Entity piece(const Entity& whole, Id a, Id b) const override {
    return {0, EntityType::EllipseArc, a, b, whole.centre, 0, whole.poles};
  }
  [[nodiscard]] Entity mirrored(const Entity& e, const std::function<Id(Id)>& twin) const override {
    // Mirrored, an arc runs the other way round.
    Entity m{0, e.type, 0, 0, twin(e.centre)};
    if (has_ends()) {
      m.a = twin(e.b);
      m.b = twin(e.a);
    }
    m.poles = {twin(e.poles[0]), twin(e.poles[1])};
    return m;
  }

 private:
  struct Foot {
    double t;
    double side;  ///< 1 where the minor axis lies left of the major one
    Vec2 normal;  ///< outward
  };
  static Foot foot(const JetPoint& u, const JetPoint& v, const Vec2& d) {
    const Vec2 major(u.x.v, u.y.v);
    const double a = std::max(major.norm(), 1e-12);
    const double b = std::max(std::hypot(v.x.v, v.y.v), 1e-12);
    const Vec2 axis = major / a;
    const Vec2 left(-axis.y(), axis.x());
    Foot f{};
    f.side = left.x() * v.x.v + left.y() * v.y.v < 0 ? -1 : 1;
    f.t = section::ellipse_parameter(a, b, {axis.dot(d), left.dot(d)});
    f.normal = (std::cos(f.t) / a * axis + std::sin(f.t) / b * left).normalized();
    return f;
  }
};

class WholeEllipse final : public EllipseKind {
 public:
  [[nodiscard]] EntityType type() const override { return EntityType::Ellipse; }
  [[nodiscard]] const char* key() const override { return "ellipse"; }
  [[nodiscard]] bool has_ends() const override { return false; }
};

class EllipseArc final : public EllipseKind {
 public:
  [[nodiscard]] EntityType type() const override { return EntityType::EllipseArc; }
  [[nodiscard]] const char* key() const override { return "ellipse arc"; }
  [[nodiscard]] bool has_ends() const override { return true; }
};

}  // namespace

const CurveKind& ellipse_kind() {
  static const WholeEllipse kind;
  return kind;
}
const CurveKind& ellipse_arc_kind() {
  static const EllipseArc kind;
  return kind;
}

}  // namespace lostline::sketch
