#include "model/steps/offset_face/offset_face.h"

#include "step_trial.h"

namespace lostline {
namespace {

using testing::attempt;
using testing::bossed;
using testing::face_near;
using testing::PartBuilder;

TEST(OffsetFace, MovesAPlaneABossAndABoreAtEverySize) {
  for (const double size : {0.1, 1.0, 50.0}) {
    const model::Model part = bossed(size, 5);
    const double cube = size * size * size;
    const struct {
      Vec3 at;
      double distance, volume;
    } cases[] = {
        {{30, 5, 10}, 3, 3 * 40 * 20},                   // a side
        {{0, 7, 50}, -2, -2 * kPi * (100 - 25)},         // the top of the boss
        {{10, 0, 35}, 1, 30 * kPi * (121 - 100)},        // the boss itself
        {{5, 0, 30}, 0.5, 50 * kPi * (25 - 4.5 * 4.5)},  // the bore closes in
        {{20, 10, 20}, 2, 2 * (60 * 40 - kPi * 100)},    // the shoulder
    };
    for (const auto& c : cases) {
      const std::string face = face_near(part, size * c.at);
      const auto made = attempt(model::OffsetFace{{face}, {size * c.distance, 0}}, part);
      ASSERT_TRUE(made) << made.error().message;
      EXPECT_TRUE(made->valid());
      EXPECT_NEAR(made->volume() - part.volume(), cube * c.volume, 1e-6 * part.volume()) << face;
      // Every face keeps its name.
      ASSERT_EQ(made->face_count(), part.face_count());
      for (std::size_t i = 0; i < part.face_count(); ++i)
        EXPECT_TRUE(made->find_face(part.face_name(i))) << part.face_name(i);
    }
  }
}

TEST(OffsetFace, ThereAndBackIsThePartAsItWas) {
  const model::Model part = bossed(1, 5);
  for (std::size_t i = 0; i < part.face_count(); ++i) {
    const auto out = attempt(model::OffsetFace{{part.face_name(i)}, {0.8, 0}}, part);
    ASSERT_TRUE(out) << part.face_name(i) << ": " << out.error().message;
    const auto back = attempt(model::OffsetFace{{part.face_name(i)}, {-0.8, 0}}, *out);
    ASSERT_TRUE(back) << part.face_name(i) << ": " << back.error().message;
    EXPECT_NEAR(back->volume(), part.volume(), 1e-7 * part.volume()) << part.face_name(i);
    EXPECT_NEAR(back->area(), part.area(), 1e-7 * part.area()) << part.face_name(i);
  }
}

TEST(OffsetFace, WhatCannotBeIsRefusedWithTheReason) {
  const model::Model part = bossed(1, 5);
  const std::string bore = face_near(part, {5, 0, 30});
  const auto closed = attempt(model::OffsetFace{{bore}, {6, 0}}, part);  // past its own axis
  ASSERT_FALSE(closed);
  EXPECT_THAT(closed.error().message, ::testing::HasSubstr("up to about"));
  EXPECT_THAT(attempt(model::OffsetFace{{bore}, {0, 0}}, part).error().message,
              ::testing::HasSubstr("other than zero"));
  EXPECT_THAT(attempt(model::OffsetFace{{}, {1, 0}}, part).error().message,
              ::testing::HasSubstr("at least one face"));
  EXPECT_THAT(attempt(model::OffsetFace{{"s9:end"}, {1, 0}}, part).error().message,
              ::testing::HasSubstr("is gone"));
}

TEST(OffsetFace, TheScanSaysHowFar) {
  // The model is 1.3 too low on top and 0.4 too narrow in its bore.
  const auto make = [](double height, double bore) {
    return PartBuilder()
        .box({-30, -20}, {30, 20}, 0, height)
        .disc({0, 0}, bore, 0, height, model::Operation::Cut)
        .solid();
  };
  const model::Model model = make(18.7, 7.6);
  for (const std::uint64_t seed : {31U, 32U, 33U}) {
    const auto document = testing::scan_document(make(20, 8), 0.6, 0.02, seed);
    for (const auto& [at, truth] : {std::pair{Vec3(20, 10, 18.7), 1.3}, {Vec3(7.6, 0, 10), -0.4}}) {
      const model::OffsetFace feature{{face_near(model, at)}, {1, 0}};
      const auto readings = reading::read_step(document, feature, model, 9);
      ASSERT_EQ(readings.size(), 1U);
      EXPECT_EQ(readings[0].field, "distance");
      EXPECT_GT(readings[0].u, 0);
      EXPECT_LT(readings[0].u, 0.05);
      EXPECT_NEAR(*readings[0].reading, truth, 2 * readings[0].u) << seed;
    }
  }
}

}  // namespace
}  // namespace lostline
