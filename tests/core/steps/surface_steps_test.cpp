// Steps that make surface bodies, and bodies made larger: against areas and volumes.
#include "model/steps/flat_face/flat_face.h"
#include "model/steps/offset_surface/offset_surface.h"
#include "model/steps/scale_body/scale_body.h"
#include "sketch/drawing.h"
#include "step_trial.h"

namespace lostline {
namespace {

using testing::attempt;
using testing::bossed;
using testing::face_near;

TEST(ScaleBody, MakesLengthsVolumesAndAreasLargerAndKeepsNames) {
  const model::Model part = bossed(1, 5);
  const std::string key = part.body(0).key;
  for (const double ratio : {0.02, 1.012, 25.4}) {
    const auto made = attempt(model::ScaleBody{{key}, {100, 0}, {100 * ratio, 0}}, part);
    ASSERT_TRUE(made) << made.error().message;
    EXPECT_TRUE(made->valid());
    EXPECT_NEAR(made->volume(), std::pow(ratio, 3) * part.volume(), 1e-9 * made->volume());
    EXPECT_NEAR(made->area(), ratio * ratio * part.area(), 1e-9 * made->area());
    for (std::size_t i = 0; i < part.face_count(); ++i)
      EXPECT_TRUE(made->find_face(part.face_name(i))) << part.face_name(i);
    // There and back is the part as it was.
    const auto back = attempt(model::ScaleBody{{key}, {100 * ratio, 0}, {100, 0}}, *made);
    ASSERT_TRUE(back);
    EXPECT_NEAR(back->volume(), part.volume(), 1e-9 * part.volume());
  }
  EXPECT_THAT(attempt(model::ScaleBody{{key}, {1, 0}, {2540, 0}}, part).error().message,
              ::testing::HasSubstr("up to 1000 times"));
  EXPECT_THAT(attempt(model::ScaleBody{{key}, {0, 0}, {1, 0}}, part).error().message,
              ::testing::HasSubstr("greater than zero"));
  EXPECT_FALSE(attempt(model::ScaleBody{{"gone"}, {1, 0}, {2, 0}}, part));
}

TEST(OffsetSurface, LiesAtItsDistanceAsABodyOfItsOwn) {
  for (const double size : {0.1, 1.0, 50.0}) {
    const model::Model part = bossed(size, 5);
    const std::string boss = face_near(part, size * Vec3(10, 0, 35));
    const std::string bore = face_near(part, size * Vec3(5, 0, 30));
    const struct {
      std::string face;
      double distance, area;
    } cases[] = {{boss, 2, 2 * kPi * 12 * 30},
                 {boss, 0, 2 * kPi * 10 * 30},
                 {bore, 1.5, 2 * kPi * 3.5 * 50}};
    for (const auto& c : cases) {
      const auto made = attempt(model::OffsetSurface{{c.face}, {size * c.distance, 0}}, part);
      ASSERT_TRUE(made) << made.error().message;
      ASSERT_EQ(made->body_count(), 2U);
      EXPECT_EQ(made->body(1).kind, model::BodyKind::Surface);
      EXPECT_NEAR(made->area() - part.area(), size * size * c.area, 1e-6 * part.area());
      EXPECT_TRUE(made->find_face("s90:over:" + c.face));
    }
  }
  // Faces that meet stay together: the shoulder with the boss.
  const model::Model part = bossed(1);
  const auto two = attempt(
      model::OffsetSurface{{face_near(part, {10, 0, 35}), face_near(part, {20, 10, 20})}, {2, 0}},
      part);
  ASSERT_TRUE(two) << two.error().message;
  EXPECT_NEAR(two->area() - part.area(), 2 * kPi * 12 * 28 + 60 * 40 - kPi * 144,
              1e-6 * part.area());
  EXPECT_THAT(attempt(model::OffsetSurface{{}, {1, 0}}, part).error().message,
              ::testing::HasSubstr("at least one face"));
}

TEST(FlatFace, FillsOutlinesWithTheirHoles) {
  for (const double size : {0.1, 1.0, 50.0}) {
    sketch::Sketch s;
    ASSERT_TRUE(sketch::draw_rectangle(s, {0, size * Vec2(-30, -20)}, {0, size * Vec2(30, 20)}));
    s.add_circle(s.add_point({0, 0}), 8 * size);
    model::Step step;
    step.id = 90;
    step.name = "face";
    const auto at = [&](const model::FlatFace& feature) {
      step.feature = feature;
      const std::map<model::Id, model::PlacedSketch> sketches{{1, {s, {}, 0, {}}}};
      const std::vector<model::Step> steps{step};
      return model::apply_feature(step, {sketches, steps}, {});
    };
    const auto made = at({{1}, {7 * size, 0}});
    ASSERT_TRUE(made) << made.error().message;
    ASSERT_EQ(made->body_count(), 1U);
    EXPECT_EQ(made->body(0).kind, model::BodyKind::Surface);
    EXPECT_NEAR(made->area(), size * size * (60 * 40 - kPi * 64), 1e-6 * made->area());
    EXPECT_NEAR(made->box().min().z(), 7 * size, 1e-6 * size);
    EXPECT_FALSE(at({{2}, {}}));
    EXPECT_THAT(at({{}, {}}).error().message, ::testing::HasSubstr("Choose the sketch"));
  }
}

}  // namespace
}  // namespace lostline
