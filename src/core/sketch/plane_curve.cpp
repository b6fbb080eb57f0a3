#include "sketch/plane_curve.h"

#include <algorithm>
#include <cmath>

namespace lostline::sketch {
namespace {

constexpr double kNear = 1e-7;  // mm: ends that touch a crossing count as being there

Vec2 heading(double angle) { return {std::cos(angle), std::sin(angle)}; }
class Straight final : public PlaneCurve {
 public:
  explicit Straight(const StraightForm& form)
      : form_(form), along_(form.b - form.a), length_(along_.norm()) {
    if (length_ > 0) along_ /= length_;
  }
  [[nodiscard]] Form form() const override { return form_; }
  [[nodiscard]] double range() const override { return length_; }
  [[nodiscard]] double period() const override { return 0; }
  [[nodiscard]] double pace() const override { return 1; }
  [[nodiscard]] Vec2 at(double t) const override { return form_.a + t * along_; }
  [[nodiscard]] Vec2 direction(double) const override { return along_; }
  [[nodiscard]] double parameter(const Vec2& p) const override { return (p - form_.a).dot(along_); }
  [[nodiscard]] double drift(const Vec2& p, Vec2* foot) const override {
    const Vec2 nearest = at(std::clamp(parameter(p), 0.0, length_));
    if (foot != nullptr) *foot = nearest;
    return std::copysign((p - nearest).norm(), cross(along_, p - form_.a));
  }
  [[nodiscard]] double area_part() const override { return 0.5 * cross(form_.a, form_.b); }
  [[nodiscard]] std::vector<Vec2> chords() const override { return {form_.a, form_.b}; }

 private:
  StraightForm form_;
  Vec2 along_;
  double length_;
};

class Round final : public PlaneCurve {
 public:
  explicit Round(const RoundForm& form) : form_(form) {}
  [[nodiscard]] Form form() const override { return form_; }
  [[nodiscard]] double range() const override { return form_.sweep; }
  [[nodiscard]] double period() const override { return kTurn; }
  [[nodiscard]] double pace() const override { return form_.radius; }
  [[nodiscard]] Vec2 at(double t) const override {
    return form_.centre + form_.radius * heading(form_.start + t);
  }
  [[nodiscard]] Vec2 direction(double t) const override {
    const Vec2 arm = heading(form_.start + t);
    return {-arm.y(), arm.x()};
  }
  [[nodiscard]] double parameter(const Vec2& p) const override {
    const Vec2 d = p - form_.centre;
    return wrapped(std::atan2(d.y(), d.x()) - form_.start);
  }
  [[nodiscard]] double drift(const Vec2& p, Vec2* foot) const override {
    const Vec2 d = p - form_.centre;
    const double length = d.norm();
    if (!form_.whole() && parameter(p) > form_.sweep) {
      const Vec2 a = start();
      const Vec2 b = end();
      const Vec2 nearest = (p - a).squaredNorm() < (p - b).squaredNorm() ? a : b;
      if (foot != nullptr) *foot = nearest;
      return std::copysign((p - nearest).norm(), length - form_.radius);
    }
    if (foot != nullptr)
      *foot = form_.centre + (length > 0 ? Vec2(d * (form_.radius / length))
                                         : Vec2(form_.radius * heading(form_.start)));
    return length - form_.radius;
  }
  [[nodiscard]] double area_part() const override {
    const double r = form_.radius;
    return 0.5 * (cross(form_.centre, end() - start()) + r * r * form_.sweep);
  }
  [[nodiscard]] std::vector<Vec2> chords() const override {
    const int pieces = std::max(2, static_cast<int>(std::ceil(form_.sweep / (kTurn / 96))));
    std::vector<Vec2> points;
    for (int k = 0; k <= pieces; ++k) points.push_back(at(form_.sweep * k / pieces));
    return points;
  }

