#include <algorithm>
#include <cmath>

#include "sketch/curves/kinds.h"
#include "sketch/terms.h"

namespace lostline::sketch {
namespace {

class SplineKind : public CurveKind {
 public:
  [[nodiscard]] bool has_centre() const override { return false; }
  [[nodiscard]] bool has_radius() const override { return false; }
  [[nodiscard]] bool complete(const Entity& e) const override {
    const std::size_t knots = has_ends() ? e.poles.size() + 4 : e.poles.size() + 1;
    return e.poles.size() >= (has_ends() ? 4U : 5U) && e.knots.size() == knots &&
           std::is_sorted(e.knots.begin(), e.knots.end()) && e.knots.back() > e.knots.front();
  }

  [[nodiscard]] std::unique_ptr<PlaneCurve> placed(const Sketch& s,
                                                   const Entity& e) const override {
    section::PlaneSpline whole = spline_of(e);
    for (std::size_t k = 0; k < e.poles.size(); ++k) whole.poles[k] = s.position(e.poles[k]);
    if (!has_ends() || uncut(e)) return spline_piece({whole});
    double from = whole.parameter(s.position(e.a));
    double to = whole.parameter(s.position(e.b));
    if (whole.closed && to <= from) to += whole.high() - whole.low();
    if (!(to - from > 1e-9 * (whole.high() - whole.low()))) {
      from = whole.low();
      to = whole.high();
    }
    return spline_piece({whole.between(from, to)});
  }
  [[nodiscard]] int tie_count(const Entity& e) const override {
    if (!has_ends()) return 0;
    return (e.a != e.poles.front() ? 1 : 0) + (e.b != e.poles.back() ? 1 : 0);
  }
  [[nodiscard]] std::vector<Jet> ties(Terms& t, const Entity& e) const override {
    std::vector<Jet> all;
    if (!has_ends()) return all;
    if (e.a != e.poles.front()) all.push_back(distance(t, e, t.point(e.a)));
    if (e.b != e.poles.back()) all.push_back(distance(t, e, t.point(e.b)));
    return all;
  }
  /// Along the normal at the foot, whose parameter need not follow.
  [[nodiscard]] Jet distance(Terms& t, const Entity& e, const JetPoint& p) const override {
    const section::PlaneSpline now = spline_now(t, e);
    const double at = now.parameter({p.x.v, p.y.v});
    const section::PlaneSpline::Local l = now.local(at);
    Jet x = p.x;
    Jet y = p.y;
    for (int k = 0; k < 4; ++k) {
      const JetPoint pole = t.point(e.poles[l.pole[k]]);
      x = x - l.value[k] * pole.x;
      y = y - l.value[k] * pole.y;
    }
    // Left of an open one, outside of a closed one.
    double area = 0;
    for (std::size_t k = 0; !has_ends() && k < now.poles.size(); ++k) {
      const Vec2& a = now.poles[k];
      const Vec2& b = now.poles[(k + 1) % now.poles.size()];
      area += a.x() * b.y() - a.y() * b.x();
    }
    const Vec2 along = (area > 0 ? -1 : 1) * now.slope(at).normalized();
    return -along.y() * x + along.x() * y;
  }
  [[nodiscard]] JetPoint direction(Terms& t, const Entity& e, Id end) const override {
    if (end == e.poles.front()) return t.point(e.poles[1]) - t.point(e.poles[0]);
    if (end == e.poles.back())
      return t.point(e.poles.back()) - t.point(e.poles[e.poles.size() - 2]);
    const section::PlaneSpline now = spline_now(t, e);
    const JetPoint p = t.point(end);
    const section::PlaneSpline::Local l = now.local(now.parameter({p.x.v, p.y.v}));
    JetPoint sum;
    for (int k = 0; k < 4; ++k) {
      const JetPoint pole = t.point(e.poles[l.pole[k]]);
      sum.x = sum.x + l.slope[k] * pole.x;
      sum.y = sum.y + l.slope[k] * pole.y;
    }
    return sum;
  }
  [[nodiscard]] bool has_curvature() const override { return true; }
  [[nodiscard]] std::optional<Jet> curvature(Terms& t, const Entity& e, Id end) const override {
    const section::PlaneSpline now = spline_now(t, e);
    const double at = end == e.poles.front()  ? now.low()
                      : end == e.poles.back() ? now.high()
                                              : now.parameter(t.place(end));
    const section::PlaneSpline::Local l = now.local(at);
    JetPoint slope;
    JetPoint bend;
    for (int k = 0; k < 4; ++k) {
      if (l.slope[k] == 0 && l.bend[k] == 0) continue;
      const JetPoint pole = t.point(e.poles[l.pole[k]]);
      slope = {slope.x + l.slope[k] * pole.x, slope.y + l.slope[k] * pole.y};
      bend = {bend.x + l.bend[k] * pole.x, bend.y + l.bend[k] * pole.y};
    }
    const Jet pace = length(slope);
    return cross(slope, bend) / (pace * pace * pace);
  }

  [[nodiscard]] Entity piece(const Entity& whole, Id a, Id b) const override {
    return {0, EntityType::Spline, a, b, 0, 0, whole.poles, whole.knots};
  }
  [[nodiscard]] Entity mirrored(const Entity& e, const std::function<Id(Id)>& twin) const override {
    Entity m{0, e.type};
    for (const Id pole : e.poles) m.poles.push_back(twin(pole));
    m.knots = e.knots;
    if (has_ends()) {
      m.a = twin(e.a);
      m.b = twin(e.b);
    }
    return m;
  }

 private:
  static bool uncut(const Entity& e) { return e.a == e.poles.front() && e.b == e.poles.back(); }
  /// The curve that the poles make, whichever way it is cut; its places are not set.
  static section::PlaneSpline spline_of(const Entity& e) {
    section::PlaneSpline s;
    s.knots = e.knots;
    s.closed = e.knots.size() == e.poles.size() + 1;
    s.poles.assign(e.poles.size(), Vec2::Zero());
    return s;
  }
  static section::PlaneSpline spline_now(Terms& t, const Entity& e) {
    section::PlaneSpline s = spline_of(e);
    for (std::size_t k = 0; k < e.poles.size(); ++k) s.poles[k] = t.place(e.poles[k]);
    return s;
  }
};

class OpenSpline final : public SplineKind {
 public:
  [[nodiscard]] EntityType type() const override { return EntityType::Spline; }
  [[nodiscard]] const char* key() const override { return "spline"; }
  [[nodiscard]] bool has_ends() const override { return true; }
  [[nodiscard]] bool complete(const Entity& e) const override {
    // A piece of a closed one has its knots.
    if (e.knots.size() != e.poles.size() + 1) return SplineKind::complete(e);
    return e.poles.size() >= 5 && std::is_sorted(e.knots.begin(), e.knots.end()) &&
           e.knots.back() > e.knots.front();
  }
};

class ClosedSpline final : public SplineKind {
 public:
  [[nodiscard]] EntityType type() const override { return EntityType::ClosedSpline; }
  [[nodiscard]] const char* key() const override { return "closed spline"; }
  [[nodiscard]] bool has_ends() const override { return false; }
};

}  // namespace

const CurveKind& spline_kind() {
  static const OpenSpline kind;
  return kind;
}
const CurveKind& closed_spline_kind() {
  static const ClosedSpline kind;
  return kind;
}

}  // namespace lostline::sketch
