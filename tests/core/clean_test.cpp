// Selecting and cleaning, on a ball of which everything is known.
#include "scan/clean.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>
#include <random>

#include "ball_mesh.h"
#include "scan/health.h"

namespace lostline::scan {
namespace {

constexpr double kRadius = 20;

/// A closed ball, its points scattered along their radii.
Mesh ball(int rings = 40, int segments = 80, double noise = 0, unsigned seed = 1) {
  Mesh mesh = testing::ball_mesh(kRadius, rings, segments);
  std::mt19937_64 random(seed);
  std::normal_distribution<double> normal(0, noise);
  if (noise > 0)
    for (Vec3& v : mesh.vertices) v *= 1 + normal(random) / kRadius;
  return mesh;
}

double volume(const Mesh& mesh) {
  double sum = 0;
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t)
    sum += mesh.corner(t, 0).dot(mesh.corner(t, 1).cross(mesh.corner(t, 2))) / 6;
  return sum;
}

/// The ball without its cap above `level`.
Mesh open_ball(double level) {
  const Mesh whole = ball();
  Selection keep(whole.triangles.size(), 0);
  for (std::size_t t = 0; t < keep.size(); ++t) keep[t] = whole.centroid(t).z() < level;
  return extract(whole, keep);
}

TEST(Selecting, GrowingAndShrinkingAreRings) {
  const Mesh mesh = ball();
  const Topology topology = build_topology(mesh);
  Selection cap(mesh.triangles.size(), 0);
  for (std::size_t t = 0; t < cap.size(); ++t) cap[t] = mesh.centroid(t).z() > 10;
  const auto count = [](const Selection& s) { return indices_of(s).size(); };
  const Selection more = grown(mesh, cap);
  EXPECT_EQ(count(more), count(cap) + 160);  // one ring of 80 squares
  EXPECT_EQ(shrunk(mesh, more), cap);
  EXPECT_EQ(count(inverted(cap)), mesh.triangles.size() - count(cap));
  Selection all(mesh.triangles.size(), 0);
  select_connected(topology, {5}, true, all);
  EXPECT_EQ(count(all), mesh.triangles.size());
  select_connected(topology, {5}, false, all);
  EXPECT_EQ(count(all), 0U);
  select_connected(topology, {0xffffff00U}, true, all);  // no such triangle
  EXPECT_EQ(count(all), 0U);
}

TEST(Cleaning, SpikesGoAndEdgesStay) {
  Mesh mesh = ball(40, 80, 0.01);
  mesh.vertices[500] *= 1.2;
  mesh.vertices[1700] *= 0.8;
  const Cleaned cleaned = drop_spikes(mesh, build_topology(mesh), 0.01);
  EXPECT_GE(cleaned.count, 12U);
  EXPECT_LE(cleaned.count, 40U);
  for (const Vec3& v : cleaned.mesh.vertices) EXPECT_NEAR(v.norm(), kRadius, 0.5);
  const Mesh good = ball(40, 80, 0.01);
  EXPECT_EQ(drop_spikes(good, build_topology(good), 0.01).count, 0U);
}

TEST(Cleaning, SmoothingTakesNoiseNotVolumeAndSaysHowFarItMoved) {
  const Mesh mesh = ball(60, 120, 0.05);
  const Topology topology = build_topology(mesh);
  const auto smoothed = smooth(mesh, topology, {}, 5);
  ASSERT_TRUE(smoothed);
  const auto roughness = [](const Mesh& m) {
    double sum = 0;
    for (const Vec3& v : m.vertices) sum += std::pow(v.norm() - kRadius, 2);
    return std::sqrt(sum / static_cast<double>(m.vertices.size()));
  };
  EXPECT_LT(roughness(smoothed->mesh), 0.5 * roughness(mesh));
  EXPECT_NEAR(volume(smoothed->mesh) / volume(mesh), 1, 0.002);
  EXPECT_GT(smoothed->moved_rms, 0.02);
  EXPECT_LT(smoothed->moved_rms, 0.2);
  EXPECT_GE(smoothed->moved_most, smoothed->moved_rms);
  // Only the selection moves.
  Selection some(mesh.triangles.size(), 0);
  some[100] = 1;
  const auto local = smooth(mesh, topology, some, 2);
  ASSERT_TRUE(local);
  std::size_t moved = 0;
  for (std::size_t v = 0; v < mesh.vertices.size(); ++v)
    moved += local->mesh.vertices[v] != mesh.vertices[v];
  EXPECT_EQ(moved, 3U);
  std::stop_source stop;
  stop.request_stop();
  EXPECT_FALSE(smooth(mesh, topology, {}, 5, Task(stop.get_token())));
}

TEST(Cleaning, HolesAreFilledFlatOrCarriedOn) {
  const Mesh open = open_ball(17);
  ASSERT_EQ(build_topology(open).open_edges, 80U);
  const double whole = volume(ball());
  const auto flat = fill_holes(open, Filling::Flat, 200);
  ASSERT_TRUE(flat) << flat.error().message;
  EXPECT_EQ(flat->count, 1U);
  EXPECT_EQ(build_topology(flat->mesh).open_edges, 0U);
  // The cap above z = h of a ball: pi (2 r^3 / 3 - r^2 h + h^3 / 3).
  double border = -1e9;
  for (const Vec3& v : open.vertices) border = std::max(border, v.z());
  const double cap = std::numbers::pi * (2 * 8000 / 3.0 - 400 * border + std::pow(border, 3) / 3);
  EXPECT_NEAR(volume(flat->mesh), whole - cap, 0.01 * whole);
  const auto curved = fill_holes(open, Filling::Curved, 200);
  ASSERT_TRUE(curved);
  EXPECT_EQ(build_topology(curved->mesh).open_edges, 0U);
  EXPECT_GT(curved->mesh.vertices.size(), open.vertices.size() + 20);
  // A border longer than wanted is the scan's own.
  const auto kept = fill_holes(open, Filling::Flat, 50);
  ASSERT_TRUE(kept);
  EXPECT_EQ(kept->count, 0U);
  EXPECT_EQ(build_topology(kept->mesh).open_edges, 80U);
}

TEST(Cleaning, ThinningKeepsTheShape) {
  const Mesh mesh = ball(100, 200);
  for (const Thinning how : {Thinning::Even, Thinning::Curvature}) {
    const auto thinned = thin(mesh, how, 2.0);
    ASSERT_TRUE(thinned) << thinned.error().message;
    EXPECT_LT(thinned->mesh.triangles.size(), mesh.triangles.size() / 3);
    EXPECT_EQ(thinned->count, mesh.triangles.size() - thinned->mesh.triangles.size());
    EXPECT_NEAR(volume(thinned->mesh) / volume(mesh), 1, 0.02);
    EXPECT_EQ(build_topology(thinned->mesh).open_edges, 0U);
  }
  const auto even = thin(mesh, Thinning::Even, 2.0);
  for (std::size_t t = 0; t < even->mesh.triangles.size(); ++t)
    EXPECT_GE((even->mesh.corner(t, 1) - even->mesh.corner(t, 0)).norm(), 1.99);
  EXPECT_FALSE(thin(mesh, Thinning::Even, 0));
  EXPECT_FALSE(thin(mesh, Thinning::Even, std::nan("")));
}

TEST(Cleaning, NonManifoldScansSurvive) {
  Mesh fan;
  fan.vertices = {{0, 0, 0}, {0, 0, 1}, {1, 0, 0}, {0, 1, 0}, {-1, 0, 0}, {5, 5, 5}};
  fan.triangles = {{0, 1, 2}, {0, 1, 3}, {0, 1, 4}};  // one edge, three triangles
  EXPECT_TRUE(fill_holes(fan, Filling::Flat, 10));
  EXPECT_TRUE(thin(fan, Thinning::Even, 0.1));
  EXPECT_TRUE(smooth(fan, build_topology(fan), {}, 3));
}

TEST(Selection, OnlyWhatIsSeenIsTaken) {
  // Two plates over each other, both facing up, and one below facing down.
  Mesh mesh;
  const auto plate = [&](double z, bool up) {
    const auto base = static_cast<std::uint32_t>(mesh.vertices.size());
    for (int i = 0; i <= 10; ++i) {
      for (int j = 0; j <= 10; ++j) mesh.vertices.emplace_back(i, j, z);
    }
    for (std::uint32_t i = 0; i < 10; ++i) {
      for (std::uint32_t j = 0; j < 10; ++j) {
        const std::uint32_t k = base + 11 * i + j;
        Triangle a{k, k + 11, k + 1};
        Triangle b{k + 1, k + 11, k + 12};
        if (!up) {
          std::swap(a[1], a[2]);
          std::swap(b[1], b[2]);
        }
        mesh.triangles.push_back(a);
        mesh.triangles.push_back(b);
      }
    }
  };
  plate(5, true);
  plate(0, true);
  plate(-5, false);
  const MeshIndex index(mesh);
  Sight sight;
  sight.direction = -Vec3::UnitZ();
  sight.slack = 0.5;
  const auto left = [](const Vec3& p) { return p.x() < 5; };
  const auto count = [](const Selection& s) { return std::count(s.begin(), s.end(), 1); };
  const Selection none(mesh.triangles.size(), 0);
  const auto seen = select_seen(mesh, index, sight, left, true, none);
  ASSERT_TRUE(seen);
  EXPECT_EQ(count(*seen), 100);  // the upper plate's half alone
  for (std::size_t t = 200; t < 600; ++t) EXPECT_EQ((*seen)[t], 0);
  sight.through = true;
  const auto all = select_seen(mesh, index, sight, left, true, none);
  EXPECT_EQ(count(*all), 300);
  sight.through = false;
  // What was selected before and is hidden now stays.
  const auto kept = select_seen(mesh, index, sight, left, false, *all);
  EXPECT_EQ(count(*kept), 200);
  std::stop_source stop;
  stop.request_stop();
  EXPECT_FALSE(select_seen(mesh, index, sight, left, true, none, Task(stop.get_token())));
  const auto patch = patch_around(mesh, build_topology(mesh), 100, mesh.centroid(100), 2);
  EXPECT_GT(patch.size(), 10U);
  for (const std::uint32_t t : patch) EXPECT_LT(t, 200U);
}

}  // namespace
}  // namespace lostline::scan
