// Lofts along guides and square to their sections, against volumes by integration.

#include "loft_stack.h"
#include "sketch/drawing.h"

namespace lostline {
namespace {

using model::Loft;

using testing::Stack;

/// Places along a line at an angle whose distance from the axis is told by the height.
template <class Radius>
std::vector<Vec3> meridian(double angle, double height, double miss, const Radius& radius) {
  std::vector<Vec3> places;
  for (int k = 0; k <= 12; ++k) {
    const double z = height * k / 12;
    places.emplace_back((radius(z) + miss) * std::cos(angle), (radius(z) + miss) * std::sin(angle),
                        z);
  }
  return places;
}

TEST(LoftGuides, TheSurfaceTouchesThemAllAlong) {
  for (const double size : {0.1, 1.0, 30.0}) {
    const auto radius = [size](double z) {
      return size * (10 + 4 * std::sin(kPi * z / (40 * size)));
    };
    for (const double miss : {0.0, 0.2 * size}) {
      Stack ground;
      Loft loft;
      loft.sections = {ground.circle(10 * size, 0), ground.circle(10 * size, 40 * size)};
      for (int k = 0; k < 4; ++k)
        loft.guides.push_back(ground.curve(meridian(0.3 + k * kPi / 2, 40 * size, miss, radius)));
      const auto made = ground.loft(loft);
      ASSERT_TRUE(made) << made.error().message;
      EXPECT_TRUE(made->valid());
      // A guide that misses both ends by as much is drawn on to the loft as a whole.
      const double volume = std::pow(size, 3) * kPi * (100 * 40 + 80 * 80 / kPi + 16 * 20);
      EXPECT_NEAR(made->volume(), volume, 0.002 * volume);
      EXPECT_TRUE(made->find_face("s90:start"));
    }
  }
}

TEST(LoftGuides, SquareEndsLeaveTheirPlanesSquare) {
  Stack ground;
  Loft loft;
  loft.sections = {ground.circle(10, 0), ground.circle(5, 30)};
  const auto straight = ground.loft(loft);
  loft.square_start = true;
  loft.square_end = true;
  const auto square = ground.loft(loft);
  ASSERT_TRUE(straight && square) << square.error().message;
  EXPECT_TRUE(square->valid());
  // The radius runs as Hermite's cubic with level ends.
  double volume = 0;
  constexpr int kSlices = 2000;
  for (int k = 0; k < kSlices; ++k) {
    const double t = (k + 0.5) / kSlices;
    const double r = 10 - 5 * (3 * t * t - 2 * t * t * t);
    volume += kPi * r * r * 30 / kSlices;
  }
  EXPECT_NEAR(square->volume(), volume, 0.002 * volume);
  EXPECT_GT(std::abs(square->volume() - straight->volume()), 0.01 * volume);
}

TEST(LoftBeyond, GoesStraightOnAtBothEnds) {
  for (const double size : {0.1, 1.0, 30.0}) {
    for (const bool ruled : {false, true}) {
      Stack ground;
      sketch::Sketch low;
      sketch::Sketch high;
      ASSERT_TRUE(
          sketch::draw_rectangle(low, {0, {-12 * size, -8 * size}}, {0, {12 * size, 8 * size}}));
      ASSERT_TRUE(
          sketch::draw_rectangle(high, {0, {-9 * size, -6 * size}}, {0, {9 * size, 6 * size}}));
      Loft loft;
      loft.ruled = ruled;
      // From above to below, as levels of one plane have it.
      loft.sections = {ground.section(high, 30 * size), ground.section(low, 10 * size)};
      loft.beyond_start.value = 5 * size;
      loft.beyond_end.value = 10 * size;
      const auto made = ground.loft(loft);
      ASSERT_TRUE(made) << made.error().message;
      EXPECT_TRUE(made->valid());
      // A pyramid's stump from 0 to 35: its sides fall by 3 of 12 in 20.
      const auto area = [&](double z) {
        const double share = 1 - 0.25 * (z / size - 10) / 20;
        return 24 * 16 * share * share * size * size;
      };
      const double h = 35 * size;
      const double volume = h / 6 * (area(0) + 4 * area(h / 2) + area(h));
      EXPECT_NEAR(made->volume(), volume, 1e-4 * volume) << size << ruled;
      EXPECT_NEAR(made->box().max().z(), 35 * size, 1e-5 * size);
      EXPECT_NEAR(made->box().min().z(), 0, 1e-5 * size);
      // Its sides keep the names of the first section's lines.
      int sides = 0;
      for (std::size_t f = 0; f < made->face_count(); ++f)
        sides += made->face_name(f).find(":side:") != std::string::npos ? 1 : 0;
      EXPECT_GE(sides, 4);
    }
  }
  Stack ground;
  Loft loft;
  loft.sections = {ground.circle(10, 0), ground.circle(5, 30)};
  loft.beyond_end.value = -1;
  EXPECT_NE(ground.loft(loft).error().message.find("0 or more"), std::string::npos);
  loft.beyond_end.value = 3;
  loft.spine = {ground.curve({{0, 0, 0}, {0, 0, 30}})};
  EXPECT_NE(ground.loft(loft).error().message.find("choose one"), std::string::npos);
}

TEST(LoftOutline, GoesFromOneOfManyToTheNearest) {
  // Five blades round a hub, each section turned a little further.
  Stack ground;
  Loft loft;
  for (const double level : {0.0, 8.0, 16.0}) {
    sketch::Sketch s;
    s.add_circle(s.add_point({0, 0}), 10);
    for (int k = 0; k < 5; ++k) {
      const double turn = 2 * kPi * k / 5 + 0.02 * level;
      s.add_circle(s.add_point({30 * std::cos(turn), 30 * std::sin(turn)}), 4);
    }
    loft.sections.push_back(ground.section(s, level));
  }
  const auto undecided = ground.loft(loft);
  ASSERT_FALSE(undecided);
  EXPECT_NE(undecided.error().message.find("which one is meant"), std::string::npos);
  loft.outline = {Vec2(30 * std::cos(2 * kPi / 5) + 2, 30 * std::sin(2 * kPi / 5))};
  const auto blade = ground.loft(loft);
  ASSERT_TRUE(blade) << blade.error().message;
  EXPECT_TRUE(blade->valid());
  EXPECT_NEAR(blade->volume(), kPi * 16 * 16, 0.02 * kPi * 256);
  const Vec3 middle = blade->box().center();
  EXPECT_NEAR(std::atan2(middle.y(), middle.x()), 2 * kPi / 5 + 0.16, 0.03);
}

TEST(LoftGuides, OfManyCurvesKeepTheirCorners) {
  Stack ground;
  sketch::Sketch low;
  sketch::Sketch high;
  ASSERT_TRUE(sketch::draw_rectangle(low, {0, {-12, -8}}, {0, {12, 8}}));
  ASSERT_TRUE(sketch::draw_rectangle(high, {0, {-6, -4}}, {0, {6, 4}}));
  Loft loft;
  loft.sections = {ground.section(low, 0), ground.section(high, 20)};
  // Bulged at the middle of the long sides.
  loft.guides = {ground.curve({{0, -8, 0}, {0, -9, 10}, {0, -4, 20}}),
                 ground.curve({{0, 8, 0}, {0, 9, 10}, {0, 4, 20}})};
  const auto made = ground.loft(loft);
  ASSERT_TRUE(made) << made.error().message;
  EXPECT_TRUE(made->valid());
  EXPECT_EQ(made->face_count(), 6U);
  const Box3 box = made->box();
  EXPECT_GT(box.sizes().y(), 17.5);
}

TEST(LoftGuides, SayWhatDoesNotFit) {
  Stack ground;
  Loft loft;
  loft.sections = {ground.circle(10, 0), ground.circle(10, 40)};
  loft.guides = {ground.curve({{14, 0, 0}, {15, 0, 20}, {14, 0, 40}})};
  EXPECT_THAT(ground.loft(loft).error().message, ::testing::HasSubstr("passes 4 mm from section"));
  loft.ruled = true;
  EXPECT_THAT(ground.loft(loft).error().message, ::testing::HasSubstr("Leave one of the two out"));
  loft.ruled = false;
  sketch::Sketch square;
  ASSERT_TRUE(sketch::draw_rectangle(square, {0, {-10, -10}}, {0, {10, 10}}));
  loft.sections.back() = ground.section(square, 40);
  EXPECT_THAT(ground.loft(loft).error().message, ::testing::HasSubstr("as many curves"));
}

}  // namespace
}  // namespace lostline
