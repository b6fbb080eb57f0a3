// Every kind of sketch curve is held to what its interface promises, at any size and place.
#include <gtest/gtest.h>

#include <cmath>
#include <numbers>
#include <random>

#include "sketch/curve_kind.h"
#include "sketch/nearest_curve.h"
#include "sketch/solver.h"
#include "sketch/system.h"

namespace lostline::sketch {
namespace {

/// One curve of a kind, of about `size` mm, wherever chance puts it.
struct Drawn {
  Sketch sketch;
  Id id = 0;
  [[nodiscard]] const Entity& entity() const { return *sketch.find_entity(id); }
  [[nodiscard]] std::unique_ptr<PlaneCurve> curve() const { return placed(sketch, entity()); }
};

Drawn draw(const CurveKind& kind, double size, std::mt19937& random) {
  std::uniform_real_distribution<double> any(-1, 1);
  const auto place = [&] { return Vec2(3 * size * any(random), 3 * size * any(random)); };
  Drawn d;
  Entity e;
  e.type = kind.type();
  const Vec2 centre = place();
  const double turn = std::numbers::pi * any(random);
  const double sweep = std::numbers::pi * (1 + 0.9 * any(random));
  if (kind.has_radius()) e.radius = size * (1.2 + any(random));
  const auto end = [&](double angle) {
    return kind.has_radius() ? Vec2(centre + e.radius * Vec2(std::cos(angle), std::sin(angle)))
                             : place();
  };
  if (kind.type() == EntityType::Ellipse || kind.type() == EntityType::EllipseArc) {
    const Vec2 axis(std::cos(turn), std::sin(turn));
    const Id middle = d.sketch.add_point(centre);
    const double major = size * (1.2 + any(random));
    const double minor = major * (0.6 + 0.35 * any(random));
    const Id u = d.sketch.add_point(centre + major * axis);
    const Id v = d.sketch.add_point(centre + minor * Vec2(-axis.y(), axis.x()));
    const EllipticForm whole{centre, axis, major, minor, 0, 2 * std::numbers::pi};
    Id a = 0;
    Id b = 0;
    if (kind.has_ends()) {
      a = d.sketch.add_point(whole.at(sweep));
      b = d.sketch.add_point(whole.at(2 * sweep));
    }
    d.id = d.sketch.add_ellipse(middle, u, v, a, b);
    return d;
  }
  if (kind.type() == EntityType::Spline || kind.type() == EntityType::ClosedSpline) {
    // A wave, or a bulging round, as free shapes are; loops and cusps are none.
    section::PlaneSpline s;
    s.closed = kind.type() == EntityType::ClosedSpline;
    for (int k = 0; k < 8; ++k) {
      const double angle = 2 * std::numbers::pi * k / 8 + turn;
      const double reach = size * (1 + 0.15 * any(random));
      s.poles.push_back(s.closed ? Vec2(centre + reach * Vec2(std::cos(angle), std::sin(angle)))
                                 : Vec2(centre + size * Vec2(0.5 * k, 0.3 * any(random))));
    }
    if (s.closed)
      s.knots = {0, 1, 2, 3, 4.2, 5, 6, 7.1, 8};
    else
      s.knots = {0, 0, 0, 0, 1, 2.2, 3, 4, 5, 5, 5, 5};
    for (double& knot : s.knots) knot *= 0.5 * size;
    d.id = d.sketch.add_spline(s);
    return d;
  }
  if (kind.has_centre()) e.centre = d.sketch.add_point(centre);
  if (kind.has_ends()) {
    e.a = d.sketch.add_point(end(turn));
    e.b = d.sketch.add_point(end(turn + sweep));
  }
  d.id = d.sketch.add_entity(e);
  return d;
}

/// Whether the parameter runs evenly along the curve.
bool even(const Drawn& d) {
  const CurveKind& kind = kind_of(d.entity());
  return kind.straight() || kind.has_radius();
}

/// Calls `check` for curves of every kind from 0.1 mm to 10 m.
template <class Check>
void for_curves(const Check& check) {
  std::mt19937 random(20611);
  for (const CurveKind* kind : curve_kinds()) {
    SCOPED_TRACE(kind->key());
    for (const double size : {0.1, 5.0, 300.0, 1e4}) {
      for (int k = 0; k < 5; ++k) check(draw(*kind, size, random), size, random);
    }
  }
}

TEST(PlaneCurves, ParameterAndPlaceAgree) {
  for_curves([](const Drawn& d, double size, std::mt19937&) {
    const auto curve = d.curve();
    for (int k = 1; k < 20; ++k) {
      const double t = curve->range() * k / 20;
      const Vec2 p = curve->at(t);
      EXPECT_NEAR(curve->parameter(p) * curve->pace(), t * curve->pace(), 1e-9 * size);
      EXPECT_TRUE(curve->holds(p));
      EXPECT_NEAR(curve->drift(p), 0, 1e-11 * size);
      const double step = 1e-6 * curve->range();
      const Vec2 ahead = (curve->at(t + step) - curve->at(t - step)) / (2 * step);
      if (even(d)) {
        EXPECT_NEAR(ahead.norm(), curve->pace(), 1e-6 * curve->pace());
      }
      EXPECT_NEAR((ahead.normalized() - curve->direction(t)).norm(), 0, 1e-7);
    }
    if (kind_of(d.entity()).has_ends()) {
      EXPECT_NEAR((curve->start() - d.sketch.position(d.entity().a)).norm(), 0, 1e-10 * size);
      EXPECT_NEAR((curve->end() - d.sketch.position(d.entity().b)).norm(), 0, 1e-10 * size);
    }
  });
}

TEST(PlaneCurves, TheFootIsTheNearestPoint) {
  for_curves([](const Drawn& d, double size, std::mt19937& random) {
    const auto curve = d.curve();
    std::uniform_real_distribution<double> any(-5 * size, 5 * size);
    for (int k = 0; k < 20; ++k) {
      const Vec2 p(any(random), any(random));
      Vec2 foot;
      const double drift = curve->drift(p, &foot);
      EXPECT_NEAR(std::abs(drift), (p - foot).norm(), 1e-9 * size);
      EXPECT_NEAR(curve->drift(foot), 0, 1e-9 * size);
      double least = 1e300;
      for (int i = 0; i <= 2000; ++i)
        least = std::min(least, (curve->at(curve->range() * i / 2000) - p).norm());
      EXPECT_LE(std::abs(drift), least + 1e-9 * size);
      EXPECT_GT(std::abs(drift), least - 0.01 * curve->range() * curve->pace());
    }
  });
}

TEST(PlaneCurves, ChordsAndAreaAreThoseOfTheCurve) {
  for_curves([](const Drawn& d, double size, std::mt19937&) {
    const auto curve = d.curve();
    const std::vector<Vec2> chords = curve->chords();
    EXPECT_NEAR((chords.front() - curve->start()).norm(), 0, 1e-10 * size);
    EXPECT_NEAR((chords.back() - curve->end()).norm(), 0, 1e-10 * size);
    for (std::size_t i = 1; i < chords.size(); ++i)
      EXPECT_LT(std::abs(curve->drift(0.5 * (chords[i] + chords[i - 1]))),
                6e-4 * (even(d) ? curve->pace() : 2.5 * size));
    // Half of x dy - y dx, summed over fine steps.
    double area = 0;
    constexpr int kSteps = 20000;
    for (int i = 0; i < kSteps; ++i) {
      const Vec2 a = curve->at(curve->range() * i / kSteps);
      const Vec2 b = curve->at(curve->range() * (i + 1) / kSteps);
      area += 0.5 * (a.x() * b.y() - a.y() * b.x());
    }
    EXPECT_NEAR(curve->area_part(), area, 1e-6 * size * size);
  });
}

TEST(PlaneCurves, TheFormIsTheSameCurve) {
  for_curves([](const Drawn& d, double size, std::mt19937&) {
    const auto curve = d.curve();
    const auto other = piece_of(curve->form());
    for (int k = 0; k <= 10; ++k)
      EXPECT_NEAR((curve->at(curve->range() * k / 10) - other->at(other->range() * k / 10)).norm(),
                  0, 1e-10 * size);
  });
}

TEST(PlaneCurves, TheSolversDistanceIsTheDriftAndItsDerivativesAreExact) {
  for_curves([](const Drawn& d, double size, std::mt19937& random) {
    const auto system = System::build(d.sketch, true);
    ASSERT_TRUE(system);
    Eigen::VectorXd f;
    Eigen::MatrixXd jacobian;
    system->evaluate(system->start(), f, jacobian);
    if (f.size() > 0) {
      EXPECT_LT(f.cwiseAbs().maxCoeff(), 1e-10 * size);
    }
    EXPECT_EQ(f.size(), kind_of(d.entity()).tie_count(d.entity()));
    const auto curve = d.curve();
    std::uniform_real_distribution<double> any(-0.3, 0.3);
    for (int k = 1; k < 6; ++k) {
      const Vec2 p = curve->at(curve->range() * k / 6) + size * Vec2(any(random), any(random));
      Vec2 foot;
      const double drift = curve->drift(p, &foot);
      std::vector<std::pair<Eigen::Index, double>> row;
      const double distance = system->distance(d.entity(), p, system->start(), row);
      const bool beyond =
          kind_of(d.entity()).has_ends() &&
          ((foot - curve->start()).norm() < 1e-9 || (foot - curve->end()).norm() < 1e-9);
      // Of an arc of an ellipse, the endless one may have a nearer foot.
      const bool elsewhere = std::abs(distance) < std::abs(drift) - 1e-9 * size && !even(d);
      if (!beyond && !elsewhere) {
        EXPECT_NEAR(distance, drift, 1e-9 * size);
      }
      std::vector<std::pair<Eigen::Index, double>> ignored;
      for (const auto& [i, slope] : row) {
        const double step = 1e-6 * size;
        Eigen::VectorXd x = system->start();
        x[i] += step;
        const double more = system->distance(d.entity(), p, x, ignored);
        x[i] -= 2 * step;
        const double less = system->distance(d.entity(), p, x, ignored);
        EXPECT_NEAR(slope, (more - less) / (2 * step), 1e-5);
      }
    }
  });
}

TEST(PlaneCurves, PiecesLieOnTheWholeAndMirroringTwiceComesBack) {
  for_curves([](const Drawn& d, double size, std::mt19937&) {
    const CurveKind& kind = kind_of(d.entity());
    const auto whole = d.curve();
    Sketch cut = d.sketch;
    const Id a = cut.add_point(whole->at(0.2 * whole->range()));
    const Id b = cut.add_point(whole->at(0.7 * whole->range()));
    const Id piece_id = cut.add_entity(kind.piece(d.entity(), a, b));
    const auto piece = placed(cut, *cut.find_entity(piece_id));
    EXPECT_NEAR((piece->middle() - whole->at(0.45 * whole->range())).norm(), 0, 1e-9 * size);

    const auto once = mirror(d.sketch, {d.id}, kXAxis);
    ASSERT_TRUE(once);
    const Id copy = once->entities.back().id;
    const auto twice = mirror(*once, {copy}, kXAxis);
    ASSERT_TRUE(twice);
    const auto back = placed(*twice, twice->entities.back());
    const auto mirrored = placed(*once, *once->find_entity(copy));
    for (int k = 0; k <= 8; ++k) {
      const Vec2 p = whole->at(whole->range() * k / 8);
      EXPECT_NEAR(mirrored->drift({p.x(), -p.y()}), 0, 1e-9 * size);
      EXPECT_NEAR((back->at(back->range() * k / 8) - p).norm(), 0, 1e-9 * size);
    }
    const auto solution = solve(*once);
    ASSERT_TRUE(solution);
    EXPECT_NE(solution->state, State::Clashing);
  });
}

TEST(PlaneCurves, AnOffsetLiesAtItsDistanceAndIsHeldThere) {
  for_curves([](const Drawn& d, double size, std::mt19937&) {
    const auto whole = d.curve();
    const double distance = 0.1 * size;
    const auto result = offset(d.sketch, d.id, distance);
    if (!even(d)) {  // a curve of another kind would be needed
      ASSERT_FALSE(result);
      EXPECT_NE(result.error().message.find("no offset"), std::string::npos);
      return;
    }
    ASSERT_TRUE(result) << result.error().message;
    const Id copy = result->entities.back().id;
    const auto beside = placed(*result, *result->find_entity(copy));
    for (int k = 0; k <= 8; ++k)
      EXPECT_NEAR(std::abs(whole->drift(beside->at(beside->range() * k / 8))), distance,
                  1e-9 * size);
    EXPECT_TRUE(result->constraints.back().is_dimension());
  });
}

TEST(PlaneCurves, MeetingsLieOnBothAndTurnWithThem) {
  std::mt19937 random(4);
  int met = 0;
  for (const CurveKind* one : curve_kinds()) {
    for (const CurveKind* two : curve_kinds()) {
      for (int k = 0; k < 40; ++k) {
        const Drawn a = draw(*one, 10, random);
        const Drawn b = draw(*two, 10, random);
        const auto p = a.curve();
        const auto q = b.curve();
        const auto found = meetings(p->form(), q->form());
        EXPECT_EQ(found.size(), meetings(q->form(), p->form()).size());
        for (const Vec2& at : found) {
          ++met;
          EXPECT_NEAR((p->at(p->parameter(at)) - at).norm(), 0, 1e-7);
          EXPECT_NEAR((q->at(q->parameter(at)) - at).norm(), 0, 1e-7);
        }
      }
    }
  }
  EXPECT_GT(met, 100);
}

TEST(PlaneCurves, TheNearestIsFoundThoughMostAreNotAsked) {
  // One curve: what is told as near is all that is.
  for_curves([](const Drawn& d, double size, std::mt19937& random) {
    const NearestCurve nearest(d.sketch);
    const auto curve = d.curve();
    const double reach = 0.3 * size;
    std::uniform_real_distribution<double> any(-1, 1);
    std::vector<Vec2> points;
    for (int k = 0; k < 100; ++k) {
      const double t = curve->range() * (k + any(random)) / 100;
      points.push_back(curve->at(t) + 0.5 * size * Vec2(any(random), any(random)));
    }
    std::vector<double> told(points.size(), reach);
    nearest.along(points, reach, [&](std::size_t k, const NearestCurve::Found& found) {
      told[k] = found.drift;
      EXPECT_NEAR((points[k] - found.foot).norm(), std::abs(found.drift), 1e-9 * size);
    });
    for (std::size_t k = 0; k < points.size(); ++k) {
      const double drift = curve->drift(points[k]);
      EXPECT_EQ(told[k], std::abs(drift) < reach ? drift : reach);
    }
  });
  // Many: the same one as by asking all; of equal ones the first.
  Sketch s;
  for (int i = 0; i < 9; ++i) {
    for (int j = 0; j < 9; ++j) s.add_circle(s.add_point({10.0 * i, 10.0 * j}), 3 + 0.2 * j);
  }
  s.add_line(s.add_point({-10, -12}), s.add_point({95, 88}));
  s.add_circle(s.add_point({40, 40}), 3.8);
  std::vector<Vec2> walk;
  for (int k = 0; k < 4000; ++k)
    walk.emplace_back(45 + 55 * std::cos(0.01 * k), 45 + 0.025 * k * std::sin(0.013 * k));
  std::vector<std::size_t> told(walk.size(), s.entities.size());
  NearestCurve(s).along(
      walk, 2.5, [&](std::size_t k, const NearestCurve::Found& found) { told[k] = found.entity; });
  for (std::size_t k = 0; k < walk.size(); ++k) {
    double least = 2.5;
    std::size_t first = s.entities.size();
    for (std::size_t i = 0; i < s.entities.size(); ++i) {
      const double d = std::abs(drift_of(s, s.entities[i], walk[k]));
      if (d < least) {
        least = d;
        first = i;
      }
    }
    EXPECT_EQ(told[k], first) << k;
  }
}

TEST(PlaneCurves, WhatAKindCannotDoIsRefusedInWords) {
  Sketch s;
  const Id circle = s.add_circle(s.add_point({3, 4}), 2);
  const auto longer = extend(s, circle, {5, 4});
  ASSERT_FALSE(longer);
  EXPECT_NE(longer.error().message.find("circle"), std::string::npos);
  s.add_constraint(ConstraintType::Horizontal, circle);
  const auto solution = solve(s);
  ASSERT_FALSE(solution);
  EXPECT_NE(solution.error().message.find("horizontal (circle"), std::string::npos);
}

}  // namespace
}  // namespace lostline::sketch