 private:
  RoundForm form_;
};

/// Crossings of two curves, at least one of them neither straight nor round: of their chords, then
/// tangents crossed until they settle.
std::vector<Vec2> meet_bent(const PlaneCurve& a, const PlaneCurve& b) {
  const std::vector<Vec2> p = a.chords();
  const std::vector<Vec2> q = b.chords();
  std::vector<Vec2> found;
  for (std::size_t i = 0; i + 1 < p.size(); ++i) {
    for (std::size_t j = 0; j + 1 < q.size(); ++j) {
      const Vec2 d = p[i + 1] - p[i];
      const Vec2 e = q[j + 1] - q[j];
      const double det = cross(d, e);
      if (std::abs(det) < 1e-14 * d.norm() * e.norm()) continue;
      const double s = cross(q[j] - p[i], e) / det;
      const double t = cross(q[j] - p[i], d) / det;
      constexpr double kBeyond = 0.05;  // chords lie within the curves
      if (s < -kBeyond || s > 1 + kBeyond || t < -kBeyond || t > 1 + kBeyond) continue;
      Vec2 x = p[i] + s * d;
      bool settled = false;
      for (int round = 0; round < 20 && !settled; ++round) {
        const double ta = a.parameter(x);
        const double tb = b.parameter(x);
        const Vec2 da = a.direction(ta);
        const Vec2 db = b.direction(tb);
        const double turn = cross(da, db);
        if (std::abs(turn) < 1e-9) break;
        const Vec2 next = a.at(ta) + da * (cross(b.at(tb) - a.at(ta), db) / turn);
        settled = (next - x).norm() < 1e-11 * (1 + x.norm());
        x = next;
      }
      if (!settled || !a.holds(x)) continue;
      const bool known = std::any_of(found.begin(), found.end(),
                                     [&](const Vec2& f) { return (f - x).norm() < 1e-6; });
      if (!known) found.push_back(x);
    }
  }
  return found;
}

std::vector<Vec2> meet(const StraightForm& a, const StraightForm& b) {
  const Vec2 d = a.b - a.a;
  const Vec2 e = b.b - b.a;
  const double det = cross(d, e);
  if (std::abs(det) < 1e-12 * d.norm() * e.norm()) return {};
  return {a.a + d * (cross(b.a - a.a, e) / det)};
}
std::vector<Vec2> meet(const StraightForm& line, const RoundForm& round) {
  const Vec2 d = (line.b - line.a).normalized();
  const double along = (round.centre - line.a).dot(d);
  const double off = cross(d, round.centre - line.a);
  const double square = round.radius * round.radius - off * off;
  if (square < 0) return {};
  const double half = std::sqrt(square);
  return {line.a + d * (along - half), line.a + d * (along + half)};
}
std::vector<Vec2> meet(const RoundForm& round, const StraightForm& line) {
  return meet(line, round);
}
std::vector<Vec2> meet(const RoundForm& a, const RoundForm& b) {
  const Vec2 d = b.centre - a.centre;
  const double distance = d.norm();
  if (distance < 1e-12) return {};
  const double along =
      (distance * distance + a.radius * a.radius - b.radius * b.radius) / (2 * distance);
  const double square = a.radius * a.radius - along * along;
  if (square < 0) return {};
  const Vec2 u = d / distance;
  const Vec2 v(-u.y(), u.x());
  const double half = std::sqrt(square);
  return {a.centre + along * u - half * v, a.centre + along * u + half * v};
}

std::unique_ptr<PlaneCurve> place(const StraightForm& f) { return straight_piece(f.a, f.b); }
std::unique_ptr<PlaneCurve> place(const RoundForm& f) { return round_piece(f); }
std::unique_ptr<PlaneCurve> place(const EllipticForm& f) { return elliptic_piece(f); }
std::unique_ptr<PlaneCurve> place(const SplineForm& f) { return spline_piece(f); }

/// The endless curve of a form, as far as another one can meet it.
std::unique_ptr<PlaneCurve> endless(const StraightForm& f, const std::vector<Vec2>& other) {
  const Vec2 d = (f.b - f.a).normalized();
  double low = 0;
  double high = 0;
  for (const Vec2& p : other) {
    low = std::min(low, (p - f.a).dot(d));
    high = std::max(high, (p - f.a).dot(d));
  }
  const double more = 1 + 0.01 * (high - low);
  return straight_piece(f.a + (low - more) * d, f.a + (high + more) * d);
}
std::unique_ptr<PlaneCurve> endless(RoundForm f, const std::vector<Vec2>&) {
  f.sweep = kTurn;
  return round_piece(f);
}
std::unique_ptr<PlaneCurve> endless(EllipticForm f, const std::vector<Vec2>&) {
  f.sweep = kTurn;
  return elliptic_piece(f);
}
std::unique_ptr<PlaneCurve> endless(const SplineForm& f, const std::vector<Vec2>&) {
  return spline_piece(f);
}
template <class A, class B>
std::vector<Vec2> meet(const A& a, const B& b) {
  const auto far = [](const auto& f) {  // chords of the whole of what is bent
    return endless(f, place(f)->chords())->chords();
  };
  return meet_bent(*endless(a, far(b)), *endless(b, far(a)));
}

}  // namespace

bool RoundForm::whole() const { return sweep >= kTurn; }

double PlaneCurve::slack() const { return kNear / std::max(pace(), 1e-9); }

bool PlaneCurve::holds(const Vec2& p) const {
  if (closed()) return true;
  const double t = parameter(p);
  return (t > -slack() && t < range() + slack()) || (period() > 0 && t > period() - slack());
}

std::unique_ptr<PlaneCurve> straight_piece(const Vec2& a, const Vec2& b) {
  return std::make_unique<Straight>(StraightForm{a, b});
}
std::unique_ptr<PlaneCurve> round_piece(const RoundForm& form) {
  return std::make_unique<Round>(form);
}

std::unique_ptr<PlaneCurve> piece_of(const Form& form) {
  return std::visit([](const auto& f) { return place(f); }, form);
}

bool fall_together(const Form& a, const Form& b, double within) {
  constexpr int kPlaces = 8;  // that a curve is looked at, beside its start
  const auto one = piece_of(a);
  const auto two = piece_of(b);
  for (int k = 0; k <= kPlaces; ++k) {
    const double share = static_cast<double>(k) / kPlaces;
    if (std::abs(two->drift(one->at(share * one->range()))) > within ||
        std::abs(one->drift(two->at(share * two->range()))) > within)
      return false;
  }
  return true;
}

std::vector<Vec2> meetings(const Form& a, const Form& b) {
  return std::visit([](const auto& one, const auto& two) { return meet(one, two); }, a, b);
}

}  // namespace lostline::sketch
