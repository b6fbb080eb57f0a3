// Profiles that turn on their way: volumes by Cavalieri, walls by turning them back, and the twist
// as the scan tells it.
#include "reading/twist.h"

#include <random>

#include "model/steps/extrude/extrude.h"
#include "sketch/curve_kind.h"
#include "sketch/drawing.h"
#include "step_trial.h"

namespace lostline {
namespace {

using model::Extrude;

/// A rotor's outline: a disc of radius 10 with two lobes, `size` times as large.
sketch::Sketch lobes(double size) {
  sketch::Sketch s;
  const auto corner = [&](double x, double y) { return s.add_point(size * Vec2(x, y)); };
  const auto a = corner(12, -6);
  const auto b = corner(12, 6);
  const auto c = corner(-12, 6);
  const auto d = corner(-12, -6);
  s.add_arc(corner(12, 0), a, b, 6 * size);
  s.add_line(b, c);
  s.add_arc(corner(-12, 0), c, d, 6 * size);
  s.add_line(d, a);
  return s;
}
constexpr double kLobesArea = 24 * 12 + kPi * 36;

struct Twister {
  sketch::Sketch outline;
  std::map<model::Id, model::PlacedSketch> sketches;
  explicit Twister(sketch::Sketch s, double level) : outline(std::move(s)) {
    sketches[7] = {outline, {}, level, {}};
  }
  [[nodiscard]] Result<model::Model> made(const Extrude& e) const {
    model::Step step;
    step.id = 9;
    step.name = "trial";
    step.feature = e;
    const std::vector<model::Step> steps{step};
    return model::apply_feature(step, {sketches, steps}, {});
  }
};

Extrude twisting(double degrees, double from, double to) {
  Extrude e;
  e.sketch = 7;
  e.extent.from.value = from;
  e.extent.to.value = to;
  e.twist.value = degrees * kDegree;
  return e;
}

/// A project that holds a scan of a part, in the part's own coordinates.
project::Document scanned(const model::Model& part, double spacing, double noise,
                          std::uint64_t seed) {
  simulate::ScanOptions options;
  options.spacing = spacing;
  options.noise = noise;
  options.seed = seed;
  options.strays = 0;
  options.random_pose = false;
  options.chord = std::max(options.chord, 0.5 * noise);
  auto scan = simulate::simulate_scan(part, {}, options);
  EXPECT_TRUE(scan);
  auto prepared = project::prepare_scan(std::move(scan->mesh), "trial", "", Unit::Millimetre);
  EXPECT_TRUE(prepared);
  return project::with_scan({}, *prepared);
}

TEST(Twist, KeepsTheVolumeAndTurnsTheProfileEvenly) {
  for (const double size : {0.1, 1.0, 30.0}) {
    for (const double degrees : {15.0, -80.0, 420.0}) {
      const double level = 10 * size;
      const Twister rotor(lobes(size), level);
      const auto solid = rotor.made(twisting(degrees, -5 * size, 45 * size));
      ASSERT_TRUE(solid) << solid.error().message;
      EXPECT_TRUE(solid->valid());
      const double volume = kLobesArea * 50 * size * size * size;
      // The kernel integrates free-form faces to about that.
      EXPECT_NEAR(solid->volume(), volume, 3e-4 * volume);
      EXPECT_TRUE(solid->find_face("s9:start") && solid->find_face("s9:end"));
      // Each place of the walls, turned back by its height above the section, lies on the outline.
      std::vector<std::unique_ptr<sketch::PlaneCurve>> curves;
      for (const sketch::Entity& e : rotor.outline.entities)
        curves.push_back(sketch::placed(rotor.outline, e));
      const auto shape = model::tessellate(*solid, {0.05 * size, 0.2});
      ASSERT_TRUE(shape);
      double worst = 0;
      for (std::size_t t = 0; t < shape->mesh.triangles.size(); ++t) {
        const std::string& name = solid->face_name(shape->triangle_face[t]);
        if (name.find(":side:") == std::string::npos) continue;
        for (const std::uint32_t v : shape->mesh.triangles[t]) {
          const Vec3& p = shape->mesh.vertices[v];
          const double turn = degrees * kDegree * (p.z() - level) / (50 * size);
          const Vec2 back = Eigen::Rotation2Dd(-turn) * p.head<2>();
          double off = 1e300;
          for (const auto& curve : curves) off = std::min(off, std::abs(curve->drift(back)));
          worst = std::max(worst, off);
        }
      }
      EXPECT_LT(worst, 1e-5 * size) << degrees;
    }
  }
}

TEST(Twist, OpeningsTurnAlongAndAnAxisElsewhereIsOne) {
  sketch::Sketch s = lobes(1);
  s.add_circle(s.add_point({12, 0}), 3);
  const Twister rotor(s, 0);
  Extrude e = twisting(90, 0, 60);
  const auto own = rotor.made(e);
  ASSERT_TRUE(own) << own.error().message;
  EXPECT_NEAR(own->volume(), (kLobesArea - 9 * kPi) * 60, 6);
  fit::Surface axis;
  axis.kind = fit::Kind::Cylinder;
  axis.point = Vec3(40, 0, 3);
  axis.radius = 1;
  e.about.fit = 3;
  e.about.surface = axis;
  const auto apart = rotor.made(e);
  ASSERT_TRUE(apart) << apart.error().message;
  EXPECT_NEAR(apart->volume(), own->volume(), 6);
  // A quarter turn about (40, 0) takes the middle to (40, -40).
  EXPECT_NEAR(apart->box().min().y(), -40 - 18, 0.1);
  e.about.surface->axis = Vec3(0, 0.1, 1).normalized();
  EXPECT_NE(rotor.made(e).error().message.find("leans"), std::string::npos);
}

TEST(Twist, WhatCannotTwistSaysSo) {
  const Twister rotor(lobes(1), 0);
  Extrude e = twisting(30, 0, 60);
  e.draft.value = 0.05;
  EXPECT_NE(rotor.made(e).error().message.find("no draft"), std::string::npos);
  e = twisting(9000, 0, 60);
  EXPECT_NE(rotor.made(e).error().message.find("20 turns"), std::string::npos);
  // A surface of its curves twists too, and untwisted it is what it was.
  e = twisting(30, 0, 60);
  e.surface = true;
  const auto shell = rotor.made(e);
  ASSERT_TRUE(shell) << shell.error().message;
  EXPECT_TRUE(shell->has(model::BodyKind::Surface));
  const auto plain = rotor.made(twisting(0, 0, 60));
  ASSERT_TRUE(plain);
  EXPECT_NEAR(plain->volume(), kLobesArea * 60, 1e-6);
}

TEST(Twist, IsReadFromTheScanWithItsU) {
  std::mt19937 random(4711);
  std::uniform_real_distribution<double> any(-1, 1);
  int within = 0;
  constexpr int kCases = 6;
  for (int k = 0; k < kCases; ++k) {
    const double size = std::array{0.3, 1.0, 12.0}[static_cast<std::size_t>(k % 3)];
    const double degrees = k == 0 ? 0 : 20 + 300 * std::abs(any(random));
    const double truth = (any(random) < 0 ? -1 : 1) * degrees;
    const Twister rotor(lobes(size), 20 * size);
    const auto solid = rotor.made(twisting(truth, 0, 60 * size));
    ASSERT_TRUE(solid);
    const auto document =
        scanned(*solid, 0.6 * size, 0.015 * size, static_cast<std::uint64_t>(90 + k));
    project::TracedSketch traced;
    traced.sketch = rotor.outline;
    traced.level = 20 * size;
    traced.tolerance = 0.05 * size;
    const std::vector<sketch::Id> all;
    const std::vector<Vec2> none;
    const auto read = reading::read_twist(document, traced, {all, none}, {0, 0}, 0, 60 * size);
    ASSERT_TRUE(read) << truth;
    EXPECT_NEAR(read->angle / kDegree, truth, 0.1) << size;
    EXPECT_LT(read->rms, 0.03 * size);
    EXPECT_LT(read->u / kDegree, 0.1);
    within += std::abs(read->angle - truth * kDegree) <= read->u ? 1 : 0;
    // Told the other way round it turns the other way.
    const auto back = reading::read_twist(document, traced, {all, none}, {0, 0}, 60 * size, 0);
    ASSERT_TRUE(back);
    EXPECT_NEAR(back->angle, -read->angle, 1e-9);
  }
  EXPECT_GE(within, kCases - 1);
}

TEST(Twist, ARoundProfileTellsNone) {
  sketch::Sketch s;
  s.add_circle(s.add_point({0, 0}), 10);
  const Twister rod(s, 10);
  const auto solid = rod.made(twisting(0, 0, 40));
  ASSERT_TRUE(solid);
  const auto document = scanned(*solid, 0.6, 0.015, 5);
  project::TracedSketch traced;
  traced.sketch = s;
  traced.level = 10;
  const std::vector<sketch::Id> all;
  const std::vector<Vec2> none;
  EXPECT_FALSE(reading::read_twist(document, traced, {all, none}, {0, 0}, 0, 40));
}

}  // namespace
}  // namespace lostline
