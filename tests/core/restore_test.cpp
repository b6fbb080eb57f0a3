// What is added and taken back leaves the document as it was, bit by bit.
#include <nlohmann/json.hpp>

#include "model/steps/extrude/extrude.h"
#include "model/steps/fillet/fillet.h"
#include "plate_scan.h"
#include "project/bodies.h"
#include "project/edits.h"
#include "project/fits.h"
#include "project/ledger.h"
#include "project/relations.h"
#include "store/manifest.h"

namespace lostline {
namespace {

using project::Document;

/// Everything that a project file would hold, but the next number to give out, which never goes
/// back. Doubles are written so that they read back the same.
std::string state_of(const Document& document) {
  Document d = document;
  d.next_id = 0;
  return store::write_manifest(d).dump();
}

class Restored : public testing::PlateJob {
 protected:
  /// The plate with a sketch, its dimensions, two steps and two fits.
  static Document job() {
    project::TracedSketch t = half_height();
    std::vector<sketch::Id> sides;
    for (const auto& e : t.sketch.entities) {
      if (e.type == sketch::EntityType::Line) sides.push_back(e.id);
      if (e.type == sketch::EntityType::Circle)
        t.sketch.add_constraint(sketch::ConstraintType::Radius, e.id);
    }
    const auto added = project::add_sketch(*framed_, t);
    EXPECT_TRUE(added) << added.error().message;
    model::Extrude plate;
    plate.sketch = added->id;
    plate.extent.to.value = testing::PlateScan::kHeight;
    Document d =
        project::add_step(added->document, plate, "plate",
                          {{"from", 0.0, 0.01, "scan", {}}, {"to", 10.0, 0.01, "scan", {}}})
            .document;
    for (const std::uint32_t region : {region_up(), bore()}) {
      project::FitRequest request;
      request.kind = d.survey->regions[region - 1].fit->surface.kind;
      request.triangles = std::make_shared<const std::vector<std::uint32_t>>(
          survey::triangles_of(*d.survey, region));
      const auto trial = project::try_fit(d, request);
      EXPECT_TRUE(trial) << trial.error().message;
      d = project::add_fit(d, *trial).document;
    }
    return d;
  }
  static std::uint32_t region_up() { return region({0, 0, 1}); }
};

TEST_F(Restored, AStepAddedAndRemoved) {
  const Document d = job();
  model::Extrude boss;
  boss.sketch = d.sketches.front()->id;
  boss.extent.from.value = 10;
  boss.extent.to.value = 14;
  const auto added = project::add_step(d, boss, "boss", {{"to", 14.0, 0.02, "scan", 14.0}});
  EXPECT_NE(state_of(added.document), state_of(d));
  EXPECT_EQ(state_of(project::remove_step(added.document, added.id)), state_of(d));
}

TEST_F(Restored, AStepParkedMovedOrRenamedAndBack) {
  Document d = job();
  model::Fillet round;
  round.radius.value = 1;
  d = project::add_step(d, round, "round", {}).document;
  const project::Id id = d.steps.back().id;
  EXPECT_EQ(state_of(project::set_parked(project::set_parked(d, id, true), id, false)),
            state_of(d));
  const auto renamed = project::rename_step(d, id, "other");
  ASSERT_TRUE(renamed);
  EXPECT_EQ(state_of(*project::rename_step(*renamed, id, "round")), state_of(d));
}

TEST_F(Restored, ADecisionInkedAndLifted) {
  const Document d = job();
  int tried = 0;
  for (const project::Dimension& row : d.dimensions) {
    if (!row.reading) continue;
    const auto inked = project::ink(d, row.id, *row.reading + 0.02, "trial");
    ASSERT_TRUE(inked) << inked.error().message;
    EXPECT_NE(state_of(*inked), state_of(d)) << row.name;
    const auto lifted = project::lift(*inked, row.id);
    ASSERT_TRUE(lifted) << lifted.error().message;
    // Readings come from a fit without decisions and are the same to the last bit.
    for (std::size_t i = 0; i < d.dimensions.size(); ++i) {
      EXPECT_EQ(lifted->dimensions[i].reading.has_value(), d.dimensions[i].reading.has_value());
      if (d.dimensions[i].reading) {
        EXPECT_NEAR(*lifted->dimensions[i].reading, *d.dimensions[i].reading, 1e-9) << row.name;
      }
      EXPECT_EQ(lifted->dimensions[i].intent, d.dimensions[i].intent);
      EXPECT_EQ(lifted->dimensions[i].reason, d.dimensions[i].reason);
    }
    ++tried;
  }
  EXPECT_GE(tried, 3);
}

TEST_F(Restored, ARelationImposedAndTakenAway) {
  const Document d = job();
  project::FitRelation square;
  square.id = d.next_id;
  square.type = fit::RelationType::Perpendicular;
  square.a = {0, d.fits[0]->id};
  square.b = {0, d.fits[1]->id};
  const auto imposed = project::set_relations(d, {square}, {});
  ASSERT_TRUE(imposed) << imposed.error().message;
  EXPECT_EQ(imposed->relations.size(), 1U);
  const auto back = project::set_relations(*imposed, {}, {});
  ASSERT_TRUE(back) << back.error().message;
  EXPECT_EQ(state_of(*back), state_of(d));
}

TEST_F(Restored, ASketchAFitABodysLookAddedAndTakenBack) {
  const Document d = job();
  const auto sketch = project::add_sketch(d, half_height());
  ASSERT_TRUE(sketch);
  const auto without = project::remove_sketch(sketch->document, sketch->id);
  ASSERT_TRUE(without) << without.error().message;
  EXPECT_EQ(state_of(*without), state_of(d));

  project::FitRequest request;
  request.kind = fit::Kind::Plane;
  request.triangles = std::make_shared<const std::vector<std::uint32_t>>(
      survey::triangles_of(*d.survey, region({1, 0, 0})));
  const auto trial = project::try_fit(d, request);
  ASSERT_TRUE(trial);
  const auto fitted = project::add_fit(d, *trial);
  const auto removed = project::remove_fit(fitted.document, fitted.id);
  ASSERT_TRUE(removed) << removed.error().message;
  EXPECT_EQ(state_of(*removed), state_of(d));

  const auto looked = project::with_body_look(d, "s9", {"housing", model::Colour{9, 8, 7}, false});
  ASSERT_TRUE(looked);
  EXPECT_NE(state_of(*looked), state_of(d));
  EXPECT_EQ(state_of(*project::with_body_look(*looked, "s9", {})), state_of(d));
}

}  // namespace
}  // namespace lostline
