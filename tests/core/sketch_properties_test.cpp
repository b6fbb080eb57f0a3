// What solving a sketch does not depend on: where it lies, how it is turned, how large it is, in
// which order it was drawn; and that what is added and taken back leaves nothing behind.
#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <numbers>
#include <random>

#include "sketch/solver.h"

namespace lostline::sketch {
namespace {

/// A link plate drawn askew: an outline of two lines and two arcs, held tangent and equal, and a
/// hole in either end, with its dimensions.
struct Link {
  Sketch sketch;
  Id top, bottom, left, right, length, radius, bore, bore_left, bore_right;
};

/// @param place  moves and scales what is drawn.
/// @param mixed  draws in another order.
Link link(unsigned seed, const std::function<Vec2(const Vec2&)>& place, double size, bool mixed) {
  std::mt19937_64 random(seed);
  std::normal_distribution<double> askew(0, 0.15);
  // The same scatter in whichever order it is drawn.
  std::vector<Vec2> at{{0, 10}, {60, 10}, {60, -10}, {0, -10}, {0, 0}, {60, 0}};
  for (Vec2& p : at) p = place(p + Vec2(askew(random), askew(random)));
  Link l;
  std::vector<Id> points(at.size());
  for (std::size_t i = 0; i < at.size(); ++i) {
    const std::size_t k = mixed ? at.size() - 1 - i : i;
    points[k] = l.sketch.add_point(at[k]);
  }
  const auto lines = [&] {
    l.top = l.sketch.add_line(points[1], points[0]);
    l.bottom = l.sketch.add_line(points[3], points[2]);
  };
  const auto rounds = [&] {
    l.left = l.sketch.add_arc(points[4], points[0], points[3], 10.2 * size);
    l.right = l.sketch.add_arc(points[5], points[2], points[1], 9.9 * size);
    l.bore_left = l.sketch.add_circle(points[4], 4.1 * size);
    l.bore_right = l.sketch.add_circle(points[5], 3.9 * size);
  };
  if (mixed) rounds();
  lines();
  if (!mixed) rounds();
  std::vector<std::function<void()>> holds{
      [&] { l.sketch.add_constraint(ConstraintType::Tangent, l.top, l.left); },
      [&] { l.sketch.add_constraint(ConstraintType::Tangent, l.top, l.right); },
      [&] { l.sketch.add_constraint(ConstraintType::Tangent, l.bottom, l.left); },
      [&] { l.sketch.add_constraint(ConstraintType::Tangent, l.bottom, l.right); },
      [&] { l.sketch.add_constraint(ConstraintType::Equal, l.left, l.right); },
      [&] { l.sketch.add_constraint(ConstraintType::Equal, l.bore_left, l.bore_right); },
      [&] {
        l.length = l.sketch.add_constraint(ConstraintType::Distance, points[4], points[5],
                                           60.5 * size, true);
      },
      [&] {
        l.radius = l.sketch.add_constraint(ConstraintType::Radius, l.left, 0, 10 * size, true);
      },
      [&] {
        l.bore = l.sketch.add_constraint(ConstraintType::Radius, l.bore_left, 0, 4 * size, true);
      }};
  if (mixed) std::reverse(holds.begin(), holds.end());
  for (const auto& hold : holds) hold();
  return l;
}

std::function<Vec2(const Vec2&)> as_drawn(double size = 1, double turn = 0,
                                          const Vec2& shift = Vec2::Zero()) {
  return [=](const Vec2& p) { return Vec2(size * (Eigen::Rotation2Dd(turn) * p) + shift); };
}

Vec2 centre_of(const Sketch& s, Id entity) { return s.position(s.find_entity(entity)->centre); }

TEST(SketchProperties, TheSolutionMovesTurnsAndGrowsWithTheSketch) {
  for (unsigned seed = 1; seed <= 6; ++seed) {
    const Link plain = link(seed, as_drawn(), 1, false);
    const auto solved = solve(plain.sketch);
    ASSERT_TRUE(solved);
    EXPECT_EQ(solved->state, State::Loose);
    EXPECT_EQ(solved->freedoms, 3);  // as a whole
    for (const double size : {0.02, 1.0, 15.0}) {
      for (const double turn : {0.0, 0.9, 2.6}) {
        const Vec2 shift = size * Vec2(300, -120);
        const auto place = as_drawn(size, turn, shift);
        const auto other = solve(link(seed, place, size, false).sketch);
        ASSERT_TRUE(other);
        EXPECT_EQ(other->state, solved->state);
        EXPECT_EQ(other->freedoms, solved->freedoms);
        ASSERT_EQ(other->sketch.points.size(), solved->sketch.points.size());
        for (std::size_t i = 0; i < solved->sketch.points.size(); ++i)
          EXPECT_LT((other->sketch.points[i].at - place(solved->sketch.points[i].at)).norm(),
                    2e-6 * size)
              << "size " << size << " turn " << turn;
      }
    }
  }
}

TEST(SketchProperties, TheOrderOfDrawingDoesNotMatter) {
  for (unsigned seed = 1; seed <= 10; ++seed) {
    const Link one = link(seed, as_drawn(), 1, false);
    const Link other = link(seed, as_drawn(), 1, true);
    const auto a = solve(one.sketch);
    const auto b = solve(other.sketch);
    ASSERT_TRUE(a && b);
    EXPECT_EQ(a->freedoms, b->freedoms);
    EXPECT_LT((centre_of(a->sketch, one.left) - centre_of(b->sketch, other.left)).norm(), 1e-6);
    EXPECT_LT((centre_of(a->sketch, one.right) - centre_of(b->sketch, other.right)).norm(), 1e-6);
    EXPECT_NEAR(a->sketch.find_entity(one.bore_right)->radius,
                b->sketch.find_entity(other.bore_right)->radius, 1e-9);
  }
}

TEST(SketchProperties, WhatHoldsAlreadyStaysWhereItIs) {
  for (unsigned seed = 1; seed <= 6; ++seed) {
    const auto once = solve(link(seed, as_drawn(), 1, false).sketch);
    ASSERT_TRUE(once);
    const auto twice = solve(once->sketch);
    ASSERT_TRUE(twice);
    for (std::size_t i = 0; i < once->sketch.points.size(); ++i)
      EXPECT_LT((twice->sketch.points[i].at - once->sketch.points[i].at).norm(), 1e-9);
    for (std::size_t i = 0; i < once->sketch.entities.size(); ++i)
      EXPECT_NEAR(twice->sketch.entities[i].radius, once->sketch.entities[i].radius, 1e-9);
  }
}

TEST(SketchProperties, EveryConditionTakenBackGivesItsFreedomsBack) {
  const Link whole = link(3, as_drawn(), 1, false);
  const auto all = solve(whole.sketch);
  ASSERT_TRUE(all);
  for (const Constraint& c : whole.sketch.constraints) {
    Sketch without = whole.sketch;
    without.remove(c.id);
    const auto less = solve(without);
    ASSERT_TRUE(less);
    const bool follows =
        std::find(all->redundant.begin(), all->redundant.end(), c.id) != all->redundant.end();
    EXPECT_EQ(less->freedoms, all->freedoms + (follows ? 0 : 1)) << describe(whole.sketch, c);
    // Put back under another id it is the same sketch.
    Sketch again = without;
    again.add_constraint(c.type, c.first, c.second, c.value, c.driving, c.third);
    const auto back = solve(again);
    ASSERT_TRUE(back);
    EXPECT_EQ(back->freedoms, all->freedoms);
    for (std::size_t i = 0; i < all->sketch.points.size(); ++i)
      EXPECT_LT((back->sketch.points[i].at - all->sketch.points[i].at).norm(), 1e-6);
  }
}

TEST(SketchProperties, ADimensionChangedThereAndBackLeavesTheShape) {
  const auto start = solve(link(4, as_drawn(), 1, false).sketch);
  ASSERT_TRUE(start);
  const Link names = link(4, as_drawn(), 1, false);
  Sketch s = start->sketch;
  for (const double length : {61.0, 90.0, 25.0, 60.5}) {
    s.find_constraint(names.length)->value = length;
    const auto solved = solve(s);
    ASSERT_TRUE(solved);
    s = solved->sketch;
    EXPECT_NEAR((centre_of(s, names.left) - centre_of(s, names.right)).norm(), length, 1e-9);
    EXPECT_NEAR(s.find_entity(names.right)->radius, 10, 1e-9);
  }
  const auto distance = [](const Sketch& of, std::size_t i, std::size_t k) {
    return (of.points[i].at - of.points[k].at).norm();
  };
  for (std::size_t i = 0; i < s.points.size(); ++i)
    for (std::size_t k = 0; k < i; ++k)
      EXPECT_NEAR(distance(s, i, k), distance(start->sketch, i, k), 1e-6);
}

TEST(SketchProperties, DraggingThereAndBackKeepsEveryCondition) {
  std::mt19937_64 random(5);
  std::uniform_real_distribution<double> somewhere(-80, 80);
  const Link names = link(5, as_drawn(), 1, false);
  auto now = solve(names.sketch);
  ASSERT_TRUE(now);
  Sketch s = now->sketch;
  const Id grip = s.find_entity(names.left)->centre;
  for (int k = 0; k < 30; ++k) {
    const Vec2 target(somewhere(random), somewhere(random));
    const auto dragged = drag(s, grip, target);
    ASSERT_TRUE(dragged);
    s = dragged->sketch;
    // It can move as a whole, so it goes where it is dragged.
    EXPECT_LT((s.position(grip) - target).norm(), 0.001);
    const auto check = solve(s);
    ASSERT_TRUE(check);
    EXPECT_NE(check->state, State::Clashing);
    EXPECT_NEAR((centre_of(s, names.left) - centre_of(s, names.right)).norm(), 60.5, 1e-6);
    EXPECT_NEAR(s.find_entity(names.right)->radius, 10, 1e-6);
  }
}

}  // namespace
}  // namespace lostline::sketch
