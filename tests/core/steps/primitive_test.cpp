// Bodies straight from surfaces, against the volumes and areas of elementary geometry.
#include "model/steps/primitive/primitive.h"

#include <random>

#include "step_trial.h"

namespace lostline {
namespace {

using model::Primitive;
using testing::attempt;

model::Reference datum(int axis) {
  model::Reference reference;
  reference.datum = axis;
  return reference;
}

Primitive shape(Primitive::Shape kind, double size) {
  Primitive p;
  p.shape = kind;
  p.on = datum(2);
  p.radius = {8 * size, 0};
  p.tube = {3 * size, 0};
  p.half_angle = {0.2, 0};
  p.at = {-5 * size, 0};
  p.from = {-5 * size, 0};
  p.to = {25 * size, 0};
  p.x_from = {-1 * size, 0};
  p.x_to = {9 * size, 0};
  p.y_from = {4 * size, 0};
  p.y_to = {-2 * size, 0};
  p.z_from = {0, 0};
  p.z_to = {7 * size, 0};
  return p;
}

TEST(Primitive, HasTheVolumeAndAreaOfItsShape) {
  for (const double size : {0.1, 1.0, 40.0}) {
    const double s3 = std::pow(size, 3);
    const double s2 = size * size;
    const double far = 8 + 30 * std::tan(0.2);
    const double slant = 30 / std::cos(0.2);
    const struct {
      Primitive::Shape kind;
      double volume, area;
    } cases[] = {{Primitive::Shape::Block, 10 * 6 * 7, 2 * (60 + 42 + 70)},
                 {Primitive::Shape::Cylinder, kPi * 64 * 30, 2 * kPi * 8 * 30},
                 {Primitive::Shape::Cone, kPi * 30 / 3 * (64 + 8 * far + far * far),
                  kPi * (8 + far) * slant},
                 {Primitive::Shape::Ball, 4 * kPi / 3 * 512, 4 * kPi * 64},
                 {Primitive::Shape::Ring, 2 * kPi * kPi * 8 * 9, 4 * kPi * kPi * 8 * 3}};
    for (const auto& c : cases) {
      Primitive p = shape(c.kind, size);
      const auto solid = attempt(p, {});
      ASSERT_TRUE(solid) << solid.error().message;
      EXPECT_TRUE(solid->valid());
      EXPECT_NEAR(solid->volume(), s3 * c.volume, 1e-9 * s3 * c.volume);
      p.surface = true;
      const auto skin = attempt(p, {});
      ASSERT_TRUE(skin) << skin.error().message;
      EXPECT_EQ(skin->body(0).kind, model::BodyKind::Surface);
      EXPECT_NEAR(skin->area(), s2 * c.area, 1e-9 * s2 * c.area);
    }
  }
}

TEST(Primitive, AConeStaysWhereItIsWhenItsEndsMove) {
  for (const double sense : {-1.0, 1.0}) {
    Primitive cone = shape(Primitive::Shape::Cone, 1);
    // Turned round it is the same body.
    if (sense < 0) {
      std::swap(cone.from, cone.to);
      cone.half_angle.value *= -1;
    }
    const auto whole = attempt(cone, {});
    ASSERT_TRUE(whole) << whole.error().message;
    const double slope = std::tan(0.2);
    EXPECT_NEAR(whole->volume(),
                kPi * 30 / 3 * (64 + 8 * (8 + 30 * slope) + std::pow(8 + 30 * slope, 2)), 1e-6);
    (sense < 0 ? cone.to : cone.from).value -= 10;
    const auto longer = attempt(cone, {});
    ASSERT_TRUE(longer) << longer.error().message;
    const double start = 8 - 10 * slope;
    EXPECT_NEAR(longer->volume() - whole->volume(), kPi * 10 / 3 * (64 + 8 * start + start * start),
                1e-6);
    (sense < 0 ? cone.to : cone.from).value -= 100;  // past its tip
    EXPECT_FALSE(attempt(cone, {}));
  }
}

TEST(Primitive, StandsOnAFaceAndCutsWhatItMeets) {
  const model::Model part = testing::bossed(1);
  Primitive bore = shape(Primitive::Shape::Cylinder, 1);
  bore.on = {};
  bore.on.face = testing::face_near(part, {10, 0, 35});
  bore.radius = {4, 0};
  bore.from = {0, 0};
  bore.to = {50, 0};
  bore.operation = model::Operation::Cut;
  const auto made = attempt(bore, part);
  ASSERT_TRUE(made) << made.error().message;
  EXPECT_NEAR(made->volume(), part.volume() - kPi * 16 * 50, 1e-6 * part.volume());
  EXPECT_TRUE(made->find_face("s90:side"));
}

TEST(Primitive, TakesItsNumbersFromTheScan) {
  const model::Model part = testing::bossed(1);
  for (const std::uint64_t seed : {31U, 32U}) {
    const auto document = testing::scan_document(part, 0.7, 0.02, seed);
    model::Reference boss;
    for (const survey::Region& r : document.survey->regions)
      if (r.fit && r.fit->surface.kind == fit::Kind::Cylinder &&
          std::abs(r.fit->surface.radius - 10) < 0.2)
        boss.region = r.id;
    ASSERT_NE(boss.region, 0U);
    Primitive p;
    p.on = boss;
    std::map<std::string, project::FieldReading> read;
    for (const auto& r : reading::read_step(document, p, {}, 9)) read[r.field] = r;
    ASSERT_EQ(read.size(), 3U);
    EXPECT_NEAR(*read["radius"].reading, 10, 2 * read["radius"].u);
    EXPECT_LT(read["radius"].u, 0.02);
    EXPECT_NEAR(*read["from"].reading, 20, read["from"].u + 0.5);
    EXPECT_NEAR(*read["to"].reading, 50, read["to"].u + 0.1);
    // A block around it reads the ends of the part.
    Primitive block;
    block.shape = Primitive::Shape::Block;
    std::map<std::string, project::FieldReading> ends;
    for (const auto& r : reading::read_step(document, block, {}, 9)) ends[r.field] = r;
    ASSERT_EQ(ends.size(), 6U);
    EXPECT_NEAR(*ends["x_from"].reading, -30, ends["x_from"].u);
    EXPECT_NEAR(*ends["y_to"].reading, 20, ends["y_to"].u);
    EXPECT_NEAR(*ends["z_to"].reading, 50, ends["z_to"].u);
  }
}

TEST(Primitive, ACountingLevelIsADecisionAndNoReading) {
  fit::SurfaceFit cone;
  cone.surface.kind = fit::Kind::Cone;
  cone.surface.point = Vec3(0, 0, 4.31);
  cone.surface.axis = Vec3::UnitZ();
  cone.surface.radius = 12;
  cone.surface.half_angle = 0.3;
  cone.u_radius = 0.01;
  project::Document document = testing::scan_document(testing::bossed(1), 1.5, 0.01, 3);
  auto kept = std::make_shared<project::Fit>();
  kept->id = 77;
  kept->result = kept->alone = cone;
  kept->points = {Vec3(12, 0, 0), Vec3(0, 12, 8)};
  document.fits.push_back(kept);
  Primitive p;
  p.shape = Primitive::Shape::Cone;
  p.on.fit = 77;
  bool seen = false;
  for (const auto& r : reading::read_step(document, p, {}, 9)) {
    if (r.field != "at") {
      EXPECT_TRUE(r.reading) << r.field;
      continue;
    }
    seen = true;
    EXPECT_FALSE(r.reading);
    ASSERT_TRUE(r.intent);
    EXPECT_NEAR(*r.intent, 4, 1e-9);
  }
  EXPECT_TRUE(seen);
}

TEST(Primitive, IsSoundOrRefusedWithAReason) {
  std::mt19937 random(11);
  std::uniform_real_distribution<double> any(-30, 30);
  for (int k = 0; k < 200; ++k) {
    Primitive p = shape(static_cast<Primitive::Shape>(k % 5), 1);
    p.on = datum(k % 3);
    p.surface = k % 7 == 0;
    for (model::Quantity* q : {&p.radius, &p.tube, &p.from, &p.to, &p.x_from, &p.x_to, &p.y_from,
                               &p.y_to, &p.z_from, &p.z_to})
      q->value = any(random);
    p.half_angle.value = any(random) / 20;
    const auto made = attempt(p, {});
    if (made)
      EXPECT_TRUE(made->valid());
    else
      EXPECT_GT(made.error().message.size(), 20U);
  }
}

}  // namespace
}  // namespace lostline
