// Places that the engineer says two scans share: they hold what surfaces leave open, and nothing
// else. The truth is how the scans were made.
#include <gtest/gtest.h>

#include <numbers>
#include <random>

#include "joining/held.h"
#include "joining/join.h"

namespace lostline {
namespace {

constexpr double kRadius = 30;
constexpr double kLength = 90;

/// The wall of a shaft, without its ends: it can be turned and shifted along itself.
/// @param spacing  mm;  @param scale  of everything.
scan::Mesh wall_of_a_shaft(double spacing, double noise, double scale, std::mt19937& rng) {
  std::normal_distribution<double> off(0, noise);
  std::uniform_real_distribution<double> start(0, 1);
  const int around = static_cast<int>(2 * std::numbers::pi * kRadius / spacing);
  const int along = static_cast<int>(kLength / spacing);
  const double turned = start(rng);
  scan::Mesh mesh;
  for (int j = 0; j < along; ++j) {
    for (int i = 0; i < around; ++i) {
      const double angle = 2 * std::numbers::pi * (i + turned + 0.5 * (j % 2)) / around;
      const double r = kRadius + off(rng);
      mesh.vertices.emplace_back(
          scale * Vec3(r * std::cos(angle), r * std::sin(angle), spacing * (j + off(rng))));
    }
  }
  const auto at = [&](int i, int j) { return static_cast<std::uint32_t>(j * around + i % around); };
  for (int j = 0; j + 1 < along; ++j) {
    for (int i = 0; i < around; ++i) {
      const int k = i + j % 2;  // rows are set off by half a step
      mesh.triangles.push_back({at(i, j), at(i + 1, j), at(k, j + 1)});
      mesh.triangles.push_back({at(i + 1, j), at(k + 1, j + 1), at(k, j + 1)});
    }
  }
  return mesh;
}

Vec3 on_the_shaft(double angle, double along) {
  return {kRadius * std::cos(angle), kRadius * std::sin(angle), along};
}

bool says(const joining::Joined& joined, const std::string& words) {
  return std::any_of(joined.doubts.begin(), joined.doubts.end(), [&](const std::string& doubt) {
    return doubt.find(words) != std::string::npos;
  });
}

struct Shafts {
  scan::Mesh first, second;
  Transform motion;  ///< of the second one's coordinates to the first one's
};
Shafts shafts(double scale, std::mt19937& rng) {
  std::normal_distribution<double> any(0, 1);
  const Transform motion =
      Eigen::Translation3d(scale * Vec3(20 * any(rng), 20 * any(rng), 20 * any(rng))) *
      Eigen::Quaterniond(any(rng), any(rng), any(rng), any(rng)).normalized();
  return {wall_of_a_shaft(2, 0.03, scale, rng),
          scan::transformed(wall_of_a_shaft(2, 0.03, scale, rng), motion.inverse()), motion};
}
/// Places on both, in each its own coordinates.
std::vector<joining::SharedPlace> places_on(const Shafts& two, double scale, double strays,
                                            std::mt19937& rng) {
  std::normal_distribution<double> off(0, strays * scale);
  std::vector<joining::SharedPlace> places;
  for (const auto& [angle, along] :
       {std::pair(0.3, 10.0), {2.0, 75.0}, {3.9, 40.0}, {5.2, 15.0}, {1.1, 60.0}}) {
    const Vec3 at = scale * on_the_shaft(angle, along);
    places.push_back({0, at + Vec3(off(rng), off(rng), off(rng)), 1,
                      two.motion.inverse() * (at + Vec3(off(rng), off(rng), off(rng)))});
  }
  return places;
}
/// How far the second lies off along what its surface does not hold, mm.
double off_along(const Shafts& two, const joining::Joined& joined, double scale) {
  const Vec3 at = scale * on_the_shaft(0.7, 45);
  return (joined.poses[1] * (two.motion.inverse() * at) - at).norm();
}

TEST(JoiningPlaces, TargetsHoldWhatASurfaceLeavesOpenAtAnySize) {
  std::mt19937 rng(4711);
  for (const double scale : {0.1, 1.0, 30.0}) {
    SCOPED_TRACE(scale);
    int covered = 0;
    constexpr int kTried = 5;
    for (int round = 0; round < kTried; ++round) {
      const Shafts two = shafts(scale, rng);
      joining::JoinOptions options;
      options.pairs = places_on(two, scale, 0.05, rng);
      for (joining::SharedPlace& place : options.pairs) place.sigma = 0.05 * std::sqrt(2) * scale;
      const auto joined = joining::join_scans({&two.first, &two.second}, options);
      ASSERT_TRUE(joined) << joined.error().message;
      const double off = off_along(two, *joined, scale);
      EXPECT_LT(off, 0.25 * scale);
      covered += off < joined->u_shift[1] ? 1 : 0;
      EXPECT_LT(joined->u_shift[1], 0.4 * scale);
      EXPECT_FALSE(says(*joined, "can be shifted or turned"));
      EXPECT_TRUE(says(*joined, "is held to"));
    }
    EXPECT_GE(covered, 4);
  }
}

TEST(JoiningPlaces, ClicksHoldAsFarAsTheyStrayAndLaidPlacesDoNot) {
  std::mt19937 rng(99);
  const Shafts two = shafts(1, rng);
  joining::JoinOptions options;
  options.pairs = places_on(two, 1, 1.5, rng);
  const auto clicked = joining::join_scans({&two.first, &two.second}, options);
  ASSERT_TRUE(clicked) << clicked.error().message;
  EXPECT_FALSE(says(*clicked, "can be shifted or turned"));
  EXPECT_LT(off_along(two, *clicked, 1), clicked->u_shift[1]);
  EXPECT_GT(clicked->u_shift[1], 0.5);
  EXPECT_LT(clicked->u_shift[1], 10);
  // Where a hand has left it says nothing of where it belongs.
  for (joining::SharedPlace& place : options.pairs) place.start_only = true;
  const auto laid = joining::join_scans({&two.first, &two.second}, options);
  ASSERT_TRUE(laid) << laid.error().message;
  EXPECT_TRUE(says(*laid, "can be shifted or turned"));
}

TEST(JoiningPlaces, WhatSurfacesHoldClicksDoNotMove) {
  // A corner of three faces, each seen by both.
  std::mt19937 rng(5);
  const auto corner = [&rng] {
    std::normal_distribution<double> off(0, 0.02);
    scan::Mesh mesh;
    for (int axis = 0; axis < 3; ++axis) {
      const auto base = static_cast<std::uint32_t>(mesh.vertices.size());
      constexpr int kSide = 40;
      for (int j = 0; j < kSide; ++j) {
        for (int i = 0; i < kSide; ++i) {
          Vec3 p;
          p[axis] = off(rng);
          p[(axis + 1) % 3] = 2 + i + off(rng);
          p[(axis + 2) % 3] = 3 + j * (1 + 0.1 * axis) + off(rng);
          mesh.vertices.push_back(p);
        }
      }
      for (std::uint32_t j = 0; j + 1 < kSide; ++j) {
        for (std::uint32_t i = 0; i + 1 < kSide; ++i) {
          const std::uint32_t v = base + j * kSide + i;
          mesh.triangles.push_back({v, v + 1, v + kSide + 1});
          mesh.triangles.push_back({v, v + kSide + 1, v + kSide});
        }
      }
    }
    return mesh;
  };
  const scan::Mesh first = corner();
  const Transform motion =
      Eigen::Translation3d(12, -30, 4) * Eigen::AngleAxisd(2.2, Vec3(1, 2, -1).normalized());
  const scan::Mesh second = scan::transformed(corner(), motion.inverse());
  joining::JoinOptions options;
  std::normal_distribution<double> strays(0, 1);
  for (const Vec3& at : {Vec3(0, 10, 12), Vec3(30, 0, 20), Vec3(22, 31, 0), Vec3(8, 5, 0)}) {
    const Vec3 off(strays(rng), strays(rng), strays(rng));
    options.pairs.push_back({0, at + off, 1, motion.inverse() * at});
  }
  const auto joined = joining::join_scans({&first, &second}, options);
  ASSERT_TRUE(joined) << joined.error().message;
  for (const Vec3& at : {Vec3(0, 10, 12), Vec3(35, 0, 35), Vec3(22, 31, 0)})
    EXPECT_LT((joined->poses[1] * (motion.inverse() * at) - at).norm(), 0.02);
  EXPECT_LT(joined->u_shift[1], 0.02);
}

TEST(JoiningPlaces, EachSortOfEvidenceIsAskedForWhatTheOnesBeforeLeaveOpen) {
  // Three motions: the first sort holds one, the second that and another one, with other answers.
  joining::Equations all(3);
  joining::Equations few(3);
  all.spread.diagonal() << 100, 100, 100;
  all.normal.diagonal() << 50, 1e-3, 0;
  few.spread.diagonal() << 4, 4, 4;
  few.normal.diagonal() << 2, 2, 1e-3;
  const std::vector<joining::Equations> sorts{all, few};
  const std::vector<double> least{0.01, 0.01};
  const joining::Held held = joining::held_by(sorts, least, 10);
  EXPECT_TRUE(held.inverse[0].isApprox(Vec3(1 / 50.0, 0, 0).asDiagonal().toDenseMatrix(), 1e-6));
  EXPECT_TRUE(held.inverse[1].isApprox(Vec3(0, 1 / 2.0, 0).asDiagonal().toDenseMatrix(), 1e-6));
  ASSERT_EQ(held.loose.cols(), 1);
  EXPECT_NEAR(std::abs(held.loose(2, 0)), 1, 1e-6);
  EXPECT_LT(held.rest.norm(), 1e-9);  // the first sort knows nothing of it
  // Where the second sort tells it to 0.7 only, and finer is asked for, it stays open.
  EXPECT_EQ(joining::held_by(sorts, least, 0.5).loose.cols(), 2);
}

}  // namespace
}  // namespace lostline
