// What narrow bands of points can tell: rows, tilt by rounded edges, cones that are cylinders.
#include "survey/bands.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>
#include <numeric>
#include <random>

#include "survey/plane_profile.h"

namespace lostline::survey {
namespace {

scan::Mesh grid(int rows, int columns) {
  scan::Mesh mesh;
  for (int i = 0; i < rows; ++i) {
    for (int j = 0; j < columns; ++j) mesh.vertices.emplace_back(i, j, 0);
  }
  const auto index = [&](int i, int j) { return static_cast<std::uint32_t>(i * columns + j); };
  for (int i = 0; i + 1 < rows; ++i) {
    for (int j = 0; j + 1 < columns; ++j) {
      mesh.triangles.push_back({index(i, j), index(i + 1, j), index(i + 1, j + 1)});
      mesh.triangles.push_back({index(i, j), index(i + 1, j + 1), index(i, j + 1)});
    }
  }
  return mesh;
}

TEST(Bands, RowsAreCountedFromTrianglesAndPoints) {
  for (int rows = 2; rows <= 6; ++rows) {
    const scan::Mesh mesh = grid(rows, 80);
    std::vector<std::uint32_t> all(mesh.triangles.size());
    std::iota(all.begin(), all.end(), 0U);
    EXPECT_TRUE(is_band(mesh, all, rows)) << rows;
    if (rows > 2) {
      EXPECT_FALSE(is_band(mesh, all, rows - 1)) << rows;
    }
  }
}

/// A strip of a plane or cylinder, `width` wide, as a patch.
Patch strip(fit::Kind kind, double width, double size, double half_angle = 0, double noise = 0,
            unsigned seed = 1) {
  std::mt19937_64 random(seed);
  std::normal_distribution<double> normal(0, noise);
  constexpr int kRows = 4;
  constexpr int kColumns = 90;
  Patch patch;
  patch.narrow = true;
  patch.points.resize(3, kRows * kColumns);
  patch.normals.resize(3, kRows * kColumns);
  for (int i = 0; i < kRows; ++i) {
    for (int j = 0; j < kColumns; ++j) {
      const double across = width * (static_cast<double>(i) / (kRows - 1) - 0.5);
      const double along = static_cast<double>(j) / kColumns;
      Vec3 p(40 * along, across, 0);
      Vec3 n = Vec3::UnitZ();
      if (kind != fit::Kind::Plane) {
        const double turn = 2 * std::numbers::pi * along;
        const Vec3 out(std::cos(turn), std::sin(turn), 0);
        n = std::cos(half_angle) * out - std::sin(half_angle) * Vec3::UnitZ();
        p = (10 + across * std::sin(half_angle)) * out +
            across * std::cos(half_angle) * Vec3::UnitZ();
      }
      const int k = i * kColumns + j;
      patch.points.col(k) = size * (p + normal(random) * n);
      patch.normals.col(k) = n;
    }
  }
  return patch;
}

fit::SurfaceFit fitted(fit::Kind kind, const Patch& patch) {
  fit::SurfaceFitOptions options;
  options.hopeless = 0;
  std::optional<fit::Surface> start;
  if (kind == fit::Kind::Cone) {  // no taper to be seen is no start
    start.emplace();
    start->kind = kind;
    start->radius = 10;
    start->half_angle = 0.02;
  }
  const auto fit = fit::fit_surface(kind, patch.points, patch.normals, start, options);
  EXPECT_TRUE(fit) << fit.error().message;
  return *fit;
}

TEST(Bands, RoundedEdgesTiltANarrowBandMoreAndAtEverySizeAlike) {
  for (const fit::Kind kind : {fit::Kind::Plane, fit::Kind::Cylinder}) {
    double last = 1;
    for (const double width : {1.5, 3.0, 6.0}) {
      std::array<double, 3> tilt{};
      std::size_t k = 0;
      for (const double size : {0.02, 1.0, 15.0}) {
        const Patch band = strip(kind, width, size, 0, 0.01);
        fit::SurfaceFit fit = fitted(kind, band);
        const double own = fit.u_angle;
        add_rounding(fit, band, 0.9 * size);
        EXPECT_GT(fit.u_angle, own);
        tilt[k++] = std::sqrt(fit.u_angle * fit.u_angle - own * own);
      }
      EXPECT_NEAR(tilt[0], tilt[1], 1e-3 * tilt[1]);
      EXPECT_NEAR(tilt[2], tilt[1], 1e-3 * tilt[1]);
      // A twentieth of a spacing over half the width; four rows spread a little more than evenly.
      EXPECT_NEAR(tilt[1], 0.05 * 0.9 / (0.5 * width), 0.3 * tilt[1]);
      EXPECT_LT(tilt[1], last);
      last = tilt[1];
    }
  }
}

TEST(Bands, AConeThatMayHaveNoAngleIsACylinderAndATaperedOneStays) {
  int cylinders = 0;
  constexpr int kTried = 20;
  for (unsigned seed = 1; seed <= kTried; ++seed) {
    const Patch band = strip(fit::Kind::Cylinder, 3, 1, 0, 0.02, seed);
    fit::SurfaceFit fit = fitted(fit::Kind::Cone, band);
    add_rounding(fit, band, 0.9);
    const double u = fit.u_angle;
    take_as_cylinder(fit, band);
    if (fit.surface.kind != fit::Kind::Cylinder) continue;
    ++cylinders;
    EXPECT_NEAR(fit.surface.radius, 10, 3 * fit.u_radius);
    EXPECT_GE(fit.u_angle, u);  // what the edges leave open stays said
  }
  EXPECT_EQ(cylinders, kTried);
  for (unsigned seed = 1; seed <= kTried; ++seed) {
    const Patch band = strip(fit::Kind::Cone, 3, 1, 8 * std::numbers::pi / 180, 0.02, seed);
    fit::SurfaceFit fit = fitted(fit::Kind::Cone, band);
    add_rounding(fit, band, 0.9);
    take_as_cylinder(fit, band);
    EXPECT_EQ(fit.surface.kind, fit::Kind::Cone) << seed;
  }
}

TEST(PlaneProfile, CirclesAndLinesAreFoundWhereverTheyLie) {
  for (const double size : {1e-3, 1.0, 1e4}) {
    std::vector<Vec2> arc;
    std::vector<Vec2> line;
    const Vec2 centre = size * Vec2(7, -3);
    const Vec2 direction(std::cos(0.7), std::sin(0.7));
    for (int i = 0; i <= 30; ++i) {
      const double a = 0.4 + 1.2 * i / 30;
      arc.emplace_back(centre + size * 5 * Vec2(std::cos(a), std::sin(a)));
      line.emplace_back(centre + size * (i - 10) * direction);
    }
    const auto circle = circle_through(arc, false);
    ASSERT_TRUE(circle);
    EXPECT_LT((circle->first - centre).norm(), 1e-8 * size);
    EXPECT_NEAR(circle->second, 5 * size, 1e-8 * size);
    const auto [middle, along] = line_through(line);
    EXPECT_LT((middle - (centre + 5 * size * direction)).norm(), 1e-9 * size);
    EXPECT_NEAR(std::abs(along.dot(direction)), 1, 1e-12);
  }
}

TEST(PlaneProfile, ABallHasItsCentreOnTheAxis) {
  std::vector<Vec2> arc;
  for (int i = 0; i <= 30; ++i) {
    const double a = -0.5 + 1.4 * i / 30;
    arc.emplace_back(8 * std::cos(a), 20 + 8 * std::sin(a));
  }
  const auto circle = circle_through(arc, true);
  ASSERT_TRUE(circle);
  EXPECT_EQ(circle->first.x(), 0);
  EXPECT_NEAR(circle->first.y(), 20, 1e-9);
  EXPECT_NEAR(circle->second, 8, 1e-9);
}

}  // namespace
}  // namespace lostline::survey
