// Lofts through three sections and more, against surfaces known in closed form.

#include "loft_stack.h"
#include "model/steps/fillet/fillet.h"

namespace lostline {
namespace {

using model::Loft;
using testing::Stack;
using testing::Vane;

TEST(LoftSkin, OfSectionsThatMoveOnAParabolaIsThatSurface) {
  for (const double size : {0.1, 1.0, 30.0}) {
    const Vane vane{size};
    for (const std::vector<double>& levels :
         {std::vector<double>{5, 17, 29}, {5, 9, 20, 29}, {29, 21, 14, 10, 5}}) {
      Stack ground;
      const auto made = ground.loft(vane.through(ground, levels));
      ASSERT_TRUE(made) << made.error().message;
      EXPECT_TRUE(made->valid());
      EXPECT_EQ(made->face_count(), 6U);
      const double height = size * 24;
      EXPECT_NEAR(made->volume(), vane.area() * height, 1e-5 * vane.area() * height);
      const auto shape = model::tessellate(*made, {0.01 * size, 0.1});
      ASSERT_TRUE(shape);
      double worst = 0;
      for (std::size_t t = 0; t < shape->mesh.triangles.size(); ++t) {
        if (made->face_name(shape->triangle_face[t]).find(":side:") == std::string::npos) continue;
        for (const std::uint32_t v : shape->mesh.triangles[t])
          worst = std::max(worst, vane.off(shape->mesh.vertices[v].cast<double>()));
      }
      // A millionth of the loft's size, and the mesh's own rounding.
      EXPECT_LT(worst, 6e-5 * std::max(size, 0.1)) << size;
    }
  }
}

TEST(LoftSkin, GoesStraightOnFromMoreThanTwoSections) {
  // A stump whose sides bend: what is beyond the last section continues their slope there.
  Stack ground;
  Loft loft;
  const auto half = [](double z) { return 10 + 0.01 * z * z; };
  for (const double z : {0.0, 10.0, 20.0}) {
    sketch::Sketch s;
    const std::array<sketch::Id, 4> p{
        s.add_point({-half(z), -half(z)}), s.add_point({half(z), -half(z)}),
        s.add_point({half(z), half(z)}), s.add_point({-half(z), half(z)})};
    for (std::size_t k = 0; k < 4; ++k) s.add_line(p[k], p[(k + 1) % 4]);
    loft.sections.push_back(ground.section(s, z));
  }
  loft.beyond_end.value = 5;
  loft.beyond_start.value = 2;
  const auto made = ground.loft(loft);
  ASSERT_TRUE(made) << made.error().message;
  EXPECT_TRUE(made->valid());
  EXPECT_NEAR(made->box().max().z(), 25, 1e-6);
  EXPECT_NEAR(made->box().min().z(), -2, 1e-6);
  // At 20 it is 14 wide and widens by 0.4 a millimetre; at 0 it stands upright.
  EXPECT_NEAR(made->box().max().x(), 14 + 5 * 0.4, 1e-4);
  double volume = 2 * 20 * 20;
  constexpr int kSlices = 4000;
  for (int k = 0; k < kSlices; ++k) {
    const double z = 25 * (k + 0.5) / kSlices;
    const double h = z < 20 ? half(z) : 14 + 0.4 * (z - 20);
    volume += 4 * h * h * 25 / kSlices;
  }
  EXPECT_NEAR(made->volume(), volume, 1e-5 * volume);
}

TEST(LoftSkin, RingsAreNotTwistedByWhereTheyBegin) {
  for (const double size : {0.1, 1.0, 30.0}) {
    Stack ground;
    Loft loft;
    // Each circle begins elsewhere, as sketches on planes with other axes do.
    for (int k = 0; k < 4; ++k)
      loft.sections.push_back(ground.circle(8 * size, 10 * size * k, 0.9 * k));
    loft.beyond_end.value = 5 * size;
    const auto made = ground.loft(loft);
    ASSERT_TRUE(made) << made.error().message;
    EXPECT_TRUE(made->valid());
    const double volume = kPi * 64 * 35 * size * size * size;
    EXPECT_NEAR(made->volume(), volume, 1e-5 * volume);
    EXPECT_EQ(made->face_count(), 3U);
  }
}

TEST(LoftSkin, OpenSectionsSpanASurface) {
  Stack ground;
  Loft loft;
  loft.surface = true;
  for (int k = 0; k < 3; ++k) {
    sketch::Sketch s;
    const sketch::Id a = s.add_point({0, 0});
    const sketch::Id b = s.add_point({20, 0});
    const sketch::Id c = s.add_point({30, 8});
    if (k == 1) {  // told the other way round
      s.add_line(c, b);
      s.add_line(b, a);
    } else {
      s.add_line(a, b);
      s.add_line(b, c);
    }
    loft.sections.push_back(ground.section(s, 10.0 * k));
  }
  const auto made = ground.loft(loft);
  ASSERT_TRUE(made) << made.error().message;
  EXPECT_TRUE(made->valid());
  EXPECT_TRUE(made->has(model::BodyKind::Surface));
  EXPECT_EQ(made->face_count(), 2U);
  EXPECT_NEAR(made->area(), 20 * (20 + std::hypot(10, 8)), 1e-5 * 656);
}

TEST(LoftSkin, SectionsThatLieOnEachOtherAreRefused) {
  Stack ground;
  Loft loft;
  loft.sections = {ground.circle(8, 0), ground.circle(9, 10), ground.circle(9, 10, 0.4),
                   ground.circle(7, 20)};
  EXPECT_THAT(ground.loft(loft).error().message,
              ::testing::HasSubstr("2 and 3 of the loft lie on each other"));
}

TEST(LoftSkin, ItsRootIsRounded) {
  // A vane that stands in a plate: its four edges there meet at corners.
  for (const double size : {0.3, 1.0, 10.0}) {
    const Vane vane{size};
    const auto with = vane.on_plate(8);
    ASSERT_TRUE(with) << with.error().message;
    model::Fillet root;
    root.radius.value = size;
    root.edges = vane.roots(*with, 8);
    ASSERT_EQ(root.edges.size(), 4U);
    const auto rounded = testing::attempt(root, *with);
    ASSERT_TRUE(rounded) << rounded.error().message;
    EXPECT_TRUE(rounded->valid());
    // Between floor and wall at an angle w the round leaves R^2 (cot w/2 - (pi - w) / 2); the wall
    // leans as the vane does at its lowest section, straight on from there.
    const Vec2 lean(0.3 + 2 * 0.004 * 10, -0.1 + 2 * 0.006 * 10);
    const auto left = [&](const Vec2& outwards, double length) {
      const double w = kPi / 2 - std::atan(outwards.dot(lean));
      return size * size * (1 / std::tan(w / 2) - (kPi - w) / 2) * length * size;
    };
    double more = 0;
    constexpr int kParts = 400;
    for (int k = 0; k < kParts; ++k) {
      const double a = vane.from + (vane.to - vane.from) * (k + 0.5) / kParts;
      const Vec2 out(std::cos(a), std::sin(a));
      const double share = (vane.to - vane.from) / kParts;
      more += left(out, vane.outer * share) + left(-out, vane.inner * share);
    }
    more += left({std::sin(vane.from), -std::cos(vane.from)}, vane.outer - vane.inner);
    more += left({-std::sin(vane.to), std::cos(vane.to)}, vane.outer - vane.inner);
    EXPECT_NEAR(rounded->volume() - with->volume(), more, 0.03 * more);
  }
}

}  // namespace
}  // namespace lostline
