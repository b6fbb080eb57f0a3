#include "model/steps/draft/draft.h"

#include "step_trial.h"

namespace lostline {
namespace {

using model::Draft;
using testing::attempt;
using testing::face_near;
using testing::PartBuilder;

model::Reference level_zero() {
  model::Reference plane;
  plane.datum = 2;
  return plane;
}

TEST(Draft, WallsNarrowFromTheNeutralPlaneAtEverySize) {
  for (const double size : {0.1, 1.0, 50.0}) {
    const model::Model part =
        PartBuilder().box(size * Vec2(-30, -20), size * Vec2(30, 20), 0, size * 20).solid();
    const std::string wall = face_near(part, size * Vec3(30, 0, 10));
    const auto made = attempt(Draft{{wall}, level_zero(), {2 * kDegree, 0}}, part);
    ASSERT_TRUE(made) << made.error().message;
    // A wedge goes: height 20, width 20 tan 2 at the top.
    const double wedge = 0.5 * 20 * 20 * std::tan(2 * kDegree) * 40;
    EXPECT_NEAR(part.volume() - made->volume(), size * size * size * wedge, 1e-7 * part.volume());
    ASSERT_TRUE(made->find_face(wall));
    const auto wall_surface = model::surface_of_face(*made, *made->find_face(wall));
    ASSERT_TRUE(wall_surface);
    EXPECT_NEAR(wall_surface->axis.z(), std::sin(2 * kDegree), 1e-12);
    // Taken back by the opposite draft of the drafted wall.
    const auto wider = attempt(Draft{{wall}, level_zero(), {-2 * kDegree, 0}}, part);
    ASSERT_TRUE(wider);
    EXPECT_NEAR(wider->volume() - part.volume(), size * size * size * wedge, 1e-7 * part.volume());
  }
}

TEST(Draft, ARoundWallBecomesACone) {
  const model::Model part =
      PartBuilder().box({-30, -20}, {30, 20}, 0, 10).disc({0, 0}, 10, 10, 40).solid();
  const std::string wall = face_near(part, {10, 0, 30});
  const std::string foot = face_near(part, {20, 10, 10});
  model::Reference neutral;
  neutral.face = foot;
  const auto made = attempt(Draft{{wall}, neutral, {3 * kDegree, 0}}, part);
  ASSERT_TRUE(made) << made.error().message;
  const double top = 10 - 30 * std::tan(3 * kDegree);
  const double cone = std::numbers::pi * 30 / 3 * (100 + 10 * top + top * top);
  EXPECT_NEAR(made->volume(), 60 * 40 * 10 + cone, 1e-5 * cone);
  const auto wall_surface = model::surface_of_face(*made, *made->find_face(wall));
  ASSERT_TRUE(wall_surface);
  EXPECT_EQ(wall_surface->kind, fit::Kind::Cone);
  EXPECT_NEAR(std::abs(wall_surface->half_angle), 3 * kDegree, 1e-9);
}

TEST(Draft, WhatCannotBeIsRefusedWithTheReason) {
  const model::Model part = PartBuilder().box({-30, -20}, {30, 20}, 0, 20).solid();
  const std::string wall = face_near(part, {30, 0, 10});
  EXPECT_FALSE(attempt(Draft{{wall}, level_zero(), {0, 0}}, part));
  EXPECT_THAT(attempt(Draft{{wall}, {}, {kDegree, 0}}, part).error().message,
              ::testing::HasSubstr("Pick a datum"));
  model::Reference round;
  round.fit = 4;
  fit::Surface cylinder;
  cylinder.kind = fit::Kind::Cylinder;
  cylinder.radius = 3;
  round.surface = cylinder;
  EXPECT_THAT(attempt(Draft{{wall}, round, {kDegree, 0}}, part).error().message,
              ::testing::HasSubstr("from a plane"));
  // A top cannot be drafted from the level below it.
  const auto top = attempt(Draft{{face_near(part, {0, 0, 20})}, level_zero(), {kDegree, 0}}, part);
  ASSERT_FALSE(top);
  EXPECT_GT(top.error().message.size(), 20U);
}

TEST(Draft, TheScanSaysHowMuch) {
  const model::Model part = PartBuilder().box({-30, -20}, {30, 20}, 0, 20).solid();
  std::vector<std::string> walls;
  for (const Vec3& at : {Vec3(30, 0, 10), Vec3(-30, 0, 10), Vec3(0, 20, 10), Vec3(0, -20, 10)})
    walls.push_back(face_near(part, at));
  const auto truth = attempt(Draft{walls, level_zero(), {1.5 * kDegree, 0}}, part);
  ASSERT_TRUE(truth);
  for (const std::uint64_t seed : {61U, 62U, 63U}) {
    const auto document = testing::scan_document(*truth, 0.6, 0.02, seed);
    const auto readings =
        reading::read_step(document, Draft{walls, level_zero(), {kDegree, 0}}, part, 9);
    ASSERT_EQ(readings.size(), 1U);
    EXPECT_EQ(readings[0].field, "angle");
    EXPECT_NEAR(*readings[0].reading, 1.5, 2 * readings[0].u);
    EXPECT_LT(readings[0].u, 0.1);
  }
}

}  // namespace
}  // namespace lostline
