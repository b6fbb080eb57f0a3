// Steps on curves and edges: ruled and filled surfaces, patterns at points and along curves,
// fillets that grow, and splits that keep one side. Areas and volumes by elementary formulas.
#include <random>

#include "model/steps/extrude/extrude.h"
#include "model/steps/fill/fill.h"
#include "model/steps/fillet/fillet.h"
#include "model/steps/pattern/pattern.h"
#include "model/steps/ruled/ruled.h"
#include "model/steps/space_curve/space_curve.h"
#include "model/steps/split/split.h"
#include "sketch/drawing.h"
#include "step_trial.h"

namespace lostline {
namespace {

using model::Id;

/// A Route of steps, computed as a whole.
struct Row {
  std::vector<model::Step> steps;
  std::map<Id, model::PlacedSketch> sketches;

  Id add(model::Feature feature) {
    model::Step step;
    step.id = 10 + steps.size();
    step.number = static_cast<int>(10 * (steps.size() + 1));
    step.name = "step " + std::to_string(steps.size());
    step.feature = std::move(feature);
    steps.push_back(step);
    return step.id;
  }
  Id curve(std::vector<Vec3> places, bool straight = false) {
    model::SpaceCurve made;
    made.path.corners = std::move(places);
    if (straight) made.runs = model::SpaceCurve::Runs::Straight;
    return add(made);
  }
  static std::string key(Id step) { return "s" + std::to_string(step); }
  [[nodiscard]] model::StepResult last() const {
    model::RouteCache cache;
    const auto results = model::recompute(steps, sketches, cache);
    EXPECT_TRUE(results);
    return results->back();
  }
};

TEST(RuledSurface, SpansTwoCurvesWithoutATwist) {
  for (const double size : {0.05, 1.0, 40.0}) {
    Row row;
    // The second is given from its other end: the surface is a rectangle all the same.
    const Id a = row.curve({size * Vec3(0, 0, 0), size * Vec3(30, 0, 0)}, true);
    const Id b = row.curve({size * Vec3(30, 20, 0), size * Vec3(0, 20, 0)}, true);
    model::Ruled ruled;
    ruled.curves = {Row::key(a), Row::key(b)};
    const Id step = row.add(ruled);
    auto made = row.last();
    ASSERT_EQ(made.state, model::StepState::Sound) << made.reason;
    EXPECT_NEAR(made.solid.area(), 600 * size * size, 1e-6 * size * size);
    EXPECT_EQ(made.solid.body(2).kind, model::BodyKind::Surface);
    EXPECT_TRUE(made.solid.find_face(Row::key(step) + ":face:1"));
    // One curve alone spans nothing.
    ruled.curves.pop_back();
    row.steps.back().feature = ruled;
    made = row.last();
    EXPECT_EQ(made.state, model::StepState::Broken);
    EXPECT_NE(made.reason.find("two curves"), std::string::npos);
  }
}

TEST(FilledSurface, LiesInsideCurvesThatClose) {
  Row row;
  const Id a = row.curve({{0, 0, 0}, {40, 0, 0}, {40, 30, 0}}, true);
  const Id b = row.curve({{40, 30, 0}, {0, 30, 0}, {0, 0, 0}}, true);
  model::Fill fill;
  fill.curves = {Row::key(a), Row::key(b)};
  row.add(fill);
  auto made = row.last();
  ASSERT_EQ(made.state, model::StepState::Sound) << made.reason;
  EXPECT_NEAR(made.solid.area(), 1200, 0.5);
  // Open ones are refused.
  fill.curves = {Row::key(a)};
  row.steps.back().feature = fill;
  made = row.last();
  EXPECT_EQ(made.state, model::StepState::Broken);
  EXPECT_NE(made.reason.find("do not close"), std::string::npos) << made.reason;
  // A ring that rises and falls is filled by a saddle through it.
  Row saddle;
  model::SpaceCurve ring;
  ring.closed = true;
  for (int k = 0; k < 24; ++k) {
    const double t = 2 * kPi * k / 24;
    ring.path.corners.emplace_back(20 * std::cos(t), 20 * std::sin(t), 3 * std::cos(2 * t));
  }
  const Id around = saddle.add(ring);
  fill.curves = {Row::key(around)};
  saddle.add(fill);
  made = saddle.last();
  ASSERT_EQ(made.state, model::StepState::Sound) << made.reason;
  EXPECT_GT(made.solid.area(), kPi * 400);
  EXPECT_LT(made.solid.area(), 1.1 * kPi * 400);
}

/// A plate with a square peg on it, as two steps; the second is what is repeated.
Row pegged(double size, const Vec2& at) {
  Row row;
  sketch::Sketch plate;
  EXPECT_TRUE(
      sketch::draw_rectangle(plate, {0, size * Vec2(-100, -60)}, {0, size * Vec2(100, 60)}));
  sketch::Sketch peg;
  EXPECT_TRUE(
      sketch::draw_rectangle(peg, {0, size * (at + Vec2(-3, -3))}, {0, size * (at + Vec2(3, 3))}));
  row.sketches[1] = {plate, {}, 0, {}};
  row.sketches[2] = {peg, {}, 0, {}};
  for (const Id sketch : {Id{1}, Id{2}}) {
    model::Extrude extrude;
    extrude.sketch = sketch;
    extrude.loops = {row.sketches[sketch].sketch.entities.front().id};
    extrude.extent.from.value = sketch == 1 ? 0 : 10 * size;
    extrude.extent.to.value = sketch == 1 ? 10 * size : 25 * size;
    row.add(extrude);
  }
  return row;
}

TEST(PatternSteps, StandAtThePointsOfASketch) {
  for (const double size : {0.05, 1.0, 15.0}) {
    Row row = pegged(size, {-50, 20});
    sketch::Sketch places;
    for (const Vec2& p : {Vec2(-50, 20), Vec2(0, 0), Vec2(70, -30)}) {
      places.add_own_point(size * p);
    }
    // A circle stands for its centre.
    places.add_circle(places.add_point(size * Vec2(40, 40)), 5 * size);
    row.sketches[3] = {places, {}, 0, {}};
    model::Pattern pattern;
    pattern.source = row.steps[1].id;
    pattern.arranged = model::Pattern::Kind::Points;
    pattern.points = {3};
    row.add(pattern);
    const auto made = row.last();
    ASSERT_EQ(made.state, model::StepState::Sound) << made.reason;
    const double cube = size * size * size;
    EXPECT_NEAR(made.solid.volume(), (200 * 120 * 10 + 4 * 36 * 15) * cube, 1e-3 * cube);
  }
}

TEST(PatternSteps, FollowACurveByItsLength) {
  Row row = pegged(1, {-80, 0});
  // A quarter of a circle of 80 about (0, 0) from (-80, 0) on, on the plate's top.
  model::SpaceCurve arc;
  for (int k = 0; k <= 16; ++k) {
    const double t = kPi - kPi / 2 * k / 16;
    arc.path.corners.emplace_back(80 * std::cos(t), 50 * std::sin(t), 17.5);
  }
  const Id curve = row.add(arc);
  model::Pattern pattern;
  pattern.source = row.steps[1].id;
  pattern.arranged = model::Pattern::Kind::Curve;
  pattern.along = {Row::key(curve)};
  pattern.count = 4;
  pattern.spacing.value = 25;
  for (const bool turns : {false, true}) {
    pattern.turns = turns;
    if (turns)
      row.steps.back().feature = pattern;
    else
      row.add(pattern);
    const auto made = row.last();
    ASSERT_EQ(made.state, model::StepState::Sound) << made.reason;
    EXPECT_NEAR(made.solid.volume(), 200 * 120 * 10 + 4 * 36 * 15, 1e-2);
  }
  // Longer than the curve: what would fit is said.
  pattern.count = 40;
  row.steps.back().feature = pattern;
  const auto made = row.last();
  EXPECT_EQ(made.state, model::StepState::Broken);
  EXPECT_NE(made.reason.find("longer than"), std::string::npos) << made.reason;
}

TEST(FilletSteps, AFilletThatGrowsTakesTheMeanOfItsSquares) {
  for (const double size : {0.1, 1.0, 20.0}) {
    testing::PartBuilder builder;
    const model::Model block =
        builder.box(size * Vec2(0, 0), size * Vec2(60, 40), 0, 20 * size).solid();
    const auto shape = model::tessellate(block);
    model::Fillet fillet;
    for (const auto& line : shape->edges) {
      const Vec3 middle = 0.5 * (line.points.front() + line.points.back());
      if ((middle - size * Vec3(30, 0, 20)).norm() < 1e-6 * size)
        fillet.edges = {block.ref_of_edge(line.edge, middle)};
    }
    ASSERT_EQ(fillet.edges.size(), 1U);
    fillet.radius.value = 3 * size;
    fillet.grows = true;
    fillet.end_radius.value = 6 * size;
    double volume = 0;
    for (const bool other : {false, true}) {
      fillet.other_end = other;
      const auto made = testing::attempt(fillet, block);
      ASSERT_TRUE(made) << made.error().message;
      const double cube = size * size * size;
      // The ball of a radius that grows lies a little askew: within two hundredths.
      const double taken = (1 - kPi / 4) * 60 * (9 + 18 + 36) / 3 * cube;
      EXPECT_NEAR(block.volume() - made->volume(), taken, 0.02 * taken);
      if (other) {
        EXPECT_NEAR(made->volume(), volume, 1e-6 * volume);
      }
      volume = made->volume();
    }
    fillet.end_radius.value = -1;
    EXPECT_FALSE(testing::attempt(fillet, block));
  }
}

TEST(SplitSteps, KeepOneSide) {
  const model::Model block = testing::PartBuilder().box({-30, -20}, {30, 20}, 0, 20).solid();
  model::Split split;
  split.bodies = {block.body(0).key};
  fit::Surface plane;
  plane.axis = Vec3::UnitX();
  plane.point = {10, 0, 0};
  split.by.fit = 7;
  split.by.surface = plane;
  const auto both = testing::attempt(split, block);
  ASSERT_TRUE(both) << both.error().message;
  EXPECT_EQ(both->body_count(), 2U);
  split.keeps = model::Split::Keeps::FarSide;
  const auto far = testing::attempt(split, block);
  ASSERT_TRUE(far) << far.error().message;
  ASSERT_EQ(far->body_count(), 1U);
  EXPECT_NEAR(far->volume(), 20 * 40 * 20, 1e-6);
  EXPECT_TRUE(far->find_body(block.body(0).key));
  split.keeps = model::Split::Keeps::NearSide;
  const auto near = testing::attempt(split, block);
  ASSERT_TRUE(near);
  EXPECT_NEAR(near->volume(), 40 * 40 * 20, 1e-6);
}

TEST(CurveSteps, AreSoundOrRefusedWithAReason) {
  std::mt19937 rng(71);
  std::uniform_real_distribution<double> at(-40, 40);
  std::uniform_int_distribution<int> count(2, 6);
  const int all = 60;
  int sound = 0;
  for (int k = 0; k < all; ++k) {
    Row row;
    const auto places = [&] {
      std::vector<Vec3> some;
      for (int n = count(rng); n > 0; --n) some.emplace_back(at(rng), at(rng), at(rng));
      return some;
    };
    const Id a = row.curve(places(), k % 3 == 0);
    const Id b = row.curve(places(), k % 4 == 0);
    model::Ruled ruled;
    ruled.curves = {Row::key(a), Row::key(b)};
    ruled.other_way = k % 2 == 0;
    row.add(ruled);
    const auto made = row.last();
    if (made.state == model::StepState::Sound) {
      EXPECT_TRUE(made.solid.valid());
      ++sound;
    } else {
      EXPECT_GT(made.reason.size(), 20U);
    }
  }
  EXPECT_GT(sound, all / 2);
}

}  // namespace
}  // namespace lostline
