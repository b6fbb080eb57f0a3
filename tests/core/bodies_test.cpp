// Several bodies in one model: made, combined, split, sewn, moved, handed on and brought back.
#include "model/bodies.h"

#include <gtest/gtest.h>

#include <filesystem>
#include <fstream>
#include <set>

#include "deviation/deviation.h"
#include "deviation/places.h"
#include "io/formats.h"
#include "io/step.h"
#include "model/faces.h"
#include "model/steps/boolean/boolean.h"
#include "model/steps/import/import.h"
#include "model/steps/mirror/mirror.h"
#include "model/steps/move_body/move_body.h"
#include "model/steps/pattern/pattern.h"
#include "model/steps/remove_body/remove_body.h"
#include "model/steps/sew/sew.h"
#include "model/steps/split/split.h"
#include "project/bodies.h"
#include "steps/step_trial.h"
#include "store/project_file.h"
#include "support/places.h"

namespace lostline::testing {
namespace {

using model::BodyKind;
using model::Model;
using model::Operation;

double volume_of(const Model& m, const std::string& key) {
  const auto body = m.find_body(key);
  EXPECT_TRUE(body) << key;
  return body ? m.only(*body).volume() : 0;
}

model::Reference level(double z) {
  model::Reference plane;
  fit::Surface surface;
  surface.point = {0, 0, z};
  surface.axis = Vec3::UnitZ();
  plane.fit = 1;
  plane.surface = surface;
  return plane;
}

TEST(Bodies, WhatTouchesNothingIsABodyOfItsOwnAndWhatTouchesTwoJoinsThem) {
  for (const double s : {0.1, 1.0, 40.0}) {
    PartBuilder part;
    part.box(s * Vec2(0, 0), s * Vec2(10, 10), 0, s * 10)
        .box(s * Vec2(20, 0), s * Vec2(30, 10), 0, s * 10);
    const Model two = part.solid();
    ASSERT_EQ(two.body_count(), 2U);
    EXPECT_EQ(two.body(0).key, "s1");
    EXPECT_EQ(two.body(1).key, "s2");
    EXPECT_NEAR(volume_of(two, "s2"), 1000 * s * s * s, 1e-9 * s * s * s);
    part.box(s * Vec2(5, 2), s * Vec2(25, 8), s * 2, s * 5);
    const Model one = part.solid();
    ASSERT_EQ(one.body_count(), 1U);
    EXPECT_EQ(one.body(0).key, "s1");
    EXPECT_EQ(one.find_body("s2"), 0U);  // it is still known by what it was
    EXPECT_NEAR(one.volume(), (2000 + 10 * 6 * 3) * s * s * s, 1e-6 * s * s * s);
  }
}

TEST(Bodies, AStepChangesThoseItNamesOrThoseItTouches) {
  PartBuilder part;
  part.box({0, 0}, {10, 10}, 0, 10).box({20, 0}, {30, 10}, 0, 10);
  // Touches one.
  PartBuilder one = part;
  one.box({22, 2}, {24, 4}, 0, 10, Operation::Cut);
  EXPECT_DOUBLE_EQ(volume_of(one.solid(), "s1"), 1000);
  EXPECT_NEAR(volume_of(one.solid(), "s2"), 960, 1e-9);
  // Runs through both, and is meant for one.
  PartBuilder both = part;
  both.box({-1, 4}, {31, 6}, 0, 10, Operation::Cut);
  EXPECT_NEAR(volume_of(both.solid(), "s1"), 800, 1e-9);
  EXPECT_NEAR(volume_of(both.solid(), "s2"), 800, 1e-9);
  model::Boolean unknown;
  unknown.target = {"s1"};
  unknown.tools = {"s7"};
  EXPECT_NE(PartBuilder(part).then(unknown).refusal().find("s7 is gone"), std::string::npos);
  // A new body may lie within another.
  PartBuilder within = part;
  within.box({2, 2}, {4, 4}, 2, 4, Operation::NewBody);
  EXPECT_EQ(within.solid().body_count(), 3U);
  EXPECT_NEAR(within.solid().volume(), 2008, 1e-9);
  // What is cut must be there.
  PartBuilder away = part;
  away.box({50, 50}, {60, 60}, 0, 10, Operation::Cut);
  EXPECT_NE(away.refusal().find("does not touch"), std::string::npos);
}

TEST(Bodies, OpenProfilesMakeSurfaces) {
  const Model sheet =
      PartBuilder().sheet({{0, 0}, {10, 0}, {10, 5}, {20, 5}}, false, 0, 30).solid();
  ASSERT_EQ(sheet.body_count(), 1U);
  EXPECT_EQ(sheet.body(0).kind, BodyKind::Surface);
  EXPECT_EQ(sheet.face_count(), 3U);
  EXPECT_NEAR(sheet.area(), 25 * 30, 1e-9);
  EXPECT_EQ(sheet.volume(), 0);
  EXPECT_TRUE(sheet.valid());
  // Beside a solid it changes nothing of it, even where they meet.
  PartBuilder beside;
  beside.box({-5, -5}, {5, 5}, 0, 10).sheet({{0, 0}, {10, 0}}, false, 0, 30);
  EXPECT_EQ(beside.solid().body_count(), 2U);
  EXPECT_NEAR(beside.solid().volume(), 1000, 1e-9);
  // Nothing is cut by a surface.
  model::Extrude cut;
  cut.surface = true;
  cut.operation = Operation::Cut;
  EXPECT_FALSE(beside.then(cut).refusal().empty());
}

TEST(Bodies, VolumesOfCombinedBodiesFollowInclusionAndExclusion) {
  PartBuilder part;
  part.box({0, 0}, {10, 10}, 0, 10).box({6, 6}, {16, 16}, 5, 15, Operation::NewBody);
  const double common = 4 * 4 * 5;
  const struct {
    model::Boolean::Kind kind;
    double volume;
  } cases[] = {{model::Boolean::Kind::Join, 2000 - common},
               {model::Boolean::Kind::Cut, 1000 - common},
               {model::Boolean::Kind::Common, common}};
  for (const auto& c : cases) {
    for (const bool keep : {false, true}) {
      model::Boolean step;
      step.target = {"s1"};
      step.tools = {"s2"};
      step.makes = c.kind;
      step.keep = keep;
      const Model made = PartBuilder(part).then(step).solid();
      EXPECT_EQ(made.body_count(), keep ? 2U : 1U);
      EXPECT_NEAR(volume_of(made, "s1"), c.volume, 1e-9);
      if (keep) {
        EXPECT_NEAR(volume_of(made, "s2"), 1000, 1e-9);
      }
      EXPECT_TRUE(made.valid());
    }
  }
}

TEST(Bodies, SplitPiecesTogetherAreTheWholeAndKeepTheirNames) {
  const PartBuilder part = PartBuilder().box({0, 0}, {10, 20}, 0, 10).disc({5, 10}, 2, 10, 14);
  model::Split split;
  split.bodies = {"s1"};
  split.by = level(4);
  const Model two = PartBuilder(part).then(split).solid();
  ASSERT_EQ(two.body_count(), 2U);
  EXPECT_NEAR(volume_of(two, "s1"), part.solid().volume() - 800, 1e-6);  // the far side
  EXPECT_NEAR(volume_of(two, "s3"), 800, 1e-6);
  // Every face of the whole is found on the pieces.
  for (std::size_t f = 0; f < part.solid().face_count(); ++f) {
    const std::string name = part.solid().face_name(f);
    bool found = false;
    for (std::size_t g = 0; g < two.face_count(); ++g)
      found = found || two.face_name(g) == name || two.face_name(g).starts_with(name + "@");
    EXPECT_TRUE(found) << name;
  }
  // No face belongs to both, and joined again they are the whole.
  std::set<std::string> names;
  for (std::size_t g = 0; g < two.face_count(); ++g)
    EXPECT_TRUE(names.insert(two.face_name(g)).second) << two.face_name(g);
  model::Boolean join;
  join.target = {"s1"};
  join.tools = {"s3"};
  const Model whole = PartBuilder(part).then(split).then(join).solid();
  EXPECT_EQ(whole.face_count(), part.solid().face_count());
  EXPECT_NEAR(whole.volume(), part.solid().volume(), 1e-6);
  // By a cylinder: a core and its jacket.
  model::Split core = split;
  fit::Surface round;
  round.kind = fit::Kind::Cylinder;
  round.point = {5, 10, 0};
  round.axis = Vec3::UnitZ();
  round.radius = 2;
  core.by.surface = round;
  const Model jacket = PartBuilder().box({0, 0}, {10, 20}, 0, 10).then(core).solid();
  ASSERT_EQ(jacket.body_count(), 2U);
  EXPECT_NEAR(volume_of(jacket, "s1"), 2000 - std::numbers::pi * 40, 1e-6);
  // Past the body nothing is parted.
  split.by = level(40);
  EXPECT_NE(PartBuilder(part).then(split).refusal().find("Nothing is parted"), std::string::npos);
}

TEST(Bodies, ABodyIsSplitAlongASurfaceBody) {
  PartBuilder part;
  part.box({0, 0}, {20, 10}, 0, 10).sheet({{5, -1}, {5, 6}, {15, 6}, {15, 11}}, false, -1, 11);
  model::Split split;
  split.bodies = {"s1"};
  split.along = {"s2"};
  for (const bool keep : {true, false}) {
    split.keep = keep;
    const Model made = PartBuilder(part).then(split).solid();
    EXPECT_EQ(made.body_count(), keep ? 3U : 2U);
    EXPECT_NEAR(volume_of(made, "s1") + volume_of(made, "s3"), 2000, 1e-6);
    EXPECT_NEAR(volume_of(made, "s1"), 20 * 10 * 10 - (5 * 10 + 10 * 4) * 10, 1e-6);
  }
}

TEST(Bodies, SurfacesThatCloseAreSewnToASolid) {
  for (const double s : {0.1, 1.0, 50.0}) {
    const Model box = PartBuilder().box({0, 0}, s * Vec2(10, 20), 0, s * 30).solid();
    std::vector<model::BodyShape> faces;
    model::Sew sew;
    for (std::size_t f = 0; f < box.face_count(); ++f) {
      model::Body body;
      body.key = "s" + std::to_string(f + 1);
      body.kind = BodyKind::Surface;
      faces.push_back({body, model::copied({box.impl().faces(static_cast<int>(f) + 1), {}}).shape});
      sew.bodies.push_back(body.key);
    }
    const Model loose = model::make_model(faces, {}, "loose");
    ASSERT_EQ(loose.body_count(), 6U);
    sew.gap.value = 1e-4 * s;
    const auto solid = attempt(sew, loose);
    ASSERT_TRUE(solid) << solid.error().message;
    ASSERT_EQ(solid->body_count(), 1U);
    EXPECT_EQ(solid->body(0).kind, BodyKind::Solid);
    EXPECT_EQ(solid->body(0).key, "s1");
    EXPECT_NEAR(solid->volume(), 6000 * s * s * s, 1e-6 * s * s * s);
    for (std::size_t f = 0; f < loose.face_count(); ++f)
      EXPECT_TRUE(solid->find_face(loose.face_name(f))) << loose.face_name(f);
    // Without the lid a surface remains; apart they do not meet.
    sew.bodies.pop_back();
    const auto open = attempt(sew, loose);
    ASSERT_TRUE(open) << open.error().message;
    EXPECT_EQ(open->body(0).kind, BodyKind::Surface);
    EXPECT_EQ(open->body_count(), 2U);
  }
  PartBuilder apart;
  apart.sheet({{0, 0}, {10, 0}}, false, 0, 5).sheet({{0, 3}, {10, 3}}, false, 0, 5);
  model::Sew far;
  far.bodies = {"s1", "s2"};
  EXPECT_NE(apart.then(far).refusal().find("do not meet"), std::string::npos);
}

TEST(Bodies, AreMovedCopiedAndRemoved) {
  PartBuilder part;
  part.box({0, 0}, {10, 10}, 0, 10).box({30, 0}, {40, 10}, 0, 10);
  model::MoveBody move;
  move.bodies = {"s2"};
  move.x.value = -15;
  move.z.value = 4;
  move.angle.value = std::numbers::pi / 2;
  move.axis.datum = 2;
  const Model moved = PartBuilder(part).then(move).solid();
  ASSERT_EQ(moved.body_count(), 2U);
  // x 30…40, y 0…10 turned a quarter about z, then shifted.
  const Box3 box = moved.only(1).box();
  EXPECT_NEAR((box.min() - Vec3(-25, 30, 4)).norm(), 0, 1e-6);
  EXPECT_NEAR((box.max() - Vec3(-15, 40, 14)).norm(), 0, 1e-6);
  for (std::size_t f = 0; f < moved.face_count(); ++f)
    EXPECT_TRUE(part.solid().find_face(moved.face_name(f)));
  move.copy = true;
  const Model three = PartBuilder(part).then(move).solid();
  ASSERT_EQ(three.body_count(), 3U);
  EXPECT_NEAR(three.volume(), 3000, 1e-9);
  model::RemoveBody remove;
  remove.bodies = {"s1", "s3"};
  const Model left = PartBuilder(part).then(move).then(remove).solid();
  ASSERT_EQ(left.body_count(), 1U);
  EXPECT_EQ(left.body(0).key, "s2");
  remove.bodies = {"s1", "s2"};
  EXPECT_FALSE(PartBuilder(part).then(remove).refusal().empty());
}

TEST(Bodies, AStepOnFacesLeavesOtherBodiesAlone) {
  PartBuilder part;
  part.box({0, 0}, {10, 10}, 0, 10).box({20, 0}, {30, 10}, 0, 10).fillet({20, 0, 5}, 2);
  const Model made = part.solid();
  ASSERT_EQ(made.body_count(), 2U);
  EXPECT_EQ(made.body(1).key, "s2");  // rounded, it is the body it was
  EXPECT_DOUBLE_EQ(volume_of(made, "s1"), 1000);
  EXPECT_NEAR(volume_of(made, "s2"), 1000 - (4 - std::numbers::pi) * 10, 1e-6);
  model::Fillet across;
  across.radius.value = 1;
  for (const Vec3& near : {Vec3(0, 0, 5), Vec3(30, 10, 5)}) {
    const auto shape = model::tessellate(made);
    for (const auto& line : shape->edges) {
      if ((0.5 * (line.points.front() + line.points.back()) - near).norm() < 1e-6)
        across.edges.push_back(made.ref_of_edge(line.edge, near));
    }
  }
  ASSERT_EQ(across.edges.size(), 2U);
  EXPECT_NE(part.then(across).refusal().find("several bodies"), std::string::npos);
}

TEST(Bodies, EachHasItsOwnMirrorImage) {
  PartBuilder part;
  part.box({2, 0}, {10, 10}, 0, 10).box({0, 20}, {10, 30}, 0, 10);
  model::Mirror mirror;
  mirror.plane.datum = 0;
  const Model made = part.then(mirror).solid();
  // The first stands off the plane, the second touches it and grows.
  ASSERT_EQ(made.body_count(), 3U);
  EXPECT_NEAR(made.volume(), 2 * (800 + 1000), 1e-9);
  EXPECT_NEAR(volume_of(made, "s2"), 2000, 1e-9);
}

TEST(Bodies, EachCopyOfABodyIsOne) {
  PartBuilder part;
  part.box({0, 0}, {10, 10}, 0, 10).box({0, 0}, {4, 4}, 10, 14, Operation::NewBody);
  model::Pattern row;
  row.source = 2;
  row.arranged = model::Pattern::Kind::Linear;
  row.direction.datum = 0;
  row.count = 3;
  row.spacing.value = 20;
  const Model made = part.then(row).solid();
  ASSERT_EQ(made.body_count(), 4U);
  EXPECT_EQ(made.body(2).key, "s3");
  EXPECT_EQ(made.body(3).key, "s3.2");
  EXPECT_NEAR(made.only(3).box().min().x(), 40, 1e-6);
  std::set<std::string> names;
  for (std::size_t f = 0; f < made.face_count(); ++f)
    EXPECT_TRUE(names.insert(made.face_name(f)).second) << made.face_name(f);
}

class HandedOn : public ::testing::Test {
 protected:
  void SetUp() override {
    std::filesystem::create_directories(folder_);
    PartBuilder part;
    part.box({0, 0}, {10, 10}, 0, 10)
        .disc({25, 5}, 4, 0, 12)
        .sheet({{0, 20}, {10, 20}, {10, 30}}, false, 0, 8);
    std::vector<model::Body> bodies;
    const char* names[] = {"base & <foot>", "pin", "skin"};
    for (std::size_t i = 0; i < 3; ++i) {
      bodies.push_back(part.solid().body(i));
      bodies.back().name = names[i];
      bodies.back().colour = model::Colour{static_cast<std::uint8_t>(40 * i + 20), 90, 200};
    }
    model_ = part.solid().dressed(bodies);
  }
  void TearDown() override { std::filesystem::remove_all(folder_); }
  std::filesystem::path folder_ = testing::scratch() / "bodies";
  Model model_;
};

TEST_F(HandedOn, StepHasAProductForEachWithNameAndColour) {
  const auto path = folder_ / "part.STEP";
  ASSERT_TRUE(io::write_step(path, model_, "part"));
  const auto back = io::read_step(path);
  ASSERT_TRUE(back) << back.error().message;
  ASSERT_EQ(back->body_count(), 3U);
  for (std::size_t i = 0; i < 3; ++i) {
    EXPECT_EQ(back->body(i).name, model_.body(i).name);
    EXPECT_EQ(back->body(i).kind, model_.body(i).kind);
    EXPECT_EQ(back->body(i).colour, model_.body(i).colour);
    EXPECT_NEAR(back->only(i).area(), model_.only(i).area(), 1e-6);
  }
  std::ifstream file(path);
  const std::string text((std::istreambuf_iterator<char>(file)), {});
  std::size_t products = 0;
  for (std::size_t at = 0; (at = text.find("=PRODUCT(", at)) != std::string::npos; ++at) ++products;
  if (products == 0)
    for (std::size_t at = 0; (at = text.find("= PRODUCT(", at)) != std::string::npos; ++at)
      ++products;
  EXPECT_EQ(products, 3U);
}

TEST_F(HandedOn, ThreeMfHasAnObjectForEach) {
  const auto path = folder_ / "part.3mf";
  ASSERT_TRUE(io::write_model(path, model_, "part"));
  const auto back = io::read_mesh(path);
  ASSERT_TRUE(back) << back.error().message;
  const auto shape = model::tessellate(model_);
  EXPECT_EQ(back->mesh.triangles.size(), shape->mesh.triangles.size());
}

TEST_F(HandedOn, AnImportedModelTakesFeaturesAndItsFacesKeepTheirNamesInAnyOrder) {
  const auto one = folder_ / "one.step";
  const auto other = folder_ / "other.step";
  ASSERT_TRUE(io::write_step(one, model_, "part"));
  std::vector<model::BodyShape> turned(model_.impl().bodies.rbegin(), model_.impl().bodies.rend());
  ASSERT_TRUE(io::write_step(other, model::make_model(turned, {}, "turned"), "part"));
  std::vector<std::set<std::string>> names;
  for (const auto& path : {one, other}) {
    const auto imported = io::import_step(path);
    ASSERT_TRUE(imported) << imported.error().message;
    PartBuilder part;
    part.then(model::Import{*imported});
    const Model brought = part.solid();
    EXPECT_EQ(brought.body_count(), 3U);
    EXPECT_NEAR(brought.volume(), model_.volume(), 1e-6 * model_.volume());
    names.emplace_back();
    for (std::size_t f = 0; f < brought.face_count(); ++f)
      names.back().insert(brought.face_name(f));
    EXPECT_EQ(names.back().size(), brought.face_count());
    // A hole in the block, a boss on it.
    part.box({2, 2}, {4, 4}, 0, 10, Operation::Cut).disc({7, 7}, 2, 10, 15);
    EXPECT_NEAR(part.solid().volume(), brought.volume() - 40 + std::numbers::pi * 20, 1e-6);
    EXPECT_EQ(part.solid().body_count(), 3U);
  }
  EXPECT_EQ(names[0], names[1]);
}

TEST_F(HandedOn, AProjectKeepsImportsLooksAndTheModelTheyMake) {
  const auto step = folder_ / "part.step";
  ASSERT_TRUE(io::write_step(step, model_, "part"));
  const auto imported = io::import_step(step);
  ASSERT_TRUE(imported);
  project::Document document;
  document = project::add_step(document, model::Import{*imported}, "bought part", {}).document;
  const std::string key = "s" + std::to_string(document.steps.front().id);
  const auto looked =
      project::with_body_look(document, key, {"casting", model::Colour{1, 2, 3}, false});
  ASSERT_TRUE(looked);
  EXPECT_FALSE(project::with_body_look(document, key, {"  ", {}, true}));
  const auto path = folder_ / "part.lostline";
  ASSERT_TRUE(store::save_project(path, *looked));
  std::filesystem::remove(step);  // the project has it
  const auto back = store::load_project(path);
  ASSERT_TRUE(back) << back.error().message;
  EXPECT_EQ(back->bodies, looked->bodies);
  model::RouteCache cache;
  const auto made = model::recompute(back->steps, back->placed_sketches(), cache);
  ASSERT_EQ(made->back().state, model::StepState::Sound) << made->back().reason;
  const Model shown = project::dressed(*back, made->back().solid);
  ASSERT_EQ(shown.body_count(), 3U);
  EXPECT_EQ(shown.body(0).name, "casting");
  EXPECT_EQ(shown.body(0).colour, (model::Colour{1, 2, 3}));
  EXPECT_EQ(shown.body(1).name, "pin");
  EXPECT_NEAR(shown.volume(), model_.volume(), 1e-6 * model_.volume());
}

TEST_F(HandedOn, DeviationTellsBodiesApart) {
  const auto comparator = deviation::Comparator::build(model_);
  ASSERT_TRUE(comparator);
  // 0.2 proud of the block, 0.1 short of the pin, on either side of the skin.
  const std::vector<Vec3> points{
      {5, 5, 10.2}, {5, -0.2, 5}, {25, 5, 11.9}, {5, 20.3, 4}, {5, 19.7, 4}};
  const auto map = comparator->compare(points);
  ASSERT_TRUE(map);
  EXPECT_EQ(deviation::bodies_of(*map, model_), (std::vector<std::uint32_t>{0, 0, 1, 2, 2}));
  EXPECT_NEAR(map->value[0], 0.2, 1e-6);
  EXPECT_NEAR(map->value[2], -0.1, 1e-6);
  EXPECT_NEAR(std::abs(map->value[3]), 0.3, 1e-6);
  EXPECT_NEAR(map->value[3], -map->value[4], 1e-6);  // one side of a surface is proud
}

}  // namespace
}  // namespace lostline::testing
