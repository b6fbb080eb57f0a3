// What a sketch takes from the model, from fits and from other sketches: seen square to its plane,
// or cut by it.
#include "model/plane_view.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>
#include <random>

#include "deviation/deviation.h"
#include "part_builder.h"
#include "plate_scan.h"
#include "project/seen_in_sketch.h"
#include "simulate/parts.h"
#include "sketch/curve_kind.h"
#include "sketch/drawing.h"
#include "sketch/solver.h"

namespace lostline {
namespace {

using model::PlaneView;

Placement any_plane(std::mt19937_64& random) {
  std::normal_distribution<double> normal;
  std::uniform_real_distribution<double> place(-30, 30);
  const Vec3 up = Vec3(normal(random), normal(random), normal(random)).normalized();
  return placement_on({place(random), place(random), place(random)}, up);
}

double nearest(const PlaneView& view, const Vec2& p) {
  double best = 1e300;
  for (const sketch::Form& form : view.curves)
    best = std::min(best, std::abs(sketch::piece_of(form)->drift(p)));
  for (const Vec2& at : view.points) best = std::min(best, (at - p).norm());
  return best;
}

TEST(PlaneView, EveryEdgeLiesOnWhatIsSeenOfItFromAnyPlane) {
  // The pedestal has lines, circles, arcs, ellipses and splines for edges.
  const model::Model part = simulate::pedestal();
  const auto shape = model::tessellate(part);
  ASSERT_TRUE(shape) << shape.error().message;
  std::mt19937_64 random(20261129);
  for (int round = 0; round < 12; ++round) {
    // The datum planes too, from which half of the edges are seen end on or edge on.
    const Placement plane =
        round < 3 ? placement_on(Vec3::Zero(), Vec3::Unit(round)) : any_plane(random);
    for (const auto& line : shape->edges) {
      const auto seen = model::edge_seen(part, line.edge, plane);
      ASSERT_TRUE(seen) << seen.error().message;
      ASSERT_EQ(seen->curves.size() + seen->points.size(), 1U);
      Eigen::AlignedBox2d box;
      for (const Vec3& p : line.points) {
        EXPECT_LT(nearest(*seen, plane.to_plane(p)), 2e-3);
        box.extend(plane.to_plane(p));
      }
      // Nor does it reach further than the edge does.
      if (seen->curves.empty()) continue;
      for (const Vec2& p : sketch::piece_of(seen->curves.front())->chords())
        EXPECT_LT(box.exteriorDistance(p), 0.05 * box.diagonal().norm() + 2e-3);
    }
  }
}

TEST(PlaneView, CirclesAreSeenAsCirclesEllipsesAndLines) {
  for (const double size : {0.05, 1.0, 30.0}) {
    testing::PartBuilder builder;
    builder.disc({0, 0}, 20 * size, 0, 10 * size);
    const model::Model part = builder.solid();
    std::size_t top = part.face_count();
    for (std::size_t f = 0; f < part.face_count(); ++f) {
      const auto shape = model::surface_of_face(part, f);
      if (shape && shape->kind == fit::Kind::Plane && shape->axis.z() > 0.9) top = f;
    }
    ASSERT_LT(top, part.face_count());
    for (const double lean : {0.0, 0.3, 1.2, std::numbers::pi / 2}) {
      const Vec3 up(std::sin(lean), 0, std::cos(lean));
      const auto seen = model::face_seen(part, top, placement_on(Vec3::Zero(), up));
      ASSERT_TRUE(seen) << seen.error().message;
      ASSERT_EQ(seen->curves.size(), 1U);
      if (lean == 0) {
        const auto* round = std::get_if<sketch::RoundForm>(seen->curves.data());
        ASSERT_NE(round, nullptr);
        EXPECT_NEAR(round->radius, 20 * size, 1e-9 * size);
        EXPECT_TRUE(round->whole());
      } else if (lean < 1.5) {
        const auto* oval = std::get_if<sketch::EllipticForm>(seen->curves.data());
        ASSERT_NE(oval, nullptr);
        EXPECT_NEAR(oval->major, 20 * size, 1e-9 * size);
        EXPECT_NEAR(oval->minor, 20 * size * std::cos(lean), 1e-9 * size);
      } else {
        const auto* line = std::get_if<sketch::StraightForm>(seen->curves.data());
        ASSERT_NE(line, nullptr);
        EXPECT_NEAR((line->a - line->b).norm(), 40 * size, 1e-6 * size);
      }
    }
  }
}

TEST(PlaneView, TheCutLiesInThePlaneAndOnTheModel) {
  const model::Model part = simulate::pedestal();
  const auto exact = deviation::Comparator::build(part);
  ASSERT_TRUE(exact);
  std::mt19937_64 random(7);
  for (int round = 0; round < 8; ++round) {
    Placement plane = any_plane(random);
    plane.origin = part.box().center() + 0.2 * plane.origin;
    const auto seen = model::cut_by_plane(part, plane);
    ASSERT_TRUE(seen) << seen.error().message;
    for (const sketch::Form& form : seen->curves) {
      for (const Vec2& p : sketch::piece_of(form)->chords())
        EXPECT_LT(std::abs(exact->at(plane.to_space(p), 5).distance), 5e-3);
    }
    // Its pieces close: every end is the end of another.
    const sketch::Sketch drawn = sketch::sketch_of(seen->curves, {}, 1e-3);
    std::vector<sketch::Id> open;
    sketch::find_loops(drawn, &open);
    EXPECT_TRUE(open.empty()) << round;
  }
  // Well above the part there is nothing to cut.
  Placement above;
  above.origin = part.box().max() + Vec3(0, 0, 10);
  const auto missed = model::cut_by_plane(part, above);
  ASSERT_FALSE(missed);
  EXPECT_EQ(missed.error().code, ErrorCode::InvalidInput);
}

TEST(PlaneView, ACutHasTheAreaOfTheProfileItWasMadeOf) {
  testing::PartBuilder builder;
  builder.box({-30, -20}, {30, 20}, 0, 15).disc({5, 3}, 8, -1, 16, model::Operation::Cut);
  Placement plane;
  plane.origin.z() = 6;
  const auto seen = model::cut_by_plane(builder.solid(), plane);
  ASSERT_TRUE(seen) << seen.error().message;
  const sketch::Sketch drawn = sketch::sketch_of(seen->curves, {}, 1e-4);
  const auto loops = sketch::find_loops(drawn);
  ASSERT_EQ(loops.size(), 2U);
  double area = 0;
  double round = 1e300;
  for (const sketch::Loop& loop : loops) {
    area = std::max(area, std::abs(loop.area));
    round = std::min(round, std::abs(loop.area));
  }
  EXPECT_NEAR(area, 60 * 40, 1e-6);
  EXPECT_NEAR(round, std::numbers::pi * 64, 1e-6);
}

/// A sketch with something in it.
sketch::Sketch something() {
  sketch::Sketch s;
  EXPECT_TRUE(sketch::draw_rectangle(s, {0, {0, 0}}, {0, {40, 25}}));
  s.add_circle(s.add_point({20, 60}), 8.5);
  return s;
}

TEST(BringIn, StaysWhereItIsOnceAndTakesNoFreedom) {
  const model::Model part = simulate::pedestal();
  project::TracedSketch traced;
  traced.sketch = something();
  const auto before = sketch::solve(traced.sketch);
  ASSERT_TRUE(before);
  int brought = 0;
  for (std::size_t f = 0; f < part.face_count(); ++f) {
    const auto seen = model::face_seen(part, f, project::plane_of(traced));
    ASSERT_TRUE(seen) << seen.error().message;
    std::vector<sketch::Id> added;
    const sketch::Sketch with = project::with_seen(traced, *seen, &added);
    brought += static_cast<int>(added.size());
    for (const sketch::Id id : added) {
      const sketch::Entity* e = with.find_entity(id);
      EXPECT_TRUE(e != nullptr ? e->construction : with.find_point(id)->own);
    }
    const auto solved = sketch::solve(with);
    ASSERT_TRUE(solved) << solved.error().message;
    EXPECT_NE(solved->state, sketch::State::Clashing);
    EXPECT_EQ(solved->freedoms, before->freedoms);
    // Once more it adds nothing.
    project::TracedSketch again = traced;
    again.sketch = with;
    std::vector<sketch::Id> more;
    const sketch::Sketch same = project::with_seen(again, *seen, &more);
    EXPECT_TRUE(more.empty());
    EXPECT_EQ(same.entities.size(), with.entities.size());
    EXPECT_EQ(same.constraints.size(), with.constraints.size());
  }
  EXPECT_GT(brought, 20);
}

TEST(BringIn, FixedHoldsTheRadiusOfAWholeCircle) {
  sketch::Sketch s;
  const sketch::Id circle = s.add_circle(s.add_point({3, 4}), 5);
  EXPECT_EQ(sketch::solve(s)->freedoms, 3);
  s.add_constraint(sketch::ConstraintType::Fixed, circle);
  EXPECT_EQ(sketch::solve(s)->freedoms, 2);
  const sketch::Id dimension = s.add_constraint(sketch::ConstraintType::Radius, circle, 0, 6, true);
  EXPECT_EQ(sketch::solve(s)->state, sketch::State::Clashing);
  s.remove(dimension);
  EXPECT_NEAR(sketch::solve(s)->sketch.find_entity(circle)->radius, 5, 1e-12);
}

class FitSeen : public testing::PlateJob {};

TEST_F(FitSeen, AnAxisIsAPointEndOnAndALineFromTheSide) {
  const project::FitRef hole{bore(), 0};
  Placement xy;
  const auto above = project::fit_seen(*framed_, hole, xy);
  ASSERT_TRUE(above) << above.error().message;
  ASSERT_EQ(above->points.size(), 1U);
  EXPECT_LT(above->points.front().norm(), 0.02);  // the frame's origin
  const auto side = project::fit_seen(*framed_, hole, placement_on(Vec3::Zero(), Vec3::UnitY()));
  ASSERT_TRUE(side) << side.error().message;
  const auto* line = std::get_if<sketch::StraightForm>(side->curves.data());
  ASSERT_NE(line, nullptr);
  EXPECT_NEAR((line->a - line->b).norm(), testing::PlateScan::kHeight, 2);
}

TEST_F(FitSeen, APlaneIsTheLineInWhichItCutsAsLongAsItsEvidence) {
  project::TracedSketch traced;
  traced.level = 4;
  const Placement plane = project::plane_of(traced);
  const auto wall = project::fit_seen(*framed_, {region({1, 0, 0}), 0}, plane);
  ASSERT_TRUE(wall) << wall.error().message;
  const auto* line = std::get_if<sketch::StraightForm>(wall->curves.data());
  ASSERT_NE(line, nullptr);
  EXPECT_NEAR(line->a.x(), testing::PlateScan::kLength / 2, 0.02);
  EXPECT_NEAR(line->b.x(), testing::PlateScan::kLength / 2, 0.02);
  EXPECT_NEAR(std::abs(line->a.y() - line->b.y()), 1.1 * testing::PlateScan::kWidth, 2);
  const auto bottom = project::fit_seen(*framed_, {region({0, 0, -1}), 0}, plane);
  ASSERT_FALSE(bottom);
  EXPECT_EQ(bottom.error().code, ErrorCode::InvalidInput);
  EXPECT_FALSE(project::fit_seen(*framed_, {999, 0}, plane));
}

TEST(SketchSeen, ItsCurvesAreSeenWhereTheyLieInSpace) {
  const sketch::Sketch drawn = something();
  std::mt19937_64 random(3);
  for (int round = 0; round < 5; ++round) {
    const Placement its = any_plane(random);
    const Placement plane = any_plane(random);
    const auto seen = model::sketch_seen(drawn, its, plane);
    ASSERT_TRUE(seen) << seen.error().message;
    EXPECT_EQ(seen->curves.size(), drawn.entities.size());
    for (const sketch::Entity& e : drawn.entities) {
      for (const Vec2& p : sketch::placed(drawn, e)->chords())
        EXPECT_LT(nearest(*seen, plane.to_plane(its.to_space(p))), 0.01);
    }
    // Back on its own plane it is what it was.
    const auto same = model::sketch_seen(drawn, its, its);
    ASSERT_TRUE(same);
    for (const sketch::Entity& e : drawn.entities)
      EXPECT_TRUE(std::any_of(same->curves.begin(), same->curves.end(), [&](const auto& form) {
        return sketch::fall_together(form, sketch::placed(drawn, e)->form(), 1e-6);
      }));
  }
}

}  // namespace
}  // namespace lostline
