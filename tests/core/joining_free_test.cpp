// Scans of surfaces of no known type brought together, turned inside out, merged.
#include <gtest/gtest.h>

#include <cmath>
#include <random>
#include <stop_token>

#include "ball_mesh.h"
#include "joining/drift.h"
#include "joining/join.h"
#include "joining/laid.h"
#include "joining/merge.h"
#include "joining/targets.h"
#include "scan/health.h"
#include "scan/mesh_index.h"

namespace lostline {
namespace {

using joining::TargetKind;

/// A surface like a casting's that is like itself nowhere.
scan::Mesh free_surface(double size, double noise, unsigned seed) {
  std::mt19937 rng(seed);
  std::normal_distribution<double> normal(0, noise);
  scan::Mesh mesh;
  constexpr std::uint32_t kAcross = 90;
  constexpr std::uint32_t kDeep = 60;
  const double step = size / kAcross;
  for (std::uint32_t i = 0; i <= kAcross; ++i) {
    for (std::uint32_t j = 0; j <= kDeep; ++j) {
      const double x = i;
      const double y = j;
      mesh.vertices.emplace_back(
          step * x, step * y,
          step * (5 * std::sin(x / 9 + y / 33) + 4 * std::cos(y / 7 - x / 23) + 0.002 * x * y) +
              normal(rng));
    }
  }
  for (std::uint32_t i = 0; i < kAcross; ++i) {
    for (std::uint32_t j = 0; j < kDeep; ++j) {
      const std::uint32_t a = i * (kDeep + 1) + j;
      mesh.triangles.push_back({a, a + kDeep + 1, a + kDeep + 2});
      mesh.triangles.push_back({a, a + kDeep + 2, a + 1});
    }
  }
  return mesh;
}
scan::Mesh part_of(const scan::Mesh& mesh, double from, double to) {
  std::vector<char> keep(mesh.triangles.size(), 0);
  for (std::size_t t = 0; t < keep.size(); ++t)
    keep[t] = mesh.centroid(t).x() > from && mesh.centroid(t).x() < to ? 1 : 0;
  return scan::extract(mesh, keep);
}

TEST(Joining, FreeSurfacesAreBroughtTogetherByTheirShape) {
  for (const double size : {9.0, 90.0, 1500.0}) {
    for (const double noise : {0.0, 2e-4}) {
      Transform motion(Eigen::AngleAxisd(2.1, Vec3(0.3, -1, 0.5).normalized()));
      motion.pretranslate(size * Vec3(0.8, -0.2, 0.35));
      const scan::Mesh left = part_of(free_surface(size, noise * size, 1), -1, 0.65 * size);
      const scan::Mesh right = scan::transformed(
          part_of(free_surface(size, noise * size, 2), 0.35 * size, 2 * size), motion);
      const auto joined = joining::join_scans({&left, &right});
      ASSERT_TRUE(joined) << size << " " << noise << ": " << joined.error().message;
      const Transform off = joined->poses[1] * motion;
      double worst = 0;
      for (std::size_t v = 0; v < right.vertices.size(); v += 50)
        worst = std::max(worst, (off * (motion.inverse() * right.vertices[v]) -
                                 motion.inverse() * right.vertices[v])
                                    .norm());
      EXPECT_LT(worst, 5e-4 * size) << size << " " << noise;
      EXPECT_TRUE(joined->settled);
      ASSERT_EQ(joined->links.size(), 1U);
      EXPECT_NEAR(joined->links[0].overlap, 0.3 / 0.65, 0.1);
    }
  }
}

TEST(Joining, WhatFacesInwardsIsTurnedInsideOut) {
  Transform motion(Eigen::AngleAxisd(0.9, Vec3(1, 0.2, -0.4).normalized()));
  motion.pretranslate(Vec3(20, 30, -40));
  const scan::Mesh left = part_of(free_surface(90, 0.02, 3), -1, 60);
  scan::Mesh right = scan::transformed(part_of(free_surface(90, 0.02, 4), 30, 200), motion);
  for (scan::Triangle& t : right.triangles) std::swap(t[1], t[2]);
  const auto joined = joining::join_scans({&left, &right});
  ASSERT_TRUE(joined) << joined.error().message;
  EXPECT_FALSE(joined->inside_out[0]);
  EXPECT_TRUE(joined->inside_out[1]);
  EXPECT_LT((joined->poses[1] * motion).translation().norm(), 0.1);
}

TEST(Joining, MergedScansHaveOneSkinAndLessNoise) {
  const double noise = 0.03;
  const scan::Mesh left = part_of(free_surface(90, noise, 5), -1, 60);
  const scan::Mesh right = part_of(free_surface(90, noise, 6), 30, 200);
  const auto merged = joining::merge_scans({{&left}, {&right}});
  ASSERT_TRUE(merged) << merged.error().message;
  const scan::Mesh truth = free_surface(90, 0, 1);
  const scan::MeshIndex index(truth);
  double squares = 0;
  double area = 0;
  for (const Vec3& p : merged->mesh.vertices) {
    const auto nearest = index.nearest(p);
    squares += nearest->distance * nearest->distance;
  }
  double whole = 0;
  for (std::size_t t = 0; t < merged->mesh.triangles.size(); ++t)
    area += 0.5 * merged->mesh.area_vector(t).norm();
  for (std::size_t t = 0; t < truth.triangles.size(); ++t)
    whole += 0.5 * truth.area_vector(t).norm();
  // Flat triangles across a step of one millimetre stand off this surface by some hundredths.
  EXPECT_LT(std::sqrt(squares / static_cast<double>(merged->mesh.vertices.size())), 1.1 * noise);
  EXPECT_NEAR(area, whole, 0.03 * whole);
  const scan::Topology topology = scan::build_topology(merged->mesh);
  EXPECT_EQ(topology.non_manifold_edges, 0U);
  EXPECT_EQ(scan::connected_components(merged->mesh, topology).sizes.size(), 1U);
  // Left out it says nothing.
  const auto one = joining::merge_scans({{&left}, {&right, Transform::Identity(), false, 0}});
  ASSERT_TRUE(one);
  EXPECT_LT(scan::bounds(one->mesh).max().x(), 62);
}

TEST(Joining, DriftIsHowFarTheOthersLie) {
  for (const double size : {9.0, 90.0, 1500.0}) {
    const scan::Mesh left = part_of(free_surface(size, 0, 1), -1, 0.65 * size);
    Transform motion(Eigen::AngleAxisd(0.7, Vec3(1, 1, -0.3).normalized()));
    motion.pretranslate(size * Vec3(3, 0, 1));
    const scan::Mesh right =
        scan::transformed(part_of(free_surface(size, 0, 1), 0.35 * size, 2 * size), motion);
    const double step = 2e-3 * size;
    Transform off = motion.inverse();
    off.pretranslate(-step * Vec3::UnitZ());  // below, so that the first one stands proud
    const std::vector<Vec3> normals = scan::vertex_normals(left);
    for (const bool inwards : {false, true}) {
      const scan::Mesh other = inwards ? scan::flipped(right) : right;
      const auto drift = joining::drift_of({&left}, {{&other, off, inwards}});
      ASSERT_TRUE(drift);
      std::size_t there = 0;
      for (std::size_t v = 0; v < drift->size(); ++v) {
        if (!std::isfinite((*drift)[v])) {
          // Of what both show only the borders are left out.
          const bool border = left.vertices[v].y() < 0.02 * size ||
                              left.vertices[v].y() > 0.64 * size ||
                              left.vertices[v].x() < 0.38 * size;
          EXPECT_TRUE(border) << left.vertices[v].transpose() / size;
          continue;
        }
        ++there;
        EXPECT_GT(left.vertices[v].x(), 0.34 * size);
        EXPECT_NEAR((*drift)[v], step * normals[v].z(), 0.15 * step);
      }
      EXPECT_GT(there, drift->size() / 3);
    }
  }
}

TEST(Joining, BallsGiveTheirCentres) {
  std::mt19937 rng(11);
  for (const double size : {0.2, 1.0, 30.0}) {
    std::normal_distribution<double> noise(0, 0.01 * size);
    // Three quarters of a ball stuck on a plate.
    const Vec3 centre = size * Vec3(3, -2, 5);
    scan::Mesh ball = testing::ball_mesh(6 * size, 40, 80, centre);
    std::vector<char> seen(ball.triangles.size(), 0);
    for (std::size_t t = 0; t < seen.size(); ++t)
      seen[t] = ball.centroid(t).z() > 2.5 * size ? 1 : 0;
    ball = scan::extract(ball, seen);
    for (Vec3& p : ball.vertices) p += noise(rng) * (p - centre).normalized();
    const auto found =
        joining::target_at(TargetKind::Ball, ball, centre + 6 * size * Vec3(0.6, 0, 0.8));
    ASSERT_TRUE(found) << found.error().message;
    EXPECT_LT((found->centre - centre).norm(), 1.5 * found->u);
    EXPECT_LT(found->u, 0.01 * size);
    EXPECT_NEAR(found->radius, 6 * size, 0.01 * size);
  }
  // A casting's surface has none, and a place off the scan is told.
  const scan::Mesh free = free_surface(90, 0.02, 3);
  for (const TargetKind kind : {TargetKind::Ball, TargetKind::Circle}) {
    EXPECT_EQ(joining::target_at(kind, free, free.vertices[2500]).error().code,
              ErrorCode::Degenerate);
    EXPECT_EQ(joining::target_at(kind, free, Vec3(0, 0, 500)).error().code,
              ErrorCode::InvalidInput);
    std::stop_source stop;
    stop.request_stop();
    const auto stopped =
        joining::target_at(kind, free, free.vertices[2500], Task(stop.get_token()));
    EXPECT_EQ(stopped.error().code, ErrorCode::Cancelled);
  }
}

TEST(Joining, WhatIsLaidByHandIsFittedFromThere) {
  const scan::Mesh left = part_of(free_surface(90, 0.02, 7), -1, 60);
  Transform motion(Eigen::AngleAxisd(2.6, Vec3(0.2, 0.7, 0.5).normalized()));
  motion.pretranslate(Vec3(-200, 70, 15));
  const scan::Mesh right = scan::transformed(part_of(free_surface(90, 0.02, 8), 30, 200), motion);
  // Some millimetres and degrees off, as a hand leaves it.
  Transform laid = motion.inverse();
  laid.prerotate(Eigen::AngleAxisd(0.03, Vec3(1, 2, -1).normalized()));
  laid.pretranslate(Vec3(1.2, -0.8, 0.5));
  const scan::MeshIndex index(left);
  joining::JoinOptions options;
  const auto places = joining::places_as_laid(index, 0, right, 1, laid);
  ASSERT_TRUE(places) << places.error().message;
  EXPECT_GE(places->size(), 10U);
  options.pairs = *places;
  const auto joined = joining::join_scans({&left, &right}, options);
  ASSERT_TRUE(joined) << joined.error().message;
  double worst = 0;
  for (const Vec3& p : right.vertices)
    worst = std::max(worst, (joined->poses[1] * p - motion.inverse() * p).norm());
  EXPECT_LT(worst, 0.05);
  laid.pretranslate(Vec3(0, 0, 300));
  EXPECT_FALSE(joining::places_as_laid(index, 0, right, 1, laid));
}

TEST(Joining, BadInputIsRefusedWithAReason) {
  const scan::Mesh left = part_of(free_surface(90, 0.02, 3), -1, 60);
  EXPECT_EQ(joining::join_scans({&left}).error().code, ErrorCode::InvalidInput);
  scan::Mesh few;
  few.vertices = {Vec3::Zero(), Vec3::UnitX(), Vec3::UnitY()};
  few.triangles = {{0, 1, 2}};
  const auto refused = joining::join_scans({&left, &few});
  ASSERT_FALSE(refused);
  EXPECT_NE(refused.error().message.find("Scan 2"), std::string::npos);
  joining::JoinOptions wrong;
  wrong.pairs = {{0, Vec3::Zero(), 5, Vec3::Zero()}};
  EXPECT_EQ(joining::join_scans({&left, &left}, wrong).error().code, ErrorCode::InvalidInput);
  std::stop_source stop;
  stop.request_stop();
  EXPECT_EQ(joining::join_scans({&left, &left}, {}, Task(stop.get_token())).error().code,
            ErrorCode::Cancelled);
}

}  // namespace
}  // namespace lostline
