// Silhouettes of scans whose true ones are known.
#include "section/outline.h"

#include <gtest/gtest.h>

#include <random>

#include "section/resolve.h"

namespace lostline::section {
namespace {

/// Points about `spacing` apart over a box with a round hole through it, and over a ball beside it.
scan::Mesh ball(const Vec3& centre, double radius, double spacing, double noise, unsigned seed) {
  scan::Mesh mesh;
  std::mt19937 random(seed);
  std::normal_distribution<double> off(0, noise);
  const int rows = std::max(6, static_cast<int>(3.14159 * radius / spacing));
  const int columns = 2 * rows;
  for (int i = 0; i <= rows; ++i) {
    for (int k = 0; k < columns; ++k) {
      const double a = 3.14159265358979 * i / rows;
      const double b = 6.28318530717959 * k / columns;
      const Vec3 n(std::sin(a) * std::cos(b), std::sin(a) * std::sin(b), std::cos(a));
      mesh.vertices.push_back(centre + (radius + off(random)) * n);
    }
  }
  const auto at = [&](int i, int k) {
    return static_cast<std::uint32_t>(i * columns + k % columns);
  };
  for (int i = 0; i < rows; ++i) {
    for (int k = 0; k < columns; ++k) {
      mesh.triangles.push_back({at(i, k), at(i + 1, k), at(i + 1, k + 1)});
      mesh.triangles.push_back({at(i, k), at(i + 1, k + 1), at(i, k + 1)});
    }
  }
  return mesh;
}

/// A ring about an axis through the origin along z: seen along it, two circles.
scan::Mesh ring(double radius, double tube, double spacing, double noise, unsigned seed) {
  scan::Mesh mesh;
  std::mt19937 random(seed);
  std::normal_distribution<double> off(0, noise);
  const int around = static_cast<int>(6.2832 * (radius + tube) / spacing);
  const int across = static_cast<int>(6.2832 * tube / spacing);
  for (int i = 0; i < around; ++i) {
    for (int k = 0; k < across; ++k) {
      const double a = 6.28318530717959 * i / around;
      const double b = 6.28318530717959 * k / across;
      const double r = tube + off(random);
      mesh.vertices.emplace_back((radius + r * std::cos(b)) * std::cos(a),
                                 (radius + r * std::cos(b)) * std::sin(a), r * std::sin(b));
    }
  }
  const auto at = [&](int i, int k) {
    return static_cast<std::uint32_t>(i % around * across + k % across);
  };
  for (int i = 0; i < around; ++i) {
    for (int k = 0; k < across; ++k) {
      mesh.triangles.push_back({at(i, k), at(i + 1, k), at(i + 1, k + 1)});
      mesh.triangles.push_back({at(i, k), at(i + 1, k + 1), at(i, k + 1)});
    }
  }
  return mesh;
}

TEST(Outline, ABallIsACircleFromEverySideWithAndWithoutOffset) {
  for (const double size : {0.05, 1.0, 12.0}) {
    const scan::Mesh mesh = ball(size * Vec3(5, -3, 2), 20 * size, size, 0.02 * size, 3);
    for (const Vec3& direction : {Vec3(0, 0, 1), Vec3(1, 2, -0.5).normalized().eval()}) {
      // Far off too: that once took minutes.
      for (const double offset : {0.0, 4.0, -3.0, 250.0}) {
        const Placement plane = placement_on(Vec3::Zero(), direction);
        OutlineOptions options;
        options.offset = offset * size;
        const auto found = outline(mesh, plane, options);
        ASSERT_TRUE(found) << found.error().message;
        ASSERT_EQ(found->polylines.size(), 1U);
        const Vec2 centre = plane.to_plane(size * Vec3(5, -3, 2));
        for (const Vec2& p : found->polylines[0].points)
          EXPECT_NEAR((p - centre).norm(), (20 + offset) * size, 0.15 * size);
        const auto curves = resolve(found->polylines[0], {0.1 * size});
        ASSERT_TRUE(curves);
        EXPECT_EQ(curves->size(), 1U);
        EXPECT_EQ(curves->front().type, CurveType::Circle);
      }
    }
  }
}

TEST(Outline, ARingHasItsOpeningWhichTurnsTheOtherWayAndGrowsSmallerWithTheOffset) {
  const scan::Mesh mesh = ring(30, 8, 1, 0.02, 5);
  for (const double offset : {0.0, 2.0}) {
    OutlineOptions options;
    options.offset = offset;
    const auto found = outline(mesh, Placement{}, options);
    ASSERT_TRUE(found);
    ASSERT_EQ(found->polylines.size(), 2U);
    for (const Vec2& p : found->polylines[0].points) EXPECT_NEAR(p.norm(), 38 + offset, 0.15);
    for (const Vec2& p : found->polylines[1].points) EXPECT_NEAR(p.norm(), 22 - offset, 0.15);
    const auto area = [](const Polyline& line) {
      double sum = 0;
      for (std::size_t i = 0; i < line.points.size(); ++i) {
        const Vec2& a = line.points[i];
        const Vec2& b = line.points[(i + 1) % line.points.size()];
        sum += 0.5 * (a.x() * b.y() - a.y() * b.x());
      }
      return sum;
    };
    EXPECT_GT(area(found->polylines[0]), 0);
    EXPECT_LT(area(found->polylines[1]), 0);
  }
  OutlineOptions options;
  options.openings = false;
  const auto outer = outline(mesh, Placement{}, options);
  ASSERT_TRUE(outer);
  EXPECT_EQ(outer->polylines.size(), 1U);
}

TEST(Outline, WhatLeavesNothingIsRefusedInWords) {
  const scan::Mesh mesh = ball(Vec3::Zero(), 10, 1, 0, 1);
  OutlineOptions options;
  options.offset = -11000;
  EXPECT_FALSE(outline(mesh, Placement{}, options));
  options.offset = -11;
  const auto nothing = outline(mesh, Placement{}, options);
  ASSERT_FALSE(nothing);
  EXPECT_NE(nothing.error().message.find("smaller offset"), std::string::npos);
  EXPECT_FALSE(outline({}, Placement{}));
  std::stop_source stop;
  stop.request_stop();
  const auto stopped = outline(mesh, Placement{}, {}, Task(stop.get_token()));
  ASSERT_FALSE(stopped);
  EXPECT_EQ(stopped.error().code, ErrorCode::Cancelled);
}

}  // namespace
}  // namespace lostline::section
