// A stretch of a sketch drawn once more from its section, as one kind of curve.
#include "sketch/redraw.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

#include "sketch/curve_kind.h"
#include "sketch/drawing.h"
#include "sketch/shapes.h"
#include "sketch/solver.h"

namespace lostline::sketch {
namespace {

/// Points along curves of a sketch, every `step` mm, with noise across.
section::Section scanned(const Sketch& s, double step, double noise, unsigned seed) {
  std::mt19937 random(seed);
  std::normal_distribution<double> off(0, noise);
  section::Section section;
  for (const Loop& loop : find_loops(s)) {
    section::Polyline line;
    line.closed = true;
    for (const Loop::Use& use : loop.uses) {
      const auto curve = placed(s, *s.find_entity(use.entity));
      double length = 0;
      for (int k = 0; k < 100; ++k)
        length += (curve->at(curve->range() * (k + 1) / 100) - curve->at(curve->range() * k / 100))
                      .norm();
      const int count = std::max(4, static_cast<int>(length / step));
      for (int k = 0; k < count; ++k) {
        const double u = use.reversed ? 1 - (k + 0.5) / count : (k + 0.5) / count;
        const double t = u * curve->range();
        const Vec2 d = curve->direction(t);
        line.points.push_back(curve->at(t) + off(random) * Vec2(-d.y(), d.x()));
      }
    }
    section.polylines.push_back(line);
  }
  return section;
}

/// Straight pieces between a few points of a run: what a bad first resolve may have left.
std::vector<Id> chopped(Sketch& s, const std::vector<Vec2>& points, int pieces, bool closed) {
  std::vector<Id> ends;
  const auto n = static_cast<int>(points.size());
  for (int k = 0; k < pieces + (closed ? 0 : 1); ++k)
    ends.push_back(s.add_point(points[static_cast<std::size_t>(std::min(n - 1, k * n / pieces))]));
  std::vector<Id> lines;
  for (int k = 0; k < pieces; ++k)
    lines.push_back(
        s.add_line(ends[static_cast<std::size_t>(k)],
                   ends[static_cast<std::size_t>((k + 1) % static_cast<int>(ends.size()))]));
  return lines;
}

class Redraw : public ::testing::TestWithParam<unsigned> {
 protected:
  std::mt19937 random_{GetParam()};
  std::uniform_real_distribution<double> any_{-1, 1};
};

TEST_P(Redraw, ClosedRunsBecomeTheShapeTheyAre) {
  const Vec2 centre(20 * any_(random_), 20 * any_(random_));
  const double turn = kPi * any_(random_);
  const Vec2 u(std::cos(turn), std::sin(turn));
  const Vec2 v(-u.y(), u.x());
  Sketch truth;
  As as = As::Rectangle;
  double size = 0;  // what is compared
  switch (GetParam() % 4) {
    case 0:
      ASSERT_TRUE(draw_rectangle(truth, {0, centre}, {0, centre + 34 * u}, centre + 18 * v));
      size = 34 * 18;
      break;
    case 1:
      as = As::Slot;
      ASSERT_TRUE(draw_slot(truth, {0, centre}, {0, centre + 30 * u}, centre + 7 * v));
      size = 30 * 14 + kPi * 49;
      break;
    case 2:
      as = As::Polygon;
      ASSERT_TRUE(draw_polygon(truth, {0, centre}, {0, centre + 15 * u}, 6));
      size = 6 * 0.5 * 225 * std::sin(kPi / 3);
      break;
    default:
      as = As::Ellipse;
      ASSERT_TRUE(draw_ellipse(truth, {0, centre}, centre + 22 * u, centre + 12 * v));
      size = kPi * 22 * 12;
  }
  const section::Section section = scanned(truth, 0.8, 0.02, GetParam());
  Sketch s;
  const auto lines = chopped(s, section.polylines[0].points, 12, true);
  RedrawOptions options;
  options.reach = 8;
  const auto drawn = redraw(s, section, lines, as, options);
  ASSERT_TRUE(drawn) << drawn.error().message;
  EXPECT_LT(drawn->rms_after, 0.05);
  EXPECT_LT(drawn->rms_after, drawn->rms_before);
  const auto loops = find_loops(drawn->sketch);
  ASSERT_EQ(loops.size(), 1U);
  EXPECT_NEAR(loops[0].area, size, 0.004 * size);
  // A second time it is the same.
  const auto again = redraw(drawn->sketch, section, drawn->entities, as, options);
  ASSERT_TRUE(again);
  EXPECT_NEAR(find_loops(again->sketch)[0].area, loops[0].area, 0.002 * size);
}

TEST_P(Redraw, PiecesBecomeOneCurveBetweenTheirEnds) {
  const double radius = 15 + 10 * any_(random_);
  const Vec2 centre(any_(random_), any_(random_));
  std::normal_distribution<double> off(0, 0.015);
  section::Section section;
  section::Polyline run;
  for (int k = 0; k <= 80; ++k) {
    const double t = 0.2 + 1.9 * k / 80;
    run.points.push_back(centre + (radius + off(random_)) * Vec2(std::cos(t), std::sin(t)));
  }
  section.polylines.push_back(run);
  Sketch s;
  const auto lines = chopped(s, run.points, 4, false);
  const Id before =
      s.add_line(s.add_point(run.points.front() + Vec2(9, -4)), s.find_entity(lines[0])->a);
  RedrawOptions options;
  options.reach = 4;
  const auto drawn = redraw(s, section, lines, As::Arc, options);
  ASSERT_TRUE(drawn) << drawn.error().message;
  ASSERT_EQ(drawn->entities.size(), 1U);
  const Entity& arc = *drawn->sketch.find_entity(drawn->entities[0]);
  EXPECT_NEAR(arc.radius, radius, 0.1);
  const Id joint = drawn->sketch.find_entity(before)->b;
  EXPECT_TRUE(arc.a == joint || arc.b == joint) << "what was joined to it still is";
  const auto spline = redraw(s, section, lines, As::Spline, options);
  ASSERT_TRUE(spline);
  EXPECT_LT(spline->rms_after, 0.03);
  EXPECT_FALSE(spline->follows_noise);
  EXPECT_LE(spline->sketch.find_entity(spline->entities[0])->poles.size(), 10U);
  const auto fewest = redraw(s, section, lines, As::Fewest, options);
  ASSERT_TRUE(fewest);
  EXPECT_EQ(fewest->entities.size(), 1U);
}

TEST_P(Redraw, PicksOnBothSidesOfAGapAreDrawnThroughIt) {
  const double radius = 20;
  section::Section section;
  std::normal_distribution<double> off(0, 0.01);
  Sketch s;
  std::vector<Id> picks;
  for (const double from : {0.1, 1.4}) {
    section::Polyline run;
    for (int k = 0; k <= 40; ++k) {
      const double t = from + 0.8 * k / 40;
      run.points.emplace_back((radius + off(random_)) * Vec2(std::cos(t), std::sin(t)));
    }
    const auto lines = chopped(s, run.points, 2, false);
    picks.insert(picks.end(), lines.begin(), lines.end());
    section.polylines.push_back(run);
  }
  RedrawOptions options;
  options.reach = 3;
  const auto drawn = redraw(s, section, picks, As::Arc, options);
  ASSERT_TRUE(drawn) << drawn.error().message;
  ASSERT_EQ(drawn->sketch.entities.size(), 1U);
  const auto arc = placed(drawn->sketch, drawn->sketch.entities[0]);
  EXPECT_NEAR(drawn->sketch.entities[0].radius, radius, 0.05);
  EXPECT_LT(std::abs(arc->drift(radius * Vec2(std::cos(1.15), std::sin(1.15)))), 0.05)
      << "it runs over the gap, not round the other way";
}

TEST(RedrawRefusals, SayWhatIsMissing) {
  Sketch s;
  const Id line = s.add_line(s.add_point({0, 0}), s.add_point({10, 0}));
  section::Section section;
  EXPECT_FALSE(redraw(s, section, {}, As::Line));
  const auto nothing = redraw(s, section, {line}, As::Arc);
  ASSERT_FALSE(nothing);
  EXPECT_EQ(nothing.error().code, ErrorCode::NotFound);
  section::Polyline run;
  for (int k = 0; k <= 20; ++k) run.points.emplace_back(0.5 * k, 0);
  section.polylines.push_back(run);
  const auto open = redraw(s, section, {line}, As::Rectangle);
  ASSERT_FALSE(open);
  EXPECT_NE(open.error().message.find("do not close"), std::string::npos);
  EXPECT_FALSE(redraw(s, section, {line}, As::Arc)) << "points in a line make no arc";
}

INSTANTIATE_TEST_SUITE_P(Seeds, Redraw, ::testing::Range(1U, 13U));

}  // namespace
}  // namespace lostline::sketch
