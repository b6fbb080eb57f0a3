// What narrow bands of points can tell: rows, tilt by rounded edges, cones that are cylinders.
#include "survey/bands.h"

#include <gtest/gtest.h>

#include <array>
#include <cmath>
#include <numbers>
#include <numeric>
#include <random>

#include "support/rounds.h"
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

TEST(Patch, TheRowAtTheRimIsLeftOutWhereThereIsEnoughBesideItAndMarkedWhereThereIsNot) {
  const auto all_of = [](const scan::Mesh& mesh) {
    std::vector<std::uint32_t> all(mesh.triangles.size());
    std::iota(all.begin(), all.end(), 0U);
    return all;
  };
  const auto any = [](std::uint32_t) { return true; };
  const scan::Mesh wide = grid(40, 50);
  const Patch whole = patch_of(wide, scan::build_topology(wide), all_of(wide), any);
  EXPECT_EQ(whole.points.cols(), 40 * 50);  // the scan itself ends there: no edge beside it
  EXPECT_TRUE(whole.rim.empty());
  // A window of a larger scan.
  for (const auto& [rows, narrow] : {std::pair{3, true}, {6, false}, {30, false}}) {
    const scan::Topology topology = scan::build_topology(wide);
    std::vector<std::uint32_t> window;
    for (std::uint32_t t = 0; t < wide.triangles.size(); ++t) {
      const Vec3 at = wide.centroid(t);
      if (at.x() > 2 && at.x() < rows + 1 && at.y() > 2 && at.y() < 47) window.push_back(t);
    }
    const Patch patch = patch_of(wide, topology, window, any);
    EXPECT_EQ(patch.narrow, narrow) << rows;
    if (rows == 30) {
      EXPECT_TRUE(patch.rim.empty());
      EXPECT_EQ(patch.points.cols(), (rows - 2) * 44);
      continue;
    }
    ASSERT_EQ(patch.rim.size(), static_cast<std::size_t>(patch.points.cols()));
    EXPECT_EQ(patch.points.cols(), rows * 46);
    for (std::size_t i = 0; i < patch.rim.size(); ++i) {
      const Vec3 p = patch.points.col(static_cast<Eigen::Index>(i));
      const bool at_rim = p.x() < 2.5 || p.x() > rows + 0.5 || p.y() < 2.5 || p.y() > 46.5;
      EXPECT_EQ(patch.rim[i] != 0, at_rim) << p.transpose();
    }
    // A row beside an edge counts the less the more it stands off; all others count as one.
    const Eigen::VectorXd sure = row_weights(patch, fit::Kind::Plane, 1);
    const Eigen::VectorXd vague = row_weights(patch, fit::Kind::Plane, 1e-4);
    for (std::size_t i = 0; i < patch.rim.size(); ++i) {
      const auto k = static_cast<Eigen::Index>(i);
      EXPECT_TRUE(patch.rim[i] == 0 ? sure[k] == 1 : sure[k] < 0.2);
      EXPECT_LE(vague[k], sure[k]);
    }
  }
}

