// Areas among crossing lines, offsets, turn and fan sections, sections compared.
#include "sketch/areas.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

#include "deviation/section_compare.h"
#include "model/route.h"
#include "model/steps/extrude/extrude.h"
#include "plate_scan.h"
#include "section/turn.h"
#include "section/walls.h"
#include "sketch/solver.h"

namespace lostline {
namespace {

using sketch::Id;
using sketch::Sketch;

Id line(Sketch& s, const Vec2& a, const Vec2& b) {
  return s.add_line(s.add_point(a), s.add_point(b));
}

/// Four lines that run past each other: a rectangle 20 x 10 with eight loose ends.
Sketch hash_sign() {
  Sketch s;
  line(s, {-5, 0}, {25, 0});
  line(s, {-5, 10}, {25, 10});
  line(s, {0, -5}, {0, 15});
  line(s, {20, -5}, {20, 15});
  return s;
}

double size_at(const sketch::Areas& areas, const Vec2& p) {
  for (const sketch::Area& a : areas.areas) {
    if (a.has(p)) return a.size;
  }
  return 0;
}

TEST(Areas, LooseEndsDoNotOpenAnArea) {
  const sketch::Areas areas = sketch::find_areas(hash_sign());
  ASSERT_EQ(areas.areas.size(), 1U);
  EXPECT_NEAR(areas.areas[0].size, 200, 1e-9);
  EXPECT_EQ(areas.areas[0].bounds.size(), 4U);
  EXPECT_TRUE(areas.areas[0].has(areas.areas[0].inside));
}

TEST(Areas, ACircleAcrossALineGivesItsParts) {
  Sketch s = hash_sign();
  s.add_circle(s.add_point({20, 5}), 3);   // half in, half out
  s.add_circle(s.add_point({6, 5}), 2);    // an island
  s.add_circle(s.add_point({6, 5}), 0.5);  // and one in it
  const sketch::Areas areas = sketch::find_areas(s);
  const double half = std::numbers::pi * 9 / 2;
  const double island = std::numbers::pi * 4;
  const double core = std::numbers::pi * 0.25;
  EXPECT_NEAR(size_at(areas, {22, 5}), half, 0.02);
  EXPECT_NEAR(size_at(areas, {18.5, 5}), half, 0.02);
  EXPECT_NEAR(size_at(areas, {1, 1}), 200 - half - island, 0.05);
  EXPECT_NEAR(size_at(areas, {7, 5}), island - core, 0.02);
  EXPECT_NEAR(size_at(areas, {6, 5}), core, 0.01);
  EXPECT_EQ(size_at(areas, {-3, -3}), 0);
  // Chosen together, what lies between is no boundary.
  std::vector<std::size_t> chosen;
  for (std::size_t i = 0; i < areas.areas.size(); ++i) {
    if (areas.areas[i].has({1, 1}) || areas.areas[i].has({18.5, 5})) chosen.push_back(i);
  }
  const auto loops = sketch::boundary_of(areas, chosen);
  ASSERT_EQ(loops.size(), 2U);  // the rectangle, and the island as a hole
  EXPECT_NEAR(loops[0].area, 200, 0.01);
  EXPECT_NEAR(loops[1].area, island, 0.02);
}

TEST(Areas, AnExtrudeTakesTheAreasThatWerePicked) {
  model::Step step;
  step.id = 5;
  step.number = 10;
  step.name = "pad";
  model::Extrude e;
  e.sketch = 1;
  e.extent.to.value = 4;
  e.areas = {{10, 5}};
  step.feature = e;
  const std::map<model::Id, model::PlacedSketch> sketches{{1, {hash_sign(), {}, 0, {}}}};
  model::RouteCache cache;
  auto results = model::recompute({step}, sketches, cache);
  ASSERT_TRUE(results);
  ASSERT_EQ((*results)[0].state, model::StepState::Sound) << (*results)[0].reason;
  EXPECT_NEAR((*results)[0].solid.volume(), 800, 1e-6);
  // Its faces are named by the lines they come from.
  bool named = false;
  for (std::size_t f = 0; f < (*results)[0].solid.face_count(); ++f)
    named |= (*results)[0].solid.face_name(f).find(":12") != std::string::npos;
  EXPECT_TRUE(named);
  // Nothing is picked and no loop is clean: all areas count.
  step.feature.as<model::Extrude>()->areas.clear();
  results = model::recompute({step}, sketches, cache);
  EXPECT_NEAR((*results)[0].solid.volume(), 800, 1e-6);
  step.feature.as<model::Extrude>()->areas = {{-3, -3}};
  results = model::recompute({step}, sketches, cache);
  EXPECT_EQ((*results)[0].state, model::StepState::Broken);
  EXPECT_NE((*results)[0].reason.find("no longer closed"), std::string::npos);
}

TEST(Areas, ASketchOnAFaceFollowsIt) {
  const auto square = [](double x, double size) {
    Sketch s;
    const Id a = s.add_point({x, x});
    const Id b = s.add_point({x + size, x});
    const Id c = s.add_point({x + size, x + size});
    const Id d = s.add_point({x, x + size});
    s.add_line(a, b), s.add_line(b, c), s.add_line(c, d), s.add_line(d, a);
    return s;
  };
  model::Step base;
  base.id = 1;
  model::Extrude foot;
  foot.sketch = 1;
  foot.extent.to.value = 5;
  base.feature = foot;
  model::Step boss;
  boss.id = 2;
  model::Extrude up;
  up.sketch = 2;
  up.extent.to.value = 3;
  boss.feature = up;
  std::map<model::Id, model::PlacedSketch> sketches{{1, {square(0, 20), {}, 0, {}}},
                                                    {2, {square(5, 4), {}, 0, {}}}};
  sketches[2].base.origin.z() = 5;
  model::RouteCache cache;
  auto results = model::recompute({base}, sketches, cache);
  for (std::size_t f = 0; f < (*results)[0].solid.face_count(); ++f) {
    model::Reference r;
    r.face = (*results)[0].solid.face_name(f);
    const auto face = model::resolve(r, (*results)[0].solid);
    if (face && face->axis.z() > 0.5) sketches[2].face = r.face;
  }
  ASSERT_FALSE(sketches[2].face.empty());
  base.feature.as<model::Extrude>()->extent.to.value = 9;
  results = model::recompute({base, boss}, sketches, cache);
  ASSERT_EQ((*results)[1].state, model::StepState::Sound) << (*results)[1].reason;
  EXPECT_NEAR((*results)[1].solid.volume(), 20 * 20 * 9 + 16 * 3, 1e-6);
}

TEST(Offset, ARoundedOutlineKeepsItsDistanceAndTouch) {
  Sketch s;
  const Id a = s.add_point({0, 0});
  const Id b = s.add_point({20, 0});
  const Id c = s.add_point({20, 10});
  const Id d = s.add_point({0, 10});
  const Id right_centre = s.add_point({20, 5});
  const Id left_centre = s.add_point({0, 5});
  const Id bottom = s.add_line(a, b);
  const Id right = s.add_arc(right_centre, b, c, 5);
  s.add_line(c, d);
  s.add_arc(left_centre, d, a, 5);
  s.add_constraint(sketch::ConstraintType::Tangent, bottom, right);
  const auto out = sketch::offset(s, bottom, 2);
  ASSERT_TRUE(out) << out.error().message;
  const auto loops = sketch::find_loops(*out);
  ASSERT_EQ(loops.size(), 2U);
  EXPECT_NEAR(loops[0].area, 20 * 14 + std::numbers::pi * 49, 1e-6);
  const auto in = sketch::offset(s, bottom, -2);
  ASSERT_TRUE(in);
  EXPECT_NEAR(sketch::find_loops(*in)[1].area, 20 * 6 + std::numbers::pi * 9, 1e-6);
  EXPECT_FALSE(sketch::offset(s, bottom, -5.5));
  EXPECT_FALSE(sketch::offset(s, bottom, 0));
  EXPECT_FALSE(sketch::offset(s, 999, 1));
  const auto solved = sketch::solve(*out);
  ASSERT_TRUE(solved);
  EXPECT_NE(solved->state, sketch::State::Clashing);
}

TEST(Offset, SharpCornersMeetAgain) {
  Sketch s;
  const Id a = s.add_point({0, 0});
  const Id b = s.add_point({30, 0});
  const Id c = s.add_point({0, 40});
  const Id side = s.add_line(a, b);
  s.add_line(b, c);
  s.add_line(c, a);
  const auto out = sketch::offset(s, side, 1);
  ASSERT_TRUE(out);
  // A triangle's sides grow by offset / inradius: 3-4-5 scaled by ten has inradius 10.
  EXPECT_NEAR(sketch::find_loops(*out)[0].area, 600 * 1.1 * 1.1, 1e-6);
  Sketch ring;
  const Id circle = ring.add_circle(ring.add_point({3, 3}), 4);
  const auto wider = sketch::offset(ring, circle, 1.5);
  ASSERT_TRUE(wider);
  EXPECT_NEAR(wider->entities[1].radius, 5.5, 1e-12);
  EXPECT_FALSE(sketch::offset(ring, circle, -4.5));
}

/// A turned spool about the z axis, radius 10 + 2 sin z, as a mesh with a wedge left out.
scan::Mesh spool(double from_turn) {
  scan::Mesh mesh;
  constexpr int kAround = 120;
  constexpr int kUp = 80;
  for (int i = 0; i <= kAround; ++i) {
    const double a = from_turn + (2 * std::numbers::pi - from_turn) * i / kAround;
    for (int j = 0; j <= kUp; ++j) {
      const double z = 20.0 * j / kUp;
      const double r = 10 + 2 * std::sin(z / 3);
      mesh.vertices.emplace_back(r * std::cos(a), r * std::sin(a), z);
    }
  }
  for (std::uint32_t i = 0; i < kAround; ++i) {
    for (std::uint32_t j = 0; j < kUp; ++j) {
      const std::uint32_t k = i * (kUp + 1) + j;
      mesh.triangles.push_back({k, k + kUp + 1, k + 1});
      mesh.triangles.push_back({k + 1, k + kUp + 1, k + kUp + 2});
    }
  }
  return mesh;
}

TEST(TurnSection, AHalfPlaneSeesOneSideOnly) {
  const section::SectionIndex index(std::make_shared<const scan::Mesh>(spool(0)));
  Placement base;  // x away from the axis, y along it
  base.y = Vec3::UnitZ();
  base.normal = -Vec3::UnitY();
  const auto half = section::half_of(index.cut(base));
  ASSERT_EQ(half.polylines.size(), 1U);
  EXPECT_FALSE(half.polylines[0].closed);
  for (const Vec2& p : half.polylines[0].points)
    EXPECT_NEAR(p.x(), 10 + 2 * std::sin(p.y() / 3), 0.02);
}

TEST(TurnSection, AFanShowsWhatTheMissingWedgeHides) {
  // The half-plane at zero angle lies in the wedge that was not scanned.
  Placement base;
  base.y = Vec3::UnitZ();
  base.normal = -Vec3::UnitY();
  base.x = Eigen::AngleAxisd(0.3, Vec3::UnitZ()) * base.x;
  base.normal = base.x.cross(base.y);
  const section::SectionIndex index(std::make_shared<const scan::Mesh>(spool(0.8)));
  EXPECT_TRUE(section::half_of(index.cut(base)).polylines.empty());
  const auto fan = section::cut_fan(index, base, 36);
  std::size_t drawn = 0;
  std::size_t support = 0;
  for (const auto& p : fan.polylines) {
    (p.support ? support : drawn) += p.points.size();
    for (const Vec2& q : p.points) EXPECT_NEAR(q.x(), 10 + 2 * std::sin(q.y() / 3), 0.02);
  }
  EXPECT_GT(drawn, 60U);
  EXPECT_LT(drawn, 200U);        // the profile once
  EXPECT_GT(support, 20 * 60U);  // and the evidence of all blades
}

TEST(TurnSection, WhatFewBladesSeeIsNoPartOfTheProfile) {
  // A keyway along the spool: a quarter of a millimetre deeper over 40 degrees.
  scan::Mesh mesh = spool(0.8);
  for (Vec3& v : mesh.vertices) {
    const double angle = std::atan2(v.y(), v.x());
    if (std::abs(angle - 2) > 0.35) continue;
    const double radius = std::hypot(v.x(), v.y());
    v.x() *= (radius - 2.5) / radius;
    v.y() *= (radius - 2.5) / radius;
  }
  Placement base;
  base.y = Vec3::UnitZ();
  base.normal = -Vec3::UnitY();
  const section::SectionIndex index(std::make_shared<const scan::Mesh>(mesh));
  const auto fan = section::cut_fan(index, base, 36);
  double deepest = 0;
  std::size_t apart = 0;
  for (const auto& p : fan.polylines) {
    if (p.support) continue;
    for (const Vec2& q : p.points) {
      const double off = 10 + 2 * std::sin(q.y() / 3) - q.x();
      if (p.few)
        ++apart;
      else
        deepest = std::max(deepest, std::abs(off));
    }
  }
  EXPECT_LT(deepest, 0.05);
  EXPECT_GT(apart, 30U);
  ASSERT_TRUE(fan.spread);
  EXPECT_LT(*fan.spread, 0.1);
}

TEST(Walls, ACutThroughARoundProposesTheNearestLevelThroughWalls) {
  // A post of 10 mm with a round of 3 mm at its top, which lies at 20 mm.
  scan::Mesh mesh;
  std::vector<Vec2> profile;
  for (double z = 0; z < 17; z += 0.4) profile.emplace_back(10, z);
  for (double t = 0; t < 1.57; t += 0.1)
    profile.emplace_back(7 + 3 * std::cos(t), 17 + 3 * std::sin(t));
  constexpr int kAround = 120;
  for (const Vec2& p : profile) {
    for (int k = 0; k < kAround; ++k) {
      const double a = 2 * std::numbers::pi * k / kAround;
      mesh.vertices.emplace_back(p.x() * std::cos(a), p.x() * std::sin(a), p.y());
    }
  }
  const auto at = [](std::size_t row, int k) {
    return static_cast<std::uint32_t>(row * kAround + static_cast<std::size_t>(k % kAround));
  };
  for (std::size_t row = 0; row + 1 < profile.size(); ++row) {
    for (int k = 0; k < kAround; ++k) {
      mesh.triangles.push_back({at(row, k), at(row, k + 1), at(row + 1, k + 1)});
      mesh.triangles.push_back({at(row, k), at(row + 1, k + 1), at(row + 1, k)});
    }
  }
  const section::SectionIndex index(std::make_shared<const scan::Mesh>(mesh));
  Placement plane;
  EXPECT_FALSE(section::cleaner_level(index, plane.shifted(8), 0.3, 6));
  const auto share = section::wall_share(index.cut(plane.shifted(19)), mesh);
  EXPECT_LT(share.walls, 0.1);
  EXPECT_NEAR(share.whole, 1, 1e-9);
  const auto better = section::cleaner_level(index, plane.shifted(19), 0.3, 6);
  ASSERT_TRUE(better);
  // 20 degrees up the round is 18.03 mm high.
  EXPECT_LT(19 + *better, 18.1);
  EXPECT_GT(19 + *better, 15);
}

TEST(TurnSection, ARunThatCrossesTheAxisEndsOnIt) {
  section::Section s;
  section::Polyline square;
  square.closed = true;
  for (int i = 0; i < 40; ++i) square.points.emplace_back(-10 + i * 0.5, -5);
  for (int i = 0; i < 20; ++i) square.points.emplace_back(10, -5 + i * 0.5);
  for (int i = 0; i < 40; ++i) square.points.emplace_back(10 - i * 0.5, 5);
  for (int i = 0; i < 20; ++i) square.points.emplace_back(-10, 5 - i * 0.5);
  s.polylines.push_back(square);
  const auto half = section::half_of(s);
  ASSERT_EQ(half.polylines.size(), 1U);
  EXPECT_NEAR(half.polylines[0].length(), 30, 1e-9);
  EXPECT_NEAR(half.polylines[0].points.front().x(), 0, 1e-12);
  EXPECT_NEAR(half.polylines[0].points.back().x(), 0, 1e-12);
}

TEST(SectionCompare, AProudScanIsProudByThatMuch) {
  // A block 20 x 10 x 8 as model, a scan of it a tenth larger all round.
  Sketch s;
  const Id a = s.add_point({0, 0});
  const Id b = s.add_point({20, 0});
  const Id c = s.add_point({20, 10});
  const Id d = s.add_point({0, 10});
  s.add_line(a, b), s.add_line(b, c), s.add_line(c, d), s.add_line(d, a);
  model::Step step;
  step.id = 1;
  model::Extrude e;
  e.sketch = 1;
  e.extent.to.value = 8;
  step.feature = e;
  model::RouteCache cache;
  const auto solid = model::recompute({step}, {{1, {s, {}, 0, {}}}}, cache);
  ASSERT_TRUE(solid);
  Placement plane;
  plane.origin.z() = 4;
  const auto cut = deviation::cut_solid((*solid)[0].solid, plane);
  ASSERT_TRUE(cut) << cut.error().message;
  ASSERT_EQ(cut->polylines.size(), 1U);
  EXPECT_TRUE(cut->polylines[0].closed);
  EXPECT_TRUE(cut->polylines[0].gaps.empty());
  EXPECT_NEAR(cut->polylines[0].length(), 60, 1e-6);
  section::Section scan;
  section::Polyline run;
  for (int i = 0; i <= 40; ++i) run.points.emplace_back(0.5 * i, -0.1);  // proud below
  run.points.emplace_back(10, 5);                                        // a stray inside
  scan.polylines.push_back(run);
  const auto compared = deviation::compare_sections(scan, *cut, 2, 0.15);
  EXPECT_EQ(compared.whiskers.size(), 41U);
  EXPECT_EQ(compared.far, 1U);
  EXPECT_NEAR(compared.mean, 0.1, 1e-9);
  EXPECT_NEAR(compared.within_fraction, 1, 1e-12);
  const auto tight = deviation::compare_sections(scan, *cut, 2, 0.05);
  EXPECT_EQ(tight.within_fraction, 0);
}

}  // namespace
}  // namespace lostline
