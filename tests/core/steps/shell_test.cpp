#include "model/steps/shell/shell.h"

#include "step_trial.h"

namespace lostline {
namespace {

using testing::attempt;
using testing::face_near;
using testing::PartBuilder;

model::Model block(double size) {
  return PartBuilder().box({0, 0}, size * Vec2(60, 40), 0, size * 20).solid();
}

TEST(Shell, ABoxOpenOnTopInwardsAndOutwardsAtEverySize) {
  for (const double size : {0.1, 1.0, 40.0}) {
    const model::Model part = block(size);
    const double cube = size * size * size;
    const std::string top = face_near(part, size * Vec3(30, 20, 20));
    const auto inwards = attempt(model::Shell{{top}, {2 * size, 0}, false}, part);
    ASSERT_TRUE(inwards) << inwards.error().message;
    EXPECT_NEAR(inwards->volume(), cube * (60 * 40 * 20 - 56 * 36 * 18), 1e-7 * part.volume());
    EXPECT_EQ(inwards->face_count(), 11U);
    const auto outwards = attempt(model::Shell{{top}, {2 * size, 0}, true}, part);
    ASSERT_TRUE(outwards) << outwards.error().message;
    EXPECT_NEAR(outwards->volume(), cube * (64 * 44 * 22 - 60 * 40 * 20), 1e-7 * part.volume());
  }
}

TEST(Shell, FacesAreNamedForWhatTheyFollow) {
  const model::Model part = block(1);
  const std::string top = face_near(part, {30, 20, 20});
  const std::string side = face_near(part, {60, 20, 10});
  const auto made = attempt(model::Shell{{top}, {2, 0}, false}, part);
  ASSERT_TRUE(made);
  EXPECT_EQ(face_near(*made, {60, 20, 10}), side);
  EXPECT_EQ(face_near(*made, {58, 20, 10}), "s90:inner:" + side);
  // The open face is what is left of it: the rim.
  EXPECT_EQ(face_near(*made, {1, 20, 20}), top);
}

TEST(Shell, ABossWithABoreOpenBelow) {
  const model::Model part = PartBuilder()
                                .box({-30, -20}, {30, 20}, 0, 20)
                                .disc({0, 0}, 10, 20, 50)
                                .disc({0, 0}, 5, 0, 50, model::Operation::Cut)
                                .solid();
  const auto made = attempt(model::Shell{{face_near(part, {20, 10, 0})}, {2, 0}, false}, part);
  ASSERT_TRUE(made) << made.error().message;
  // Hollow: under the plate, and in the boss between radii 7 and 8.
  const double hollow = 56 * 36 * 18 - kPi * 49 * 18 + kPi * (64 - 49) * 30;
  EXPECT_NEAR(part.volume() - made->volume(), hollow, 1e-6 * hollow);
}

TEST(Shell, AWallThatDoesNotFitIsRefusedWithWhatWorks) {
  const model::Model part = block(1);
  const std::string top = face_near(part, {30, 20, 20});
  const auto thick = attempt(model::Shell{{top}, {25, 0}, false}, part);
  ASSERT_FALSE(thick);
  EXPECT_THAT(thick.error().message, ::testing::HasSubstr("up to about"));
  EXPECT_FALSE(attempt(model::Shell{{top}, {0, 0}, false}, part));
  std::vector<std::string> all;
  for (std::size_t i = 0; i < part.face_count(); ++i) all.push_back(part.face_name(i));
  EXPECT_THAT(attempt(model::Shell{all, {2, 0}, false}, part).error().message,
              ::testing::HasSubstr("no wall would be left"));
}

TEST(Shell, TheScanSaysHowThickTheWallIs) {
  const model::Model part = block(1);
  const std::string top = face_near(part, {30, 20, 20});
  const model::Shell hollow{{top}, {3.2, 0}, false};
  const auto truth = attempt(hollow, part);
  ASSERT_TRUE(truth);
  for (const std::uint64_t seed : {41U, 42U}) {
    const auto document = testing::scan_document(*truth, 0.6, 0.02, seed);
    const auto readings = reading::read_step(document, model::Shell{{top}, {2, 0}, false}, part, 9);
    ASSERT_EQ(readings.size(), 1U);
    EXPECT_EQ(readings[0].field, "thickness");
    EXPECT_NEAR(*readings[0].reading, 3.2, 2 * readings[0].u);
    EXPECT_LT(readings[0].u, 0.02);
  }
  // A solid block has no wall.
  const auto solid = testing::scan_document(part, 0.9, 0.02, 43);
  EXPECT_TRUE(reading::read_step(solid, model::Shell{{top}, {2, 0}, false}, part, 9).empty());
}

}  // namespace
}  // namespace lostline
