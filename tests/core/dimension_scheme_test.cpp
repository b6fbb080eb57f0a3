// Schemes of dimensions on sketches of profiles that are known.
#include "sketch/dimension_scheme.h"

#include <gtest/gtest.h>

#include "random_profiles.h"
#include "sketch/curve_kind.h"
#include "sketch/section_judge.h"
#include "support/rounds.h"

namespace lostline::sketch {
namespace {

using lostline::testing::Dice;
using lostline::testing::ProfileScan;
using lostline::testing::TrueProfile;

section::Section cut_of(const TrueProfile& profile, const ProfileScan& how) {
  const auto mesh = std::make_shared<const scan::Mesh>(scan_of(profile, how));
  return section::SectionIndex(mesh).cut(Placement{});
}

Sketch constrained(const section::Section& cut, double spacing) {
  Sketch s = sketch_from_section(cut, 0, 0);
  FitOptions options;
  options.corner_margin = 1.5 * spacing;
  for (const Constraint& c : suggest_constraints(s, cut, options, 0))
    s.add_constraint(c.type, c.first, c.second);
  return s;
}

bool free_of_splines(const Sketch& s) {
  return std::none_of(s.entities.begin(), s.entities.end(),
                      [](const Entity& e) { return !e.knots.empty(); });
}

TEST(DimensionScheme, HoldsTheSketchWithoutOneTooMany) {
  int tried = 0;
  for (unsigned seed = 1; tried < 12; ++seed) {
    Dice r{std::mt19937(300 + seed)};
    ProfileScan how;
    how.spacing = 0.7;
    how.seed = seed;
    const Sketch s =
        constrained(cut_of(seed % 2 == 0 ? random_plate(r, 120, 4) : random_turned(r, 120, 4), how),
                    how.spacing);
    if (!free_of_splines(s)) continue;
    ++tried;
    const auto loose = solve(s);
    ASSERT_TRUE(loose);
    const DimensionScheme scheme = dimension_scheme(loose->sketch);
    EXPECT_EQ(scheme.freedoms, 0) << seed;
    EXPECT_EQ(static_cast<int>(scheme.dimensions.size()), loose->freedoms) << seed;
    Sketch held = loose->sketch;
    for (const Constraint& c : scheme.dimensions) {
      EXPECT_TRUE(c.is_dimension());
      EXPECT_FALSE(c.driving);
      held.add_constraint(c.type, c.first, c.second, measured_value(held, c), true);
    }
    const auto solved = solve(held);
    ASSERT_TRUE(solved);
    EXPECT_EQ(solved->state, State::Held) << seed;
    EXPECT_TRUE(solved->redundant.empty()) << seed;
    // What has its dimensions gets no more.
    EXPECT_TRUE(dimension_scheme(held).dimensions.empty());
  }
}

TEST(DimensionScheme, IsThatOfADraughtsman) {
  // A plate of 80 by 50 with its lower left corner at the origin, a hole, and a bolt circle of
  // three.
  Sketch s;
  std::vector<Id> corner;
  for (const Vec2& p : {Vec2(0, 0), Vec2(80, 0), Vec2(80, 50), Vec2(0, 50)})
    corner.push_back(s.add_point(p));
  std::vector<Id> side;
  for (std::size_t k = 0; k < 4; ++k) side.push_back(s.add_line(corner[k], corner[(k + 1) % 4]));
  const Id hole = s.add_circle(s.add_point({40, 25}), 9);
  std::vector<Id> bolts;
  for (int k = 0; k < 3; ++k) {
    const double t = 2 * std::numbers::pi * k / 3 + 0.3;
    bolts.push_back(
        s.add_circle(s.add_point(Vec2(40, 25) + 16 * Vec2(std::cos(t), std::sin(t))), 2));
  }
  for (const Constraint& c : suggest_constraints(s)) s.add_constraint(c.type, c.first, c.second);
  const DimensionScheme scheme = dimension_scheme(s);
  EXPECT_EQ(scheme.freedoms, 0);
  const auto has = [&](ConstraintType type, Id a, Id b) {
    return std::any_of(
        scheme.dimensions.begin(), scheme.dimensions.end(), [&](const Constraint& c) {
          return c.type == type && std::minmax(c.first, c.second) == std::minmax(a, b);
        });
  };
  EXPECT_TRUE(has(ConstraintType::Radius, hole, 0));
  // One diameter for the three, and the bolt circle from the hole's centre.
  EXPECT_EQ(std::count_if(bolts.begin(), bolts.end(),
                          [&](Id b) { return has(ConstraintType::Radius, b, 0); }),
            1);
  for (const Id b : bolts)
    EXPECT_TRUE(
        has(ConstraintType::Distance, s.find_entity(b)->centre, s.find_entity(hole)->centre));
  // Length and width, and the hole from the datum edges.
  EXPECT_TRUE(has(ConstraintType::Distance, side[1], side[3]) ||
              has(ConstraintType::Distance, side[1], kYAxis));
  EXPECT_TRUE(has(ConstraintType::Distance, s.find_entity(hole)->centre, kXAxis));
  EXPECT_TRUE(has(ConstraintType::Distance, s.find_entity(hole)->centre, kYAxis));
}

TEST(DimensionScheme, ReadingsHoldTheirTruthByU) {
  // What the same sketch reads on the designed curves themselves is the truth.
  int held = 0;
  int read = 0;
  const int rounds = lostline::testing::rounds(120, 10, 2);
  for (int round = 0; round < rounds; ++round) {
    Dice r{std::mt19937(static_cast<unsigned>(8800 + round))};
    const TrueProfile truth = random_plate(r, 120, 4);
    ProfileScan how;
    how.spacing = r.u(0.4, 0.9);
    how.noise = r.u(0.01, 0.03);
    how.blur = 0.2 * how.spacing;
    how.seed = static_cast<unsigned>(round + 1);
    const section::Section cut = cut_of(truth, how);
    Sketch s = constrained(cut, how.spacing);
    if (!free_of_splines(s)) continue;
    for (const Constraint& c : dimension_scheme(s).dimensions)
      s.add_constraint(c.type, c.first, c.second, c.value);
    section::Section exact;
    for (const auto& loop : truth.loops) {
      exact.polylines.emplace_back();
      for (const auto& curve : loop.curves) {
        const int n = std::max(12, static_cast<int>(curve.length() / 0.15));
        for (int k = 0; k < n; ++k)
          exact.polylines.back().points.push_back(curve.at((k + 0.5) / n));
      }
    }
    FitOptions options;
    options.reach = 1;
    options.corner_margin = 1.5 * how.spacing;
    options.hold_dimensions = false;
    const auto noisy = fit_to_section(s, cut, options);
    const auto right = fit_to_section(s, exact, options);
    if (!noisy || !right || right->rms > 0.01) continue;  // an other count of curves than designed
    for (std::size_t i = 0; i < noisy->readings.size(); ++i) {
      const DimensionReading& reading = noisy->readings[i];
      if (!reading.u || *reading.u > 1) continue;
      ++read;
      held += std::abs(reading.value - right->readings[i].value) <= *reading.u;
    }
  }
  std::printf("dimensions within U: %d of %d\n", held, read);
  if (read < 60) return;
  const double stray = lostline::testing::stray(read, 0.95);
  EXPECT_GE(held, 0.93 * read - stray);
  EXPECT_LE(held, 0.97 * read + stray);
}

}  // namespace
}  // namespace lostline::sketch
