#include "sketch/plane_curve.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace lostline::sketch {
namespace {

constexpr double kTurn = 2 * std::numbers::pi;
constexpr double kNear = 1e-7;  // mm: ends that touch a crossing count as being there

double cross(const Vec2& a, const Vec2& b) { return a.x() * b.y() - a.y() * b.x(); }
Vec2 heading(double angle) { return {std::cos(angle), std::sin(angle)}; }
double wrapped(double angle) {  // to [0, 2 pi)
  angle = std::fmod(angle, kTurn);
  return angle < 0 ? angle + kTurn : angle;
}

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

std::vector<Vec2> meetings(const Form& a, const Form& b) {
  return std::visit([](const auto& one, const auto& two) { return meet(one, two); }, a, b);
}

}  // namespace lostline::sketch
