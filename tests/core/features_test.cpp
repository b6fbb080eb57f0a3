// Features of the Route against volumes in closed form.
#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

#include "model/faces.h"
#include "model/route.h"
#include "model/steps/chamfer/chamfer.h"
#include "model/steps/extrude/extrude.h"
#include "model/steps/hole/hole.h"
#include "model/steps/mirror/mirror.h"
#include "model/steps/pattern/pattern.h"
#include "model/steps/revolve/revolve.h"
#include "part_builder.h"

namespace lostline::model {
namespace {

/// A rectangle from `low` to `high`, and a circle when its radius is positive.
PlacedSketch outline(const Vec2& low, const Vec2& high, double radius = 0,
                     const Vec2& centre = Vec2::Zero()) {
  PlacedSketch placed;
  sketch::Sketch& s = placed.sketch;
  const auto a = s.add_point(low);
  const auto b = s.add_point({high.x(), low.y()});
  const auto c = s.add_point(high);
  const auto d = s.add_point({low.x(), high.y()});
  s.add_line(a, b);
  s.add_line(b, c);
  s.add_line(c, d);
  s.add_line(d, a);
  if (radius > 0) s.add_circle(s.add_point(centre), radius);
  return placed;
}

class Features : public ::testing::Test {
 protected:
  StepResult run() {
    auto results = recompute(steps, sketches, cache);
    EXPECT_TRUE(results);
    return results->back();
  }
  double volume() {
    const StepResult result = run();
    EXPECT_EQ(result.state, StepState::Sound) << result.reason;
    return result.solid.volume();
  }
  void expect_broken(const std::string& says) {
    const StepResult result = run();
    EXPECT_EQ(result.state, StepState::Broken);
    EXPECT_NE(result.reason.find(says), std::string::npos) << result.reason;
  }
  Extrude box(Id sketch, double from, double to, Operation operation = Operation::Add) {
    Extrude e;
    e.sketch = sketch;
    e.loops = {side(sketch)};
    e.operation = operation;
    e.extent.from.value = from;
    e.extent.to.value = to;
    return e;
  }
  void add(Feature feature) {
    const Id id = steps.size() + 1;
    steps.push_back({id, static_cast<int>(10 * id), "step", false, std::move(feature)});
  }
  sketch::Id side(Id sketch = 1) const { return sketches.at(sketch).sketch.entities[0].id; }
  sketch::Id circle(Id sketch = 1) const { return sketches.at(sketch).sketch.entities[4].id; }
  std::map<Id, PlacedSketch> sketches{{1, outline({-30, -20}, {30, 20}, 8)}};
  std::vector<Step> steps;
  RouteCache cache;
};

TEST_F(Features, ATaperedBossIsNamedForTheCircleItComesFrom) {
  Extrude boss;
  boss.sketch = 1;
  boss.loops = {circle()};
  boss.extent.to.value = 30;
  boss.draft.value = 0.05;
  add(boss);
  const StepResult result = run();
  ASSERT_EQ(result.state, StepState::Sound) << result.reason;
  for (const std::string& name :
       {"s1:side:" + std::to_string(circle()), std::string("s1:start"), std::string("s1:end")})
    EXPECT_TRUE(result.solid.find_face(name)) << name;
}

TEST_F(Features, ACutThroughWithDraftHasTheSectionsSizeAtTheSectionsLevel) {
  add(box(1, 0, 20));
  sketches[2] = outline({-8, -8}, {8, 8}, 0);
  sketches[2].section_level = 5;
  Extrude cut = box(2, 0, 0, Operation::Cut);
  cut.extent.reach = Reach::Through;
  cut.draft.value = 0.1;
  add(cut);
  const StepResult result = run();
  ASSERT_EQ(result.state, StepState::Sound) << result.reason;
  // A square of side 16 at level 5, narrowing upwards; the bore of the outline is 201 mm2.
  const double k = 2 * std::tan(0.1);
  const auto side = [&](double z) { return 16 - k * (z - 5); };
  const double hole = (std::pow(side(0), 3) - std::pow(side(20), 3)) / (3 * k);
  const double plate = 60 * 40 * 20;
  const double bored = result.solid.volume();
  EXPECT_NEAR(plate - bored, hole, 1e-6 * hole);
}

TEST_F(Features, ATinyHoleInALargePartIsAHole) {
  sketches[1] = outline({-1500, -500}, {1500, 500}, 0);
  add(box(1, 0, 500));
  sketches[2] = outline({-5, -5}, {5, 5}, 0.5);
  Hole hole;
  hole.sketch = 2;
  hole.circles = {circle(2)};
  hole.diameter.value = 1;
  hole.extent.reach = Reach::Levels;
  hole.extent.from.value = 495;
  hole.extent.to.value = 501;
  add(hole);
  const StepResult result = run();
  ASSERT_EQ(result.state, StepState::Sound) << result.reason;
  EXPECT_NEAR(1.5e9 - result.solid.volume(), std::numbers::pi / 4 * 5, 1e-3);
  // One that does not reach the part is still told.
  steps[1].feature.as<Hole>()->extent.from.value = 500.5;
  expect_broken("does not touch the part");
}

TEST_F(Features, SymmetricThicknessLiesAboutItsMiddle) {
  Extrude e = box(1, 0, 0);
  e.extent.reach = Reach::Symmetric;
  e.extent.middle.value = 3;
  e.extent.thickness.value = 10;
  add(e);
  EXPECT_NEAR(volume(), 24000, 1e-6);
  const Box3 bounds = run().solid.box();
  EXPECT_NEAR(bounds.min().z(), -2, 1e-6);
  EXPECT_NEAR(bounds.max().z(), 8, 1e-6);
  steps[0].feature.as<Extrude>()->extent.thickness.value = -1;
  expect_broken("thickness");
}

TEST_F(Features, ExtrudeRunsUpToASlantedPlaneAndStopsThere) {
  Extrude e = box(1, 0, 0);
  e.extent.reach = Reach::UpTo;
  e.extent.target.region = 7;
  fit::Surface plane;
  plane.point = Vec3(0, 0, 20);
  plane.axis = Vec3(0.2, 0, 1).normalized();
  e.extent.target.surface = plane;
  add(e);
  EXPECT_NEAR(volume(), 60 * 40 * 20, 1e-4);  // the slant takes as much as it gives
  const Box3 bounds = run().solid.box();
  EXPECT_NEAR(bounds.max().z(), 26, 1e-6);
  EXPECT_TRUE(run().solid.find_face("s1:end"));
  steps[0].feature.as<Extrude>()->extent.target.surface->axis = Vec3(1, 0, 0);
  expect_broken("does not run into");
  steps[0].feature.as<Extrude>()->extent.target.surface.reset();
  expect_broken("gone");
}

TEST_F(Features, ExtrudeRunsUpToTheFirstWallOfACylinder) {
  // A lying cylinder of radius 15 above: the boss meets it from below.
  sketches[2] = outline({-5, -5}, {5, 5});
  Extrude e = box(2, 0, 0);
  e.extent.reach = Reach::UpTo;
  e.extent.target.region = 7;
  fit::Surface tube;
  tube.kind = fit::Kind::Cylinder;
  tube.point = Vec3(0, 0, 40);
  tube.axis = Vec3::UnitX();
  tube.radius = 15;
  e.extent.target.surface = tube;
  add(e);
  // Under the curve z = 40 - sqrt(225 - y^2), y from -5 to 5, over a width of 10.
  const double area = 40 * 10 - (5 * std::sqrt(225 - 25.0) + 225 * std::asin(5 / 15.0));
  EXPECT_NEAR(volume(), 10 * area, 1e-3);
}

TEST_F(Features, ExtrudeUpToAFaceOfTheModelFollowsThatFace) {
  add(box(1, 20, 30));
  sketches[2] = outline({-5, -5}, {5, 5});
  Extrude e = box(2, 0, 0);
  e.extent.reach = Reach::UpTo;
  e.extent.target.face = "s1:start";
  add(e);
  EXPECT_NEAR(volume(), 24000 + 2000, 1e-5);
  steps[0].feature.as<Extrude>()->extent.from.value = 25;
  EXPECT_NEAR(volume(), 12000 + 2500, 1e-5);
}

TEST_F(Features, RevolveTurnsAProfileAboutAnAxisOfItsSketch) {
  sketches[2] = outline({10, 0}, {20, 5});
  Revolve r;
  r.sketch = 2;
  add(r);
  EXPECT_NEAR(volume(), kPi * (400 - 100) * 5, 1e-6);
  steps[0].feature.as<Revolve>()->angle.value = kPi / 2;
  steps[0].feature.as<Revolve>()->both_ways = true;
  EXPECT_NEAR(volume(), kPi / 4 * 300 * 5, 1e-6);
  const Box3 bounds = run().solid.box();  // a quarter, half of it on either side of the sketch
  EXPECT_NEAR(bounds.max().z(), 20 * std::sin(kPi / 4), 1e-6);
  EXPECT_NEAR(bounds.min().z(), -20 * std::sin(kPi / 4), 1e-6);
  steps[0].feature.as<Revolve>()->angle.value = 7;
  expect_broken("360");
  sketches[2] = outline({-10, 0}, {20, 5});
  steps[0].feature.as<Revolve>()->angle.value = kPi;
  expect_broken("both sides");
}

TEST(Revolve, CirclesAndArcsBecomeToriAndBallsOnEitherSideOfEitherAxis) {
  // The kernel calls them free-form when the circle begins anywhere but furthest from the axis.
  for (const sketch::Id axis : {sketch::kXAxis, sketch::kYAxis}) {
    for (const double side : {1.0, -1.0}) {
      for (const double turn : {1.0, 2 * std::numbers::pi}) {
        for (const bool ball : {false, true}) {
          const auto at = [&](double off, double along) {
            return axis == sketch::kYAxis ? Vec2(side * off, along) : Vec2(along, side * off);
          };
          sketch::Sketch s;
          if (ball) {
            const sketch::Id centre = s.add_point(at(0, 5));
            const sketch::Id low = s.add_point(at(0, 2));
            const sketch::Id high = s.add_point(at(0, 8));
            const bool left = (axis == sketch::kYAxis) == (side > 0);
            s.add_arc(centre, left ? low : high, left ? high : low, 3);
            s.add_line(high, low);
          } else {
            s.add_circle(s.add_point(at(10, 5)), 3);
          }
          lostline::testing::PartBuilder part;
          Revolve r;
          r.sketch = part.place(s, {});
          r.axis = axis;
          r.angle.value = turn;
          part.then(r);
          ASSERT_EQ(part.refusal(), "");
          const Model solid = part.solid();
          int found = 0;
          for (std::size_t f = 0; f < solid.face_count(); ++f) {
            const auto known = surface_of_face(solid, f);
            ASSERT_TRUE(known) << solid.face_name(f);
            if (known->kind == fit::Kind::Plane) continue;
            ++found;
            EXPECT_EQ(known->kind, ball ? fit::Kind::Sphere : fit::Kind::Torus);
            EXPECT_NEAR(known->radius, ball ? 3 : 10, 1e-9);
            EXPECT_FALSE(known->hollow);
          }
          EXPECT_EQ(found, 1);
          const double whole = ball ? 4.0 / 3 * std::numbers::pi * 27
                                    : 2 * std::numbers::pi * std::numbers::pi * 10 * 9;
          EXPECT_NEAR(solid.volume(), whole * turn / (2 * std::numbers::pi), 1e-6 * whole);
        }
      }
    }
  }
}

TEST_F(Features, RevolveCutsAGroove) {
  add(box(1, 0, 20));
  sketches[2] = outline({12, 5}, {25, 10});
  sketches[2].base.y = Vec3::UnitZ();
  sketches[2].base.normal = -Vec3::UnitY();
  Revolve r;
  r.sketch = 2;
  r.operation = Operation::Cut;
  add(r);
  EXPECT_LT(volume(), 48000);
  EXPECT_EQ(steps[1].feature.words(), "turned cut");
}

TEST_F(Features, CommonKeepsWhatBothHave) {
  add(box(1, 0, 10));
  Extrude e = box(1, -5, 50, Operation::Common);
  e.loops = {circle()};
  add(e);
  EXPECT_NEAR(volume(), 640 * kPi, 1e-6);
  steps[1].feature.as<Extrude>()->extent.from.value = 20;
  expect_broken("nothing in common");
}

TEST_F(Features, ChamferTakesATriangleOffItsEdge) {
  add(box(1, 0, 10));
  Chamfer c;
  c.edges = {{"s1:end", "s1:side:" + std::to_string(side()), Vec3(0, -20, 10)}};
  c.distance.value = 2;
  add(c);
  EXPECT_NEAR(volume(), 24000 - 60 * 2, 1e-6);
  steps[1].feature.as<Chamfer>()->angle.value = std::atan(1.5);  // 2 on the end, 3 down
  EXPECT_NEAR(volume(), 24000 - 60 * 3, 1e-6);
  steps[1].feature.as<Chamfer>()->distance.value = 60;
  expect_broken("too large");
  steps[1].feature.as<Chamfer>()->distance.value = 0;
  expect_broken("greater than zero");
}

TEST_F(Features, CircularPatternIsOneBooleanAndFollowsItsSource) {
  sketches[1] = outline({-30, -30}, {30, 30}, 2, {20, 0});
  add(box(1, 0, 10));
  Hole hole;
  hole.sketch = 1;
  hole.circles = {circle()};
  hole.diameter.value = 4;
  add(hole);
  Pattern p;
  p.source = 2;
  p.direction.datum = 2;
  p.count = 6;
  p.spacing.value = kPi / 3;
  add(p);
  EXPECT_NEAR(volume(), 36000 - 6 * 4 * kPi * 10, 1e-5);
  // One decision changes all of them.
  steps[1].feature.as<Hole>()->diameter.value = 6;
  EXPECT_NEAR(volume(), 36000 - 6 * 9 * kPi * 10, 1e-5);
  steps[2].feature.as<Pattern>()->count = 8;
  expect_broken("more than once round");
  steps[2].feature.as<Pattern>()->count = 1;
  expect_broken("from 2 to 2000");
  steps[2].feature.as<Pattern>()->count = 6;
  steps[2].feature.as<Pattern>()->source = 77;
  expect_broken("gone or comes later");
}

TEST_F(Features, LinearPatternOfMaterialAlongADatumAxis) {
  add(box(1, 0, 10));
  Extrude boss = box(1, 10, 15);
  boss.loops = {circle()};
  add(boss);
  Pattern p;
  p.source = 2;
  p.arranged = Pattern::Kind::Linear;
  p.direction.datum = 0;
  p.count = 2;
  p.spacing.value = 18;
  add(p);
  EXPECT_NEAR(volume(), 24000 + 2 * 64 * kPi * 5, 1e-5);
  EXPECT_TRUE(run().solid.find_face("s3:1:end"));
}

TEST_F(Features, MirrorOfAStepAndOfTheWholePart) {
  sketches[1] = outline({0, -20}, {30, 20}, 4, {20, 10});
  add(box(1, 0, 10));
  Mirror m;
  m.plane.datum = 0;
  add(m);
  EXPECT_NEAR(volume(), 2 * 12000, 1e-5);
  Hole hole;
  hole.sketch = 1;
  hole.circles = {circle()};
  hole.diameter.value = 8;
  add(hole);
  Mirror of_hole;
  of_hole.source = 3;
  of_hole.plane.datum = 0;
  add(of_hole);
  EXPECT_NEAR(volume(), 24000 - 2 * 16 * kPi * 10, 1e-5);
  steps[3].feature.as<Mirror>()->plane = {};
  expect_broken("Pick a datum");
}

TEST_F(Features, ParkingTheSourceLeavesThePatternItsOwnWay) {
  add(box(1, 0, 10));
  Hole hole;
  hole.sketch = 1;
  hole.circles = {circle()};
  hole.diameter.value = 4;
  add(hole);
  Pattern p;
  p.source = 2;
  p.arranged = Pattern::Kind::Linear;
  p.direction.datum = 0;
  p.spacing.value = 12;
  add(p);
  EXPECT_NEAR(volume(), 24000 - 2 * 4 * kPi * 10, 1e-5);
  steps[1].parked = true;
  EXPECT_NEAR(volume(), 24000 - 4 * kPi * 10, 1e-5);
}

TEST_F(Features, OnlyWhatDependsOnAChangeIsComputedAgain) {
  add(box(1, 0, 10));
  Extrude boss = box(1, 10, 15);
  boss.loops = {circle()};
  add(boss);
  const auto before = recompute(steps, sketches, cache);
  steps[1].feature.as<Extrude>()->extent.to.value = 20;
  const auto after = recompute(steps, sketches, cache);
  ASSERT_TRUE(before && after);
  EXPECT_EQ(&(*before)[0].solid.impl(), &(*after)[0].solid.impl());  // the very same solid
  EXPECT_NE(&(*before)[1].solid.impl(), &(*after)[1].solid.impl());
}

TEST(Fields, AreThoseInForce) {
  Feature feature = Extrude{};
  auto& e = *feature.as<Extrude>();
  const auto names = [&] {
    std::string text;
    for (const Field& f : fields_of(feature)) text += std::string(f.info.name) + " ";
    return text;
  };
  EXPECT_EQ(names(), "from to draft twist ");
  e.extent.reach = Reach::Symmetric;
  EXPECT_EQ(names(), "middle thickness draft twist ");
  e.extent.reach = Reach::Through;
  EXPECT_EQ(names(), "draft twist ");
}

}  // namespace
}  // namespace lostline::model
