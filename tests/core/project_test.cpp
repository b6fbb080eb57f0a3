// Frames, nominals, the project file and its damage.
#include <gtest/gtest.h>
#include <unistd.h>

#include <filesystem>
#include <fstream>
#include <random>

#include "core/full_disk.h"
#include "datum/frame.h"
#include "model/steps/extrude/extrude.h"
#include "project/edits.h"
#include "project/formula.h"
#include "project/ledger.h"
#include "store/manifest.h"
#include "store/project_file.h"
#include "support/places.h"

namespace lostline {
namespace {

namespace fs = std::filesystem;

fit::Surface flat_at(const Vec3& point, const Vec3& normal) {
  fit::Surface s;
  s.point = point;
  s.axis = normal.normalized();
  return s;
}
fit::Surface axis(const Vec3& point, const Vec3& direction) {
  fit::Surface s = flat_at(point, direction);
  s.kind = fit::Kind::Cylinder;
  s.radius = 5;
  return s;
}

TEST(Frame, ThreePlanesMeetInTheOrigin) {
  Transform pose = Transform::Identity();
  pose.linear() = Eigen::AngleAxisd(0.7, Vec3(1, 2, 3).normalized()).toRotationMatrix();
  pose.translation() = Vec3(100, -50, 20);
  const auto moved = [&](const fit::Surface& s) { return fit::transformed(s, pose); };
  datum::FrameInput input;
  input.primary = moved(flat_at({3, 4, 0}, {0, 0, -1}));
  input.primary_axis = datum::Axis::MinusZ;
  input.secondary = {moved(flat_at({0, 9, 5}, {-1, 0.001, 0}))};
  input.secondary_axis = datum::Axis::MinusX;
  input.origin = {moved(flat_at({1, 0, 2}, {0, -1, 0}))};
  const auto frame = datum::frame_321(input);
  ASSERT_TRUE(frame) << frame.error().message;
  const Vec3 corner = frame->to_part * (pose * Vec3(0.009, 0, 0));
  EXPECT_NEAR(corner.norm(), 0, 0.02);
  EXPECT_NEAR(std::abs(frame->to_part.linear().determinant()), 1, 1e-12);
  EXPECT_NEAR((frame->to_part.linear() * input.primary.axis - Vec3(0, 0, -1)).norm(), 0, 1e-12);
}

TEST(Frame, TwoHolesGiveTheirMidpointAndLine) {
  datum::FrameInput input;
  input.primary = flat_at({0, 0, 0}, {0, 0, 1});
  input.primary_axis = datum::Axis::Z;
  input.secondary = {axis({10, 10, 3}, {0, 0, 1}), axis({50, 40, -7}, {0, 0, 1})};
  const auto frame = datum::frame_321(input);
  ASSERT_TRUE(frame);
  EXPECT_NEAR((frame->to_part * Vec3(30, 25, 0)).norm(), 0, 1e-9);
  EXPECT_NEAR((frame->to_part * Vec3(50, 40, 0) - Vec3(25, 0, 0)).norm(), 0, 1e-9);
}

TEST(Frame, RefusesWhatFixesTooLittle) {
  datum::FrameInput input;
  input.primary = flat_at({0, 0, 0}, {0, 0, 1});
  EXPECT_NE(datum::frame_321(input).error().message.find("secondary"), std::string::npos);
  input.secondary = {flat_at({0, 0, 5}, {0, 0.001, 1})};
  EXPECT_NE(datum::frame_321(input).error().message.find("parallel"), std::string::npos);
  input.secondary = {flat_at({0, 0, 5}, {1, 0, 0})};
  EXPECT_NE(datum::frame_321(input).error().message.find("origin"), std::string::npos);
  input.secondary = {axis({1, 1, 0}, {0, 0, 1}), axis({1, 1, 9}, {0, 0, 1})};
  EXPECT_NE(datum::frame_321(input).error().message.find("coincide"), std::string::npos);
  EXPECT_FALSE(datum::parse_axis("up"));
}

TEST(Nominals, ClearanceHolesFollowTheStandardsOwnPattern) {
  // Second route: the medium series lies above the thread by the steps of ISO 273 (0.2 to M2, 0.4
  // to M5 …), fine below it, coarse above.
  for (const standards::ClearanceHole& c : standards::clearance_holes()) {
    const double d = std::stod(std::string(c.thread).substr(1));
    EXPECT_LT(d, c.fine);
    EXPECT_LT(c.fine, c.medium);
    EXPECT_LT(c.medium, c.coarse);
    EXPECT_LE(c.coarse - d, 0.1 * d + 2.7) << c.thread;
    const double step = d < 2    ? 0.2
                        : d < 5  ? 0.5
                        : d < 8  ? 0.6
                        : d < 12 ? 1.0
                        : d < 18 ? 1.5
                        : d < 27 ? 2
                                 : 3;
    EXPECT_NEAR(c.medium - d, step, 0.101) << c.thread;
  }
}

TEST(Nominals, RankTheLikelyFirstAndSayWhy) {
  const auto hole = standards::nominals_near(13.497, 0.01, standards::Quantity::Diameter, true);
  ASSERT_FALSE(hole.empty());
  EXPECT_DOUBLE_EQ(hole[0].value, 13.5);
  EXPECT_NE(hole[0].reason.find("ISO 273, M12 medium"), std::string::npos);
  EXPECT_NE(hole[0].reason.find("within U"), std::string::npos);
  EXPECT_DOUBLE_EQ(standards::nominals_near(61.97, 0.02, standards::Quantity::Diameter)[0].value,
                   62);
  EXPECT_DOUBLE_EQ(standards::nominals_near(1.48, 0.05, standards::Quantity::Angle)[0].value, 1.5);
  EXPECT_TRUE(standards::nominals_near(std::nan(""), 0.1, standards::Quantity::Length).empty());
  for (const auto& n : standards::nominals_near(20.02, 0.001, standards::Quantity::Length))
    EXPECT_GT(n.value, 0);
}

class ProjectFile : public ::testing::Test {
 protected:
  void SetUp() override {
    path_ = testing::scratch() / "p.lostline";
    scan::Mesh mesh;
    for (int i = 0; i < 20; ++i) {
      for (int j = 0; j < 20; ++j) mesh.vertices.emplace_back(i, j, 0.001 * i * j);
    }
    for (std::uint32_t i = 0; i < 19; ++i) {
      for (std::uint32_t j = 0; j < 19; ++j) {
        mesh.triangles.push_back({20 * i + j, 20 * (i + 1) + j, 20 * i + j + 1});
        mesh.triangles.push_back({20 * i + j + 1, 20 * (i + 1) + j, 20 * (i + 1) + j + 1});
      }
    }
    document_ = project::with_scan(
        {}, *project::prepare_scan(mesh, "plate", "plate.stl", Unit::Millimetre));
    project::Dimension row;
    row.id = document_.next_id++;
    row.name = "width, \"outer\"";
    row.reading = 19.02;
    row.u = 0.03;
    row.owner.fits = {{1, 0}, {2, 0}};
    document_.dimensions.push_back(row);
  }
  void TearDown() override { fs::remove(path_); }
  fs::path path_;
  project::Document document_;
};

TEST_F(ProjectFile, ComesBackAsItWas) {
  ASSERT_TRUE(store::save_project(path_, document_));
  const auto back = store::load_project(path_);
  ASSERT_TRUE(back) << back.error().message;
  EXPECT_EQ(back->title, "plate");
  EXPECT_EQ(back->scan->mesh->triangles, document_.scan->mesh->triangles);
  EXPECT_EQ(back->scan->mesh->vertices[37], document_.scan->mesh->vertices[37]);
  EXPECT_EQ(store::ledger_csv(*back), store::ledger_csv(document_));
  EXPECT_NE(store::ledger_csv(*back).find("\"width, \"\"outer\"\"\""), std::string::npos);
}

TEST_F(ProjectFile, AFileOfTheFirstVersionOpens) {
  const auto old = store::load_project(testing::data_dir() + "/project/plate-v1.lostline");
  ASSERT_TRUE(old) << old.error().message;
  EXPECT_EQ(old->title, "plate");
  EXPECT_EQ(old->scan->mesh->triangles.size(), 722U);
  EXPECT_EQ(old->dimensions.size(), 1U);
}

TEST_F(ProjectFile, AFileOfTheSecondVersionOpensWithItsRelation) {
  const auto old = store::load_project(testing::data_dir() + "/project/plate-v2.lostline");
  ASSERT_TRUE(old) << old.error().message;
  ASSERT_EQ(old->fits.size(), 2U);
  EXPECT_GT(old->fits[1]->alone.points, 100U);
  ASSERT_EQ(old->relations.size(), 1U);
  EXPECT_EQ(old->relations[0].type, fit::RelationType::Parallel);
  EXPECT_EQ(old->relations[0].a.fit, old->fits[1]->id);
  EXPECT_EQ(old->relations[0].b.fit, old->fits[0]->id);
  ASSERT_EQ(old->steps.size(), 1U);
  EXPECT_TRUE(old->steps[0].parked);
  EXPECT_EQ(old->dimensions.size(), 1U);
}

TEST_F(ProjectFile, AFileOfTheThirdVersionOpens) {
  const auto old = store::load_project(testing::data_dir() + "/project/plate-v3.lostline");
  ASSERT_TRUE(old) << old.error().message;
  EXPECT_EQ(old->fits.size(), 2U);
  EXPECT_EQ(old->relations.size(), 1U);
  EXPECT_EQ(old->views.size(), 1U);
  EXPECT_FALSE(old->fits[0]->construction);
}

TEST_F(ProjectFile, AFileOfTheFourthVersionOpens) {
  const auto old = store::load_project(testing::data_dir() + "/project/plate-v4.lostline");
  ASSERT_TRUE(old) << old.error().message;
  ASSERT_EQ(old->fits.size(), 1U);
  EXPECT_TRUE(old->fits[0]->construction);
  EXPECT_TRUE(old->frame);
  EXPECT_EQ(old->other_scans.size(), 1U);
  ASSERT_EQ(old->steps.size(), 1U);
  const auto* e = old->steps[0].feature.as<model::Extrude>();
  ASSERT_NE(e, nullptr);
  EXPECT_EQ(e->areas.size(), 1U);
  EXPECT_EQ(e->extent.reach, model::Reach::Levels);
  // What it holds is written again as it was.
  ASSERT_TRUE(store::save_project(path_, *old));
  const auto again = store::load_project(path_);
  ASSERT_TRUE(again);
  EXPECT_EQ(store::write_manifest(*again).dump(), store::write_manifest(*old).dump());
}

TEST_F(ProjectFile, EverythingComesBack) {
  project::Document d = project::with_other_scan(document_, document_.scan);
  project::TypedReading caliper{19.05, 0.02, "caliper"};
  const auto typed = project::add_typed(d, d.dimensions[0].id, caliper);
  ASSERT_TRUE(typed);
  d = *typed;
  d.dimensions[0].owner.points = {{1, 2, 3}};
  d.dimensions[0].expression = "{7} / 2";
  d.views.push_back({"worst", {1, 2, 3}, {0, 1, 0}, {0, 0, 1}, 55, true, false, true});
  project::TracedSketch t;
  t.id = d.next_id++;
  t.name = "profile";
  t.turn = project::Turn{0.5, true};
  t.on.datum = 2;
  d.sketches.push_back(std::make_shared<const project::TracedSketch>(t));
  auto frame = std::make_shared<project::DatumFrame>();
  frame->extremes = true;
  frame->upon = project::BroughtUpon{"plate.step", 0.02, 0.9, 0.97};
  d.frame = frame;
  project::Fit middle;
  middle.id = d.next_id++;
  middle.name = "midplane";
  middle.triangles = std::make_shared<const std::vector<std::uint32_t>>();
  middle.construction =
      project::Construction{project::Construction::Type::Midplane, {{1, 0}, {2, 0}}};
  d.fits.push_back(std::make_shared<const project::Fit>(middle));
  model::Extrude e;
  e.areas = {{4, 5}};
  d = project::add_step(d, e, "pad", {}).document;
  ASSERT_TRUE(store::save_project(path_, d));
  const auto back = store::load_project(path_);
  ASSERT_TRUE(back) << back.error().message;
  EXPECT_EQ(store::write_manifest(*back).dump(), store::write_manifest(d).dump());
  ASSERT_EQ(back->other_scans.size(), 1U);
  // The manifest follows the published schema, in the eyes of a reader that is not ours.
  const fs::path manifest = path_.string() + ".json";
  std::ofstream(manifest) << store::write_manifest(d).dump();
  const std::string ask =
      testing::python() +
      " -c \"import json,jsonschema,sys; jsonschema.validate(*[json.load(open(p)) "
      "for p in sys.argv[1:]])\" " +
      manifest.string() + " " + testing::source_dir() + "/docs/design/project.schema.json";
  EXPECT_EQ(std::system(ask.c_str()), 0);
  fs::remove(manifest);
  EXPECT_EQ(back->other_scans[0]->mesh->triangles, d.scan->mesh->triangles);
  EXPECT_EQ(back->sketches[0]->turn, d.sketches[0]->turn);
}

TEST_F(ProjectFile, DamageIsSaidAndNeverCrashes) {
  ASSERT_TRUE(store::save_project(path_, document_));
  std::ifstream file(path_, std::ios::binary);
  const std::string good((std::istreambuf_iterator<char>(file)), {});
  std::mt19937_64 random(7);
  int refused = 0;
  for (int i = 0; i < 150; ++i) {
    std::string bad = good;
    if (i % 3 == 0)
      bad.resize(random() % bad.size());
    else
      for (int k = 0; k < 8; ++k) bad[random() % bad.size()] = static_cast<char>(random());
    std::ofstream(path_, std::ios::binary) << bad;
    const auto back = store::load_project(path_);
    if (back) continue;
    ++refused;
    EXPECT_NE(back.error().message.find(path_.filename().string()), std::string::npos)
        << back.error().message;
  }
  EXPECT_GT(refused, 100);
  std::ofstream(path_, std::ios::trunc).close();
  EXPECT_NE(store::load_project(path_).error().message.find("empty"), std::string::npos);
}

TEST_F(ProjectFile, WhatNamesThingsThatAreNotThereIsRefused) {
  // Written as it stands; a reader must not follow it.
  project::Document d = document_;
  project::Fit fit;
  fit.id = 77;
  fit.name = "stray";
  fit.triangles = std::make_shared<const std::vector<std::uint32_t>>(
      std::vector<std::uint32_t>{0, 1000000000U});
  d.fits.push_back(std::make_shared<const project::Fit>(fit));
  ASSERT_TRUE(store::save_project(path_, d));
  auto back = store::load_project(path_);
  ASSERT_FALSE(back);
  EXPECT_NE(back.error().message.find("triangles that the scan does not have"), std::string::npos)
      << back.error().message;

  d = document_;
  auto traced = std::make_shared<project::TracedSketch>();
  traced->id = 78;
  traced->name = "loose";
  const auto a = traced->sketch.add_point({0, 0});
  traced->sketch.add_line(a, 4711);
  d.sketches.push_back(traced);
  ASSERT_TRUE(store::save_project(path_, d));
  back = store::load_project(path_);
  ASSERT_FALSE(back);
  EXPECT_NE(back.error().message.find("names something that is not there"), std::string::npos)
      << back.error().message;
}

TEST_F(ProjectFile, SavingWhereNothingCanBeWrittenSaysSo) {
  const Status status = store::save_project("/no/such/folder/x.lostline", document_);
  ASSERT_FALSE(status);
  EXPECT_EQ(status.error().code, ErrorCode::Io);
}

TEST_F(ProjectFile, AFullDiskLeavesTheOldProject) {
  ASSERT_TRUE(store::save_project(path_, document_));
  const auto size = fs::file_size(path_);
  project::Document changed = document_;
  changed.title = "changed";
  Status status = Done{};
  {
    const testing::FullDisk full(1000);
    status = store::save_project(path_, changed);
  }
  ASSERT_FALSE(status);
  EXPECT_EQ(status.error().code, ErrorCode::Io) << status.error().message;
  EXPECT_EQ(fs::file_size(path_), size);
  const auto back = store::load_project(path_);
  ASSERT_TRUE(back) << back.error().message;
  EXPECT_EQ(back->title, "plate");
}

TEST(Ink, ADecisionNeedsAValueThatMakesSense) {
  project::Document d;
  project::Dimension row;
  row.id = 1;
  row.name = "\u2300 bore";
  row.quantity = standards::Quantity::Diameter;
  row.reading = 41.97;
  d.dimensions.push_back(row);
  EXPECT_FALSE(project::ink(d, 1, -3, "typed"));
  EXPECT_FALSE(project::ink(d, 1, std::nan(""), "typed"));
  EXPECT_FALSE(project::ink(d, 99, 42, "typed"));
  const auto inked = project::ink(d, 1, 42, "whole");
  ASSERT_TRUE(inked);
  EXPECT_DOUBLE_EQ(inked->dimensions[0].value(), 42);
  EXPECT_DOUBLE_EQ(*inked->dimensions[0].reading, 41.97);  // the evidence stays
  const auto lifted = project::lift(*inked, 1);
  ASSERT_TRUE(lifted);
  EXPECT_DOUBLE_EQ(lifted->dimensions[0].value(), 41.97);
}

}  // namespace
}  // namespace lostline
