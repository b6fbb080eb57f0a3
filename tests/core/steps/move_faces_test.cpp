// Faces moved as they are and replaced by surfaces, against volumes by elementary geometry.
#include "model/steps/move_faces/move_faces.h"

#include "model/steps/offset_surface/offset_surface.h"
#include "model/steps/patch_face/patch_face.h"
#include "model/steps/replace_face/replace_face.h"
#include "model/steps/split/split.h"
#include "step_trial.h"

namespace lostline {
namespace {

using model::MoveFaces;
using model::ReplaceFace;
using testing::attempt;
using testing::face_near;

MoveFaces move(std::vector<std::string> faces, const Vec3& by) {
  return {std::move(faces), {by.x(), 0}, {by.y(), 0}, {by.z(), 0}};
}

TEST(MoveFaces, AHoleGoesToAnotherPlaceAsItIs) {
  for (const double size : {0.1, 1.0, 50.0}) {
    const model::Model plate =
        testing::PartBuilder()
            .box(size * Vec2(-30, -20), size * Vec2(30, 20), 0, size * 12)
            .disc(size * Vec2(-10, 0), size * 4, 0, size * 12, model::Operation::Cut)
            .solid();
    const std::string hole = face_near(plate, size * Vec3(-6, 0, 6));
    const auto made = attempt(move({hole}, size * Vec3(15, 6, 0)), plate);
    ASSERT_TRUE(made) << made.error().message;
    EXPECT_TRUE(made->valid());
    EXPECT_NEAR(made->volume(), plate.volume(), 1e-9 * plate.volume());
    EXPECT_EQ(face_near(*made, size * Vec3(9, 6, 6)), hole);
    const auto back = attempt(move({hole}, size * Vec3(-15, -6, 0)), *made);
    ASSERT_TRUE(back) << back.error().message;
    EXPECT_EQ(back->face_count(), plate.face_count());
    EXPECT_EQ(face_near(*back, size * Vec3(-6, 0, 6)), hole);
    // Out of the side it leaves a notch of what is still inside.
    const auto half = attempt(move({hole}, size * Vec3(40, 0, 0)), plate);
    ASSERT_TRUE(half) << half.error().message;
    EXPECT_NEAR(half->volume(), std::pow(size, 3) * 12 * (2400 - kPi * 8), 1e-6 * plate.volume());
  }
}

TEST(MoveFaces, ABossGoesWithItsTop) {
  const model::Model part = testing::bossed(1);
  const std::vector<std::string> boss{face_near(part, {10, 0, 35}), face_near(part, {0, 0, 50})};
  const auto made = attempt(move(boss, {12, -5, 0}), part);
  ASSERT_TRUE(made) << made.error().message;
  EXPECT_NEAR(made->volume(), part.volume(), 1e-9 * part.volume());
  EXPECT_EQ(face_near(*made, {12, -5, 50}), boss[1]);
}

TEST(MoveFaces, FlatFacesMoveAlongTheirNormals) {
  const model::Model part = testing::bossed(1);
  const std::string side = face_near(part, {30, 0, 10});
  const auto made = attempt(move({side}, {2.5, 7, 0}), part);
  ASSERT_TRUE(made) << made.error().message;
  EXPECT_NEAR(made->volume(), part.volume() + 2.5 * 40 * 20, 1e-6 * part.volume());
  const auto document = testing::scan_document(*made, 0.9, 0.02, 41);
  const auto readings = reading::read_step(document, move({side}, {0, 0, 0}), part, 9);
  ASSERT_EQ(readings.size(), 1U);
  EXPECT_EQ(readings.front().field, "x");
  EXPECT_NEAR(*readings.front().reading, 2.5, 2 * readings.front().u);
}

TEST(MoveFaces, SaysWhatIsMissing) {
  const model::Model part = testing::bossed(1);
  const std::string wall = face_near(part, {10, 0, 35});
  EXPECT_THAT(attempt(move({wall}, {0, 0, 0}), part).error().message,
              ::testing::HasSubstr("all zero"));
  EXPECT_THAT(attempt(move({wall}, {3, 0, 0}), part).error().message,
              ::testing::HasSubstr("all faces of it"));
  EXPECT_THAT(attempt(move({}, {3, 0, 0}), part).error().message,
              ::testing::HasSubstr("at least one face"));
}

/// A surface over [-a, a] x [-b, b] at a height that is linear there.
model::PatchFace sloped(double a, double b, const std::function<double(double, double)>& height) {
  auto face = std::make_shared<patch::SplineSurface>(patch::SplineSurface::even(5, 5));
  // Poles at their Greville abscissae reproduce linear functions.
  const auto greville = [](const std::vector<double>& knots, std::size_t i) {
    return (knots[i + 1] + knots[i + 2] + knots[i + 3]) / 3;
  };
  for (std::size_t i = 0; i < face->nu; ++i) {
    for (std::size_t j = 0; j < face->nv; ++j) {
      const double x = a * (2 * greville(face->u_knots, i) - 1);
      const double y = b * (2 * greville(face->v_knots, j) - 1);
      face->poles[i * face->nv + j] = Vec3(x, y, height(x, y));
    }
  }
  return {face};
}

/// A step after another one.
Result<model::Model> after(const model::Feature& first, const model::Feature& second,
                           const model::Model& before) {
  model::Step one;
  one.id = 80;
  one.name = "first";
  one.feature = first;
  const std::map<model::Id, model::PlacedSketch> sketches;
  const std::vector<model::Step> steps{one};
  const auto made = model::apply_feature(one, {sketches, steps}, before);
  if (!made) return made.error();
  return attempt(second, *made);
}

TEST(ReplaceFace, WallsGrowOrShrinkToTheSurface) {
  const model::Model block = testing::PartBuilder().box({-30, -20}, {30, 20}, 0, 20).solid();
  const std::string top = face_near(block, {0, 0, 20});
  const std::string wall = face_near(block, {30, 0, 10});
  const struct { double at, slope; } cases[] = {{14, 0.1}, {26, 0.05}, {20, 0.15}};
  for (const auto& c : cases) {
    const auto slope =
        sloped(45, 35, [&](double x, double y) { return c.at + c.slope * (x + 0.5 * y); });
    const auto made = after(slope, ReplaceFace{{top}, {"s80"}}, block);
    ASSERT_TRUE(made) << made.error().message;
    EXPECT_TRUE(made->valid());
    ASSERT_EQ(made->body_count(), 1U);
    EXPECT_NEAR(made->volume(), 60 * 40 * c.at, 1e-6 * made->volume());
    EXPECT_TRUE(made->find_face(wall));
    EXPECT_FALSE(made->find_face(top));
    const auto kept = after(slope, ReplaceFace{{top}, {"s80"}, true}, block);
    ASSERT_TRUE(kept);
    EXPECT_EQ(kept->body_count(), 2U);
  }
  const auto small = sloped(20, 15, [](double, double) { return 15; });
  EXPECT_THAT(after(small, ReplaceFace{{top}, {"s80"}}, block).error().message,
              ::testing::HasSubstr("reach past"));
  EXPECT_THAT(attempt(ReplaceFace{{top}, {}}, block).error().message, ::testing::HasSubstr("ick"));
}

TEST(SplitSurfaces, TrimByAPlaneAndKeepTheirSide) {
  const auto slope = sloped(40, 30, [](double x, double) { return 0.2 * x; });
  const double area = 80 * 60 * std::hypot(1, 0.2);
  model::Reference middle;
  middle.datum = 0;
  for (const auto keeps :
       {model::Split::Keeps::Both, model::Split::Keeps::FarSide, model::Split::Keeps::NearSide}) {
    const auto made = after(slope, model::Split{{"s80"}, middle, {}, true, keeps}, {});
    ASSERT_TRUE(made) << made.error().message;
    const bool both = keeps == model::Split::Keeps::Both;
    EXPECT_EQ(made->body_count(), both ? 2U : 1U);
    EXPECT_NEAR(made->area(), (both ? 1 : 0.5) * area, 1e-6 * area);
    if (!both) {
      EXPECT_EQ(made->box().center().x() > 0, keeps == model::Split::Keeps::FarSide);
    }
  }
}

TEST(OffsetSurfaceBeyond, AFaceGoesOnPastItsBorders) {
  const model::Model part = testing::bossed(1);
  const std::string wall = face_near(part, {30, 0, 10});
  const auto made = attempt(model::OffsetSurface{{wall}, {0, 0}, {5, 0}}, part);
  ASSERT_TRUE(made) << made.error().message;
  EXPECT_NEAR(made->area() - part.area(), 50 * 30, 1e-6 * part.area());
  const std::string bottom = face_near(part, {0, 0, 0});
  EXPECT_THAT(attempt(model::OffsetSurface{{wall, bottom}, {0, 0}, {5, 0}}, part).error().message,
              ::testing::HasSubstr("single face"));
}

}  // namespace
}  // namespace lostline
