// Resolving sections of profiles whose curves are known.
#include "section/resolve.h"

#include <gtest/gtest.h>

#include "profile_score.h"
#include "random_profiles.h"
#include "sketch/shapes.h"
#include "sketch/solver.h"
#include "support/rounds.h"

namespace lostline::section {
namespace {

using lostline::testing::Dice;
using lostline::testing::ProfileScan;
using lostline::testing::ProfileScore;
using lostline::testing::TrueProfile;

Section cut_of(const TrueProfile& profile, const ProfileScan& how) {
  const auto mesh = std::make_shared<const scan::Mesh>(scan_of(profile, how));
  return SectionIndex(mesh).cut(Placement{});
}

std::vector<Curve> resolved(const Section& cut, const ResolveOptions& options = {}) {
  std::vector<Curve> all;
  for (const Polyline& line : cut.polylines) {
    const auto curves = resolve(line, options);
    if (curves) all.insert(all.end(), curves->begin(), curves->end());
  }
  return all;
}

TEST(Resolve, ProfilesMadeAtRandomComeBackWithTheirCurves) {
  // Sizes from 5 mm to 2 m, noise 0.005 to 0.05 mm and spacing 0.4 to 1.5 mm at 200 mm, corners
  // rounded by up to 0.4 spacings, gaps of a few per cent in every fifth.
  ProfileScore score;
  const int rounds = lostline::testing::rounds(600, 60, 6);
  for (int round = 0; round < rounds; ++round) {
    Dice r{std::mt19937(static_cast<unsigned>(71000 + round))};
    const double size = std::exp(r.u(std::log(5.0), std::log(2000.0)));
    ProfileScan how;
    how.noise = size / 200 * std::exp(r.u(std::log(0.005), std::log(0.05)));
    how.spacing = size / 200 * r.u(0.4, 1.5);
    const double least = 4.5 * how.spacing;
    const TrueProfile profile =
        r.chance(0.5) ? random_plate(r, size, least) : random_turned(r, size, least);
    how.blur = how.spacing * r.u(0.0, 0.4);
    how.gap = r.chance(0.2) ? std::min(r.u(0.01, 0.04), 5 * how.spacing / size) : 0;
    how.seed = static_cast<unsigned>(r.i(0, 1 << 30));
    score.add(profile, resolved(cut_of(profile, how)), how.spacing);
  }
  const auto share = [](int part, int whole) { return static_cast<double>(part) / whole; };
  std::printf(
      "profiles right %d of %d, curves found %d of %d, wrong %d of %d, joints %d of %d, "
      "radii within U %d of %d\n",
      score.right, score.profiles, score.found, score.curves, score.wrong, score.told,
      score.joints_right, score.joints, score.radii_held, score.radii);
  EXPECT_GE(score.right, 0.95 * score.profiles - lostline::testing::stray(score.profiles, 0.95));
  EXPECT_GE(share(score.found, score.curves), 0.97);
  EXPECT_LE(share(score.wrong, score.told), 0.02);
  EXPECT_GE(share(score.joints_right, score.joints), 0.97);
  if (score.radii < 50) return;
  const double stray = lostline::testing::stray(score.radii, 0.95);
  EXPECT_GE(score.radii_held, 0.93 * score.radii - stray);
  EXPECT_LE(score.radii_held, 0.97 * score.radii + stray);
}

TEST(Resolve, DoesNotDependOnSizePlaceTurnOrWhereARunBegins) {
  Dice r{std::mt19937(5)};
  const TrueProfile profile = lostline::testing::random_plate(r, 100, 3);
  ProfileScan how;
  how.spacing = 0.6;
  const Section cut = cut_of(profile, how);
  const std::vector<Curve> plain = resolved(cut);
  for (const double size : {0.05, 15.0}) {
    const Eigen::Rotation2Dd turn(1.1);
    Section moved = cut;
    for (Polyline& line : moved.polylines) {
      for (Vec2& p : line.points) p = size * (turn * p) + size * Vec2(300, -70);
      for (Vec2& c : line.chords) c = size * (turn * c);
      if (!line.closed) continue;
      const auto by = static_cast<std::ptrdiff_t>(line.points.size() / 3);
      std::rotate(line.points.begin(), line.points.begin() + by, line.points.end());
      std::rotate(line.chords.begin(), line.chords.begin() + by, line.chords.end());
    }
    const std::vector<Curve> other = resolved(moved);
    ASSERT_EQ(other.size(), plain.size()) << size;
    const auto radii = [](const std::vector<Curve>& curves, double scale) {
      std::vector<double> list;
      for (const Curve& c : curves) {
        if (c.type != CurveType::Line && c.type != CurveType::Spline)
          list.push_back(c.radius / scale);
      }
      std::sort(list.begin(), list.end());
      return list;
    };
    const auto a = radii(plain, 1);
    const auto b = radii(other, size);
    ASSERT_EQ(a.size(), b.size());
    for (std::size_t i = 0; i < a.size(); ++i) EXPECT_NEAR(a[i], b[i], 0.02 + 0.002 * a[i]);
  }
}

TEST(Resolve, NoiseIsReadFromThePoints) {
  for (const double noise : {0.01, 0.04}) {
    Dice r{std::mt19937(9)};
    const TrueProfile profile = lostline::testing::random_plate(r, 200, 5);
    ProfileScan how;
    how.spacing = 0.6;
    how.noise = noise;
    // A cut lies about midway between two points of the scan: it scatters less than either.
    const double expected = noise * std::sqrt(0.5);
    EXPECT_NEAR(noise_of(cut_of(profile, how)), expected, 0.15 * expected);
  }
}

TEST(Resolve, DamageInASideDoesNotSplitIt) {
  TrueProfile profile;
  profile.loops.push_back(lostline::testing::rectangle_loop(Vec2(3, 4), 60, 40, 0, 0.3, false));
  ProfileScan how;
  how.spacing = 0.5;
  Section cut = cut_of(profile, how);
  ASSERT_EQ(cut.polylines.size(), 1U);
  // A nick of one spacing, half a millimetre deep.
  Polyline& line = cut.polylines.front();
  const Vec2 side = Vec2(3, 4) + Eigen::Rotation2Dd(0.3) * Vec2(8, -20);
  const Vec2 in = Eigen::Rotation2Dd(0.3) * Vec2(0, 1);
  for (Vec2& p : line.points) {
    if ((p - side).norm() < 0.5) p += 0.5 * in;
  }
  const auto curves = resolve(line);
  ASSERT_TRUE(curves);
  EXPECT_EQ(curves->size(), 4U);
  for (const Curve& c : *curves) EXPECT_EQ(c.type, CurveType::Line);
}

TEST(Resolve, ACornerIsNoFilletAndAFilletNoCorner) {
  for (int seed = 1; seed <= 10; ++seed) {
    for (const double radius : {0.0, 3.0}) {
      TrueProfile profile;
      profile.loops.push_back(
          lostline::testing::rectangle_loop(Vec2(0, 0), 50, 30, radius, 0.1 * seed, false));
      ProfileScan how;
      how.spacing = 0.8;
      how.blur = 0.3;
      how.seed = static_cast<unsigned>(seed);
      const Section cut = cut_of(profile, how);
      const std::vector<Curve> curves = resolved(cut);
      EXPECT_EQ(curves.size(), radius > 0 ? 8U : 4U) << seed;
      for (const Curve& c : curves) {
        EXPECT_EQ(c.tangent, radius > 0) << seed;
        if (c.type == CurveType::Arc) {
          ASSERT_TRUE(c.u_radius);
          EXPECT_NEAR(c.radius, radius, 1.5 * *c.u_radius + 0.02);
        }
      }
    }
  }
}

TEST(Resolve, AClosedFreeShapeIsOneSplineAndAnOvalOneEllipse) {
  TrueProfile profile;
  profile.loops.push_back(lostline::testing::ellipse_loop(Vec2(0, 0), 20, 12, 0.4, false));
  ProfileScan how;
  how.spacing = 0.6;
  std::vector<Curve> curves = resolved(cut_of(profile, how));
  ASSERT_EQ(curves.size(), 1U);
  EXPECT_EQ(curves[0].type, CurveType::Ellipse);
  EXPECT_NEAR(curves[0].radius, 20, 0.02);
  EXPECT_NEAR(curves[0].minor_radius, 12, 0.02);
  EXPECT_NEAR(std::abs(curves[0].major_axis.dot(Vec2(std::cos(0.4), std::sin(0.4)))), 1, 1e-4);
  // A blob of six lobes, as a knob has.
  Polyline line;
  line.closed = true;
  std::mt19937 random(3);
  std::normal_distribution<double> noise(0, 0.01);
  for (int k = 0; k < 600; ++k) {
    const double t = 2 * std::numbers::pi * k / 600;
    const double r = 20 + 1.5 * std::sin(3 * t) + 0.8 * std::cos(2 * t) + noise(random);
    line.points.emplace_back(r * std::cos(t), r * std::sin(t));
  }
  const auto blob = resolve(line);
  ASSERT_TRUE(blob);
  ASSERT_EQ(blob->size(), 1U);
  EXPECT_EQ(blob->front().type, CurveType::Spline);
  EXPECT_TRUE(blob->front().whole);
  EXPECT_LT(blob->front().spline.poles.size(), 40U);
  EXPECT_LT(blob->front().rms, 0.015);
}

TEST(Resolve, ASectionOfLargeTrianglesHasItsSides) {
  // Points at corners only, or one more on each side, as the cut of a box has.
  for (const bool middles : {false, true}) {
    Polyline box;
    box.closed = true;
    const std::vector<Vec2> corners{{0, 0}, {10, 0}, {10, 6}, {0, 6}};
    for (std::size_t k = 0; k < 4; ++k) {
      box.points.push_back(corners[k]);
      if (middles) box.points.push_back(0.5 * (corners[k] + corners[(k + 1) % 4]));
    }
    const auto curves = resolve(box);
    ASSERT_TRUE(curves);
    ASSERT_EQ(curves->size(), 4U);
    for (const Curve& c : *curves) {
      EXPECT_EQ(c.type, CurveType::Line);
      EXPECT_LT(c.first, box.points.size());
      EXPECT_LT(std::min({(c.start - corners[0]).norm(), (c.start - corners[1]).norm(),
                          (c.start - corners[2]).norm(), (c.start - corners[3]).norm()}),
                1e-6);
    }
  }
  // Long sides between finely divided rounds.
  Polyline plate;
  plate.closed = true;
  for (int k = 0; k < 4; ++k) {
    const Vec2 centre(k == 0 || k == 3 ? 40 : -40, k < 2 ? 20 : -20);
    for (int i = 0; i <= 12; ++i) {
      const double t = std::numbers::pi / 2 * (k + i / 12.0);
      plate.points.push_back(centre + 10 * Vec2(std::cos(t), std::sin(t)));
    }
  }
  const auto curves = resolve(plate);
  ASSERT_TRUE(curves);
  EXPECT_EQ(curves->size(), 8U);
}

TEST(Shapes, AreFoundInAnyTurnWithTheirNumbers) {
  using Type = sketch::Shape::Type;
  const auto shapes_in = [](const lostline::testing::TrueLoop& loop, unsigned seed) {
    TrueProfile profile;
    profile.loops.push_back(loop);
    ProfileScan how;
    how.spacing = 0.7;
    how.blur = 0.2;
    how.seed = seed;
    const sketch::Sketch s = sketch::sketch_from_section(cut_of(profile, how), 0, 0);
    sketch::ShapeOptions options;
    options.length = 0.04;
    return sketch::find_shapes(s, options);
  };
  int found = 0;
  int asked = 0;
  const auto expect = [&](const lostline::testing::TrueLoop& loop, Type type, unsigned seed,
                          const auto& check) {
    ++asked;
    const auto shapes = shapes_in(loop, seed);
    if (shapes.size() != 1 || shapes[0].type != type) return;
    ++found;
    check(shapes[0]);
  };
  for (unsigned seed = 1; seed <= 12; ++seed) {
    const double turn = 0.37 * seed;
    const bool hole = seed % 2 == 0;
    expect(lostline::testing::rectangle_loop(Vec2(9, 2), 40, 24, 0, turn, hole), Type::Rectangle,
           seed, [&](const sketch::Shape& s) {
             EXPECT_NEAR(s.length, 40, 0.05);
             EXPECT_NEAR(s.width, 24, 0.05);
             EXPECT_EQ(s.corner_radius, 0);
             EXPECT_NEAR((s.centre - Vec2(9, 2)).norm(), 0, 0.05);
             EXPECT_NEAR(std::abs(s.direction.dot(Vec2(std::cos(turn), std::sin(turn)))), 1, 1e-4);
           });
    expect(lostline::testing::rectangle_loop(Vec2(9, 2), 40, 24, 5, turn, hole), Type::Rectangle,
           seed, [](const sketch::Shape& s) { EXPECT_NEAR(s.corner_radius, 5, 0.15); });
    expect(lostline::testing::slot_loop(Vec2(-3, 1), 20, 6, turn, hole), Type::Slot, seed,
           [](const sketch::Shape& s) {
             EXPECT_NEAR(s.radius, 6, 0.03);
             EXPECT_NEAR((s.a - s.b).norm(), 20, 0.08);
           });
    expect(lostline::testing::polygon_loop(Vec2(1, 1), 6, 30, 0, turn, hole), Type::Polygon, seed,
           [](const sketch::Shape& s) {
             EXPECT_EQ(s.sides, 6);
             EXPECT_NEAR(s.across_flats, 30, 0.05);
           });
  }
  EXPECT_GE(found, asked * 95 / 100) << asked;
}

TEST(Shapes, ASuggestedHexagonHasEqualSides) {
  TrueProfile profile;
  profile.loops.push_back(lostline::testing::polygon_loop(Vec2(1, 1), 6, 30, 0, 0.3, true));
  ProfileScan how;
  how.spacing = 0.7;
  sketch::Sketch s = sketch::sketch_from_section(cut_of(profile, how), 0, 0);
  int equal = 0;
  for (const sketch::Constraint& c : sketch::suggest_constraints(s)) {
    equal += c.type == sketch::ConstraintType::Equal;
    s.add_constraint(c.type, c.first, c.second);
  }
  EXPECT_GE(equal, 3);
  const auto solved = sketch::solve(s);
  ASSERT_TRUE(solved);
  EXPECT_NE(solved->state, sketch::State::Clashing);
  EXPECT_TRUE(solved->redundant.empty());
}

TEST(Shapes, OrdinaryOutlinesAreNone) {
  TrueProfile profile;
  profile.loops.push_back(
      lostline::testing::cornered({{0, 0}, {40, 0}, {40, 24}, {4, 25}}, std::vector<double>(4, 0)));
  profile.loops.push_back(lostline::testing::cornered(
      {{60, 0}, {90, 0}, {90, 20}, {80, 20}, {80, 30}, {60, 30}}, std::vector<double>(6, 0)));
  ProfileScan how;
  how.spacing = 0.6;
  const sketch::Sketch s = sketch::sketch_from_section(cut_of(profile, how), 0, 0);
  EXPECT_TRUE(sketch::find_shapes(s).empty());
}

TEST(Resolve, ABoreOfWhichTheScanLacksAPartIsACircle) {
  // The far side of a deep narrow bore is in the shadow: its section ends where the scan does.
  for (const double size : {0.2, 1.0, 25.0}) {
    for (int degrees = 120; degrees <= 330; degrees += 30) {
      std::mt19937_64 random(static_cast<unsigned>(degrees));
      std::normal_distribution<double> noise(0, 0.004 * size);
      const Vec2 centre = size * Vec2(31, -12);
      const double radius = 4 * size;
      const double sweep = degrees * std::numbers::pi / 180;
      Section section;
      section.polylines.emplace_back();
      const int count = static_cast<int>(radius * sweep / (0.15 * size));
      for (int k = 0; k <= count; ++k) {
        const double t = 0.7 + sweep * k / count;
        section.polylines.back().points.push_back(centre + (radius + noise(random)) *
                                                               Vec2(std::cos(t), std::sin(t)));
      }
      const sketch::Sketch drawn = sketch::sketch_from_section(section, 0.02 * size, 0.35 * size);
      ASSERT_EQ(drawn.entities.size(), 1U) << degrees;
      const sketch::Entity& e = drawn.entities.front();
      EXPECT_EQ(e.type == sketch::EntityType::Circle, degrees > 200) << degrees;
      EXPECT_NEAR(e.radius, radius, 0.03 * size) << degrees;
      EXPECT_LT((drawn.position(e.centre) - centre).norm(), 0.03 * size) << degrees;
    }
  }
}

}  // namespace
}  // namespace lostline::section
