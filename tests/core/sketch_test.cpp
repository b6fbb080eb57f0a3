#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <numbers>
#include <random>
#include <stop_token>

#include "section/resolve.h"
#include "sketch/constrain.h"
#include "sketch/curve_kind.h"
#include "sketch/drawing.h"
#include "sketch/solver.h"

namespace lostline::sketch {
namespace {

/// A rectangle a little askew, with horizontal and vertical sides asked for.
struct Rectangle {
  Sketch sketch;
  Id bottom, right, top, left;
};
Rectangle rectangle() {
  Rectangle r;
  const Id a = r.sketch.add_point({0.1, 0});
  const Id b = r.sketch.add_point({40, 0.2});
  const Id c = r.sketch.add_point({40.1, 20});
  const Id d = r.sketch.add_point({0, 19.8});
  r.bottom = r.sketch.add_line(a, b);
  r.right = r.sketch.add_line(b, c);
  r.top = r.sketch.add_line(c, d);
  r.left = r.sketch.add_line(d, a);
  r.sketch.add_constraint(ConstraintType::Horizontal, r.bottom);
  r.sketch.add_constraint(ConstraintType::Horizontal, r.top);
  r.sketch.add_constraint(ConstraintType::Vertical, r.right);
  r.sketch.add_constraint(ConstraintType::Vertical, r.left);
  return r;
}

TEST(Solver, CountsFreedomsAndHoldsWhatIsDimensioned) {
  Rectangle r = rectangle();
  auto s = solve(r.sketch);
  ASSERT_TRUE(s);
  EXPECT_EQ(s->freedoms, 4);  // width, height, two shifts
  r.sketch.add_constraint(ConstraintType::Distance, r.bottom, 0, 40, true);
  r.sketch.add_constraint(ConstraintType::Distance, r.left, 0, 20, true);
  r.sketch.add_constraint(ConstraintType::Coincident, r.sketch.entities[0].a, kOrigin);
  s = solve(r.sketch);
  ASSERT_TRUE(s);
  EXPECT_EQ(s->state, State::Held);
  EXPECT_TRUE(s->loose_entities.empty());
  EXPECT_NEAR((s->sketch.position(s->sketch.entities[2].a) - Vec2(40, 20)).norm(), 0, 1e-9);
}

TEST(Solver, NamesTheClashAndTheRedundant) {
  Rectangle r = rectangle();
  const Id forty = r.sketch.add_constraint(ConstraintType::Distance, r.bottom, 0, 40, true);
  const Id fifty = r.sketch.add_constraint(ConstraintType::Distance, r.top, 0, 50, true);
  const auto clash = solve(r.sketch);
  ASSERT_TRUE(clash);
  EXPECT_EQ(clash->state, State::Clashing);
  EXPECT_NE(std::find(clash->clashing.begin(), clash->clashing.end(), forty),
            clash->clashing.end());
  EXPECT_NE(std::find(clash->clashing.begin(), clash->clashing.end(), fifty),
            clash->clashing.end());
  r.sketch.remove(fifty);
  const Id parallel = r.sketch.add_constraint(ConstraintType::Parallel, r.bottom, r.top);
  const auto redundant = solve(r.sketch);
  ASSERT_TRUE(redundant);
  EXPECT_EQ(redundant->state, State::Loose);
  EXPECT_EQ(redundant->redundant, std::vector<Id>{parallel});
}

TEST(Solver, EveryConstraintTypeHolds) {
  Sketch s;
  const Id p = s.add_point({0, 0.3});
  const Id q = s.add_point({30, 0});
  const Id line = s.add_line(p, q);
  const Id c1 = s.add_point({30.2, 9.5});
  const Id end = s.add_point({40, 10.2});
  const Id arc = s.add_arc(c1, q, end, 10);
  const Id other_end = s.add_point({39.8, 30});
  const Id upright = s.add_line(end, other_end);
  const Id c2 = s.add_point({15, 14.8});
  const Id circle = s.add_circle(c2, 14.2);
  const Id c3 = s.add_point({15.3, 15});
  const Id inner = s.add_circle(c3, 5);
  const Id c4 = s.add_point({60, 10});
  const Id twin = s.add_circle(c4, 5.5);
  s.add_constraint(ConstraintType::Tangent, line, arc);
  s.add_constraint(ConstraintType::Tangent, arc, upright);
  s.add_constraint(ConstraintType::Perpendicular, line, upright);
  s.add_constraint(ConstraintType::Tangent, line, circle);
  s.add_constraint(ConstraintType::Concentric, circle, inner);
  s.add_constraint(ConstraintType::Equal, inner, twin);
  s.add_constraint(ConstraintType::Radius, arc, 0, 9, true);
  s.add_constraint(ConstraintType::Distance, c2, c4, 50, true);
  s.add_constraint(ConstraintType::Coincident, p, kYAxis);
  const auto solved = solve(s);
  ASSERT_TRUE(solved) << solved.error().message;
  ASSERT_NE(solved->state, State::Clashing);
  const Sketch& r = solved->sketch;
  const auto entity = [&](Id id) { return *r.find_entity(id); };
  EXPECT_NEAR(entity(arc).radius, 9, 1e-9);
  EXPECT_NEAR((r.position(q) - r.position(c1)).norm(), 9, 1e-9);
  EXPECT_NEAR((r.position(q) - r.position(c1))
                  .normalized()
                  .dot((r.position(q) - r.position(p)).normalized()),
              0, 1e-9);
  EXPECT_NEAR((r.position(c2) - r.position(c3)).norm(), 0, 1e-9);
  EXPECT_NEAR(entity(inner).radius, entity(twin).radius, 1e-9);
  EXPECT_NEAR((r.position(c2) - r.position(c4)).norm(), 50, 1e-9);
  EXPECT_NEAR(r.position(p).x(), 0, 1e-9);
  const Vec2 d = (r.position(q) - r.position(p)).normalized();
  const Vec2 m = r.position(c2) - r.position(p);
  EXPECT_NEAR(std::abs(d.x() * m.y() - d.y() * m.x()), entity(circle).radius, 1e-9);
}

TEST(Solver, DraggingKeepsTheConstraints) {
  const Rectangle r = rectangle();
  const auto dragged = drag(r.sketch, r.sketch.entities[1].b, {55, 33});
  ASSERT_TRUE(dragged);
  const Sketch& s = dragged->sketch;
  EXPECT_NEAR((s.position(r.sketch.entities[1].b) - Vec2(55, 33)).norm(), 0, 0.05);
  EXPECT_NEAR(s.position(s.entities[0].a).y(), s.position(s.entities[0].b).y(), 1e-9);
  EXPECT_NEAR(s.position(s.entities[1].a).x(), s.position(s.entities[1].b).x(), 1e-9);
}

TEST(Solver, RefusesWhatDoesNotGoTogether) {
  Rectangle r = rectangle();
  r.sketch.add_constraint(ConstraintType::Radius, r.bottom, 0, 3, true);
  const auto s = solve(r.sketch);
  ASSERT_FALSE(s);
  EXPECT_NE(s.error().message.find("radius"), std::string::npos);
}

/// Section points on a rounded rectangle 60 x 30, R 8, with noise.
section::Section rounded_rectangle(double noise, std::uint64_t seed) {
  std::mt19937_64 random(seed);
  std::normal_distribution<double> normal(0, noise);
  section::Section section;
  section::Polyline line;
  line.closed = true;
  const auto add = [&](const Vec2& p, const Vec2& n) {
    line.points.push_back(p + n * normal(random));
  };
  const auto side = [&](Vec2 a, Vec2 b) {
    const Vec2 d = (b - a).normalized();
    const Vec2 n(d.y(), -d.x());
    for (double t = 0.15; t < (b - a).norm(); t += 0.3) add(a + t * d, n);
  };
  const auto corner = [&](Vec2 c, double from) {
    for (double t = 0; t < 1.5708; t += 0.3 / 8) {
      const Vec2 n(std::cos(from + t), std::sin(from + t));
      add(c + 8 * n, n);
    }
  };
  side({8, 0}, {52, 0});
  corner({52, 8}, -1.5708);
  side({60, 8}, {60, 22});
  corner({52, 22}, 0);
  side({52, 30}, {8, 30});
  corner({8, 22}, 1.5708);
  side({0, 22}, {0, 8});
  corner({8, 8}, 3.14159265);
  section.polylines.push_back(line);
  return section;
}

TEST(Resolve, RoundedRectangleBecomesFourLinesAndFourArcs) {
  for (std::uint64_t seed = 1; seed <= 20; ++seed) {
    const section::Section section = rounded_rectangle(0.02, seed);
    const Sketch s = sketch_from_section(section, 0.1, 0.3);
    int lines = 0;
    for (const Entity& e : s.entities) {
      lines += e.type == EntityType::Line;
      if (e.type == EntityType::Arc) {
        EXPECT_NEAR(e.radius, 8, 0.4);
      }
    }
    EXPECT_EQ(lines, 4) << seed;
    EXPECT_EQ(s.entities.size(), 8U) << seed;
    EXPECT_EQ(find_loops(s).size(), 1U);
  }
}

TEST(Resolve, DoesNotDependOnWhatMemoryHeldBefore) {
  const section::Section section = rounded_rectangle(0.02, 1);
  const auto first = section::resolve(section.polylines[0]);
  ASSERT_TRUE(first);
  for (int round = 0; round < 20; ++round) {
    for (std::size_t size = 1000; size < 200000; size *= 2) {
      std::vector<double> poison(size,
                                 1e300);  // freed at once: the next user of the memory finds it
      ASSERT_EQ(poison.back(), 1e300);
    }
    const auto again = section::resolve(section.polylines[0]);
    ASSERT_TRUE(again);
    ASSERT_EQ(again->size(), first->size());
    for (std::size_t i = 0; i < first->size(); ++i) {
      EXPECT_EQ((*again)[i].start, (*first)[i].start);
      EXPECT_EQ((*again)[i].radius, (*first)[i].radius);
    }
  }
}

TEST(Suggest, WhatIsOfferedTogetherHoldsAndNothingOfItFollowsFromTheRest) {
  // Frames of rectangles, all a little off, as they come from a section; 160 lines, 640 numbers.
  std::mt19937 random(31);
  std::uniform_real_distribution<double> off(-0.02, 0.02);
  Sketch s;
  for (int row = 0; row < 5; ++row) {
    for (int column = 0; column < 8; ++column) {
      const Vec2 low(30 * column, 25 * row);
      std::vector<Id> corners;
      for (const Vec2& c : {Vec2(0, 0), Vec2(20, 0), Vec2(20, 15), Vec2(0, 15)})
        corners.push_back(s.add_point(low + c + Vec2(off(random), off(random))));
      for (std::size_t k = 0; k < 4; ++k) s.add_line(corners[k], corners[(k + 1) % 4]);
      s.add_circle(s.add_point(low + Vec2(10, 7)), 4 + off(random));
    }
  }
  const std::vector<Constraint> offered = suggest_constraints(s);
  Sketch held = s;
  for (const Constraint& c : offered) held.add_constraint(c.type, c.first, c.second);
  const auto solution = solve(held);
  ASSERT_TRUE(solution);
  EXPECT_NE(solution->state, State::Clashing);
  EXPECT_TRUE(solution->redundant.empty());
  // Every line is level or upright, and all circles are of one size: two lie on the axes.
  const auto count = [&](ConstraintType type) {
    return std::count_if(offered.begin(), offered.end(),
                         [&](const Constraint& c) { return c.type == type; });
  };
  EXPECT_EQ(count(ConstraintType::Horizontal) + count(ConstraintType::Vertical), 160);
  EXPECT_EQ(count(ConstraintType::Equal), 39);
  EXPECT_EQ(count(ConstraintType::Parallel), 0);  // they follow
  for (std::size_t i = 0; i < s.points.size(); ++i)
    EXPECT_LT((solution->sketch.points[i].at - s.points[i].at).norm(), 0.5);
  // Asked to stop, it does.
  std::stop_source stop;
  stop.request_stop();
  EXPECT_TRUE(suggest_constraints(s, {}, Task(stop.get_token())).empty());
}

TEST(Fit, AValueThatNoPointBearsOnHasNoUncertainty) {
  for (const double size : {0.05, 1.0, 40.0}) {
    Sketch s;
    const Id a = s.add_point(size * Vec2(0, 0.1));
    const Id b = s.add_point(size * Vec2(20, 0.1));
    const Id line = s.add_line(a, b);
    const Id alone = s.add_line(s.add_point(size * Vec2(0, 9)), s.add_point(size * Vec2(20, 9)));
    const Id told = s.add_constraint(ConstraintType::Distance, kOrigin, line);
    const Id untold = s.add_constraint(ConstraintType::Distance, kOrigin, alone);
    section::Section section;
    section.polylines.emplace_back();
    std::mt19937 random(3);
    std::normal_distribution<double> noise(0, 0.01 * size);
    for (int k = 0; k <= 200; ++k)
      section.polylines.back().points.emplace_back(0.1 * k * size, noise(random));
    FitOptions options;
    options.reach = size;
    options.corner_margin = 0;
    options.hold_dimensions = false;
    const auto fit = fit_to_section(s, section, options);
    ASSERT_TRUE(fit) << fit.error().message;
    for (const DimensionReading& r : fit->readings) {
      if (r.constraint == told) {
        ASSERT_TRUE(r.u);
        EXPECT_GT(*r.u, 0);
        EXPECT_LT(*r.u, 0.02 * size);
      }
      if (r.constraint == untold) {
        EXPECT_FALSE(r.u);
        EXPECT_NEAR(r.value, 9 * size, 1e-6 * size);
      }
    }
    EXPECT_EQ(fit->readings.size(), 2U);
  }
}

TEST(Fit, ConstrainedRadiusIntervalCoversTheTruth) {
  Sketch base = sketch_from_section(rounded_rectangle(0.0, 1), 0.1, 0.3);
  for (const Constraint& c : suggest_constraints(base))
    base.add_constraint(c.type, c.first, c.second);
  Id arc = 0;
  for (const Entity& e : base.entities) {
    if (e.type == EntityType::Arc) arc = e.id;
  }
  base.add_constraint(ConstraintType::Radius, arc);
  FitOptions options;
  options.corner_margin = 0.3;
  int covered = 0;
  constexpr int kRuns = 300;
  for (int seed = 1; seed <= kRuns; ++seed) {
    const auto fit =
        fit_to_section(base, rounded_rectangle(0.02, static_cast<std::uint64_t>(seed)), options);
    ASSERT_TRUE(fit) << fit.error().message;
    ASSERT_EQ(fit->readings.size(), 1U);
    covered += std::abs(fit->readings[0].value - 8) <= *fit->readings[0].u;
    EXPECT_NEAR(fit->rms, 0.02, 0.004);
  }
  EXPECT_GE(covered, kRuns * 92 / 100);
}

TEST(Fit, InkedDimensionsHoldWhileReadingsStayUntouched) {
  Sketch s = sketch_from_section(rounded_rectangle(0.02, 3), 0.1, 0.3);
  for (const Constraint& c : suggest_constraints(s)) s.add_constraint(c.type, c.first, c.second);
  Id arc = 0;
  for (const Entity& e : s.entities) {
    if (e.type == EntityType::Arc) arc = e.id;
  }
  s.add_constraint(ConstraintType::Radius, arc, 0, 7.5, true);
  const auto held = fit_to_section(s, rounded_rectangle(0.02, 3));
  ASSERT_TRUE(held);
  EXPECT_NEAR(held->solution.sketch.find_entity(arc)->radius, 7.5, 1e-9);
  FitOptions free;
  free.hold_dimensions = false;
  const auto reading = fit_to_section(s, rounded_rectangle(0.02, 3), free);
  ASSERT_TRUE(reading);
  EXPECT_NEAR(reading->readings[0].value, 8, 0.05);
}

TEST(Corner, MakesABrokenCornerWhole) {
  Sketch s;
  const Id a = s.add_point({0, 0});
  const Id b = s.add_point({30, 0});
  const Id c = s.add_point({40, 10});
  const Id d = s.add_point({40, 40});
  const Id bottom = s.add_line(a, b);
  s.add_line(b, c);
  const Id side = s.add_line(c, d);
  Id arc = 0;
  const auto round = make_corner(s, bottom, side, 6, &arc);
  ASSERT_TRUE(round) << round.error().message;
  EXPECT_EQ(round->entities.size(), 3U);
  EXPECT_NEAR((round->position(round->find_entity(arc)->centre) - Vec2(34, 6)).norm(), 0, 1e-9);
  const auto sharp = make_corner(s, bottom, side, 0);
  ASSERT_TRUE(sharp);
  EXPECT_EQ(sharp->entities.size(), 2U);
  EXPECT_FALSE(make_corner(s, bottom, side, 100));
  EXPECT_FALSE(make_corner(s, bottom, bottom, 1));
}

TEST(Corner, LiesWhereTheLinesRunNotOnTheShorterWayRound) {
  // A triangle on a plate: the slope runs down to the underside past two lines, while only the wall
  // lies between them the other way.
  Sketch s;
  const Id a = s.add_point({0, 0});
  const Id b = s.add_point({30, 0});
  const Id c = s.add_point({30, 5});
  const Id d = s.add_point({20, 5});
  const Id e = s.add_point({0, 25});
  const Id underside = s.add_line(a, b);
  s.add_line(b, c);
  s.add_line(c, d);
  const Id slope = s.add_line(d, e);
  s.add_line(e, a);
  const auto made = make_corner(s, slope, underside, 0);
  ASSERT_TRUE(made) << made.error().message;
  const auto loops = find_loops(*made);
  ASSERT_EQ(loops.size(), 1U);
  EXPECT_NEAR(loops[0].area, 0.5 * 25 * 25, 1e-9);
}

TEST(NewConstraints, MidpointSymmetryAngleAndPointOnACircleHold) {
  Sketch s;
  const Id a = s.add_point({0, 0});
  const Id b = s.add_point({10, 0.5});
  const Id line = s.add_line(a, b);
  const Id m = s.add_point({4, 1});
  const Id end = s.add_point({4, 9});
  const Id other = s.add_line(m, end);
  s.add_constraint(ConstraintType::Midpoint, m, line);
  s.add_constraint(ConstraintType::Angle, line, other, 1.2, true);
  const Id c1 = s.add_circle(s.add_point({-20, 5}), 3);
  const Id c2 = s.add_circle(s.add_point({22, 6}), 3.4);
  s.add_constraint(ConstraintType::Symmetric, c1, c2, 0, false, kYAxis);
  s.add_constraint(ConstraintType::Coincident, end, c2);
  const auto solved = solve(s);
  ASSERT_TRUE(solved) << solved.error().message;
  const Sketch& t = solved->sketch;
  EXPECT_NEAR((t.position(m) - 0.5 * (t.position(a) + t.position(b))).norm(), 0, 1e-8);
  const Constraint angle{0, ConstraintType::Angle, line, other};
  EXPECT_NEAR(measured_value(t, angle), 1.2, 1e-8);
  const Entity& e1 = *t.find_entity(c1);
  const Entity& e2 = *t.find_entity(c2);
  EXPECT_NEAR(e1.radius, e2.radius, 1e-8);
  EXPECT_NEAR(t.position(e1.centre).x(), -t.position(e2.centre).x(), 1e-8);
  EXPECT_NEAR((t.position(end) - t.position(e2.centre)).norm(), e2.radius, 1e-8);
  Sketch bad = s;
  bad.add_constraint(ConstraintType::Midpoint, a, c1);
  EXPECT_FALSE(solve(bad));
  bad = s;
  bad.add_constraint(ConstraintType::Symmetric, a, b);  // about nothing
  EXPECT_FALSE(solve(bad));
  bad = s;
  bad.add_constraint(ConstraintType::Angle, line, c1, 1, true);
  EXPECT_FALSE(solve(bad));
}

TEST(NewConstraints, PointsLieLevelAndUprightAndCirclesByTheirCentres) {
  Sketch s;
  const Id a = s.add_own_point({0, 0.4});
  const Id b = s.add_own_point({12, -0.3});
  const Id circle = s.add_circle(s.add_point({0.5, 9}), 2);
  const Id line = s.add_line(s.add_point({20, 0}), s.add_point({30, 1}));
  const auto level = with_constraint(s, ConstraintType::Horizontal, {a, b, line});
  ASSERT_TRUE(level) << level.error().message;
  const auto both = with_constraint(*level, ConstraintType::Vertical, {a, circle});
  ASSERT_TRUE(both) << both.error().message;
  const auto solved = solve(*both);
  ASSERT_TRUE(solved);
  const Sketch& t = solved->sketch;
  EXPECT_NEAR(t.position(a).y(), t.position(b).y(), 1e-9);
  EXPECT_GT((t.position(a) - t.position(b)).norm(), 10);
  EXPECT_NEAR(t.position(a).x(), t.position(t.find_entity(circle)->centre).x(), 1e-9);
  EXPECT_NEAR(t.position(t.find_entity(line)->a).y(), t.position(t.find_entity(line)->b).y(), 1e-9);
  EXPECT_EQ(t.constraints.size(), 3U);
  const auto alone = with_constraint(s, ConstraintType::Horizontal, {a});
  ASSERT_FALSE(alone);
  EXPECT_NE(alone.error().message.find("two points"), std::string::npos);
  EXPECT_FALSE(with_constraint(s, ConstraintType::Horizontal, {a, a}));
}

TEST(NewConstraints, DistancesAlongTheAxesAndAlongAnArcAreReadAndHeld) {
  for (const double size : {0.1, 1.0, 60.0}) {
    Sketch s;
    const Id a = s.add_own_point(size * Vec2(2, 1));
    const Id b = s.add_own_point(size * Vec2(-7, 5));
    const Id circle = s.add_circle(s.add_point(size * Vec2(10, -4)), 2 * size);
    const Id arc = s.add_arc(s.add_point(size * Vec2(30, 0)), s.add_point(size * Vec2(30, -5)),
                             s.add_point(size * Vec2(30, 5)), 5 * size);
    const auto x = with_constraint(s, ConstraintType::DistanceX, {a, b});
    ASSERT_TRUE(x) << x.error().message;
    const auto y = with_constraint(*x, ConstraintType::DistanceY, {a, circle});
    ASSERT_TRUE(y) << y.error().message;
    const auto three = with_constraint(*y, ConstraintType::ArcLength, {arc});
    ASSERT_TRUE(three) << three.error().message;
    Sketch all = *three;
    ASSERT_EQ(all.constraints.size(), 3U);
    const double read[] = {9, 5, 5 * std::numbers::pi};
    const double meant[] = {12, 3, 21};
    for (std::size_t k = 0; k < 3; ++k) {
      Constraint& c = all.constraints[k];
      EXPECT_TRUE(c.is_dimension());
      EXPECT_FALSE(c.driving);
      EXPECT_FALSE(c.reference);
      EXPECT_NEAR(measured_value(all, c), size * read[k], 1e-9 * size);
      c.driving = true;
      c.value = size * meant[k];
    }
    const auto solved = solve(all);
    ASSERT_TRUE(solved);
    EXPECT_NE(solved->state, State::Clashing);
    const Sketch& t = solved->sketch;
    for (std::size_t k = 0; k < 3; ++k)
      EXPECT_NEAR(measured_value(t, all.constraints[k]), size * meant[k], 1e-8 * size);
    // On the side on which they were; across the axis nothing is said.
    EXPECT_NEAR(t.position(a).x() - t.position(b).x(), size * 12, 1e-8 * size);
    EXPECT_NEAR(t.position(a).y() - t.position(b).y(), size * -4, 2 * size);
    // What the level distance of two level points says already follows.
    const auto level = with_constraint(t, ConstraintType::Horizontal, {a, b});
    ASSERT_TRUE(level) << level.error().message;
    const auto lies = solve(*level);
    ASSERT_TRUE(lies);
    const auto again = with_dimension(lies->sketch, {a, b});
    ASSERT_TRUE(again);
    EXPECT_TRUE(again->constraints.back().reference);
    EXPECT_FALSE(with_constraint(s, ConstraintType::DistanceX, {a}));
    EXPECT_FALSE(with_constraint(s, ConstraintType::ArcLength, {circle}));
    EXPECT_FALSE(with_constraint(s, ConstraintType::ArcLength, {}));
  }
}

TEST(NewConstraints, LinesAreSymmetricWhereverTheyEnd) {
  for (const double size : {0.1, 1.0, 60.0}) {
    Sketch s;
    const Id about = s.add_line(s.add_point(size * Vec2(1, -20)), s.add_point(size * Vec2(3, 20)));
    const Id one = s.add_line(s.add_point(size * Vec2(-12, 0)), s.add_point(size * Vec2(-7, 9)));
    const Id two = s.add_line(s.add_point(size * Vec2(15, 1)), s.add_point(size * Vec2(8, 16)));
    const auto with = with_constraint(s, ConstraintType::Symmetric, {one, two, about});
    ASSERT_TRUE(with) << with.error().message;
    const auto solved = solve(*with);
    ASSERT_TRUE(solved);
    EXPECT_EQ(solved->freedoms, 10);
    const Sketch& t = solved->sketch;
    const auto ends = [&](Id id) {
      const Entity& e = *t.find_entity(id);
      return std::pair(t.position(e.a), t.position(e.b));
    };
    const auto [p, q] = ends(about);
    const Vec2 n = Vec2(p.y() - q.y(), q.x() - p.x()).normalized();
    const auto [a, b] = ends(two);
    const Vec2 across = Vec2(a.y() - b.y(), b.x() - a.x()).normalized();
    for (const Vec2& end : {ends(one).first, ends(one).second}) {
      const Vec2 image = end - 2 * (end - p).dot(n) * n;
      EXPECT_NEAR((image - a).dot(across), 0, 1e-8 * size);
    }
    EXPECT_FALSE(with_constraint(s, ConstraintType::Symmetric, {one, about, about}));
  }
}

TEST(NewConstraints, SplinesAndArcsEndSquareToALine) {
  // Half of a symmetric outline: square to the axis it runs on smoothly in its mirror image.
  for (const double size : {0.05, 1.0, 40.0}) {
    Sketch s;
    const auto spline = sketch::spline_through(
        {Vec2(0.3, 20) * size, Vec2(9, 17) * size, Vec2(16, 9) * size, Vec2(20, -0.4) * size},
        false);
    ASSERT_TRUE(spline) << spline.error().message;
    const Id curve = s.add_spline(*spline);
    const Entity e = *s.find_entity(curve);
    s.add_constraint(ConstraintType::Coincident, e.a, kYAxis);
    s.add_constraint(ConstraintType::Coincident, e.b, kXAxis);
    const auto loose = solve(s);
    ASSERT_TRUE(loose) << loose.error().message;
    s.add_constraint(ConstraintType::Perpendicular, curve, kYAxis);
    s.add_constraint(ConstraintType::Perpendicular, kXAxis, curve);
    const auto held = solve(s);
    ASSERT_TRUE(held) << held.error().message;
    EXPECT_NE(held->state, State::Clashing);
    EXPECT_EQ(held->freedoms, loose->freedoms - 2);
    const auto piece = placed(held->sketch, *held->sketch.find_entity(curve));
    EXPECT_NEAR(piece->start().x(), 0, 1e-6 * size);
    EXPECT_NEAR(piece->direction(0).y(), 0, 1e-6);
    EXPECT_NEAR(piece->end().y(), 0, 1e-6 * size);
    EXPECT_NEAR(piece->direction(piece->range()).x(), 0, 1e-6);
  }
  // The centre of an arc that ends square to a line lies on that line.
  Sketch s;
  const Id arc = s.add_arc(s.add_point({0.2, 0.3}), s.add_point({5, 0}), s.add_point({0, 5}), 5);
  s.add_constraint(ConstraintType::Coincident, s.find_entity(arc)->a, kXAxis);
  s.add_constraint(ConstraintType::Perpendicular, arc, kXAxis);
  const auto held = solve(s);
  ASSERT_TRUE(held) << held.error().message;
  EXPECT_NEAR(held->sketch.position(held->sketch.find_entity(arc)->centre).y(), 0, 1e-6);
  // A circle has no end to be square with.
  Sketch round;
  round.add_constraint(ConstraintType::Perpendicular, round.add_circle(round.add_point({1, 2}), 3),
                       kXAxis);
  EXPECT_FALSE(solve(round));
}

TEST(Trim, TakesTheStretchBetweenCrossings) {
  Sketch s;
  const Id line = s.add_line(s.add_point({-10, 0}), s.add_point({10, 0}));
  const Id circle = s.add_circle(s.add_point({0, 0}), 4);
  // The middle of the line goes: two pieces stay, their ends on the circle.
  const auto middle = trim(s, line, {0.5, 0});
  ASSERT_TRUE(middle) << middle.error().message;
  EXPECT_EQ(middle->entities.size(), 3U);
  for (const Entity& e : middle->entities) {
    if (e.type != EntityType::Line) continue;
    EXPECT_NEAR((middle->position(e.a) - middle->position(e.b)).norm(), 6, 1e-9);
  }
  const auto solved = solve(*middle);
  ASSERT_TRUE(solved);
  EXPECT_NE(solved->state, State::Clashing);
  // An end goes.
  const auto end = trim(s, line, {8, 0.1});
  ASSERT_TRUE(end);
  EXPECT_EQ(end->entities.size(), 2U);
  EXPECT_NEAR(end->position(end->find_entity(line)->b).x(), 4, 1e-9);
  // The upper half of the circle goes.
  const auto half = trim(s, circle, {0, 4});
  ASSERT_TRUE(half);
  const Entity& arc = *half->find_entity(circle);
  EXPECT_EQ(arc.type, EntityType::Arc);
  EXPECT_NEAR(placed(*half, arc)->range(), std::numbers::pi, 1e-9);
  EXPECT_LT(drift_of(*half, arc, {0, -4.2}), 0.3);
  EXPECT_GT((half->position(arc.a) - Vec2(0, 4)).norm(), 1);
  // What nothing crosses goes whole; what is gone cannot be trimmed.
  Sketch alone;
  const Id only = alone.add_line(alone.add_point({0, 0}), alone.add_point({1, 0}));
  EXPECT_TRUE(trim(alone, only, {0.5, 0})->entities.empty());
  EXPECT_FALSE(trim(alone, 999, {0, 0}));
}

TEST(Trim, ExtendingStopsAtTheNextCurve) {
  Sketch s;
  const Id line = s.add_line(s.add_point({0, 0}), s.add_point({5, 0}));
  const Id wall = s.add_line(s.add_point({9, -5}), s.add_point({9, 5}));
  s.add_line(s.add_point({20, -5}), s.add_point({20, 5}));
  const auto longer = extend(s, line, {4.8, 0.2});
  ASSERT_TRUE(longer) << longer.error().message;
  EXPECT_NEAR(longer->position(longer->find_entity(line)->b).x(), 9, 1e-9);
  EXPECT_FALSE(extend(s, line, {0, 0}));  // nothing on that side
  EXPECT_FALSE(extend(s, s.add_circle(s.add_point({0, 0}), 1), {0, 0}));
  EXPECT_NE(longer->find_entity(wall), nullptr);
}

TEST(Mirror, CopiesStaySymmetric) {
  Sketch s;
  const Id a = s.add_point({3, 1});
  const Id b = s.add_point({8, 2});
  const Id line = s.add_line(a, b);
  const Id circle = s.add_circle(s.add_point({6, 7}), 2);
  const auto made = mirror(s, {line, circle}, kYAxis);
  ASSERT_TRUE(made) << made.error().message;
  EXPECT_EQ(made->entities.size(), 4U);
  const auto dragged = drag(*made, a, {4, -3});
  ASSERT_TRUE(dragged);
  const Entity& twin = dragged->sketch.entities[2];
  EXPECT_NEAR(dragged->sketch.position(twin.a).x(), -dragged->sketch.position(a).x(), 1e-8);
  EXPECT_NEAR(dragged->sketch.position(twin.a).y(), dragged->sketch.position(a).y(), 1e-8);
  EXPECT_FALSE(mirror(s, {}, kYAxis));
  EXPECT_FALSE(mirror(s, {line}, circle));
}

}  // namespace
}  // namespace lostline::sketch
