#include "model/steps/rib/rib.h"

#include "step_trial.h"

namespace lostline {
namespace {

using testing::PartBuilder;

/// A plate with a wall on it, `size` times 60 x 40 x 10 and 10 x 40 up to 50.
model::Model angle(double size) {
  return PartBuilder()
      .box(size * Vec2(-30, -20), size * Vec2(30, 20), 0, size * 10)
      .box(size * Vec2(-30, -20), size * Vec2(-20, 20), size * 10, size * 50)
      .solid();
}

/// A rib of one sketch on the plane y = 0.
Result<model::Model> rib(const model::Model& part, const std::vector<Vec2>& outline,
                         double thickness, bool other_side = false) {
  sketch::Sketch s;
  std::vector<sketch::Id> points;
  for (const Vec2& p : outline) points.push_back(s.add_point(p));
  for (std::size_t i = 1; i < points.size(); ++i) s.add_line(points[i - 1], points[i]);
  Placement plane;
  plane.y = Vec3::UnitZ();
  plane.normal = -Vec3::UnitY();
  model::Step step;
  step.id = 90;
  step.name = "rib";
  step.feature = model::Rib{{1}, {thickness, 0}, other_side};
  const std::map<model::Id, model::PlacedSketch> sketches{{1, {s, plane, 0, {}}}};
  const std::vector<model::Step> steps{step};
  return model::apply_feature(step, {sketches, steps}, part);
}

TEST(Rib, FillsTheCornerUnderItsOutlineAtEverySize) {
  for (const double size : {0.1, 1.0, 50.0}) {
    const model::Model part = angle(size);
    const double triangle = 0.5 * 40 * 30;  // legs from the wall's foot
    for (const double gap : {0.0, 0.4, -0.4}) {
      // Drawn to the part, short of it, and into it: the same rib.
      const Vec2 along = Vec2(40, -30).normalized();
      const Vec2 a = size * (Vec2(-20, 40) + gap * along);
      const Vec2 b = size * (Vec2(20, 10) - gap * along);
      const auto made = rib(part, {a, b}, 4 * size);
      ASSERT_TRUE(made) << made.error().message;
      EXPECT_TRUE(made->valid());
      EXPECT_EQ(made->body_count(), 1U);
      EXPECT_NEAR(made->volume() - part.volume(), size * size * size * 4 * triangle,
                  1e-6 * part.volume());
      // Either way round.
      const auto back = rib(part, {b, a}, 4 * size);
      ASSERT_TRUE(back) << back.error().message;
      EXPECT_NEAR(back->volume(), made->volume(), 1e-9 * made->volume());
    }
  }
}

TEST(Rib, AnOutlineOfSeveralLinesKeepsItsFacesByName) {
  const model::Model part = angle(1);
  const auto made = rib(part, {{-20, 45}, {0, 35}, {25, 10}}, 6);
  ASSERT_TRUE(made) << made.error().message;
  const double area = 0.5 * (35 + 25) * 20 + 0.5 * 25 * 25;
  EXPECT_NEAR(made->volume() - part.volume(), 6 * area, 1e-6);
  int sides = 0;
  for (std::size_t i = 0; i < made->face_count(); ++i)
    sides += made->face_name(i).find("s90:side:") == 0 ? 1 : 0;
  EXPECT_EQ(sides, 2);
}

TEST(Rib, TheOtherSideIsAskedFor) {
  // A window: below the outline as well as above it the part closes it off.
  const model::Model part = PartBuilder()
                                .box({-30, -20}, {30, 20}, 0, 60)
                                .box({-20, -20}, {20, 20}, 10, 50, model::Operation::Cut)
                                .solid();
  const auto one = rib(part, {{-20, 20}, {20, 20}}, 3);
  const auto other = rib(part, {{-20, 20}, {20, 20}}, 3, true);
  ASSERT_TRUE(one) << one.error().message;
  ASSERT_TRUE(other) << other.error().message;
  const double a = one->volume() - part.volume();
  const double b = other->volume() - part.volume();
  EXPECT_NEAR(a + b, 3 * 40 * 40, 1e-6);
  EXPECT_NEAR(std::min(a, b), 3 * 40 * 10, 1e-6);
}

TEST(Rib, WhatCannotBeIsRefusedWithTheReason) {
  const model::Model part = angle(1);
  EXPECT_THAT(rib(part, {{0, 60}, {20, 70}}, 4).error().message,
              ::testing::HasSubstr("does not close the rib off"));
  EXPECT_THAT(rib(part, {{-20, 40}, {20, 10}}, 4, true).error().message,
              ::testing::HasSubstr("on the other side"));
  EXPECT_THAT(rib(part, {{-20, 40}, {20, 10}}, 0).error().message,
              ::testing::HasSubstr("greater than zero"));
  EXPECT_THAT(rib(part, {{-15, 20}, {0, 20}, {0, 40}, {-15, 20}}, 4).error().message,
              ::testing::HasSubstr("does not close"));
}

}  // namespace
}  // namespace lostline
