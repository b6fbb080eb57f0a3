#include <algorithm>
#include <cmath>

#include "sketch/plane_curve.h"

namespace lostline::sketch {
namespace {

class Elliptic final : public PlaneCurve {
 public:
  explicit Elliptic(const EllipticForm& form) : form_(form) {}
  [[nodiscard]] Form form() const override { return form_; }
  [[nodiscard]] double range() const override { return form_.sweep; }
  [[nodiscard]] double period() const override { return kTurn; }
  [[nodiscard]] double pace() const override { return form_.major; }
  [[nodiscard]] Vec2 at(double t) const override { return form_.at(form_.start + t); }
  [[nodiscard]] Vec2 direction(double t) const override {
    t += form_.start;
    const Vec2 side(-form_.axis.y(), form_.axis.x());
    return (-form_.major * std::sin(t) * form_.axis + form_.minor * std::cos(t) * side)
        .normalized();
  }
  [[nodiscard]] double parameter(const Vec2& p) const override {
    const Vec2 d = p - form_.centre;
    const Vec2 side(-form_.axis.y(), form_.axis.x());
    return wrapped(
        section::ellipse_parameter(form_.major, form_.minor, {form_.axis.dot(d), side.dot(d)}) -
        form_.start);
  }
  [[nodiscard]] double drift(const Vec2& p, Vec2* foot) const override {
    const double t = parameter(p);
    const Vec2 d = p - form_.centre;
    const Vec2 side(-form_.axis.y(), form_.axis.x());
    const double outside =
        std::hypot(form_.axis.dot(d) / form_.major, side.dot(d) / form_.minor) - 1;
    Vec2 nearest = at(t);
    if (!form_.whole() && t > form_.sweep) nearest = nearest_within(p);
    if (foot != nullptr) *foot = nearest;
    return std::copysign((p - nearest).norm(), outside);
  }
  [[nodiscard]] double area_part() const override {
    const Vec2 chord = end() - start();
    return 0.5 * (form_.centre.x() * chord.y() - form_.centre.y() * chord.x() +
                  form_.major * form_.minor * form_.sweep);
  }
  [[nodiscard]] std::vector<Vec2> chords() const override {
    // As fine as on the circle where it bends most.
    const int pieces = std::max(
        4, static_cast<int>(std::ceil(form_.sweep / (kTurn / 96) *
                                      std::sqrt(std::min(16.0, form_.major / form_.minor)))));
    std::vector<Vec2> points;
    for (int k = 0; k <= pieces; ++k) points.push_back(at(form_.sweep * k / pieces));
    return points;
  }

 private:
  /// Where the foot on the whole ellipse is not on the piece: the best of samples, then of thirds.
  [[nodiscard]] Vec2 nearest_within(const Vec2& p) const {
    constexpr int kSamples = 64;
    int best = 0;
    for (int k = 1; k <= kSamples; ++k) {
      if ((at(form_.sweep * k / kSamples) - p).squaredNorm() <
          (at(form_.sweep * best / kSamples) - p).squaredNorm())
        best = k;
    }
    double low = form_.sweep * std::max(0, best - 1) / kSamples;
    double high = form_.sweep * std::min(kSamples, best + 1) / kSamples;
    for (int round = 0; round < 90; ++round) {
      const double a = low + (high - low) / 3;
      const double b = high - (high - low) / 3;
      ((at(a) - p).squaredNorm() < (at(b) - p).squaredNorm() ? high : low) =
          (at(a) - p).squaredNorm() < (at(b) - p).squaredNorm() ? b : a;
    }
    return at(0.5 * (low + high));
  }
  EllipticForm form_;
};

}  // namespace

bool EllipticForm::whole() const { return sweep >= kTurn; }

Vec2 EllipticForm::at(double t) const {
  return centre + major * std::cos(t) * axis + minor * std::sin(t) * Vec2(-axis.y(), axis.x());
}

std::unique_ptr<PlaneCurve> elliptic_piece(const EllipticForm& form) {
  return std::make_unique<Elliptic>(form);
}

}  // namespace lostline::sketch
