// Free-form faces through areas of scan whose true shape only the generator knows.
#include "patch/patch.h"

#include <gtest/gtest.h>

#include <cmath>
#include <functional>
#include <numbers>
#include <random>

#include "io/step.h"
#include "model/spline_face.h"

namespace lostline::patch {
namespace {

using Shape = std::function<Vec3(double, double)>;  // of [0, 1] x [0, 1]

/// @param open  whether a cell is there, by its middle.
scan::Mesh mesh_of(const Shape& shape, int nu, int nv, double noise, unsigned seed,
                   const std::function<bool(double, double)>& open = {}) {
  std::mt19937 random(seed);
  std::normal_distribution<double> off(0, noise);
  std::uniform_real_distribution<double> shift(-0.25, 0.25);
  scan::Mesh mesh;
  for (int i = 0; i <= nu; ++i) {
    for (int j = 0; j <= nv; ++j) {
      const bool rim = i == 0 || j == 0 || i == nu || j == nv;
      const double u = (i + (rim ? 0 : shift(random))) / nu;
      const double v = (j + (rim ? 0 : shift(random))) / nv;
      const double h = 1e-5;
      const Vec3 n = (shape(u + h, v) - shape(u - h, v)).cross(shape(u, v + h) - shape(u, v - h));
      mesh.vertices.push_back(shape(u, v) + off(random) * n.normalized());
    }
  }
  const auto at = [nv](int i, int j) { return static_cast<std::uint32_t>(i * (nv + 1) + j); };
  for (int i = 0; i < nu; ++i) {
    for (int j = 0; j < nv; ++j) {
      if (open && open((i + 0.5) / nu, (j + 0.5) / nv)) continue;
      mesh.triangles.push_back({at(i, j), at(i + 1, j), at(i + 1, j + 1)});
      mesh.triangles.push_back({at(i, j), at(i + 1, j + 1), at(i, j + 1)});
    }
  }
  return mesh;
}

std::vector<std::uint32_t> all_of(const scan::Mesh& mesh) {
  std::vector<std::uint32_t> all(mesh.triangles.size());
  for (std::uint32_t t = 0; t < all.size(); ++t) all[t] = t;
  return all;
}

/// Gentle hills of a size, in any direction.
Shape hills(double size, unsigned seed) {
  std::mt19937 random(seed);
  std::uniform_real_distribution<double> any(-1, 1);
  std::vector<std::array<double, 4>> waves;
  for (int k = 0; k < 5; ++k)
    waves.push_back({2.5 * any(random), 2.5 * any(random), 3 * any(random), 0.04 * any(random)});
  const Eigen::Quaterniond turn(
      Vec3(any(random), any(random), any(random)).norm() > 0
          ? Eigen::AngleAxisd(2 * any(random), Vec3(1, any(random), 0.3).normalized())
          : Eigen::AngleAxisd(0, Vec3::UnitZ()));
  return [=](double u, double v) -> Vec3 {
    double z = 0;
    for (const auto& w : waves)
      z += w[3] * std::sin(2 * std::numbers::pi * (w[0] * u + w[1] * v * 0.6) + w[2]);
    return size * (turn * Vec3(u, 0.6 * v, z)) + Vec3(3 * size, -size, 0.5 * size);
  };
}

/// Distance of a place of the patch from the true shape, by descent from the best of a grid.
double off_truth(const Shape& shape, const Vec3& p, double u, double v) {
  double step = 0.01;
  double best = (shape(u, v) - p).norm();
  while (step > 1e-7) {
    bool better = false;
    for (const auto& [du, dv] : {std::pair(step, 0.0), {-step, 0.0}, {0.0, step}, {0.0, -step}}) {
      const double d = (shape(u + du, v + dv) - p).norm();
      if (d >= best) continue;
      best = d;
      u += du;
      v += dv;
      better = true;
    }
    if (!better) step /= 2;
  }
  return best;
}

double rms_off_truth(const Shape& shape, const Patch& patch, int nu, int nv) {
  double sum = 0;
  int count = 0;
  for (std::size_t k = 0; k < patch.vertices.size(); k += 7) {
    const auto i = static_cast<double>(patch.vertices[k] / static_cast<std::uint32_t>(nv + 1));
    const auto j = static_cast<double>(patch.vertices[k] % static_cast<std::uint32_t>(nv + 1));
    const Vec3 at = patch.surface.at(patch.feet[k].x(), patch.feet[k].y());
    const double d = off_truth(shape, at, i / nu, j / nv);
    sum += d * d;
    ++count;
  }
  return std::sqrt(sum / count);
}

class Patches : public ::testing::TestWithParam<double> {};

TEST_P(Patches, LieNearerToTheTruthThanTheNoise) {
  const double size = GetParam();
  for (unsigned seed = 1; seed <= 6; ++seed) {
    const double noise = 2e-4 * size * (1 + seed % 3);
    const Shape shape = hills(size, seed);
    const scan::Mesh mesh = mesh_of(shape, 90, 60, noise, seed);
    PatchOptions options;
    options.noise = noise;
    const auto patch = fit_patch(mesh, all_of(mesh), options);
    ASSERT_TRUE(patch) << patch.error().message;
    EXPECT_LT(rms_off_truth(shape, *patch, 90, 60), 0.5 * noise) << seed;
    EXPECT_LT(patch->rms, 1.1 * noise) << seed;
    EXPECT_GT(patch->rms, 0.9 * noise) << "it does not follow the noise, " << seed;
    EXPECT_FALSE(patch->follows_noise);
    // Without being told the noise it stops at about the same.
    options.noise = 0;
    const auto untold = fit_patch(mesh, all_of(mesh), options);
    ASSERT_TRUE(untold);
    EXPECT_LT(rms_off_truth(shape, *untold, 90, 60), 0.6 * noise) << seed;
  }
}

TEST_P(Patches, AreNoRougherThanTheShape) {
  const double size = GetParam();
  const Shape shape = hills(size, 4);
  const double noise = 5e-4 * size;
  const scan::Mesh mesh = mesh_of(shape, 90, 60, noise, 4);
  const auto curvature = [](const SplineSurface::Jet& s) {
    const Vec3 n = s.du.cross(s.dv).normalized();
    const double e = s.du.squaredNorm();
    const double f = s.du.dot(s.dv);
    const double g = s.dv.squaredNorm();
    Eigen::Matrix2d first;
    first << e, f, f, g;
    Eigen::Matrix2d second;
    second << s.duu.dot(n), s.duv.dot(n), s.duv.dot(n), s.dvv.dot(n);
    const Eigen::Vector2cd k = (first.inverse() * second).eigenvalues();
    return std::max(std::abs(k[0]), std::abs(k[1]));
  };
  double truth = 0;
  const double h = 1e-4;
  for (int i = 1; i < 40; ++i) {
    for (int j = 1; j < 40; ++j) {
      const double u = i / 40.0;
      const double v = j / 40.0;
      SplineSurface::Jet s{};
      s.du = (shape(u + h, v) - shape(u - h, v)) / (2 * h);
      s.dv = (shape(u, v + h) - shape(u, v - h)) / (2 * h);
      s.duu = (shape(u + h, v) - 2 * shape(u, v) + shape(u - h, v)) / (h * h);
      s.dvv = (shape(u, v + h) - 2 * shape(u, v) + shape(u, v - h)) / (h * h);
      s.duv =
          (shape(u + h, v + h) - shape(u + h, v - h) - shape(u - h, v + h) + shape(u - h, v - h)) /
          (4 * h * h);
      truth = std::max(truth, curvature(s));
    }
  }
  PatchOptions options;
  options.noise = noise;
  const auto patch = fit_patch(mesh, all_of(mesh), options);
  ASSERT_TRUE(patch);
  double most = 0;
  for (const Vec2& foot : patch->feet)
    most = std::max(most, curvature(patch->surface.jet(foot.x(), foot.y())));
  EXPECT_LT(most, 2 * truth);
}

TEST_P(Patches, BridgeHolesSmoothly) {
  const double size = GetParam();
  const Shape shape = hills(size, 9);
  const double noise = 2e-4 * size;
  const auto hole = [](double u, double v) { return std::hypot(u - 0.5, 0.6 * (v - 0.45)) < 0.08; };
  const scan::Mesh mesh = mesh_of(shape, 90, 60, noise, 9, hole);
  PatchOptions options;
  options.noise = noise;
  const auto patch = fit_patch(mesh, all_of(mesh), options);
  ASSERT_TRUE(patch);
  // Over the middle of the hole it lies near to what was there.
  const Vec3 middle = shape(0.5, 0.45);
  Vec2 foot(0.5, 0.5);
  double best = 1e300;
  for (int i = 0; i <= 40; ++i) {
    for (int j = 0; j <= 40; ++j) {
      const double d = (patch->surface.at(i / 40.0, j / 40.0) - middle).norm();
      if (d < best) {
        best = d;
        foot = {i / 40.0, j / 40.0};
      }
    }
  }
  foot = patch->surface.foot(middle, foot, 20);
  EXPECT_LT((patch->surface.at(foot.x(), foot.y()) - middle).norm(), 0.004 * size);
}

TEST_P(Patches, GoRoundMoreThanCanBeSeenFromOneSide) {
  // Two thirds of a wavy tube, which no direction sees all of.
  const double size = GetParam();
  const Shape shape = [size](double u, double v) -> Vec3 {
    const double t = (v - 0.5) * 1.35 * std::numbers::pi;
    const double r = size * (0.35 + 0.03 * std::sin(5 * u + 2 * t));
    return {size * 1.5 * u, r * std::sin(t), r * std::cos(t)};
  };
  const double noise = 2e-4 * size;
  const scan::Mesh mesh = mesh_of(shape, 90, 90, noise, 3);
  PatchOptions options;
  options.noise = noise;
  const auto patch = fit_patch(mesh, all_of(mesh), options);
  ASSERT_TRUE(patch) << patch.error().message;
  EXPECT_LT(rms_off_truth(shape, *patch, 90, 90), noise);
}

INSTANTIATE_TEST_SUITE_P(Sizes, Patches, ::testing::Values(5.0, 200.0, 3000.0));

TEST(Patch, ATolerancesIsMetOrItSaysNot) {
  const Shape shape = hills(100, 12);
  const scan::Mesh mesh = mesh_of(shape, 80, 60, 0.02, 12);
  PatchOptions options;
  options.noise = 0.02;
  options.tolerance = 0.5;
  const auto coarse = fit_patch(mesh, all_of(mesh), options);
  ASSERT_TRUE(coarse);
  EXPECT_TRUE(coarse->within);
  EXPECT_LE(coarse->p95, 0.5);
  options.tolerance = 0.06;
  const auto fine = fit_patch(mesh, all_of(mesh), options);
  ASSERT_TRUE(fine);
  EXPECT_TRUE(fine->within);
  EXPECT_GT(fine->surface.poles.size(), coarse->surface.poles.size());
  // Nearer than the noise: it cannot, or follows it and says so.
  options.tolerance = 0.005;
  options.most_spans = 40;
  const auto too_fine = fit_patch(mesh, all_of(mesh), options);
  ASSERT_TRUE(too_fine);
  EXPECT_TRUE(!too_fine->within || too_fine->follows_noise);
}

TEST(Patch, WhatClosesOnItselfIsRefused) {
  // A whole sphere.
  scan::Mesh mesh;
  constexpr int kRings = 20;
  for (int i = 0; i <= kRings; ++i) {
    for (int j = 0; j < 40; ++j) {
      const double a = std::numbers::pi * (i + 0.02) / (kRings + 0.04);
      const double b = 2 * std::numbers::pi * j / 40;
      mesh.vertices.emplace_back(std::sin(a) * std::cos(b), std::sin(a) * std::sin(b), std::cos(a));
    }
  }
  for (std::uint32_t i = 0; i < kRings; ++i) {
    for (std::uint32_t j = 0; j < 40; ++j) {
      const std::uint32_t n = (j + 1) % 40;
      mesh.triangles.push_back({i * 40 + j, (i + 1) * 40 + j, (i + 1) * 40 + n});
      mesh.triangles.push_back({i * 40 + j, (i + 1) * 40 + n, i * 40 + n});
    }
  }
  const auto patch = fit_patch(mesh, all_of(mesh));
  ASSERT_FALSE(patch);
  EXPECT_EQ(patch.error().code, ErrorCode::Degenerate);
  EXPECT_FALSE(fit_patch(mesh, {0, 1, 2}));
}

TEST(Patch, TheKernelHasTheSameFace) {
  const Shape shape = hills(80, 21);
  const scan::Mesh mesh = mesh_of(shape, 60, 40, 0.01, 21);
  PatchOptions options;
  options.noise = 0.01;
  const auto patch = fit_patch(mesh, all_of(mesh), options);
  ASSERT_TRUE(patch);
  const auto face = model::face_model(patch->surface, "hill");
  ASSERT_TRUE(face) << face.error().message;
  EXPECT_TRUE(face->valid());
  EXPECT_EQ(face->face_count(), 1U);
  double area = 0;
  constexpr int kFine = 200;
  for (int i = 0; i < kFine; ++i) {
    for (int j = 0; j < kFine; ++j) {
      const auto s = patch->surface.jet((i + 0.5) / kFine, (j + 0.5) / kFine);
      area += s.du.cross(s.dv).norm() / (kFine * kFine);
    }
  }
  EXPECT_NEAR(face->area(), area, 1e-3 * area);
}

TEST(SmoothArea, EndsAtCreases) {
  // A roof: two slopes that meet in an edge.
  const Shape roof = [](double u, double v) -> Vec3 {
    return {40 * u, 30 * v, u < 0.5 ? 30 * u : 30 * (1 - u)};
  };
  const scan::Mesh mesh = mesh_of(roof, 60, 40, 0.005, 2);
  const auto area = smooth_area(mesh, scan::build_topology(mesh), {10});
  EXPECT_GT(area.size(), 0.4 * static_cast<double>(mesh.triangles.size()));
  EXPECT_LT(area.size(), 0.52 * static_cast<double>(mesh.triangles.size()));
}

TEST(SplineSurface, DerivativesAreThoseOfItsPlaces) {
  std::mt19937 random(6);
  std::uniform_real_distribution<double> any(-1, 1);
  SplineSurface s = SplineSurface::even(8, 6);
  for (Vec3& p : s.poles) p = Vec3(any(random), any(random), any(random));
  const double h = 1e-5;
  for (int k = 0; k < 50; ++k) {
    const double u = 0.01 + 0.98 * std::abs(any(random));
    const double v = 0.01 + 0.98 * std::abs(any(random));
    const auto jet = s.jet(u, v);
    EXPECT_LT((jet.at - s.at(u, v)).norm(), 1e-12);
    EXPECT_LT((jet.du - (s.at(u + h, v) - s.at(u - h, v)) / (2 * h)).norm(), 1e-6 * 100);
    EXPECT_LT((jet.dv - (s.at(u, v + h) - s.at(u, v - h)) / (2 * h)).norm(), 1e-6 * 100);
    const auto plus = s.jet(u + h, v);
    const auto minus = s.jet(u - h, v);
    EXPECT_LT((jet.duu - (plus.du - minus.du) / (2 * h)).norm(), 0.02);
    EXPECT_LT((jet.duv - (plus.dv - minus.dv) / (2 * h)).norm(), 0.02);
  }
}

}  // namespace
}  // namespace lostline::patch
