// The table of surfaces and their formulas: every kind is held to what follows from it.
#include <gtest/gtest.h>

#include <cmath>
#include <random>
#include <set>

#include "fit/parametric.h"
#include "fit/surface_fit.h"
#include "fit/surface_kernels.h"
#include "fit/surface_kind.h"

namespace lostline::fit {
namespace {

Vec3 any_direction(std::mt19937& random) {
  std::normal_distribution<double> n;
  return Vec3(n(random), n(random), n(random)).normalized();
}

Surface drawn(Kind kind, double size, std::mt19937& random) {
  std::uniform_real_distribution<double> part(0.2, 1);
  Surface s;
  s.kind = kind;
  s.axis = any_direction(random);
  s.point = 3 * size * any_direction(random);
  s.radius = size * part(random);
  s.minor_radius = 0.4 * s.radius * part(random);
  s.half_angle = kind == Kind::Cone ? 0.7 * part(random) : 0;
  s.major = any_perpendicular(s.axis);
  s.hollow = random() % 2 == 0;
  return s;
}

TEST(SurfaceKinds, AreFoundByTheirNamesInTheOrderOfTheEnumeration) {
  std::set<std::string> names;
  for (const SurfaceKind& k : surface_kinds()) {
    EXPECT_EQ(&about(k.kind), &k);
    EXPECT_EQ(find_surface_kind(k.name), &k);
    EXPECT_TRUE(names.insert(k.name).second);
    for (const SizeInfo& size : k.size_list()) {
      EXPECT_STRNE(size.name, "");
      EXPECT_STRNE(size.symbol, "");
    }
  }
  EXPECT_EQ(find_surface_kind("paraboloid"), nullptr);
}

TEST(SurfaceKinds, HaveTheFreedomsOfTheStandardElements) {
  // A. B. Forbes, Least-squares best-fit geometric elements, NPL Report DITC 140/89 (1989), gives
  // the parameters of lines, planes, circles, spheres, cylinders and cones; the torus (centre, axis
  // and two radii) and the ellipse (a circle with a second axis and its direction) follow.
  const std::map<Kind, int> freedoms{{Kind::Plane, 3},  {Kind::Cylinder, 5}, {Kind::Cone, 6},
                                     {Kind::Sphere, 4}, {Kind::Torus, 7},    {Kind::Line, 4},
                                     {Kind::Circle, 6}, {Kind::Ellipse, 8},  {Kind::Point, 3}};
  for (const SurfaceKind& k : surface_kinds())
    EXPECT_EQ(freedoms_of(k.kind, Vec3(0, 0.6, 0.8)).count(), freedoms.at(k.kind)) << k.name;
}

TEST(SurfaceKinds, AStartComesFromPointsAndNormalsAtAnySizeAndPlace) {
  // A piece of each kind of about a quarter, with normals that noise has turned by a degree.
  std::mt19937 random(7);
  std::normal_distribution<double> noise(0, 1);
  std::uniform_real_distribution<double> part(0, 1);
  for (const Kind kind : {Kind::Plane, Kind::Cylinder, Kind::Cone, Kind::Sphere, Kind::Torus}) {
    for (const double size : {0.02, 1.0, 15.0}) {
      for (int k = 0; k < 5; ++k) {
        Surface truth = drawn(kind, 30 * size, random);
        truth.hollow = false;
        const Vec3 u = any_perpendicular(truth.axis);
        const Vec3 v = truth.axis.cross(u);
        constexpr int kPoints = 600;
        Eigen::Matrix3Xd points(3, kPoints);
        Eigen::Matrix3Xd normals(3, kPoints);
        for (int i = 0; i < kPoints; ++i) {
          const double a = 1.8 * part(random);
          const double b = 1.4 * (part(random) - 0.5);
          const Vec3 out = std::cos(a) * u + std::sin(a) * v;
          Vec3 near = truth.point + 20 * size * (a * u + b * v);
          if (kind == Kind::Cylinder || kind == Kind::Cone)
            near = truth.point + truth.radius * out + truth.radius * b * truth.axis;
          if (kind == Kind::Sphere)
            near = truth.point + truth.radius * (out + std::tan(b) * truth.axis).normalized();
          if (kind == Kind::Torus)
            near = truth.point + truth.radius * out +
                   truth.minor_radius * (std::cos(2 * b) * out + std::sin(2 * b) * truth.axis);
          for (int step = 0; step < 20; ++step)
            near -= truth.distance(near) * truth.normal_at(near);
          points.col(i) = near + 0.0005 * size * noise(random) * truth.normal_at(near);
          const Vec3 turned(noise(random), noise(random), noise(random));
          normals.col(i) = (truth.normal_at(near) + 0.017 * turned).normalized();
        }
        const auto start = estimate_surface(kind, points, normals);
        ASSERT_TRUE(start) << about(kind).name << " " << start.error().message;
        double sum = 0;
        for (int i = 0; i < kPoints; ++i) sum += std::pow(start->distance(points.col(i)), 2);
        const double off = std::sqrt(sum / kPoints);
        EXPECT_LT(off, 2 * size) << about(kind).name << " of size " << size;
        // Near enough to settle on the truth from there.
        const auto fitted = fit_surface(kind, points, normals, *start);
        ASSERT_TRUE(fitted) << about(kind).name;
        EXPECT_LT(fitted->sigma, 0.001 * size) << about(kind).name;
        if (has_direction(kind)) {
          EXPECT_LT(angle_between(fitted->surface.axis, truth.axis), 0.02) << about(kind).name;
        }
      }
    }
  }
}

TEST(SurfaceKinds, NormalsAreTheSlopeOfTheDistanceAtAnySizeAndPlace) {
  std::mt19937 random(90125);
  for (const SurfaceKind& k : surface_kinds()) {
    if (k.nature != SurfaceKind::Nature::Surface) continue;
    for (const double size : {0.5, 20.0, 3000.0}) {
      for (int i = 0; i < 20; ++i) {
        const Surface s = drawn(k.kind, size, random);
        const Vec3 p = s.point + size * any_direction(random);
        const Vec3 n = s.normal_at(p);
        EXPECT_NEAR(n.norm(), 1, 1e-12);
        EXPECT_NEAR(s.distance(p - s.distance(p) * n), 0, 1e-9 * size) << k.name;
        const double step = 1e-5 * size;
        for (int axis = 0; axis < 3; ++axis) {
          const Vec3 d = step * Vec3::Unit(axis);
          EXPECT_NEAR((s.distance(p + d) - s.distance(p - d)) / (2 * step), n[axis], 1e-5)
              << k.name;
        }
        // Rigid motion changes neither.
        const Transform motion = Eigen::Translation3d(size * any_direction(random)) *
                                 Eigen::AngleAxisd(static_cast<double>(i), any_direction(random));
        EXPECT_NEAR(transformed(s, motion).distance(motion * p), s.distance(p), 1e-9 * size);
      }
    }
  }
}

TEST(SurfaceKinds, TheSlopesBySizesAreExact) {
  std::mt19937 random(7);
  for (const SurfaceKind& k : surface_kinds()) {
    with_surface(k.kind, [&]<Kind kKind>() {
      for (int i = 0; i < 40; ++i) {
        Surface s = drawn(kKind, 10, random);
        const Vec3 d = 10 * any_direction(random);
        const double z = d.dot(s.axis);
        const auto at = [&] { return slopes_at<kKind>(Numbers(s), d, z); };
        const Slopes here = at();
        const auto slope = [&](double Surface::*number) {
          constexpr double kStep = 1e-6;
          s.*number += kStep;
          const double more = at().distance;
          s.*number -= 2 * kStep;
          const double less = at().distance;
          s.*number += kStep;
          return (more - less) / (2 * kStep);
        };
        if (k.has_radius) {
          EXPECT_NEAR(here.by_radius, slope(&Surface::radius), 1e-6) << k.name;
        }
        if (k.last != nullptr) {
          EXPECT_NEAR(here.by_last, slope(k.last), 1e-5) << k.name;
        }
      }
    });
  }
}

TEST(SurfaceKinds, SizesAreSaidAsTheTradeSaysThem) {
  Surface s;
  s.radius = 4;
  s.minor_radius = 1.5;
  s.half_angle = 0.5;
  const auto said = [&](Kind kind) { return about(kind).size()->said(s); };
  EXPECT_DOUBLE_EQ(said(Kind::Cylinder), 8);
  EXPECT_DOUBLE_EQ(said(Kind::Sphere), 8);
  EXPECT_DOUBLE_EQ(said(Kind::Torus), 1.5);
  EXPECT_NEAR(said(Kind::Cone), 28.64788975654116, 1e-12);
  EXPECT_DOUBLE_EQ(about(Kind::Cylinder).size()->held(s), 4);
  EXPECT_EQ(about(Kind::Plane).size(), nullptr);
}

TEST(SurfaceKinds, SurfaceAtADistanceIsThatFarOff) {
  for (const fit::Kind kind : {fit::Kind::Plane, fit::Kind::Cylinder, fit::Kind::Cone,
                               fit::Kind::Sphere, fit::Kind::Torus}) {
    for (const bool hollow : {false, true}) {
      fit::Surface s;
      s.kind = kind;
      s.point = Vec3(3, -2, 7);
      s.axis = Vec3(1, 2, 2) / 3;
      s.radius = 20;
      s.half_angle = kind == fit::Kind::Cone ? 0.4 : 0;
      s.minor_radius = kind == fit::Kind::Torus ? 6 : 0;
      s.hollow = hollow && !fit::is_flat(kind);
      for (const double distance : {1.5, -1.5}) {
        const fit::Surface off = fit::at_distance(s, distance);
        for (const Vec3& near : {Vec3(25, 4, 9), Vec3(-9, 11, 20), Vec3(5, -21, 12)}) {
          const Vec3 foot = near - s.distance(near) * s.normal_at(near);
          EXPECT_NEAR(off.distance(foot + distance * s.normal_at(foot)), 0, 1e-9)
              << fit::kind_name(kind) << hollow << distance;
        }
      }
    }
  }
}

TEST(SurfaceKinds, EachIsFlatTurnedOrHasACentre) {
  for (const fit::SurfaceKind& k : fit::surface_kinds()) {
    const int ways = (fit::is_flat(k.kind) ? 1 : 0) + (fit::is_turned(k.kind) ? 1 : 0) +
                     (fit::has_centre(k.kind) ? 1 : 0);
    EXPECT_EQ(ways, k.kind == fit::Kind::Line ? 0 : 1) << k.name;
  }
}

}  // namespace
}  // namespace lostline::fit
