// Which region of the scan a traced curve rests on.
#include "reading/curve_evidence.h"

#include <gtest/gtest.h>

#include "plate_scan.h"
#include "project/sketch_plane.h"
#include "sketch/curve_kind.h"

namespace lostline {
namespace {

class CurvesOfAPlate : public testing::PlateJob {
 protected:
  static project::TracedSketch traced() {
    project::TracedSketch t = half_height();
    t.section = project::cut_scan(*framed_, t.base, t.level);
    return t;
  }
  static std::vector<reading::CurveEvidence> evidence(const project::Document& d,
                                                      const project::TracedSketch& t) {
    return reading::curve_evidence(d, t, sketch::measure_drift(t.sketch, t.section, t.reach()));
  }
};

TEST_F(CurvesOfAPlate, RestOnTheRegionsThatTheSectionRunsThrough) {
  const project::TracedSketch t = traced();
  const auto found = evidence(*framed_, t);
  ASSERT_EQ(found.size(), 5U);
  std::set<std::uint32_t> regions;
  for (const auto& e : found) {
    EXPECT_GT(e.share, 0.95);
    regions.insert(e.region);
    const sketch::Entity& entity = *t.sketch.find_entity(e.entity);
    if (sketch::kind_of(entity).has_radius()) {
      EXPECT_EQ(e.region, bore());
      continue;
    }
    const auto region =
        std::find_if(framed_->survey->regions.begin(), framed_->survey->regions.end(),
                     [&](const auto& r) { return r.id == e.region; });
    ASSERT_NE(region, framed_->survey->regions.end());
    const Vec2 along = (t.sketch.position(entity.b) - t.sketch.position(entity.a)).normalized();
    const Vec3 wall = framed_->to_part().linear() * region->fit->surface.axis;
    EXPECT_LT(std::abs(wall.dot(t.base.x * along.x() + t.base.y * along.y())), 0.01);
  }
  EXPECT_EQ(regions.size(), 5U);
}

TEST_F(CurvesOfAPlate, RestOnNothingWhereNoRegionIs) {
  const project::TracedSketch t = traced();
  project::Document without = *framed_;
  without.survey = nullptr;
  EXPECT_TRUE(evidence(without, t).empty());

  // Most of one wall in no region: its line has no evidence, and the other curves keep theirs.
  const std::uint32_t wall = region({1, 0, 0});
  auto survey = std::make_shared<survey::Survey>(*framed_->survey);
  int seen = 0;
  for (std::uint32_t& r : survey->triangle_region) {
    if (r == wall && ++seen % 5 != 0) r = 0;
  }
  without.survey = survey;
  const auto left = evidence(without, t);
  EXPECT_EQ(left.size(), 4U);
  for (const auto& e : left) EXPECT_NE(e.region, wall);

  // Where each point came from is not known: an outline, a file.
  project::TracedSketch drawn = t;
  for (auto& line : drawn.section.polylines) line.triangles.clear();
  EXPECT_TRUE(evidence(*framed_, drawn).empty());
}

}  // namespace
}  // namespace lostline
