// Lofts along guides and square to their sections, against volumes by integration.

#include "model/route.h"
#include "model/steps/loft/loft.h"
#include "model/steps/space_curve/space_curve.h"
#include "sketch/drawing.h"
#include "step_trial.h"

namespace lostline {
namespace {

using model::Loft;

/// Sketches at levels and curves in space, with a loft over them.
struct Stack {
  std::map<model::Id, model::PlacedSketch> sketches;
  model::Model curves;
  int next = 1;

  model::Id section(const sketch::Sketch& s, double level) {
    Placement base;
    base.origin = Vec3(0, 0, level);
    sketches[sketches.size() + 1] = {s, base, 0, {}};
    return sketches.size();
  }
  model::Id circle(double radius, double level) {
    sketch::Sketch s;
    s.add_circle(s.add_point({0, 0}), radius);
    return section(s, level);
  }
  std::string curve(const std::vector<Vec3>& places) {
    model::SpaceCurve made;
    made.path.corners = places;
    model::Step step;
    step.id = static_cast<model::Id>(next++);
    step.name = "curve";
    step.feature = made;
    const std::vector<model::Step> none;
    const auto with = model::apply_feature(step, {sketches, none}, curves);
    EXPECT_TRUE(with) << with.error().message;
    curves = *with;
    return "s" + std::to_string(step.id);
  }
  [[nodiscard]] Result<model::Model> loft(const Loft& loft) const {
    model::Step step;
    step.id = 90;
    step.name = "loft";
    step.feature = loft;
    const std::vector<model::Step> none;
    return model::apply_feature(step, {sketches, none}, curves);
  }
};

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
