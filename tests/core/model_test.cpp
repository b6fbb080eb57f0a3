// The Route, its persistent names and its failures; deviation from exact surfaces; STEP.
#include <gtest/gtest.h>
#include <unistd.h>

#include <BRepTools.hxx>
#include <BRep_Builder.hxx>
#include <TopoDS_Shape.hxx>
#include <cmath>
#include <filesystem>
#include <fstream>
#include <numbers>
#include <random>

#include "core/full_disk.h"
#include "deviation/deviation.h"
#include "io/formats.h"
#include "io/step.h"
#include "model/model_impl.h"
#include "model/route.h"
#include "model/steps/extrude/extrude.h"
#include "model/steps/fillet/fillet.h"
#include "model/steps/hole/hole.h"
#include "simulate/parts.h"
#include "support/places.h"

namespace lostline::model {
namespace {

/// A plate 60 x 40 with a circle of radius 8 in its middle.
PlacedSketch plate() {
  PlacedSketch placed;
  sketch::Sketch& s = placed.sketch;
  const auto a = s.add_point({-30, -20});
  const auto b = s.add_point({30, -20});
  const auto c = s.add_point({30, 20});
  const auto d = s.add_point({-30, 20});
  s.add_line(a, b);  // 14
  s.add_line(b, c);
  s.add_line(c, d);
  s.add_line(d, a);
  s.add_circle(s.add_point({0, 0}), 8);
  return placed;
}

Step extrude_step(Id id, std::vector<sketch::Id> loops, double from, double to,
                  Operation operation = Operation::Add) {
  Extrude e;
  e.sketch = 1;
  e.loops = std::move(loops);
  e.operation = operation;
  e.extent.from.value = from;
  e.extent.to.value = to;
  return {id, static_cast<int>(10 * id), "step", false, e};
}

class Route : public ::testing::Test {
 protected:
  std::vector<StepResult> run() {
    auto results = recompute(steps, sketches, cache);
    EXPECT_TRUE(results);
    return *results;
  }
  sketch::Id side() const { return sketches.at(1).sketch.entities[0].id; }
  sketch::Id circle() const { return sketches.at(1).sketch.entities[4].id; }
  std::map<Id, PlacedSketch> sketches{{1, plate()}};
  std::vector<Step> steps;
  RouteCache cache;
};

TEST_F(Route, ExtrudesOutlineWithItsHoleAndByOneLoop) {
  steps = {extrude_step(1, {}, 0, 10)};
  EXPECT_NEAR(run().back().solid.volume(), (2400 - 64 * std::numbers::pi) * 10, 1e-6);
  steps = {extrude_step(1, {side()}, 0, 10)};
  EXPECT_NEAR(run().back().solid.volume(), 24000, 1e-6);
  steps = {extrude_step(1, {circle()}, -5, 5)};
  EXPECT_NEAR(run().back().solid.volume(), 640 * std::numbers::pi, 1e-6);
}

TEST_F(Route, DraftIsNeutralAtTheSection) {
  sketches[1].section_level = 5;
  Step step = extrude_step(1, {circle()}, 0, 10);
  step.feature.as<Extrude>()->draft.value = 0.05;
  steps = {step};
  const double t = std::tan(0.05) * 5;
  const double truth =
      std::numbers::pi * 10 / 3 * ((8 + t) * (8 + t) + (8 + t) * (8 - t) + (8 - t) * (8 - t));
  EXPECT_NEAR(run().back().solid.volume(), truth, 1e-5);
}

TEST_F(Route, HoleCutAndFilletChangeTheVolumeAsTheyMust) {
  Hole hole;
  hole.sketch = 1;
  hole.circles = {circle()};
  hole.diameter.value = 12;
  steps = {extrude_step(1, {side()}, 0, 10), {2, 20, "hole", false, hole}};
  auto results = run();
  EXPECT_NEAR(results.back().solid.volume(), 24000 - 360 * std::numbers::pi, 1e-6);
  const Model solid = results.back().solid;
  Fillet fillet;
  fillet.edges = {{"s1:end", "s1:side:" + std::to_string(side()), Vec3(0, -20, 10)}};
  fillet.radius.value = 2;
  ASSERT_TRUE(solid.find_edge(fillet.edges[0]));
  steps.push_back({3, 30, "fillet", false, fillet});
  results = run();
  ASSERT_EQ(results.back().state, StepState::Sound) << results.back().reason;
  EXPECT_NEAR(results.back().solid.volume(), solid.volume() - 60 * (4 - std::numbers::pi), 1e-5);
}

TEST_F(Route, ReferencesSurviveEditsOfTheStepsBefore) {
  Fillet fillet;
  fillet.edges = {{"s1:end", "s1:side:" + std::to_string(side()), Vec3(0, -20, 10)}};
  fillet.radius.value = 2;
  steps = {extrude_step(1, {side()}, 0, 10), {3, 30, "fillet", false, fillet}};
  EXPECT_EQ(run().back().state, StepState::Sound);
  // Another height, another width, and a boss put in before the fillet.
  steps[0].feature.as<Extrude>()->extent.to.value = 14;
  for (sketch::Point& p : sketches[1].sketch.points) p.at.x() *= 1.2;
  steps.insert(steps.begin() + 1, extrude_step(2, {circle()}, 5, 30));
  const auto results = run();
  ASSERT_EQ(results.back().state, StepState::Sound) << results.back().reason;
  EXPECT_NEAR(results[1].solid.volume() - results[2].solid.volume(), 72 * (4 - std::numbers::pi),
              1e-4);
}

TEST_F(Route, BrokenStepsSayWhyAndTheRestStands) {
  Fillet fillet;
  fillet.edges = {{"s1:end", "s1:side:" + std::to_string(side()), Vec3(0, -20, 10)}};
  fillet.radius.value = 50;
  steps = {extrude_step(1, {side()}, 0, 10),
           {2, 20, "too large", false, fillet},
           extrude_step(3, {circle()}, 10, 30)};
  auto results = run();
  EXPECT_EQ(results[1].state, StepState::Broken);
  EXPECT_NE(results[1].reason.find("R 50 is too large"), std::string::npos) << results[1].reason;
  EXPECT_NE(results[1].reason.find("works"), std::string::npos) << results[1].reason;
  EXPECT_EQ(results[2].state, StepState::Sound);
  EXPECT_NEAR(results[2].solid.volume(), 24000 + 64 * 20 * std::numbers::pi, 1e-5);
  // An outline with a loose end.
  PlacedSketch open = plate();
  open.sketch.entities.erase(open.sketch.entities.begin() + 1);
  sketches[1] = open;
  steps = {extrude_step(1, {side()}, 0, 10)};
  results = run();
  EXPECT_EQ(results[0].state, StepState::Broken);
  EXPECT_NE(results[0].reason.find("does not close"), std::string::npos) << results[0].reason;
  sketches.clear();
  EXPECT_NE(run()[0].reason.find("deleted"), std::string::npos);
}

TEST_F(Route, ImpossibleNumbersAreRefused) {
  steps = {extrude_step(1, {side()}, 5, 5)};
  EXPECT_NE(run()[0].reason.find("no height"), std::string::npos);
  steps = {extrude_step(1, {side()}, 0, std::nan(""))};
  EXPECT_EQ(run()[0].state, StepState::Broken);
  steps = {extrude_step(1, {side()}, 0, 10, Operation::Cut)};
  EXPECT_NE(run()[0].reason.find("nothing to cut"), std::string::npos);
  steps = {extrude_step(1, {side()}, 0, 10), extrude_step(2, {circle()}, 50, 60, Operation::Cut)};
  EXPECT_NE(run()[1].reason.find("does not touch"), std::string::npos);
  steps[1].parked = true;
  EXPECT_EQ(run()[1].state, StepState::Parked);
}

TEST(Step, WritesNamesAndReadsBackTheSamePart) {
  const std::filesystem::path path = testing::scratch() / "part.step";
  const Model part = simulate::pedestal();
  ASSERT_TRUE(io::write_step(path, part, "lock winch pedestal"));
  std::ifstream file(path);
  const std::string text((std::istreambuf_iterator<char>(file)), {});
  EXPECT_NE(text.find("lock winch pedestal"), std::string::npos);
  EXPECT_NE(text.find("COLOUR_RGB"), std::string::npos);
  const auto back = io::read_model(path);
  ASSERT_TRUE(back);
  EXPECT_NEAR(back->volume(), part.volume(), 1e-6 * part.volume());
  EXPECT_FALSE(io::write_step("/no/such/folder/part.step", part, "x"));
  EXPECT_FALSE(io::write_step(path, Model(), "empty"));
  std::ofstream(path) << "ISO-10303-21; garbage";
  EXPECT_FALSE(io::read_model(path));
  std::ofstream(path) << "no step at all";
  EXPECT_NE(io::read_model(path).error().message.find("no STEP file"), std::string::npos);
  std::filesystem::remove(path);
}

TEST(Step, AFullDiskIsSaidAndLeavesTheOldFile) {
  const std::string path = testing::scratch() / "full-disk.step";
  const model::Model solid = simulate::pedestal();
  ASSERT_TRUE(io::write_step(path, solid, "pedestal"));
  const auto size = std::filesystem::file_size(path);
  Status status = Done{};
  {
    const testing::FullDisk full(20000);
    status = io::write_step(path, solid, "pedestal");
  }
  ASSERT_FALSE(status);
  EXPECT_EQ(status.error().code, ErrorCode::Io) << status.error().message;
  EXPECT_EQ(std::filesystem::file_size(path), size);
  std::filesystem::remove(path);
}

TEST(Deviation, IsExactOnPlanesCylindersConesAndFillets) {
  const Model part = simulate::pedestal();
  const auto comparator = deviation::Comparator::build(part);
  ASSERT_TRUE(comparator);
  const simulate::PedestalDesign d;
  std::mt19937_64 random(4);
  std::uniform_real_distribution<double> uniform(0, 1);
  for (int i = 0; i < 500; ++i) {
    const double angle = 6.283 * uniform(random);
    const double off = 0.4 * (uniform(random) - 0.5);
    const Vec3 bore((d.bore_diameter / 2 + off) * std::cos(angle),
                    (d.bore_diameter / 2 + off) * std::sin(angle), 5 + 70 * uniform(random));
    EXPECT_NEAR(comparator->at(bore).distance, -off, 1e-9);  // inside the wall is short of it
    const Vec3 top(30 * std::cos(angle), 30 * std::sin(angle), d.boss_height + off);
    EXPECT_NEAR(comparator->at(top).distance, off, 1e-9);
    if (std::abs(std::sin(angle)) < 0.5) continue;  // clear of the ribs
    const double z = 40 + 30 * uniform(random);
    const double r = d.boss_diameter / 2 + (d.boss_neutral - z) * std::tan(d.boss_draft) +
                     off / std::cos(d.boss_draft);
    EXPECT_NEAR(comparator->at({r * std::cos(angle), r * std::sin(angle), z}).distance, off, 1e-9);
  }
  // Beyond an edge the border is nearest.
  EXPECT_NEAR(comparator->at({0, -d.foot_width / 2 - 3, -4}).distance, 5, 1e-6);
  EXPECT_EQ(comparator->at({0, 0, 500}, 10).face, scan::kNone);
}

TEST(Deviation, PublishedMeshAndModelOfOnePartAgree) {
  // Motor-c.brep and motor.stl of Debian's occt-misc are one part: the mesh is an exact
  // tessellation of the model, so its vertices lie on the surfaces.
  const std::string folder = "/usr/share/opencascade/data/";
  TopoDS_Shape shape;
  BRep_Builder builder;
  ASSERT_TRUE(BRepTools::Read(shape, (folder + "occ/Motor-c.brep").c_str(), builder));
  const Model solid = make_solid(shape, {}, "motor");
  const auto mesh = io::read_mesh(folder + "stl/motor.stl");
  ASSERT_TRUE(mesh) << mesh.error().message;
  const auto comparator = deviation::Comparator::build(solid);
  ASSERT_TRUE(comparator);
  const auto map = comparator->compare(mesh->mesh.vertices, 1e6);
  ASSERT_TRUE(map);
  const deviation::Statistics s = deviation::statistics(*map, 0.01);
  EXPECT_EQ(s.unmatched, 0U);
  const double size = solid.box().sizes().norm();
  EXPECT_LT(s.p95_abs, 1e-5 * size);
}

TEST(Statistics, MatchTheFormulas) {
  deviation::Map map;
  for (int i = -50; i <= 49; ++i) map.value.push_back(0.01F * static_cast<float>(i));
  map.value.push_back(std::nanf(""));
  map.face.assign(map.value.size(), 0);
  const deviation::Statistics s = deviation::statistics(map, 0.1);
  EXPECT_EQ(s.n, 100U);
  EXPECT_EQ(s.unmatched, 1U);
  EXPECT_NEAR(s.mean, -0.005, 1e-7);
  EXPECT_NEAR(s.sd, 0.01 * std::sqrt((100.0 * 100 - 1) / 12), 1e-6);
  EXPECT_NEAR(s.min, -0.5, 1e-6);
  EXPECT_NEAR(s.within_fraction, 0.21, 0.011);
  const deviation::Histogram h = deviation::histogram(map, -0.5, 0.5, 10);
  std::size_t total = 0;
  for (const std::size_t c : h.counts) total += c;
  EXPECT_EQ(total, 100U);
}

}  // namespace
}  // namespace lostline::model
