#include "model/steps/thicken/thicken.h"

#include "model/steps/pattern/pattern.h"
#include "step_trial.h"

namespace lostline {
namespace {

using model::Operation;
using model::Thicken;
using testing::attempt;
using testing::bossed;
using testing::face_near;
using testing::PartBuilder;

TEST(Thicken, LaysMaterialOnFacesAndTakesItAwayAtEverySize) {
  for (const double size : {0.1, 1.0, 50.0}) {
    const model::Model part = bossed(size);
    const double cube = size * size * size;
    const struct {
      Vec3 at;
      Thicken::Side side;
      Operation operation;
      double volume;
    } cases[] = {
        {{30, 5, 10}, Thicken::Side::Outwards, Operation::Add, 2 * 40 * 20},
        {{30, 5, 10}, Thicken::Side::Inwards, Operation::Cut, -2 * 40 * 20},
        {{30, 5, 10}, Thicken::Side::Both, Operation::Add, 1 * 40 * 20},
        {{10, 0, 35}, Thicken::Side::Outwards, Operation::Add, 30 * kPi * (144 - 100)},
        {{10, 0, 35}, Thicken::Side::Inwards, Operation::Cut, -30 * kPi * (100 - 64)},
        {{0, 5, 50}, Thicken::Side::Outwards, Operation::Add, 2 * kPi * 100},
    };
    for (const auto& c : cases) {
      const auto made = attempt(
          Thicken{{face_near(part, size * c.at)}, {2 * size, 0}, c.side, c.operation}, part);
      ASSERT_TRUE(made) << made.error().message;
      EXPECT_NEAR(made->volume() - part.volume(), cube * c.volume, 1e-6 * part.volume())
          << c.at.transpose();
    }
  }
}

TEST(Thicken, NeighbouringFacesShareTheirCorner) {
  const model::Model part = PartBuilder().box({0, 0}, {60, 40}, 0, 20).solid();
  const auto made = attempt(
      Thicken{{face_near(part, {60, 20, 10}), face_near(part, {30, 20, 20})}, {2, 0}}, part);
  ASSERT_TRUE(made) << made.error().message;
  EXPECT_NEAR(made->volume(), 62 * 40 * 22, 1e-3);
}

TEST(Thicken, APatternRepeatsTheLayer) {
  const model::Model part =
      PartBuilder().box({-30, -30}, {30, 30}, 0, 20).box({40, -5}, {50, 5}, 0, 20).solid();
  model::Step layer;
  layer.id = 1;
  layer.feature = Thicken{{face_near(part, {30, 20, 10})}, {2, 0}};
  model::Step copies;
  copies.id = 2;
  model::Pattern pattern;
  pattern.source = 1;
  pattern.direction.datum = 2;
  pattern.count = 4;
  pattern.spacing.value = std::numbers::pi / 2;
  copies.feature = pattern;
  const std::map<model::Id, model::PlacedSketch> sketches;
  const std::vector<model::Step> steps{layer, copies};
  const std::map<model::Id, model::Model> before{{1, part}};
  const auto one = model::apply_feature(layer, {sketches, steps}, part);
  ASSERT_TRUE(one) << one.error().message;
  const auto made = model::apply_feature(copies, {sketches, steps, &before}, *one);
  ASSERT_TRUE(made) << made.error().message;
  EXPECT_NEAR(made->volume() - part.volume(), 4 * 2 * 60 * 20, 1e-3);
}

TEST(Thicken, WhatCannotBeIsRefusedWithTheReason) {
  const model::Model part = bossed(1);
  const std::string top = face_near(part, {0, 5, 50});
  EXPECT_FALSE(attempt(Thicken{{top}, {0, 0}}, part));
  EXPECT_THAT(attempt(Thicken{{}, {2, 0}}, part).error().message,
              ::testing::HasSubstr("at least one face"));
  EXPECT_THAT(
      attempt(Thicken{{top}, {2, 0}, Thicken::Side::Inwards, Operation::Add}, part).error().message,
      ::testing::HasSubstr("adds nothing"));
}

TEST(Thicken, TheScanSaysHowThickTheLayerIs) {
  const model::Model part = PartBuilder().box({0, 0}, {60, 40}, 0, 20).solid();
  const std::string top = face_near(part, {30, 20, 20});
  const auto truth = attempt(Thicken{{top}, {1.7, 0}}, part);
  ASSERT_TRUE(truth);
  for (const std::uint64_t seed : {51U, 52U}) {
    const auto document = testing::scan_document(*truth, 0.6, 0.02, seed);
    const auto readings = reading::read_step(document, Thicken{{top}, {1, 0}}, part, 9);
    ASSERT_EQ(readings.size(), 1U);
    EXPECT_NEAR(*readings[0].reading, 1.7, 2 * readings[0].u);
    // Material was laid on: nothing is to be taken away there.
    EXPECT_TRUE(
        reading::read_step(document, Thicken{{top}, {1, 0}, Thicken::Side::Inwards}, part, 9)
            .empty());
  }
}

}  // namespace
}  // namespace lostline