/// A strip of a plane, cylinder or cone, `width` wide, as a patch.
/// @param stands_off  mm, k = 1: of each row at the rim as a whole.
Patch strip(fit::Kind kind, double width, double size, double half_angle = 0, double noise = 0,
            unsigned seed = 1, int rows = 4, double stands_off = 0) {
  std::mt19937_64 random(seed);
  std::normal_distribution<double> normal(0, noise);
  std::normal_distribution<double> row(0, stands_off);
  const std::array<double, 2> off{stands_off > 0 ? row(random) : 0,
                                  stands_off > 0 ? row(random) : 0};
  constexpr int kColumns = 90;
  Patch patch;
  patch.narrow = rows <= 4;
  patch.spacing = size * width / (rows - 1);
  patch.points.resize(3, static_cast<Eigen::Index>(rows) * kColumns);
  patch.normals.resize(3, static_cast<Eigen::Index>(rows) * kColumns);
  for (int i = 0; i < rows; ++i) {
    const double side = i == 0 ? off[0] : (i == rows - 1 ? off[1] : 0);
    for (int j = 0; j < kColumns; ++j) {
      patch.rim.push_back(i == 0 || i == rows - 1 ? 1 : 0);
      const double across = width * (static_cast<double>(i) / (rows - 1) - 0.5);
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
      patch.points.col(k) = size * (p + (side + normal(random)) * n);
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
  const auto fit = fit_patch(kind, patch, start, options);
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
    take_as_cylinder(fit, band);
    if (fit.surface.kind != fit::Kind::Cylinder) continue;
    ++cylinders;
    EXPECT_NEAR(fit.surface.radius, 10, 3 * fit.u_radius);
    const auto plain = fit::fit_surface(fit::Kind::Cylinder, band.points, band.normals);
    ASSERT_TRUE(plain);
    EXPECT_GT(fit.u_angle, plain->u_angle);  // edges leave more open
  }
  EXPECT_EQ(cylinders, kTried);
  for (unsigned seed = 1; seed <= kTried; ++seed) {
    const Patch band = strip(fit::Kind::Cone, 3, 1, 8 * std::numbers::pi / 180, 0.02, seed);
    fit::SurfaceFit fit = fitted(fit::Kind::Cone, band);
    take_as_cylinder(fit, band);
    EXPECT_EQ(fit.surface.kind, fit::Kind::Cone) << seed;
  }
}

TEST(Bands, RowsThatStandOffAsAWholeAreInTheUncertainty) {
  // Beside edges a row stands off by half the noise; a free fit that takes every point for
  // independent states too little.
  struct Told {
    int all = 0, rows = 0, plain = 0;
  };
  constexpr double kNoise = 0.02;
  for (const fit::Kind kind : {fit::Kind::Plane, fit::Kind::Cylinder, fit::Kind::Cone}) {
    for (const int rows : {4, 6}) {
      Told told;
      const int rounds = testing::rounds(300, 120, 60);
      for (int k = 0; k < rounds; ++k) {
        const double half = kind == fit::Kind::Cone ? 30 * std::numbers::pi / 180 : 0;
        const double off = rows == 4 ? 0.03 * 3.0 / (rows - 1) : 0.5 * kNoise;
        const Patch band =
            strip(kind, 3, 1, half, kNoise, static_cast<unsigned>(1000 * rows + k), rows, off);
        fit::Surface truth;
        truth.kind = kind;
        truth.radius = 10;
        truth.half_angle = -half;
        const auto with_rows = fit_patch(kind, band, truth);
        const auto plain = fit::fit_surface(kind, band.points, band.normals, truth);
        ASSERT_TRUE(with_rows && plain);
        const auto holds = [&](const fit::SurfaceFit& f) {
          return fit::angle_between(f.surface.axis, truth.axis) <= f.u_angle;
        };
        ++told.all;
        told.rows += holds(*with_rows) ? 1 : 0;
        told.plain += holds(*plain) ? 1 : 0;
      }
      const double stray = testing::stray(told.all, 0.95);
      EXPECT_GE(told.rows, 0.95 * told.all - stray) << fit::kind_name(kind) << " " << rows;
      if (kind == fit::Kind::Plane) {
        EXPECT_LT(told.plain, told.rows) << rows;
      }
    }
  }
}

TEST(Bands, AFewPointsWithinThatSayOtherwiseDoNotOverruleTheRows) {
  // A strip of two rows with a dozen points between them that lie askew.
  Patch band = strip(fit::Kind::Plane, 2, 1, 0, 0.01, 3, 3);
  std::vector<Eigen::Index> kept;
  for (Eigen::Index i = 0; i < band.points.cols(); ++i)
    if (band.rim[static_cast<std::size_t>(i)] != 0 || i % 8 == 0) kept.push_back(i);
  Patch few;
  few.narrow = true;
  few.spacing = 1;
  few.points = band.points(Eigen::all, kept);
  few.normals = band.normals(Eigen::all, kept);
  for (std::size_t k = 0; k < kept.size(); ++k) {
    few.rim.push_back(band.rim[static_cast<std::size_t>(kept[k])]);
    if (few.rim.back() == 0)
      few.points(2, static_cast<Eigen::Index>(k)) +=
          0.02 * (few.points(0, static_cast<Eigen::Index>(k)) - 20);
  }
  const auto fitted = fit_patch(fit::Kind::Plane, few);
  ASSERT_TRUE(fitted);
  EXPECT_LT(fit::angle_between(fitted->surface.axis, Vec3::UnitZ()), 0.005);
  EXPECT_LT(fitted->rms, 0.02);
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
