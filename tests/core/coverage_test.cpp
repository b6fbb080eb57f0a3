// Whether stated intervals cover the truth as often as they say, for every kind of fit, whole and
// partial, with independent noise and with noise that neighbours share.
#include <gtest/gtest.h>

#include <array>
#include <atomic>
#include <cstdio>
#include <random>

#include "base/parallel.h"
#include "fit/form.h"
#include "fit/surface_fit.h"
#include "support/rounds.h"

namespace lostline::fit {
namespace {

constexpr double kDegree = kPi / 180;

/// A patch of a surface on a grid over two parameters, 0 … 1 each, about as even as a scanner's.
struct Shape {
  const char* name;
  Kind kind;
  int rows, columns;
  /// Point and outward normal at parameters a, b.
  void (*at)(double a, double b, Vec3& point, Vec3& normal);
  Surface truth;
};

Surface surface(Kind kind, double radius = 0, double half = 0, double minor = 0) {
  Surface s;
  s.kind = kind;
  s.radius = radius;
  s.half_angle = half;
  s.minor_radius = minor;
  return s;
}

template <int Degrees, int Radius>
void cylinder_at(double a, double b, Vec3& p, Vec3& n) {
  const double angle = a * Degrees * kDegree;
  n = Vec3(std::cos(angle), std::sin(angle), 0);
  p = Radius * n + Vec3(0, 0, 30 * (b - 0.5));
}
constexpr double kHalf = 5 * kDegree;
template <int Degrees>
void cone_at(double a, double b, Vec3& p, Vec3& n) {
  const double angle = a * Degrees * kDegree;
  const double z = 40 * (b - 0.5);
  const Vec3 out(std::cos(angle), std::sin(angle), 0);
  p = (20 + z * std::tan(kHalf)) * out + Vec3(0, 0, z);
  n = std::cos(kHalf) * out - std::sin(kHalf) * Vec3::UnitZ();
}
template <int Degrees>
void sphere_at(double a, double b, Vec3& p, Vec3& n) {
  const double longitude = (a - 0.5) * Degrees * kDegree;
  const double latitude = (b - 0.5) * Degrees * kDegree;
  n = Vec3(std::cos(latitude) * std::cos(longitude), std::cos(latitude) * std::sin(longitude),
           std::sin(latitude));
  p = 15 * n;
}
template <int Ring, int Tube>
void torus_at(double a, double b, Vec3& p, Vec3& n) {
  const double ring = a * Ring * kDegree;
  const double tube = b * Tube * kDegree;
  const Vec3 out(std::cos(ring), std::sin(ring), 0);
  n = std::cos(tube) * out + std::sin(tube) * Vec3::UnitZ();
  p = 30 * out + 6 * n;
}
template <int Degrees>
void circle_at(double a, double, Vec3& p, Vec3& n) {
  const double angle = a * Degrees * kDegree;
  n = Vec3(std::cos(angle), std::sin(angle), 0);
  p = 20 * n;
}
template <int Degrees>
void ellipse_at(double a, double, Vec3& p, Vec3& n) {
  const double angle = a * Degrees * kDegree;
  p = Vec3(20 * std::cos(angle), 14 * std::sin(angle), 0);
  n = Vec3(std::cos(angle) / 20, std::sin(angle) / 14, 0).normalized();
}

const std::vector<Shape>& shapes() {
  static const std::vector<Shape> kShapes{
      {"plane", Kind::Plane, 30, 30,
       [](double a, double b, Vec3& p, Vec3& n) {
         p = Vec3(40 * (a - 0.5), 25 * (b - 0.5), 0);
         n = Vec3::UnitZ();
       },
       surface(Kind::Plane)},
      {"cylinder 360", Kind::Cylinder, 60, 16, cylinder_at<360, 20>, surface(Kind::Cylinder, 20)},
      {"cylinder 60", Kind::Cylinder, 30, 30, cylinder_at<60, 20>, surface(Kind::Cylinder, 20)},
      {"cylinder 20", Kind::Cylinder, 40, 40, cylinder_at<20, 40>, surface(Kind::Cylinder, 40)},
      {"cone 360", Kind::Cone, 60, 16, cone_at<360>, surface(Kind::Cone, 20, kHalf)},
      {"cone 90", Kind::Cone, 36, 30, cone_at<90>, surface(Kind::Cone, 20, kHalf)},
      {"sphere 90", Kind::Sphere, 30, 30, sphere_at<90>, surface(Kind::Sphere, 15)},
      {"sphere 40", Kind::Sphere, 30, 30, sphere_at<40>, surface(Kind::Sphere, 15)},
      {"torus 360 x 90", Kind::Torus, 160, 8, torus_at<360, 90>, surface(Kind::Torus, 30, 0, 6)},
      {"torus 90 x 90", Kind::Torus, 60, 12, torus_at<90, 90>, surface(Kind::Torus, 30, 0, 6)},
      {"line", Kind::Line, 80, 1,
       [](double a, double, Vec3& p, Vec3& n) {
         p = Vec3(0, 0, 50 * (a - 0.5));
         n = Vec3::UnitX();
       },
       surface(Kind::Line)},
      {"circle 360", Kind::Circle, 120, 1, circle_at<360>, surface(Kind::Circle, 20)},
      {"circle 40", Kind::Circle, 120, 1, circle_at<40>, surface(Kind::Circle, 20)},
      {"ellipse 360", Kind::Ellipse, 160, 1, ellipse_at<360>, surface(Kind::Ellipse, 20, 0, 14)},
      {"ellipse 200", Kind::Ellipse, 200, 1, ellipse_at<200>, surface(Kind::Ellipse, 20, 0, 14)}};
  return kShapes;
}

/// Normal numbers on a grid; with `shared` each is the mean of a neighbourhood, of equal variance.
std::vector<double> grid_noise(int rows, int columns, bool shared, std::mt19937_64& random) {
  std::normal_distribution<double> normal(0, 0.02);
  if (!shared) {
    std::vector<double> noise(static_cast<std::size_t>(rows * columns));
    for (double& v : noise) v = normal(random);
    return noise;
  }
  // A scanner's spot: weights 1 2 1 both ways.
  std::vector<double> base(static_cast<std::size_t>((rows + 2) * (columns + 2)));
  for (double& v : base) v = normal(random);
  std::vector<double> noise;
  for (int i = 0; i < rows; ++i) {
    for (int j = 0; j < columns; ++j) {
      double sum = 0;
      for (int di = 0; di < 3; ++di) {
        for (int dj = 0; dj < 3; ++dj)
          sum += (di == 1 ? 2 : 1) * (dj == 1 ? 2 : 1) *
                 base[static_cast<std::size_t>((i + di) * (columns + 2) + j + dj)];
      }
      noise.push_back(sum / 6);  // 6 = root of the weights' squares
    }
  }
  return noise;
}

/// How often of `runs` each interval held.
struct Held {
  int radius = 0, offset = 0, angle = 0, last = 0, runs = 0;
};

/// @param weighted  half of the points scatter twice as much as the others, and are weighed so.
Held count(const Shape& shape, bool shared, int runs, bool weighted = false) {
  std::atomic<int> radius = 0, offset = 0, angle = 0, last = 0, done = 0;
  Transform pose = Transform::Identity();
  pose.linear() = Eigen::AngleAxisd(0.8, Vec3(1, -2, 0.5).normalized()).toRotationMatrix();
  pose.translation() = Vec3(70, -30, 12);
  const Surface truth = transformed(shape.truth, pose);
  parallel_for(static_cast<std::size_t>(runs), 8, [&](std::size_t begin, std::size_t end) {
    for (std::size_t run = begin; run < end; ++run) {
      std::mt19937_64 random(run + 1);
      const auto noise = grid_noise(shape.rows, shape.columns, shared, random);
      std::normal_distribution<double> side(0, 0.02);
      Eigen::Matrix3Xd points(3, shape.rows * shape.columns);
      Eigen::Matrix3Xd normals(3, points.cols());
      Eigen::VectorXd weights = Eigen::VectorXd::Ones(points.cols());
      for (int i = 0; i < shape.rows; ++i) {
        for (int j = 0; j < shape.columns; ++j) {
          Vec3 p;
          Vec3 n;
          shape.at((i + 0.5) / shape.rows, (j + 0.5) / shape.columns, p, n);
          const int k = i * shape.columns + j;
          if (weighted) weights[k] = 2 * j < shape.columns ? 1.6 : 0.4;
          p += noise[static_cast<std::size_t>(k)] / std::sqrt(weights[k]) * n;
          // A curve's points stray both ways across it.
          if (is_curve(shape.kind))
            p += side(random) * (shape.kind == Kind::Line ? Vec3::UnitY() : Vec3::UnitZ());
          points.col(k) = pose * p;
          normals.col(k) = pose.linear() * n;
        }
      }
      SurfaceFitOptions options;
      if (is_curve(shape.kind) || weighted) options.reject_beyond = 0;
      if (weighted) options.weights = weights;
      const auto fit = fit_surface(shape.kind, points, normals, {}, options);
      if (!fit) {
        ADD_FAILURE() << shape.name << ": " << fit.error().message;
        continue;
      }
      ++done;
      const Surface& s = fit->surface;
      radius += std::abs(s.radius - (shape.kind == Kind::Cone
                                         ? truth.radius + (s.point - truth.point).dot(truth.axis) *
                                                              std::tan(kHalf)
                                         : truth.radius)) <= fit->u_radius
                    ? 1
                    : 0;
      angle += angle_between(s.axis, truth.axis) <= fit->u_angle ? 1 : 0;
      if (shape.kind == Kind::Cone)
        last += std::abs(s.half_angle - kHalf) <= fit->u_half_angle;
      else
        last += std::abs(s.minor_radius - truth.minor_radius) <= fit->u_minor_radius;
      // The true axis or centre at the fit's evidence.
      double off = 0;
      if (shape.kind == Kind::Plane) {
        off = std::abs(truth.distance(fit->centroid - s.distance(fit->centroid) * s.axis));
      } else if (shape.kind == Kind::Cylinder || shape.kind == Kind::Cone ||
                 shape.kind == Kind::Line) {
        const Vec3 d = s.point - truth.point;
        off = (d - d.dot(truth.axis) * truth.axis).norm();
      } else {
        off = (s.point - truth.point).norm();
      }
      offset += off <= fit->u_offset ? 1 : 0;
    }
  });
  return {radius, offset, angle, last, done};
}

class Coverage : public ::testing::TestWithParam<bool> {};

TEST_P(Coverage, IntervalsHoldNinetyFiveTimesInAHundred) {
  const int runs = testing::rounds(1000, 100, 40);
  const double slack = runs == 1000 ? 20 : testing::stray(runs, 0.95);
  for (const Shape& shape : shapes()) {
    const Held h = count(shape, GetParam(), runs);
    std::printf("%-16s radius %5.1f %%  place %5.1f %%  direction %5.1f %%  last %5.1f %%\n",
                shape.name, 100.0 * h.radius / runs, 100.0 * h.offset / runs,
                100.0 * h.angle / runs, 100.0 * h.last / runs);
    const auto expect = [&](int held, const char* what) {
      EXPECT_GE(held, 0.95 * runs - slack) << shape.name << " " << what;
      EXPECT_LE(held, 0.95 * runs + slack) << shape.name << " " << what;
    };
    EXPECT_EQ(h.runs, runs);
    const Kind k = shape.kind;
    if (k != Kind::Plane && k != Kind::Line) expect(h.radius, "radius");
    expect(h.offset, "place");
    if (has_direction(k)) expect(h.angle, "direction");
    if (k == Kind::Cone || k == Kind::Torus || k == Kind::Ellipse) expect(h.last, "last");
  }
}
TEST(WeightedCoverage, IntervalsHoldWhereTrustDiffersAndNeighboursShareTheirNoise) {
  const int runs = testing::rounds(1000, 100, 40);
  const double slack = testing::stray(runs, 0.95);
  for (const Shape& shape : shapes()) {
    if (shape.kind != Kind::Plane && shape.kind != Kind::Cylinder) continue;
    const Held h = count(shape, true, runs, true);
    std::printf("%-16s radius %5.1f %%  place %5.1f %%  direction %5.1f %%\n", shape.name,
                100.0 * h.radius / runs, 100.0 * h.offset / runs, 100.0 * h.angle / runs);
    for (const int held : {h.offset, h.angle, shape.kind == Kind::Plane ? h.angle : h.radius}) {
      EXPECT_GE(held, 0.95 * runs - slack) << shape.name;
      EXPECT_LE(held, 0.95 * runs + slack) << shape.name;
    }
  }
}
INSTANTIATE_TEST_SUITE_P(Noise, Coverage, ::testing::Values(false, true),
                         [](const auto& info) { return info.param ? "Shared" : "Independent"; });

/// A bore with a regular departure from round and normal noise.
Eigen::Matrix3Xd bore(double oval, double barrel, double arc, unsigned seed) {
  std::mt19937_64 random(seed);
  std::normal_distribution<double> noise(0, 0.015);
  Eigen::Matrix3Xd points(3, 4000);
  for (Eigen::Index i = 0; i < points.cols(); ++i) {
    const double angle = arc * static_cast<double>(i % 80) / 80;
    const double z = static_cast<double>(i / 80) / 50 - 0.5;
    const double r =
        20 + oval / 4 * std::cos(2 * (angle - 0.6)) - barrel / 2 * 4 * z * z + noise(random);
    points.col(i) = Vec3(r * std::cos(angle), r * std::sin(angle), 40 * z);
  }
  return points;
}

std::optional<Form> form_in(const Eigen::Matrix3Xd& points) {
  Surface start = surface(Kind::Cylinder, 20);
  const auto fit = fit_surface(Kind::Cylinder, points, Eigen::Matrix3Xd(3, 0), start);
  EXPECT_TRUE(fit);
  return form_of(fit->surface, points);
}

TEST(Form, AnOvalBoreIsCalledOvalWithAmountAndDirection) {
  int held = 0;
  for (unsigned seed = 1; seed <= 100; ++seed) {
    const auto form = form_in(bore(0.06, 0, 2 * kPi, seed));
    ASSERT_TRUE(form);
    EXPECT_EQ(form->type, Form::Type::Oval);
    EXPECT_NEAR(form->amount, 0.06, 0.006);
    EXPECT_LT(angle_between(form->direction, Vec3(std::cos(0.6), std::sin(0.6), 0)), 0.06);
    held += std::abs(form->amount - 0.06) <= form->u ? 1 : 0;
  }
  EXPECT_GE(held, 88);
  EXPECT_EQ(form_in(bore(0.06, 0, 2 * kPi, 1))->words().substr(0, 8), "oval by ");
}

TEST(Form, ARoundBoreAndAShortArcAreCalledNothing) {
  int called = 0;
  for (unsigned seed = 1; seed <= 100; ++seed) called += form_in(bore(0, 0, 2 * kPi, seed)) ? 1 : 0;
  EXPECT_LE(called, 2);
  const auto arc = form_in(bore(0.06, 0, 2.5, 3));
  EXPECT_TRUE(!arc || arc->type != Form::Type::Oval);
}

TEST(Form, BarrelsAndBowedPlanesAreTold) {
  const auto barrel = form_in(bore(0, 0.08, 2 * kPi, 5));
  ASSERT_TRUE(barrel);
  EXPECT_EQ(barrel->type, Form::Type::Barrel);
  EXPECT_NEAR(barrel->amount, 0.08, 0.01);
  std::mt19937_64 random(8);
  std::normal_distribution<double> noise(0, 0.01);
  Eigen::Matrix3Xd points(3, 3000);
  for (Eigen::Index i = 0; i < points.cols(); ++i) {
    const double x = 100 * (static_cast<double>(i % 60) / 60 - 0.5);
    const double y = 60 * (static_cast<double>(i / 60) / 50 - 0.5);
    points.col(i) = Vec3(x, y, 0.05 * (1 - x * x / 2500) + noise(random));
  }
  const auto plane =
      fit_surface(Kind::Plane, points, Eigen::Matrix3Xd::Zero(3, 3000).colwise() + Vec3(0, 0, 1));
  ASSERT_TRUE(plane);
  const auto bowed = form_of(plane->surface, points);
  ASSERT_TRUE(bowed);
  EXPECT_EQ(bowed->type, Form::Type::Bowed);
  EXPECT_NEAR(bowed->amount, 0.05, 0.006);  // crowned
  EXPECT_GT(std::abs(bowed->direction.x()), 0.99);
}

TEST(Arcs, AHopelessArcIsRefusedWithItsWidth) {
  std::mt19937_64 random(3);
  std::normal_distribution<double> noise(0, 0.02);
  const auto arc = [&](double degrees) {
    Eigen::Matrix3Xd points(3, 1200);
    Eigen::Matrix3Xd normals(3, 1200);
    for (Eigen::Index i = 0; i < 1200; ++i) {
      const double angle = degrees * kDegree * static_cast<double>(i % 40) / 39;
      normals.col(i) = Vec3(std::cos(angle), std::sin(angle), 0);
      points.col(i) =
          (30 + noise(random)) * normals.col(i) + Vec3(0, 0, static_cast<double>(i / 40));
    }
    return fit_surface(Kind::Cylinder, points, normals);
  };
  const auto wide = arc(20);
  ASSERT_TRUE(wide) << wide.error().message;
  EXPECT_GT(wide->u_radius, 0.1);  // it says how little it knows
  EXPECT_NEAR(wide->surface.radius, 30, 1.5 * wide->u_radius);
  const auto hopeless = arc(1.5);
  ASSERT_FALSE(hopeless);
  EXPECT_EQ(hopeless.error().code, ErrorCode::Degenerate);
}

TEST(Coverage, AFewPointsThatStandCloseHideNoSharedNoise) {
  // The skin of a casting on points some of which stand closer than half a spacing to another: so
  // few that they tell nothing by themselves.
  constexpr double kRadius = 20;
  constexpr int kAround = 125;
  constexpr int kAlong = 30;
  constexpr int kTwins = 12;
  const int runs = testing::rounds(400, 60, 8);
  int held = 0;
  for (int run = 0; run < runs; ++run) {
    std::mt19937_64 random(static_cast<std::uint64_t>(7100 + run));
    std::normal_distribution<double> normal(0, 1);
    std::uniform_real_distribution<double> uniform(-1, 1);
    struct Wave {
      double around, along, phase;
    };
    std::vector<Wave> waves(60);  // agree by a quarter two spacings apart
    for (Wave& w : waves) w = {0.8 * normal(random), 0.8 * normal(random), kPi * uniform(random)};
    Eigen::Matrix3Xd points(3, kAround * kAlong + kTwins);
    Eigen::Matrix3Xd normals(3, points.cols());
    const auto place = [&](Eigen::Index i, double around, double along) {
      double skin = 0.01 * normal(random);
      for (const Wave& w : waves)
        skin += 0.03 * std::sqrt(2.0 / static_cast<double>(waves.size())) *
                std::cos(w.around * around + w.along * along + w.phase);
      const double angle = 2 * kPi * around / kAround;
      const Vec3 out(std::cos(angle), std::sin(angle), 0);
      points.col(i) = (kRadius + skin) * out + Vec3(0, 0, along);
      normals.col(i) = out;
    };
    for (int i = 0; i < kAround * kAlong; ++i)
      place(i, i % kAround + 0.1 * uniform(random), i / kAround + 0.1 * uniform(random));
    for (int i = 0; i < kTwins; ++i) place(kAround * kAlong + i, 10 * i, 15.3);
    const auto fit = fit_surface(Kind::Cylinder, points, normals);
    ASSERT_TRUE(fit) << fit.error().message;
    EXPECT_GT(fit->inflation, 3);
    held += std::abs(fit->surface.radius - kRadius) <= fit->u_radius ? 1 : 0;
  }
  EXPECT_GE(held, 0.93 * runs - testing::stray(runs, 0.93));
  EXPECT_LE(held, 0.975 * runs + testing::stray(runs, 0.975));
}

TEST(Ellipse, TheFootIsTheNearestPoint) {
  std::mt19937_64 random(4);
  std::uniform_real_distribution<double> uniform(-30, 30);
  for (int i = 0; i < 200; ++i) {
    const Vec2 p(uniform(random), uniform(random));
    const Vec2 foot = foot_on_ellipse(20, 8, p);
    double best = 1e300;
    for (int k = 0; k < 20000; ++k) {
      const double a = 2 * kPi * k / 20000;
      best = std::min(best, (p - Vec2(20 * std::cos(a), 8 * std::sin(a))).norm());
    }
    EXPECT_NEAR((p - foot).norm(), best, 1e-4);
    EXPECT_NEAR(std::pow(foot.x() / 20, 2) + std::pow(foot.y() / 8, 2), 1, 1e-9);
  }
}

TEST(Weights, WhatIsTrustedLessPullsLess) {
  // Two levels that disagree by 1 mm: the plane lies where the weights put it.
  Eigen::Matrix3Xd points(3, 200);
  SurfaceFitOptions options;
  options.reject_beyond = 0;
  options.weights.resize(200);
  for (Eigen::Index i = 0; i < 200; ++i) {
    const bool rough = i % 2 == 1;
    points.col(i) =
        Vec3(static_cast<double>(i / 2 % 10), static_cast<double>(i / 20), rough ? 1 : 0);
    options.weights[i] = rough ? 0.25 : 1;
  }
  const auto fit = fit_surface(Kind::Plane, points, Eigen::Matrix3Xd(3, 0), {}, options);
  ASSERT_TRUE(fit);
  EXPECT_NEAR(std::abs(fit->surface.distance(Vec3(5, 5, 0))), 0.2, 0.01);
  options.weights.resize(3);
  EXPECT_FALSE(fit_surface(Kind::Plane, points, Eigen::Matrix3Xd(3, 0), {}, options));
}

}  // namespace
}  // namespace lostline::fit
