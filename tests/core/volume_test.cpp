// Volumes as geometry demands: of unions, cuts and what is common, of moved, mirrored and scaled
// parts, of drafts and turned profiles. Formulas of solids: I. N. Bronshtein and K. A. Semendyayev,
// Handbook of Mathematics.
#include <gtest/gtest.h>

#include <random>

#include "part_builder.h"

namespace lostline {
namespace {

using model::Operation;
using testing::PartBuilder;

TEST(Volume, WhatIsAddedCutAndKeptInCommonAddsUp) {
  std::mt19937_64 random(12);
  std::uniform_real_distribution<double> place(-20, 20);
  std::uniform_real_distribution<double> width(8, 40);
  for (int k = 0; k < 12; ++k) {
    const Vec2 low(place(random), place(random));
    const Vec2 high = low + Vec2(width(random), width(random));
    const double top = width(random);
    // Reaches over one pair of sides and not over all of the box.
    const double radius = 0.6 * (high - low).minCoeff();
    // The middle lies inside the box, so that the two always meet.
    const Vec2 centre = 0.5 * (low + high);
    const double from = 0.5 * top - width(random);
    const double to = 0.5 * top + width(random);
    const auto with = [&](Operation operation) {
      PartBuilder part;
      part.box(low, high, 0, top).disc(centre, radius, from, to, operation);
      return part.solid().volume();
    };
    const double box = (high - low).prod() * top;
    const double disc = kPi * radius * radius * (to - from);
    const double common = with(Operation::Common);
    EXPECT_GT(common, 0);
    EXPECT_NEAR(with(Operation::Add), box + disc - common, 1e-6 * (box + disc));
    EXPECT_NEAR(with(Operation::Cut), box - common, 1e-6 * box);
    EXPECT_LE(common, std::min(box, disc) * (1 + 1e-9));
  }
}

TEST(Volume, GrowsWithTheCubeAndAreaWithTheSquare) {
  const auto part = [](double size) {
    PartBuilder p;
    p.box(size * Vec2(0, 0), size * Vec2(60, 40), 0, size * 15)
        .disc(size * Vec2(30, 20), size * 10, size * 15, size * 35, Operation::Add, 0.03)
        .fillet(size * Vec3(30, 30, 15), size * 2)
        .holes({size * Vec2(10, 10), size * Vec2(50, 10)}, size * 6)
        .chamfer(size * Vec3(30, 0, 0), size * 2);
    return p.solid();
  };
  const model::Model one = part(1);
  ASSERT_TRUE(one.valid());
  for (const double size : {0.02, 15.0}) {
    const model::Model other = part(size);
    EXPECT_TRUE(other.valid());
    EXPECT_EQ(other.face_count(), one.face_count());
    EXPECT_NEAR(other.volume(), std::pow(size, 3) * one.volume(),
                1e-6 * std::pow(size, 3) * one.volume());
    EXPECT_NEAR(other.area(), size * size * one.area(), 1e-6 * size * size * one.area());
  }
}

TEST(Volume, HolesTakeWhatTheyTakeHoweverMany) {
  const auto plate = [](int holes) {
    PartBuilder part;
    part.box({0, 0}, {200, 40}, 0, 12);
    std::vector<Vec2> centres;
    for (int i = 0; i < holes; ++i) centres.emplace_back(15 + 20 * i, 20);
    if (holes > 0) part.holes(centres, 8);
    return part.solid();
  };
  const double whole = plate(0).volume();
  EXPECT_NEAR(whole, 200 * 40 * 12, 1e-6);
  for (const int n : {1, 2, 5, 9}) {
    const model::Model part = plate(n);
    EXPECT_NEAR(whole - part.volume(), n * kPi * 16 * 12, 1e-6 * whole);
    EXPECT_EQ(part.face_count(), 6U + static_cast<std::size_t>(n));
  }
}

TEST(Volume, ADraftedBossIsAFrustum) {
  for (const double draft : {-0.1, -0.01, 0.02, 0.15}) {
    for (const double height : {5.0, 40.0}) {
      PartBuilder round;
      round.disc({3, 4}, 20, 0, height, Operation::Add, draft);
      const double low = 20;
      const double high = 20 - height * std::tan(draft);
      const double cone = kPi * height / 3 * (low * low + low * high + high * high);
      EXPECT_NEAR(round.solid().volume(), cone, 1e-6 * cone) << draft << " " << height;
      PartBuilder square;
      square.box({-20, -20}, {20, 20}, 0, height, Operation::Add, draft);
      const double frustum = 4 * height / 3 * (low * low + low * high + high * high);
      EXPECT_NEAR(square.solid().volume(), frustum, 1e-6 * frustum) << draft << " " << height;
    }
  }
}

TEST(Volume, ATurnedProfileIsPappuss) {
  // Area of the profile times the way of its centroid (Pappus of Alexandria).
  std::mt19937_64 random(6);
  std::uniform_real_distribution<double> size(4, 30);
  for (int k = 0; k < 10; ++k) {
    const double inner = size(random);
    const double wide = size(random);
    const double high = size(random);
    PartBuilder ring;
    ring.turn({{inner, 0}, {inner + wide, 0}, {inner + wide, high}, {inner, high}});
    const double rectangle = 2 * kPi * (inner + 0.5 * wide) * wide * high;
    EXPECT_NEAR(ring.solid().volume(), rectangle, 1e-6 * rectangle);
    PartBuilder triangle;
    triangle.turn({{inner, 0}, {inner + wide, 0}, {inner, high}});
    const double third = 2 * kPi * (inner + wide / 3) * 0.5 * wide * high;
    EXPECT_NEAR(triangle.solid().volume(), third, 1e-6 * third);
    PartBuilder torus;
    const double tube = 0.8 * inner;
    torus.ring(inner, 7, tube, Operation::Add);
    const double round = 2 * kPi * inner * kPi * tube * tube;
    EXPECT_NEAR(torus.solid().volume(), round, 1e-6 * round);
  }
}

TEST(Volume, ARoundAndABevelTakeTheirShareOfAStraightEdge) {
  const double length = 80;
  for (const double size : {0.5, 2.0, 9.0}) {
    const auto block = [&](int what) {
      PartBuilder part;
      part.box({0, 0}, {length, 30}, 0, 20);
      if (what == 1) part.fillet({0.5 * length, 0, 20}, size);
      if (what == 2) part.chamfer({0.5 * length, 0, 20}, size);
      return part.solid().volume();
    };
    const double whole = block(0);
    EXPECT_NEAR(whole - block(1), (1 - kPi / 4) * size * size * length, 1e-6 * whole);
    EXPECT_NEAR(whole - block(2), 0.5 * size * size * length, 1e-6 * whole);
  }
}

}  // namespace
}  // namespace lostline
