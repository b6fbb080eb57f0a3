#include <algorithm>
#include <cmath>

#include "sketch/plane_curve.h"

namespace lostline::sketch {
namespace {

class Bent final : public PlaneCurve {
 public:
  explicit Bent(const SplineForm& form) : form_(form), low_(form.spline.low()) {
    inside_left_ = !form.spline.closed || area_part() > 0;
  }
  [[nodiscard]] Form form() const override { return form_; }
  [[nodiscard]] double range() const override { return form_.spline.high() - low_; }
  [[nodiscard]] double period() const override { return form_.spline.closed ? range() : 0; }
  [[nodiscard]] double pace() const override {
    return std::max(1e-9, form_.spline.slope(low_ + range() / 2).norm());
  }
  [[nodiscard]] Vec2 at(double t) const override {
    if (form_.spline.closed || (t >= 0 && t <= range())) return form_.spline.at(low_ + t);
    // Straight on beyond the ends.
    const double end = t < 0 ? 0 : range();
    return form_.spline.at(low_ + end) + (t - end) * form_.spline.slope(low_ + end);
  }
  [[nodiscard]] Vec2 direction(double t) const override {
    return form_.spline.slope(low_ + std::clamp(t, 0.0, range())).normalized();
  }
  [[nodiscard]] double parameter(const Vec2& p) const override {
    const double t = form_.spline.parameter(p) - low_;
    if (form_.spline.closed) return t - range() * std::floor(t / range());
    for (const double end : {0.0, range()}) {
      if (std::abs(t - end) > 1e-12 * (1 + range())) continue;
      const Vec2 v = form_.spline.slope(low_ + end);
      const double more = (p - form_.spline.at(low_ + end)).dot(v) / v.squaredNorm();
      if (end == 0 ? more < 0 : more > 0) return end + more;
    }
    return t;
  }
  [[nodiscard]] double drift(const Vec2& p, Vec2* foot) const override {
    const double t = form_.spline.parameter(p);
    const Vec2 nearest = form_.spline.at(t);
    if (foot != nullptr) *foot = nearest;
    const bool left = cross(form_.spline.slope(t), p - nearest) > 0;
    // Left of an open one, outside of a closed one.
    const bool positive = form_.spline.closed ? left != inside_left_ : left;
    return positive ? (p - nearest).norm() : -(p - nearest).norm();
  }
  [[nodiscard]] double area_part() const override {
    // Three points of Gauss a span are exact for what is of degree five.
    const section::PlaneSpline& s = form_.spline;
    double sum = 0;
    const std::size_t first = s.closed ? 0 : 3;
    for (std::size_t k = first; k < s.poles.size(); ++k) {
      const double a = s.knots[k];
      const double half = 0.5 * (s.knots[k + 1] - a);
      if (!(half > 0)) continue;
      for (const auto& [x, w] : {std::pair(-std::sqrt(0.6), 5.0 / 9), std::pair(0.0, 8.0 / 9),
                                 std::pair(std::sqrt(0.6), 5.0 / 9)}) {
        const double t = a + half * (1 + x);
        sum += 0.5 * half * w * cross(s.at(t), s.slope(t));
      }
    }
    return sum;
  }
  [[nodiscard]] std::vector<Vec2> chords() const override {
    const section::PlaneSpline& s = form_.spline;
    std::vector<Vec2> points;
    const std::size_t first = s.closed ? 0 : 3;
    for (std::size_t k = first; k < s.poles.size(); ++k) {
      if (!(s.knots[k + 1] > s.knots[k])) continue;
      // As on a circle, 3.75 degrees each, by how far the direction turns within the span.
      double turned = 0;
      constexpr int kLooks = 6;
      const auto at = [&](int i, int n) {
        return s.knots[k] + (s.knots[k + 1] - s.knots[k]) * i / n;
      };
      for (int i = 0; i < kLooks; ++i) {
        const Vec2 d = s.slope(at(i, kLooks));
        const Vec2 e = s.slope(at(i + 1, kLooks) - (i + 1 == kLooks ? 1e-9 * range() : 0));
        turned += std::abs(std::atan2(cross(d, e), d.dot(e)));
      }
      const int pieces = std::clamp(static_cast<int>(std::ceil(turned / 0.035)), 6, 300);
      for (int i = 0; i < pieces; ++i) points.push_back(s.at(at(i, pieces)));
    }
    points.push_back(s.closed ? points.front() : s.at(s.high()));
    return points;
  }

 private:
  SplineForm form_;
  double low_;
  bool inside_left_ = true;
};

}  // namespace

std::unique_ptr<PlaneCurve> spline_piece(const SplineForm& form) {
  return std::make_unique<Bent>(form);
}

}  // namespace lostline::sketch
