// Shapes drawn by hand, copies, broken and joined curves, and what helps to draw.
#include "sketch/drawing.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>
#include <random>

#include "sketch/areas.h"
#include "sketch/constrain.h"
#include "sketch/copies.h"
#include "sketch/curve_kind.h"
#include "sketch/solver.h"

namespace lostline::sketch {
namespace {

class Drawing : public ::testing::TestWithParam<double> {
 protected:
  [[nodiscard]] Vec2 place() {
    return GetParam() * Vec2(any_(random_), any_(random_)) + GetParam() * Vec2(2, -1);
  }
  /// Freedoms of a sketch whose constraints hold already.
  static int freedoms(const Sketch& s) {
    const auto solved = solve(s);
    EXPECT_TRUE(solved && solved->state != State::Clashing);
    for (const Point& p : s.points)
      EXPECT_LT((solved->sketch.position(p.id) - p.at).norm(), 1e-7) << "drawn as it is held";
    return solved->freedoms;
  }
  std::mt19937 random_{4711};
  std::uniform_real_distribution<double> any_{-1, 1};
};

TEST_P(Drawing, ShapesHaveTheFreedomsOfTheirNumbers) {
  for (int round = 0; round < 5; ++round) {
    Sketch level;
    ASSERT_TRUE(draw_rectangle(level, {0, place()}, {0, place()}));
    EXPECT_EQ(freedoms(level), 4);
    Sketch turned;
    ASSERT_TRUE(draw_rectangle(turned, {0, place()}, {0, place()}, place()));
    EXPECT_EQ(freedoms(turned), 5);
    Sketch slot;
    ASSERT_TRUE(draw_slot(slot, {0, place()}, {0, place()}, place()));
    EXPECT_EQ(freedoms(slot), 5);
    for (const int sides : {3, 5, 6, 8}) {
      Sketch polygon;
      const auto drawn = draw_polygon(polygon, {0, place()}, {0, place()}, sides);
      ASSERT_TRUE(drawn);
      EXPECT_EQ(freedoms(polygon), 4) << sides;
      const auto loops = find_loops(polygon);
      ASSERT_EQ(loops.size(), 1U) << "the circle of construction is no outline";
      const double r =
          (polygon.position(polygon.find_entity((*drawn)[0])->a) - polygon.points.front().at)
              .norm();
      EXPECT_NEAR(loops[0].area, 0.5 * sides * r * r * std::sin(2 * std::numbers::pi / sides),
                  1e-9 * r * r);
    }
  }
}

TEST_P(Drawing, CurvesGoThroughTheirPlaces) {
  for (int round = 0; round < 20; ++round) {
    const Vec2 a = place();
    const Vec2 b = place();
    const Vec2 c = place();
    for (const bool whole : {false, true}) {
      Sketch s;
      const auto drawn = draw_round_through(s, {0, a}, {0, b}, {0, c}, whole);
      ASSERT_TRUE(drawn);
      const auto curve = placed(s, *s.find_entity(drawn->front()));
      for (const Vec2& p : {a, b, c})
        EXPECT_LT(std::abs(curve->drift(p)), 1e-6 * GetParam() * 100) << whole;
    }
    std::vector<Vec2> places;
    const int count = 2 + round % 8;
    for (int k = 0; k < count; ++k) places.push_back(GetParam() * Vec2(k, any_(random_)));
    const auto open = spline_through(places, false);
    ASSERT_TRUE(open);
    for (const Vec2& p : places)
      EXPECT_LT((open->at(open->parameter(p)) - p).norm(), 1e-7 * GetParam());
    if (count < 3) continue;
    std::vector<Vec2> ring;
    for (int k = 0; k < count; ++k) {
      const double t = 2 * std::numbers::pi * k / count;
      ring.push_back(GetParam() * (2 + 0.3 * any_(random_)) * Vec2(std::cos(t), std::sin(t)));
    }
    const auto closed = spline_through(ring, true);
    ASSERT_TRUE(closed);
    EXPECT_TRUE(closed->closed);
    for (const Vec2& p : ring)
      EXPECT_LT((closed->at(closed->parameter(p)) - p).norm(), 1e-7 * GetParam());
  }
}

TEST_P(Drawing, AnEllipseGoesThroughThePlaceBesideItsAxis) {
  for (int round = 0; round < 10; ++round) {
    Sketch s;
    const Vec2 centre = place();
    const Vec2 major = centre + 2 * GetParam() * Vec2(std::cos(round), std::sin(round));
    const Vec2 u = (major - centre) / (major - centre).norm();
    const Vec2 edge = centre + 0.5 * GetParam() * u + 0.7 * GetParam() * Vec2(-u.y(), u.x());
    const auto drawn = draw_ellipse(s, {0, centre}, major, edge);
    ASSERT_TRUE(drawn);
    const auto curve = placed(s, *s.find_entity(drawn->front()));
    EXPECT_LT(std::abs(curve->drift(edge)), 1e-6 * GetParam());
    EXPECT_LT(std::abs(curve->drift(major)), 1e-6 * GetParam());
  }
}

TEST_P(Drawing, PlacesThatMakeNothingAreRefused) {
  Sketch s;
  const Vec2 p = place();
  EXPECT_FALSE(draw_rectangle(s, {0, p}, {0, p}));
  EXPECT_FALSE(draw_slot(s, {0, p}, {0, p}, place()));
  EXPECT_FALSE(draw_polygon(s, {0, p}, {0, p}, 6));
  EXPECT_FALSE(draw_polygon(s, {0, p}, {0, place()}, 2));
  EXPECT_FALSE(draw_round_through(s, {0, p}, {0, p + Vec2(1, 1)}, {0, p + Vec2(2, 2)}, true));
  EXPECT_FALSE(draw_spline(s, {{0, p}}, false));
  EXPECT_TRUE(s.entities.empty());
}

TEST_P(Drawing, CopiesInACircleFollowOneDecision) {
  Sketch s;
  const Id centre = s.add_point(GetParam() * Vec2(2, 0));
  const Id hole = s.add_circle(centre, 0.2 * GetParam());
  PlaneMotion motion;
  motion.turn = 2 * std::numbers::pi / 6;
  const auto made = copy(s, {hole}, motion, 5);
  ASSERT_TRUE(made);
  std::optional<Sketch> copied = *made;
  ASSERT_EQ(copied->entities.size(), 6U);
  copied->add_constraint(ConstraintType::Radius, hole, 0, 0.3 * GetParam(), true);
  const auto solved = solve(*copied);
  ASSERT_TRUE(solved);
  for (const Entity& e : solved->sketch.entities) {
    EXPECT_NEAR(e.radius, 0.3 * GetParam(), 1e-9 * GetParam());
    EXPECT_NEAR(solved->sketch.position(e.centre).norm(), 2 * GetParam(), 1e-6 * GetParam());
  }
  EXPECT_FALSE(copy(s, {hole}, motion, 0));
  EXPECT_FALSE(copy(s, {}, motion, 2));
}

TEST_P(Drawing, ThereAndBackIsWhereItWas) {
  Sketch s;
  ASSERT_TRUE(draw_slot(s, {0, place()}, {0, place()}, place()));
  std::vector<Id> all;
  for (const Entity& e : s.entities) all.push_back(e.id);
  PlaneMotion there;
  there.about = place();
  there.turn = 0.7;
  there.scale = 1.6;
  PlaneMotion back = there;
  back.turn = -there.turn;
  back.scale = 1 / there.scale;
  const auto moved = move(s, all, there);
  ASSERT_TRUE(moved);
  for (const Entity& e : s.entities) {
    EXPECT_NEAR(moved->find_entity(e.id)->radius, 1.6 * e.radius, 1e-6 * GetParam());
  }
  const auto again = move(*moved, all, back);
  ASSERT_TRUE(again);
  for (const Point& p : s.points)
    EXPECT_LT((again->position(p.id) - p.at).norm(), 1e-7 * GetParam());
}

TEST_P(Drawing, BrokenAndJoinedIsOneAgain) {
  for (int round = 0; round < 6; ++round) {
    Sketch s;
    Id id = 0;
    if (round % 2 == 0) {
      id = s.add_line(s.add_point(place()), s.add_point(place()));
    } else {
      const Vec2 centre = place();
      id = draw_arc_about(s, {0, centre}, {0, centre + GetParam() * Vec2(1, 0)},
                          centre + GetParam() * Vec2(-0.4, 0.9))
               ->front();
    }
    const auto before = placed(s, *s.find_entity(id));
    const auto broken = break_at(s, id, before->at(0.4 * before->range()));
    ASSERT_TRUE(broken);
    ASSERT_EQ(broken->entities.size(), 2U);
    const auto one = placed(*broken, broken->entities[0]);
    const auto two = placed(*broken, broken->entities[1]);
    EXPECT_LT((one->end() - two->start()).norm(), 1e-9 * GetParam());
    const auto joined =
        join(*broken, broken->entities[0].id, broken->entities[1].id, 1e-6 * GetParam());
    ASSERT_TRUE(joined) << joined.error().message;
    ASSERT_EQ(joined->entities.size(), 1U);
    const auto after = placed(*joined, joined->entities[0]);
    EXPECT_LT((after->start() - before->start()).norm(), 1e-9 * GetParam());
    EXPECT_LT((after->end() - before->end()).norm(), 1e-9 * GetParam());
    EXPECT_LT((after->middle() - before->middle()).norm(), 1e-6 * GetParam());
    EXPECT_TRUE(joined->constraints.empty()) << "nothing is left that names itself";
  }
  Sketch s;
  const Id circle = s.add_circle(s.add_point(place()), GetParam());
  EXPECT_FALSE(break_at(s, circle, place()));
}

TEST_P(Drawing, WhatIsPastedIsThePartInItsPlace) {
  Sketch s;
  const auto slot = draw_slot(s, {0, place()}, {0, place()}, place());
  ASSERT_TRUE(slot);
  ASSERT_TRUE(draw_rectangle(s, {0, place()}, {0, place()}));
  s.add_own_point(place());
  const Sketch part = part_of(s, *slot);
  EXPECT_EQ(part.entities.size(), 4U);
  Sketch other;
  other.add_circle(other.add_point(place()), GetParam());
  std::vector<Id> added;
  const Sketch pasted = paste(other, part, &added);
  EXPECT_EQ(pasted.entities.size(), 5U);
  ASSERT_EQ(added.size(), 4U);
  EXPECT_EQ(pasted.constraints.size(), part.constraints.size());
  for (std::size_t k = 0; k < 4; ++k)
    EXPECT_LT((placed(pasted, *pasted.find_entity(added[k]))->middle() -
               placed(s, *s.find_entity((*slot)[k]))->middle())
                  .norm(),
              1e-9 * GetParam());
  const auto solved = solve(pasted);
  ASSERT_TRUE(solved);
  EXPECT_EQ(solved->freedoms, 5 + 3);
}

INSTANTIATE_TEST_SUITE_P(Sizes, Drawing, ::testing::Values(1.0, 40.0, 1500.0));

TEST(Construction, IsNoPartOfProfilesNorOfTheFit) {
  Sketch s;
  ASSERT_TRUE(draw_rectangle(s, {0, {0, 0}}, {0, {40, 20}}));
  const Id middle = s.add_line(s.add_point({20, -5}), s.add_point({20, 25}));
  EXPECT_EQ(find_areas(s).areas.size(), 2U) << "a drawn line divides it";
  for (Entity& e : s.entities) e.construction = e.id == middle;
  EXPECT_EQ(find_areas(s).areas.size(), 1U);
  EXPECT_EQ(find_loops(s).size(), 1U);
  EXPECT_TRUE(open_chains(s).empty());
  EXPECT_EQ(without_construction(s).entities.size(), 4U);
  section::Section section;
  section.polylines.push_back({{{20, 0.1}, {20, 5}, {20, 10}}, false, {}, {}, {}, false, false});
  EXPECT_TRUE(measure_drift(without_construction(s), section, 1).whiskers.size() ==
              measure_drift(s, section, 1).whiskers.size());
}

TEST(Construction, StaysSoWhenItIsTrimmedOrMirrored) {
  Sketch s;
  const Id circle = s.add_circle(s.add_point({0, 0}), 10);
  s.entities.back().construction = true;
  s.add_line(s.add_point({-20, 2}), s.add_point({20, 2}));
  const auto cut = trim(s, circle, {0, 10});
  ASSERT_TRUE(cut);
  EXPECT_TRUE(cut->find_entity(circle)->construction);
  const auto twin = mirror(s, {circle}, kYAxis);
  ASSERT_TRUE(twin);
  EXPECT_TRUE(twin->entities.back().construction);
}

TEST(OwnPoints, StayThoughNothingNamesThem) {
  Sketch s;
  const Id own = s.add_own_point({3, 4});
  const Id line = s.add_line(s.add_point({0, 0}), s.add_point({10, 0}));
  s.remove(line);
  EXPECT_EQ(s.points.size(), 1U);
  EXPECT_NE(s.find_point(own), nullptr);
  s.remove(own);
  EXPECT_TRUE(s.points.empty());
}

TEST(NewConstraints, HoldFromAnyStart) {
  std::mt19937 random(99);
  std::uniform_real_distribution<double> any(-1, 1);
  for (int round = 0; round < 20; ++round) {
    Sketch s;
    const Id one = s.add_line(s.add_point({0, any(random)}), s.add_point({10, any(random)}));
    const Id two = s.add_line(s.add_point({12, any(random)}), s.add_point({25, any(random)}));
    s.add_constraint(ConstraintType::Collinear, one, two);
    const Id fixed = s.entities[0].a;
    const Vec2 at = s.position(fixed);
    s.add_constraint(ConstraintType::Fixed, fixed);
    const auto solved = solve(s);
    ASSERT_TRUE(solved);
    EXPECT_EQ(solved->freedoms, 8 - 2 - 2);
    EXPECT_LT((solved->sketch.position(fixed) - at).norm(), 1e-9);
    const auto line = placed(solved->sketch, solved->sketch.entities[0]);
    for (const Id p : {s.entities[1].a, s.entities[1].b}) {
      const Vec2 q = solved->sketch.position(p);
      EXPECT_LT((line->at(line->parameter(q)) - q).norm(), 1e-7);
    }
    const auto dragged = drag(solved->sketch, s.entities[1].b, {25, 6});
    ASSERT_TRUE(dragged);
    EXPECT_LT((dragged->sketch.position(fixed) - at).norm(), 1e-9) << "dragged, it stays";
  }
}

/// 1 / mm at a place of a curve, positive to the left: by three points close together.
double bend_at(const PlaneCurve& curve, double t) {
  const double h = 1e-4 * curve.range();
  const Vec2 d = curve.direction(t + h) - curve.direction(t - h);
  const Vec2 n(-curve.direction(t).y(), curve.direction(t).x());
  return d.dot(n) / (curve.at(t + h) - curve.at(t - h)).norm();
}

TEST(NewConstraints, SmoothCurvesBendAlikeWhereTheyMeet) {
  std::mt19937 random(5);
  std::uniform_real_distribution<double> any(-1, 1);
  for (int round = 0; round < 12; ++round) {
    Sketch s;
    std::vector<Vec2> places;
    for (int k = 0; k < 6; ++k) places.emplace_back(10 * k, 3 * any(random));
    Id spline = draw_spline(s,
                            {{0, places[0]},
                             {0, places[1]},
                             {0, places[2]},
                             {0, places[3]},
                             {0, places[4]},
                             {0, places[5]}},
                            false)
                    ->front();
    const Entity e = *s.find_entity(spline);
    const bool at_end = round % 2 == 0;
    const Id shared = at_end ? e.b : e.a;
    const Vec2 from = s.position(shared);
    Id other = 0;
    if (round % 3 == 0) {
      other = s.add_line(shared, s.add_point(from + Vec2(at_end ? 20 : -20, any(random))));
    } else {
      const Vec2 centre = from + Vec2(any(random), 25);
      const double radius = (from - centre).norm();
      const Vec2 end = centre + radius * Vec2(at_end ? 1 : -1, 0);
      const Id far = s.add_point(end);
      other = at_end ? s.add_arc(s.add_point(centre), shared, far, radius)
                     : s.add_arc(s.add_point(centre), far, shared, radius);
    }
    s.add_constraint(ConstraintType::Smooth, spline, other);
    const auto solved = solve(s);
    ASSERT_TRUE(solved) << solved.error().message;
    ASSERT_NE(solved->state, State::Clashing);
    const auto one = placed(solved->sketch, *solved->sketch.find_entity(spline));
    const auto two = placed(solved->sketch, *solved->sketch.find_entity(other));
    const double t1 = at_end ? one->range() * (1 - 1e-3) : one->range() * 1e-3;
    const bool starts = (two->start() - solved->sketch.position(shared)).norm() < 1e-6;
    const double t2 = starts ? two->range() * 1e-3 : two->range() * (1 - 1e-3);
    const double b1 = bend_at(*one, t1) * (at_end ? 1 : -1);
    const double b2 = bend_at(*two, t2) * (starts ? 1 : -1);
    EXPECT_NEAR(b1, b2, 2e-3 + 0.02 * std::abs(b2)) << round;
  }
  Sketch lines;
  const Id p = lines.add_point({10, 0});
  const Id a = lines.add_line(lines.add_point({0, 0}), p);
  const Id b = lines.add_line(p, lines.add_point({20, 1}));
  lines.add_constraint(ConstraintType::Smooth, a, b);
  EXPECT_FALSE(solve(lines)) << "two lines have nothing that could bend";
}

TEST(Contradictions, TheSmallestSetIsNamed) {
  std::mt19937 random(17);
  for (int round = 0; round < 4; ++round) {
    Sketch s;
    for (int k = 0; k < 8; ++k)
      ASSERT_TRUE(draw_rectangle(s, {0, {30.0 * k, 0}}, {0, {30.0 * k + 20, 10.0 + k}}));
    const auto side = [&](int k) { return s.entities[static_cast<std::size_t>(4 * k)].id; };
    for (int k = 0; k < 8; ++k) s.add_constraint(ConstraintType::Distance, side(k), 0, 20, true);
    // Equal to one that is decided, and decided otherwise.
    const int k = static_cast<int>(random() % 7);
    const Id equal = s.add_constraint(ConstraintType::Equal, side(k), side(k + 1));
    Constraint* second = nullptr;
    Id first_value = 0;
    for (Constraint& c : s.constraints) {
      if (c.type != ConstraintType::Distance) continue;
      if (c.first == side(k)) first_value = c.id;
      if (c.first == side(k + 1)) second = &c;
    }
    second->value = 23;
    const auto solved = solve(s);
    ASSERT_TRUE(solved);
    ASSERT_EQ(solved->state, State::Clashing);
    std::vector<Id> named = solved->clashing;
    std::sort(named.begin(), named.end());
    std::vector<Id> expected{first_value, second->id, equal};
    std::sort(expected.begin(), expected.end());
    EXPECT_EQ(named, expected) << "and no other of " << s.constraints.size();
  }
}

TEST(Constrain, SeveralPicksAreHeldToTheFirst) {
  Sketch s;
  std::vector<Id> circles;
  for (int k = 0; k < 4; ++k)
    circles.push_back(s.add_circle(s.add_point({20.0 * k, 0}), 3 + 0.3 * k));
  const auto equal = with_constraint(s, ConstraintType::Equal, circles);
  ASSERT_TRUE(equal);
  const auto solved = solve(*equal);
  ASSERT_TRUE(solved);
  for (const Id id : circles)
    EXPECT_NEAR(solved->sketch.find_entity(id)->radius,
                solved->sketch.find_entity(circles[0])->radius, 1e-9);
  // Fixed, a circle keeps its centre and its radius.
  const auto fixed = with_constraint(s, ConstraintType::Fixed, {circles[1]});
  ASSERT_TRUE(fixed);
  ASSERT_EQ(fixed->constraints.size(), 2U);
  EXPECT_EQ(fixed->constraints[0].first, s.find_entity(circles[1])->centre);
  EXPECT_EQ(fixed->constraints[1].first, circles[1]);
  // Symmetric without a line is about the upright axis.
  const auto mirror = with_constraint(s, ConstraintType::Symmetric, {circles[0], circles[1]});
  ASSERT_TRUE(mirror);
  EXPECT_EQ(mirror->constraints.back().third, kYAxis);
  EXPECT_FALSE(with_constraint(s, ConstraintType::Parallel, {}));
  EXPECT_FALSE(with_constraint(s, ConstraintType::Parallel, {circles[0], circles[1]}));
}

TEST(Constrain, WhatFollowsFromOthersIsToldAndNotDecided) {
  Sketch s;
  const auto sides = draw_rectangle(s, {0, {0, 0}}, {0, {40, 25}});
  ASSERT_TRUE(sides);
  const auto one = with_dimension(s, {(*sides)[0]});
  ASSERT_TRUE(one);
  EXPECT_FALSE(one->constraints.back().reference);
  // The opposite side is as long already.
  const auto opposite = with_dimension(*one, {(*sides)[2]});
  ASSERT_TRUE(opposite);
  EXPECT_TRUE(opposite->constraints.back().reference);
  EXPECT_FALSE(opposite->constraints.back().driving);
  const auto other = with_dimension(*opposite, {(*sides)[1]});
  ASSERT_TRUE(other);
  EXPECT_FALSE(other->constraints.back().reference);
  const auto square = with_angle(*other, {(*sides)[0], (*sides)[1]});
  ASSERT_TRUE(square);
  EXPECT_TRUE(square->constraints.back().reference) << "it is a rectangle";
  EXPECT_FALSE(with_dimension(s, {}));
  EXPECT_FALSE(with_angle(s, {(*sides)[0]}));
}

}  // namespace
}  // namespace lostline::sketch
