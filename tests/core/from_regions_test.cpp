// Sketch and step straight from picked regions, on scans of parts whose sizes only the test knows.
#include "reading/from_regions.h"

#include <gtest/gtest.h>

#include "model/route.h"
#include "model/steps/extrude/extrude.h"
#include "model/steps/patch_face/patch_face.h"
#include "model/steps/pipe_run/pipe_run.h"
#include "model/steps/revolve/revolve.h"
#include "project/datums.h"
#include "steps/step_trial.h"

namespace lostline {
namespace {

using reading::Making;
using testing::PartBuilder;

/// The region that lies nearest to a place.
std::uint32_t region_at(const project::Document& d, const Vec3& place) {
  const auto nearest = d.scan->index->nearest(place);
  return d.survey->triangle_region[nearest->triangle];
}

model::Model built(const project::Document& d) {
  model::RouteCache cache;
  const auto results = model::recompute(d.steps, d.placed_sketches(), cache);
  EXPECT_TRUE(results);
  EXPECT_EQ(results->back().state, model::StepState::Sound) << results->back().reason;
  return results->back().solid;
}

TEST(FromRegions, WallsBecomeAnExtrudeBetweenTheFlatsOfTheScan) {
  for (const double size : {0.5, 1.0, 8.0}) {
    const model::Model part =
        PartBuilder().box({-30 * size, -20 * size}, {30 * size, 20 * size}, 0, 25 * size).solid();
    const project::Document d = testing::scan_document(part, 1.1 * size, 0.01 * size, 5);
    const std::vector<std::uint32_t> walls{
        region_at(d, size * Vec3(30, 0, 12)), region_at(d, size * Vec3(-30, 0, 12)),
        region_at(d, size * Vec3(0, 20, 12)), region_at(d, size * Vec3(0, -20, 12))};
    const auto made = reading::from_regions(d, walls, Making::Extrude);
    ASSERT_TRUE(made) << made.error().message;
    const auto added = reading::add_from_regions(d, *made, "block");
    ASSERT_TRUE(added) << added.error().message;
    EXPECT_NEAR(built(added->document).volume(), part.volume(), 0.003 * part.volume());
    // Each level is a row with what the scan says.
    ASSERT_EQ(made->readings.size(), 2U);
    for (const auto& r : made->readings) {
      ASSERT_TRUE(r.reading);
      EXPECT_NEAR(*r.reading, std::string(r.field) == "to" ? 25 * size : 0, 0.02 * size);
    }
    // Two opposite walls alone do not say which way; with one across them they do.
    EXPECT_FALSE(reading::from_regions(d, {walls[0], walls[1]}, Making::Extrude));
    const auto across = reading::from_regions(
        d, {walls[0], walls[1], region_at(d, size * Vec3(0, 0, 25))}, Making::Extrude);
    ASSERT_TRUE(across) << across.error().message;
    EXPECT_EQ(across->sketch.plane, project::DatumPlane::Xz);
  }
}

TEST(FromRegions, ABoreIsCutThroughAndAPocketToItsFloor) {
  const model::Model plate = PartBuilder().box({-40, -30}, {40, 30}, 0, 20).solid();
  const model::Model part = PartBuilder()
                                .box({-40, -30}, {40, 30}, 0, 20)
                                .disc({-18, 0}, 9, 0, 20, model::Operation::Cut)
                                .disc({18, 0}, 10, 8, 20, model::Operation::Cut)
                                .solid();
  const project::Document d = testing::scan_document(part, 0.9, 0.01, 6);
  const std::vector<std::uint32_t> walls{region_at(d, {40, 20, 10}), region_at(d, {-40, 20, 10}),
                                         region_at(d, {0, 30, 10}), region_at(d, {0, -30, 10})};
  const auto block = reading::from_regions(d, walls, Making::Extrude);
  ASSERT_TRUE(block) << block.error().message;
  auto added = reading::add_from_regions(d, *block, "plate");
  ASSERT_TRUE(added);
  EXPECT_NEAR(built(added->document).volume(), plate.volume(), 0.003 * plate.volume());
  for (const double x : {-18.0, 18.0}) {
    const auto bore = reading::from_regions(
        added->document, {region_at(d, {x + (x < 0 ? 9 : 10), 0, 14})}, Making::Extrude);
    ASSERT_TRUE(bore) << bore.error().message;
    const auto* e = bore->feature.as<model::Extrude>();
    ASSERT_NE(e, nullptr);
    EXPECT_EQ(e->operation, model::Operation::Cut);
    EXPECT_EQ(e->extent.reach == model::Reach::Through, x < 0) << bore->said;
    added = reading::add_from_regions(added->document, *bore, "bore");
    ASSERT_TRUE(added);
  }
  EXPECT_NEAR(built(added->document).volume(), part.volume(), 0.003 * part.volume());
}

TEST(FromRegions, WhatWasTurnedIsTurnedAgain) {
  const model::Model part = PartBuilder()
                                .disc({0, 0}, 30, 0, 12)
                                .disc({0, 0}, 18, 12, 40)
                                .disc({0, 0}, 8, 0, 40, model::Operation::Cut)
                                .solid();
  const project::Document d = testing::scan_document(part, 0.9, 0.01, 7);
  const auto made = reading::from_regions(d, {region_at(d, {18, 0, 26})}, Making::Revolve);
  ASSERT_TRUE(made) << made.error().message;
  EXPECT_NE(made->said.find("about z"), std::string::npos) << made->said;
  const auto added = reading::add_from_regions(d, *made, "turned");
  ASSERT_TRUE(added) << added.error().message;
  EXPECT_NEAR(built(added->document).volume(), part.volume(), 0.005 * part.volume());
}

TEST(FreeSteps, FollowTheScanIntoAnotherFrame) {
  const model::Model part = PartBuilder().box({-30, -20}, {30, 20}, 0, 25).solid();
  project::Document d = testing::scan_document(part, 2, 0.01, 9);
  model::PipeRun pipe;
  pipe.path.corners = {Vec3(0, 0, 0), Vec3(50, 0, 0), Vec3(50, 60, 5)};
  pipe.path.bends = {15};
  auto face = std::make_shared<patch::SplineSurface>(patch::SplineSurface::even(4, 4));
  for (std::size_t k = 0; k < 16; ++k)
    face->poles[k] = Vec3(static_cast<double>(k / 4), static_cast<double>(k % 4), 0.5);
  d = project::add_step(d, pipe, "pipe", {}).document;
  d = project::add_step(d, model::PatchFace{face}, "patch", {}).document;
  const Transform motion =
      Eigen::Translation3d(7, -3, 11) * Eigen::AngleAxisd(0.7, Vec3(1, 2, 3).normalized());
  const auto turned = project::set_frame_upon(d, motion, {});
  ASSERT_TRUE(turned) << turned.error().message;
  const auto& path = turned->steps[0].feature.as<model::PipeRun>()->path;
  for (std::size_t k = 0; k < 3; ++k)
    EXPECT_LT((path.corners[k] - motion * pipe.path.corners[k]).norm(), 1e-9);
  const auto& moved = *turned->steps[1].feature.as<model::PatchFace>()->face;
  for (std::size_t k = 0; k < 16; ++k)
    EXPECT_LT((moved.poles[k] - motion * face->poles[k]).norm(), 1e-9);
}

TEST(FromRegions, WhatDisagreesIsNamed) {
  const model::Model part = PartBuilder().box({-30, -20}, {30, 20}, 0, 25).solid();
  project::Document d = testing::scan_document(part, 1.1, 0.01, 8);
  EXPECT_EQ(reading::from_regions(d, {}, Making::Extrude).error().code, ErrorCode::InvalidInput);
  EXPECT_FALSE(reading::from_regions(d, {99}, Making::Extrude));
  EXPECT_FALSE(reading::from_regions(d, {region_at(d, {30, 0, 12})}, Making::Revolve));
  d.survey = nullptr;
  EXPECT_NE(reading::from_regions(d, {1}, Making::Extrude).error().message.find("Survey"),
            std::string::npos);
}

}  // namespace
}  // namespace lostline
