// The way from a section to a drawing: *dimension it*, then *ink what is certain*, on plates whose
// sizes a designer would have chosen. What is inked must be what was meant.
#include <gtest/gtest.h>

#include "profiles.h"
#include "project/edits.h"
#include "project/ledger.h"
#include "project/sketch_plane.h"
#include "project/stated.h"
#include "random_profiles.h"
#include "reading/row_nominals.h"
#include "sketch/curve_kind.h"
#include "sketch/dimension_scheme.h"
#include "sketch/section_judge.h"
#include "support/rounds.h"

namespace lostline {
namespace {

using testing::Dice;
using testing::TrueLoop;
using testing::TrueProfile;

/// A plate on whole millimetres with rounded or sharp corners, a step, and holes of drill,
/// clearance and reamed sizes.
TrueProfile drawn_plate(std::mt19937& random) {
  const auto whole = [&](int low, int high) {
    return std::uniform_int_distribution<int>(low, high)(random);
  };
  const double length = 5.0 * whole(18, 44);
  const double width = 5.0 * whole(12, 24);
  const bool stepped = whole(0, 1) == 1;
  const double radius = whole(0, 2) == 0 ? 0 : whole(4, 10);
  std::vector<Vec2> corners{{0, 0}, {length, 0}, {length, width}, {0, width}};
  std::vector<double> dressed(4, radius);
  if (stepped) {
    const double x = 5.0 * whole(4, 6);
    const double y = 5.0 * whole(3, 4);
    corners = {
        {0, 0},    {length, 0}, {length, width - y}, {length - x, width - y}, {length - x, width},
        {0, width}};
    dressed = {radius, radius, 0, 0, 0, radius};
  }
  TrueProfile profile;
  profile.loops.push_back(testing::cornered(corners, dressed));
  constexpr std::array kDrilled{6.6, 9.0, 11.0, 12.0, 13.5, 16.0, 20.0};
  const double drilled = kDrilled[static_cast<std::size_t>(whole(0, 6))];
  for (const Vec2& at : {Vec2(15, 15), Vec2(length - 35, 15), Vec2(15, width - 15)})
    profile.loops.push_back(testing::circle_loop(at, drilled / 2, true));
  profile.loops.push_back(
      testing::circle_loop({std::round(length / 2), std::round(width / 2)}, whole(6, 11), true));
  return profile;
}

/// The sketch with every number as it was drawn: its points and radii put on the nearest of the
/// truth.
sketch::Sketch as_drawn(sketch::Sketch s, const TrueProfile& truth) {
  std::vector<Vec2> ends;
  std::vector<std::pair<Vec2, double>> rounds;
  for (const TrueLoop& loop : truth.loops) {
    for (const auto& c : loop.curves) {
      if (c.type != testing::TrueCurve::Type::Circle) ends.push_back(c.a);
      if (c.type != testing::TrueCurve::Type::Line) rounds.emplace_back(c.centre, c.radius);
    }
  }
  std::set<sketch::Id> centres;
  for (sketch::Entity& e : s.entities) {
    if (!sketch::kind_of(e).has_radius()) continue;
    const Vec2 at = s.position(e.centre);
    const auto nearest =
        std::min_element(rounds.begin(), rounds.end(), [&](const auto& a, const auto& b) {
          const double da = (a.first - at).norm() + std::abs(a.second - e.radius);
          const double db = (b.first - at).norm() + std::abs(b.second - e.radius);
          return da < db;
        });
    e.radius = nearest->second;
    for (sketch::Point& p : s.points) {
      if (p.id == e.centre) p.at = nearest->first;
    }
    centres.insert(e.centre);
  }
  for (sketch::Point& p : s.points) {
    if (centres.contains(p.id)) continue;
    p.at = *std::min_element(ends.begin(), ends.end(), [&](const Vec2& a, const Vec2& b) {
      return (a - p.at).norm() < (b - p.at).norm();
    });
  }
  return s;
}

TEST(DrawingDimensions, WhatIsInkedIsWhatWasMeant) {
  int rows = 0;
  int equal = 0;
  int wrong = 0;
  const int plates = testing::rounds(60, 10, 2);
  for (int plate = 1; plate <= plates; ++plate) {
    std::mt19937 random(static_cast<unsigned>(9000 + plate));
    const TrueProfile truth = drawn_plate(random);
    testing::ProfileScan how;
    how.spacing = 0.8;
    how.noise = 0.02;
    how.seed = static_cast<unsigned>(plate);
    auto scan = project::prepare_scan(testing::scan_of(truth, how), "plate", "", Unit::Millimetre);
    ASSERT_TRUE(scan);
    project::Document d = project::with_scan({}, *scan);
    project::TracedSketch traced;
    traced.tolerance = project::resolving_tolerance(d);
    traced.name = "section";
    const section::Section cut = project::cut_scan(d, traced);
    traced.sketch = sketch::sketch_from_section(cut, traced.tolerance, d.scan->health.spacing);
    for (const sketch::Constraint& c : sketch::suggest_constraints(
             traced.sketch, cut, project::fit_options(d, traced), 0.25 * traced.tolerance))
      traced.sketch.add_constraint(c.type, c.first, c.second);
    const auto added = project::add_sketch(d, traced);
    ASSERT_TRUE(added) << added.error().message;
    sketch::Sketch s = added->document.find_sketch(added->id)->sketch;
    sketch::SchemeOptions options;
    options.nothing = 0.5 * traced.tolerance;
    for (const sketch::Constraint& c : sketch::dimension_scheme(s, options).dimensions)
      s.add_constraint(c.type, c.first, c.second, c.value);
    const auto dimensioned = project::edit_sketch(added->document, added->id, s);
    ASSERT_TRUE(dimensioned) << dimensioned.error().message;
    const auto inked = project::ink_all(*dimensioned, reading::propose_inks(*dimensioned));
    const project::Document& result = inked ? *inked : *dimensioned;
    const sketch::Sketch drawn = as_drawn(dimensioned->find_sketch(added->id)->sketch, truth);
    for (const project::Dimension& row : result.dimensions) {
      const sketch::Constraint* c = drawn.find_constraint(row.owner.constraint);
      if (c == nullptr) continue;
      ++rows;
      double meant = sketch::measured_value(drawn, *c) * project::stated_factor(drawn, *c, false);
      if (row.quantity == standards::Quantity::Angle) meant *= 180 / std::numbers::pi;
      const bool same = row.intent && std::abs(*row.intent - meant) < 1e-3;
      equal += same ? 1 : 0;
      if (row.intent && !same) {
        ++wrong;
        std::printf("plate %d: %s inked %.3f, meant %.3f, read %.4f ± %.4f\n", plate,
                    row.name.c_str(), *row.intent, meant, row.reading.value_or(0), row.u);
      }
    }
  }
  std::printf("%d rows: %d as drawn, %d in pencil, %d wrong\n", rows, equal, rows - equal - wrong,
              wrong);
  EXPECT_GE(equal, static_cast<int>(0.95 * rows));
  EXPECT_EQ(wrong, 0);
}

}  // namespace
}  // namespace lostline
