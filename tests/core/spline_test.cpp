// The plane spline is held to what it promises.
#include <gtest/gtest.h>

#include <random>

#include "section/plane_spline.h"

namespace lostline::section {
namespace {

PlaneSpline random_spline(bool closed, unsigned seed) {
  std::mt19937 random(seed);
  std::uniform_real_distribution<double> any(0.2, 1);
  PlaneSpline s;
  s.closed = closed;
  const std::size_t poles = 9;
  for (std::size_t k = 0; k < poles; ++k)
    s.poles.emplace_back(10 * any(random) + 4 * static_cast<double>(k), 10 * any(random));
  double t = 1.5;
  if (closed) {
    for (std::size_t k = 0; k <= poles; ++k) s.knots.push_back(t += any(random));
    return s;
  }
  s.knots.assign(4, t);
  for (std::size_t k = 4; k < poles; ++k) s.knots.push_back(t += any(random));
  t += any(random);
  s.knots.insert(s.knots.end(), 4, t);
  return s;
}

TEST(PlaneSpline, SharesSumToOneAndSlopesAreExact) {
  for (const bool closed : {false, true}) {
    for (unsigned seed = 1; seed < 6; ++seed) {
      const PlaneSpline s = random_spline(closed, seed);
      for (int k = 1; k < 40; ++k) {
        const double t = s.low() + (s.high() - s.low()) * k / 40;
        const PlaneSpline::Local l = s.local(t);
        EXPECT_NEAR(l.value[0] + l.value[1] + l.value[2] + l.value[3], 1, 1e-12);
        const double h = 1e-6;
        EXPECT_NEAR(((s.at(t + h) - s.at(t - h)) / (2 * h) - s.slope(t)).norm(), 0, 1e-5);
        EXPECT_NEAR(((s.slope(t + h) - s.slope(t - h)) / (2 * h) - s.bend(t)).norm(), 0, 1e-4);
      }
      if (closed) {
        EXPECT_NEAR((s.at(s.low()) - s.at(s.high())).norm(), 0, 1e-12);
        EXPECT_NEAR((s.slope(s.low()) - s.slope(s.high() - 1e-12)).norm(), 0, 1e-6);
      } else {
        EXPECT_NEAR((s.at(s.low()) - s.poles.front()).norm(), 0, 1e-12);
        EXPECT_NEAR((s.at(s.high()) - s.poles.back()).norm(), 0, 1e-12);
      }
    }
  }
}

TEST(PlaneSpline, PiecesAndBeziersAreTheSameCurve) {
  for (const bool closed : {false, true}) {
    const PlaneSpline s = random_spline(closed, 7);
    const double whole = s.high() - s.low();
    const double from = s.low() + 0.13 * whole;
    const double to = s.low() + (closed ? 1.07 : 0.81) * whole;
    const PlaneSpline piece = s.between(from, to);
    EXPECT_FALSE(piece.closed);
    EXPECT_EQ(piece.knots.size(), piece.poles.size() + 4);
    for (int k = 0; k <= 30; ++k) {
      const double t = from + (to - from) * k / 30;
      EXPECT_NEAR((piece.at(t) - s.at(t)).norm(), 0, 1e-10);
    }
    const auto beziers = s.beziers();
    EXPECT_NEAR((beziers.front()[0] - s.at(s.low())).norm(), 0, 1e-10);
    EXPECT_NEAR((beziers.back()[3] - s.at(s.high())).norm(), 0, 1e-10);
    for (std::size_t i = 0; i + 1 < beziers.size(); ++i)
      EXPECT_NEAR((beziers[i][3] - beziers[i + 1][0]).norm(), 0, 1e-10);
    for (const auto& b : beziers) {
      const Vec2 middle = (b[0] + 3 * b[1] + 3 * b[2] + b[3]) / 8;
      EXPECT_NEAR((s.at(s.parameter(middle)) - middle).norm(), 0, 1e-9);
    }
  }
}

TEST(PlaneSpline, TheFootOfAnEllipseIsTheNearestPoint) {
  std::mt19937 random(11);
  std::uniform_real_distribution<double> any(-1, 1);
  for (int k = 0; k < 2000; ++k) {
    const double a = 5 * (1.1 + any(random));
    const double b = a * (0.52 + 0.47 * any(random));
    const Vec2 p(12 * any(random), 12 * any(random));
    const double t = ellipse_parameter(a, b, p);
    const double found = (Vec2(a * std::cos(t), b * std::sin(t)) - p).norm();
    double least = 1e300;
    for (int i = 0; i < 4000; ++i) {
      const double u = 6.283185307179586 * i / 4000;
      least = std::min(least, (Vec2(a * std::cos(u), b * std::sin(u)) - p).norm());
    }
    EXPECT_LE(found, least + 1e-9) << a << " " << b << " " << p.transpose();
  }
}

}  // namespace
}  // namespace lostline::section
