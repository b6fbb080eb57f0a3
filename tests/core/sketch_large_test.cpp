#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <Eigen/QR>
#include <Eigen/SVD>
#include <numbers>
#include <random>

#include "sketch/freedoms.h"
#include "sketch/solver.h"
#include "sketch/system.h"

namespace lostline::sketch {
namespace {

using ::testing::Contains;
using ::testing::ElementsAre;
using ::testing::UnorderedElementsAre;

/// Half circles in a row, up and down by turns, each tangent to the next; drawn by an unsure hand.
Sketch wave(int arcs, double radius, double shake, unsigned seed) {
  std::mt19937 random(seed);
  std::normal_distribution<double> off(0, shake);
  const auto near = [&](double x, double y) { return Vec2(x + off(random), y + off(random)); };
  Sketch s;
  Id left = s.add_point(near(0, 0));
  for (int k = 0; k < arcs; ++k) {
    const double x = (2 * k + 1) * radius;
    const Id centre = s.add_point(near(x, 0));
    const Id right = s.add_point(near(x + radius, 0));
    const bool up = k % 2 == 0;
    s.add_arc(centre, up ? right : left, up ? left : right, radius + off(random));
    if (k > 0)
      s.add_constraint(ConstraintType::Tangent, s.entities[s.entities.size() - 2].id,
                       s.entities.back().id);
    left = right;
  }
  return s;
}

double worst(const Sketch& s) {
  const auto system = System::build(s, true);
  Eigen::VectorXd f;
  Sparse j;
  system->evaluate(system->start(), f, j);
  return f.size() == 0 ? 0 : f.cwiseAbs().maxCoeff();
}

TEST(LargeSketch, TwoThousandTangentArcsAreSolvedAndCounted) {
  constexpr int kArcs = 2000;
  Sketch s = wave(kArcs, 3, 0.02, 5);
  s.add_constraint(ConstraintType::Coincident, s.points.front().id, kOrigin);
  const Id size = s.add_constraint(ConstraintType::Radius, s.entities[1000].id, 0, 3.4, true);
  const auto solved = solve(s);
  ASSERT_TRUE(solved) << solved.error().message;
  EXPECT_EQ(solved->state, State::Loose);
  EXPECT_LT(worst(solved->sketch), 1e-7);
  EXPECT_NEAR(solved->sketch.entities[1000].radius, 3.4, 1e-9);
  // Each arc has two new points and a radius; its ends on its circle, its start tangent; the first
  // end and one radius are given.
  EXPECT_EQ(solved->freedoms, 2 + 5 * kArcs - 2 * kArcs - (kArcs - 1) - 2 - 1);
  EXPECT_EQ(solved->loose_entities.size(), kArcs);
  EXPECT_TRUE(solved->redundant.empty());
  // Said once more it follows, said otherwise it contradicts; both by name.
  Sketch again = solved->sketch;
  const Id same = again.add_constraint(ConstraintType::Radius, s.entities[1000].id, 0, 3.4, true);
  const auto follows = solve(again);
  ASSERT_TRUE(follows);
  EXPECT_THAT(follows->redundant, ElementsAre(same));
  Sketch other = solved->sketch;
  const Id clash = other.add_constraint(ConstraintType::Radius, s.entities[1000].id, 0, 3.1, true);
  const auto clashes = solve(other);
  ASSERT_TRUE(clashes);
  EXPECT_EQ(clashes->state, State::Clashing);
  EXPECT_THAT(clashes->clashing, UnorderedElementsAre(size, clash));
}

TEST(LargeSketch, PlacesAloneSayThatTheyHoldAndNoMore) {
  const auto solved = solve(wave(40, 3, 0.02, 6), Asked::Places);
  ASSERT_TRUE(solved);
  EXPECT_EQ(solved->state, State::Solved);
  EXPECT_LT(worst(solved->sketch), 1e-8);
  EXPECT_TRUE(solved->loose_entities.empty());
}

/// Curves and constraints by chance, some of them said twice.
Sketch by_chance(std::mt19937& random) {
  std::uniform_real_distribution<double> place(-20, 20);
  const auto one_of = [&](std::size_t n) {
    return std::uniform_int_distribution<std::size_t>(0, n - 1)(random);
  };
  Sketch s;
  std::vector<Id> lines;
  std::vector<Id> rounds;
  const std::size_t count = 3 + one_of(8);
  for (std::size_t k = 0; k < count; ++k) {
    const auto point = [&] {
      return !s.points.empty() && one_of(3) == 0 ? s.points[one_of(s.points.size())].id
                                                 : s.add_point({place(random), place(random)});
    };
    if (one_of(3) == 0) {
      rounds.push_back(s.add_circle(point(), 1 + std::abs(place(random)) / 4));
    } else {
      const Id a = point();
      Id b = point();
      if (a == b) b = s.add_point({place(random), place(random)});
      lines.push_back(s.add_line(a, b));
    }
  }
  for (std::size_t k = 0; k < 2 * count; ++k) {
    const auto any_line = [&] { return lines[one_of(lines.size())]; };
    const auto any_round = [&] { return rounds[one_of(rounds.size())]; };
    const std::size_t kind = one_of(6);
    if (kind == 0 && !lines.empty()) s.add_constraint(ConstraintType::Horizontal, any_line());
    if (kind == 1 && lines.size() > 1) {
      const Id a = any_line();
      const Id b = any_line();
      if (a != b) s.add_constraint(ConstraintType::Parallel, a, b);
    }
    if (kind == 2 && rounds.size() > 1) {
      const Id a = any_round();
      const Id b = any_round();
      if (a != b) s.add_constraint(ConstraintType::Equal, a, b);
    }
    if (kind == 3 && !lines.empty()) s.add_constraint(ConstraintType::Vertical, any_line());
    if (kind == 4 && !rounds.empty())
      s.add_constraint(ConstraintType::Coincident, s.find_entity(any_round())->centre, kXAxis);
    if (kind == 5 && lines.size() > 1) {
      const Id a = any_line();
      const Id b = any_line();
      if (a != b) s.add_constraint(ConstraintType::Equal, a, b);
    }
  }
  return s;
}

// A general-purpose library's dense factorisation as a second opinion on the sparse one.
TEST(LargeSketch, WhatIsLooseAndWhatFollowsAreThoseOfADenseFactorisation) {
  std::random_device chance;
  const unsigned seed = chance();
  SCOPED_TRACE("seed " + std::to_string(seed));
  std::mt19937 random(seed);
  int judged = 0;
  for (int round = 0; round < 300; ++round) {
    const Sketch drawn = by_chance(random);
    const auto solved = solve(drawn, Asked::Places);
    ASSERT_TRUE(solved) << solved.error().message;
    if (solved->state == State::Clashing) continue;
    // Lines that shrank to nothing have no direction, and no equation about it means anything.
    bool sound = true;
    for (const Entity& e : solved->sketch.entities) {
      if (e.type == EntityType::Line)
        sound =
            sound && (solved->sketch.position(e.a) - solved->sketch.position(e.b)).norm() > 0.05;
      if (e.type == EntityType::Circle) sound = sound && e.radius > 0.05;
    }
    if (!sound) continue;
    const auto system = System::build(solved->sketch, true);
    Eigen::VectorXd f;
    Eigen::MatrixXd dense;
    system->evaluate(system->start(), f, dense);
    if (dense.rows() == 0) continue;
    for (Eigen::Index k = 0; k < dense.rows(); ++k)
      if (dense.row(k).norm() > 0) dense.row(k).normalize();
    Eigen::JacobiSVD<Eigen::MatrixXd> svd(dense, Eigen::ComputeFullV);
    svd.setThreshold(1e-7);
    const Freedoms sparse = freedoms_of(dense.sparseView());
    ++judged;
    EXPECT_EQ(sparse.count, dense.cols() - svd.rank());
    EXPECT_EQ(count_freedoms(dense.sparseView()), sparse.count);
    const Eigen::MatrixXd free = svd.matrixV().rightCols(dense.cols() - svd.rank());
    for (Eigen::Index i = 0; i < dense.cols(); ++i) {
      const double moves = free.row(i).norm();
      if (moves > 1e-9 && moves < 1e-3) continue;  // by rounding either
      EXPECT_EQ(sparse.loose[static_cast<std::size_t>(i)], moves > 1e-3) << i << " " << moves;
    }
    std::vector<Eigen::Index> following;
    Eigen::Index before = 0;
    for (Eigen::Index k = 1; k <= dense.rows(); ++k) {
      Eigen::JacobiSVD<Eigen::MatrixXd> upper(dense.topRows(k));
      upper.setThreshold(1e-7);
      if (upper.rank() == before) following.push_back(k - 1);
      before = upper.rank();
    }
    EXPECT_EQ(sparse.following, following);
  }
  EXPECT_GT(judged, 40);
}

// An angle said in radians weighs as what it moves: at the far end of a line of 3 m a held angle
// is as exact as at that of 5 mm.
TEST(LargeSketch, AnglesHoldAtEverySize) {
  for (const double size : {5.0, 50.0, 1000.0, 3000.0}) {
    Sketch s;
    std::vector<Id> corners;
    for (int k = 0; k < 5; ++k) {
      const double turn = 2 * std::numbers::pi * k / 5 + 0.05 * std::sin(7.0 * k);
      corners.push_back(s.add_point(size * Vec2(std::cos(turn), std::sin(turn))));
    }
    std::vector<Id> sides;
    for (int k = 0; k < 5; ++k) sides.push_back(s.add_line(corners[k], corners[(k + 1) % 5]));
    s.add_constraint(ConstraintType::Coincident, corners[0], kOrigin);
    s.add_constraint(ConstraintType::Horizontal, sides[0]);
    s.add_constraint(ConstraintType::Distance, sides[0], 0, size, true);
    for (int k = 0; k < 4; ++k)
      s.add_constraint(ConstraintType::Angle, sides[k], sides[k + 1], 2 * std::numbers::pi / 5,
                       true);
    s.add_constraint(ConstraintType::Distance, sides[1], 0, size, true);
    s.add_constraint(ConstraintType::Distance, sides[2], 0, size, true);
    const auto solved = solve(s);
    ASSERT_TRUE(solved);
    EXPECT_EQ(solved->state, State::Held) << size;
    for (const Entity& e : solved->sketch.entities) {
      const double length = (solved->sketch.position(e.a) - solved->sketch.position(e.b)).norm();
      EXPECT_NEAR(length, size, 1e-9 * size) << size;
    }
    // A contradiction of a thousandth of a degree is one at every size.
    Sketch other = solved->sketch;
    other.add_constraint(ConstraintType::Angle, sides[4], sides[0], 2 * std::numbers::pi / 5 + 2e-5,
                         true);
    EXPECT_EQ(solve(other)->state, State::Clashing) << size;
  }
}

// A half turn is where the sign of a turn changes.
TEST(LargeSketch, AnAngleOfNearlyAHalfTurnIsReached) {
  Sketch s;
  const Id o = s.add_point({0, 0});
  const Id a = s.add_point({10, 0});
  const Id b = s.add_point({-10, 0.2});
  const Id one = s.add_line(o, a);
  const Id two = s.add_line(o, b);
  s.add_constraint(ConstraintType::Horizontal, one);
  s.add_constraint(ConstraintType::Angle, one, two, std::numbers::pi, true);
  const auto solved = solve(s);
  ASSERT_TRUE(solved);
  EXPECT_NE(solved->state, State::Clashing);
  EXPECT_NEAR(solved->sketch.position(b).y(), solved->sketch.position(o).y(), 1e-8);
  EXPECT_LT(solved->sketch.position(b).x(), solved->sketch.position(o).x());
}

}  // namespace
}  // namespace lostline::sketch
