// Valley, worst places, coverage, what rests on what, and the report, on the plate.
#include <gtest/gtest.h>

#include <filesystem>
#include <fstream>

#include "deviation/places.h"
#include "model/steps/chamfer/chamfer.h"
#include "model/steps/extrude/extrude.h"
#include "model/steps/hole/hole.h"
#include "model/steps/mirror/mirror.h"
#include "model/steps/pattern/pattern.h"
#include "model/steps/revolve/revolve.h"
#include "plate_scan.h"
#include "project/fits.h"
#include "project/ledger.h"
#include "reading/evidence.h"
#include "reading/row_nominals.h"
#include "reading/valley.h"
#include "report/report.h"
#include "store/manifest.h"
#include "store/project_file.h"
#include "support/places.h"

namespace lostline {
namespace {

using project::Document;
using testing::PlateScan;

class Prove : public testing::PlateJob {
 protected:
  void SetUp() override {
    auto added = project::add_sketch(*framed_, half_height());
    ASSERT_TRUE(added) << added.error().message;
    sketch_ = added->id;
    for (const auto& e : added->document.find_sketch(sketch_)->sketch.entities) {
      if (e.type == sketch::EntityType::Circle) circle_ = e.id;
    }
    model::Extrude plate;
    plate.sketch = sketch_;
    document_ =
        project::add_step(added->document, plate, "plate",
                          {{"from", 0.002, 0.005, "level", {}}, {"to", 10.001, 0.005, "level", {}}})
            .document;
  }
  project::Id row(const std::string& name) {
    for (const auto& d : document_.dimensions) {
      if (d.name == name) return d.id;
    }
    ADD_FAILURE() << name;
    return 0;
  }
  Document document_;
  project::Id sketch_ = 0;
  sketch::Id circle_ = 0;
};

TEST_F(Prove, TheValleyIsDeepestAtTheTruth) {
  const auto inked = project::ink(document_, row("plate to"), 10.2, "wrong on purpose");
  ASSERT_TRUE(inked);
  const auto valley = reading::compute_valley(*inked, row("plate to"));
  ASSERT_TRUE(valley) << valley.error().message;
  EXPECT_NEAR(valley->lowest, PlateScan::kHeight, 0.01);
  EXPECT_GT(valley->points, 500U);
  ASSERT_GE(valley->samples.size(), 10U);
  // The deviation grows by the shift itself away from the bottom.
  const auto& last = valley->samples.back();
  EXPECT_NEAR(last.rms, std::abs(last.value - PlateScan::kHeight), 0.1 * last.rms + 0.02);
  for (std::size_t k = 1; k < valley->samples.size(); ++k)
    EXPECT_GT(valley->samples[k].value, valley->samples[k - 1].value);
}

TEST_F(Prove, AValleySaysWhatIsMissing) {
  EXPECT_FALSE(reading::compute_valley(document_, 9999));
  Document bare;
  project::Dimension measured;
  measured.id = 1;
  measured.owner.fits = {{1, 0}, {2, 0}};
  bare.dimensions.push_back(measured);
  EXPECT_FALSE(reading::compute_valley(bare, 1));  // a measurement shapes no model
  std::stop_source stop;
  stop.request_stop();
  const auto stopped =
      reading::compute_valley(document_, row("plate to"), {}, Task(stop.get_token()));
  ASSERT_FALSE(stopped);
  EXPECT_EQ(stopped.error().code, ErrorCode::Cancelled);
}

TEST_F(Prove, WorstPlacesAreWhereTheModelIsWrong) {
  // Without its bore the plate stands where the scan has a hole's wall.
  model::Extrude whole;
  whole.sketch = sketch_;
  for (const auto& e : document_.find_sketch(sketch_)->sketch.entities) {
    if (e.type == sketch::EntityType::Line) whole.loops = {e.id};
  }
  const auto changed = project::edit_step(document_, document_.steps[0].id, whole);
  ASSERT_TRUE(changed);
  model::RouteCache cache;
  const auto results = model::recompute(changed->steps, changed->placed_sketches(), cache);
  ASSERT_TRUE(results);
  const model::Model solid = results->back().solid;
  const auto comparator = deviation::Comparator::build(solid);
  ASSERT_TRUE(comparator);
  std::vector<Vec3> points;
  for (const Vec3& v : changed->scan->mesh->vertices) points.push_back(changed->to_part() * v);
  const auto map = comparator->compare(points);
  ASSERT_TRUE(map);
  const auto places = deviation::worst_places(*map, points, 3, 5);
  ASSERT_EQ(places.size(), 3U);
  for (const auto& p : places) {
    EXPECT_NEAR(p.at.head<2>().norm(), PlateScan::kRadius, 0.2);  // the bore's axis is the origin
    EXPECT_LT(p.value, -3);                                       // deep inside the model
  }
  EXPECT_GE((places[0].at - places[1].at).norm(), 5);
  // By face: a tolerance of its own changes the share within it.
  const auto strict = deviation::by_group(*map, map->face, [](std::uint32_t) { return 0.001; });
  const auto loose = deviation::by_group(*map, map->face, [](std::uint32_t) { return 0.1; });
  ASSERT_EQ(strict.size(), loose.size());
  std::size_t total = 0;
  for (std::size_t i = 0; i < strict.size(); ++i) {
    EXPECT_LE(strict[i].statistics.within_fraction, loose[i].statistics.within_fraction);
    EXPECT_LT(strict[i].statistics.max_at, points.size());
    total += strict[i].statistics.n;
  }
  EXPECT_EQ(total, points.size());
  // From the model: top and bottom over the bore have no scan.
  const auto tessellation = model::tessellate(solid);
  ASSERT_TRUE(tessellation);
  const auto covered = deviation::coverage(*tessellation, solid.face_count(), *changed->scan->index,
                                           changed->to_part().inverse(), 1.0);
  ASSERT_TRUE(covered);
  // Two discs of radius 7 (a millimetre inside the bore's rim) of the surface are unseen.
  const double area = 2 * 60 * 40 + 2 * 100 * 10;
  EXPECT_NEAR(1 - covered->share, 2 * std::numbers::pi * 49 / area, 0.01);
}

TEST_F(Prove, RowsAreFoundFromWhatIsPicked) {
  const auto top = region({0, 0, 1});
  const auto bottom = region({0, 0, -1});
  const auto measured = project::add_measurement(document_, {top, 0}, {bottom, 0}, false);
  ASSERT_TRUE(measured);
  reading::Place place;
  place.region = top;
  EXPECT_EQ(reading::rows_resting_on(measured->document, place),
            std::vector<project::Id>{measured->id});
  reading::Place face;
  face.face = "s" + std::to_string(document_.steps[0].id) + ":end";
  EXPECT_EQ(reading::rows_resting_on(measured->document, face).size(), 2U);  // from, to
  EXPECT_TRUE(reading::rows_resting_on(measured->document, {}).empty());
  EXPECT_EQ(project::face_title(document_, face.face), "end of plate");
  EXPECT_EQ(project::face_title(document_, "odd"), "odd");
}

TEST_F(Prove, CertainRowsAreProposedAndInkedTogether) {
  const auto proposals = reading::propose_inks(document_);
  ASSERT_EQ(proposals.size(), 2U);
  EXPECT_DOUBLE_EQ(proposals[0].value, 0);  // on the datum
  EXPECT_DOUBLE_EQ(proposals[1].value, 10);
  const auto inked = project::ink_all(document_, proposals);
  ASSERT_TRUE(inked);
  EXPECT_DOUBLE_EQ(inked->find_dimension(row("plate to"))->intent.value_or(0), 10);
  auto wrong = proposals;
  wrong.push_back({12345, 1, "", 1});
  EXPECT_FALSE(project::ink_all(document_, wrong));
  EXPECT_TRUE(reading::propose_inks(*inked).empty());
}

TEST_F(Prove, StepsAreInsertedAndMovedWithNumbersBetween) {
  model::Hole hole;
  hole.sketch = sketch_;
  hole.circles = {circle_};
  const auto last = project::add_step(document_, hole, "last", {{"diameter", 16.0, 0.01, "", {}}});
  const auto between = project::add_step(last.document, hole, "between",
                                         {{"diameter", 12.0, 0.01, "", {}}}, document_.steps[0].id);
  ASSERT_EQ(between.document.steps.size(), 3U);
  EXPECT_EQ(between.document.steps[1].name, "between");
  EXPECT_EQ(between.document.steps[1].number, 15);
  const auto moved = project::move_step(between.document, between.id, 0);
  ASSERT_TRUE(moved);
  EXPECT_EQ(moved->steps[0].name, "between");
  EXPECT_LT(moved->steps[0].number, moved->steps[1].number);
  EXPECT_FALSE(project::move_step(*moved, 4711, 0));
  const auto renamed = project::rename_step(*moved, between.id, "pilot");
  ASSERT_TRUE(renamed);
  EXPECT_EQ(renamed->find_step(between.id)->name, "pilot");
  bool followed = false;
  for (const auto& d : renamed->dimensions) followed = followed || d.name == "\u2300 pilot";
  EXPECT_TRUE(followed);
  EXPECT_FALSE(project::rename_step(*moved, between.id, " "));
}

TEST_F(Prove, TheReportStandsOnItsOwn) {
  document_.face_tolerances["s" + std::to_string(document_.steps[0].id) + ":end"] = 0.01;
  report::ReportOptions options;
  options.date = "2026-11-23";
  const auto made = report::make_report(document_, options);
  ASSERT_TRUE(made) << made.error().message;
  const std::string html = report::to_html(*made);
  for (const char* wanted :
       {"Datums", "Ledger", "Route", "Deviation by face", "Worst places",
        "What the scan does not show", "plate to", "2026-11-23", "<svg", "data:image/png;base64,"})
    EXPECT_NE(html.find(wanted), std::string::npos) << wanted;
  EXPECT_EQ(html.find("http://www.w3.org/2000/svg") == std::string::npos, false);
  EXPECT_EQ(html.find("src=\"http"), std::string::npos);  // nothing from elsewhere
  const auto pdf = report::to_pdf(*made);
  ASSERT_TRUE(pdf) << pdf.error().message;
  EXPECT_TRUE(pdf->bytes.starts_with("%PDF-"));
  EXPECT_GE(pdf->pages, 3);
  EXPECT_FALSE(report::make_report({}, {}));
  const auto path = testing::scratch() / "report-test.txt";
  EXPECT_FALSE(report::write_report(path, *made));
  // Text from outside cannot become markup.
  EXPECT_EQ(report::escaped("<a & \"b\">"), "&lt;a &amp; &quot;b&quot;&gt;");
}

TEST_F(Prove, AProjectWithEveryFeatureComesBack) {
  Document d = document_;
  model::Revolve turn;
  turn.sketch = sketch_;
  turn.angle.value = 1;
  turn.both_ways = true;
  d = project::add_step(d, turn, "turn", {{"angle", {}, 0, "typed", 57.3}}).document;
  model::Chamfer bevel;
  bevel.edges = {{"a", "b", Vec3(1, 2, 3)}};
  bevel.distance.value = 2;
  d = project::add_step(d, bevel, "bevel", {{"leg", 2.0, 0.1, "scan", {}}}).document;
  model::Pattern row;
  row.source = d.steps[0].id;
  row.arranged = model::Pattern::Kind::Linear;
  row.direction.datum = 1;
  row.count = 5;
  d = project::add_step(d, row, "row", {{"spacing", {}, 0, "typed", 7.5}}).document;
  model::Mirror mirror;
  mirror.plane.region = region({1, 0, 0});
  d = project::add_step(d, mirror, "mirror", {}).document;
  model::Extrude up;
  up.sketch = sketch_;
  up.operation = model::Operation::Common;
  up.extent.reach = model::Reach::UpTo;
  up.extent.target.region = region({0, 0, 1});
  d = project::add_step(d, up, "up", {{"from", 0.0, 0.1, "level", {}}}).document;
  d.face_tolerances["s1:end"] = 0.05;
  EXPECT_TRUE(d.steps[4].feature.as<model::Mirror>()->plane.surface);  // resolved to the part
  const auto path = testing::scratch() / "features.lostline";
  ASSERT_TRUE(store::save_project(path, d));
  const auto back = store::load_project(path);
  std::filesystem::remove(path);
  ASSERT_TRUE(back) << back.error().message;
  ASSERT_EQ(back->steps.size(), d.steps.size());
  EXPECT_EQ(store::write_manifest(*back).dump(), store::write_manifest(d).dump());
  EXPECT_EQ(back->steps[3].feature.as<model::Pattern>()->count, 5);
  EXPECT_DOUBLE_EQ(back->steps[3].feature.as<model::Pattern>()->spacing.value, 7.5);
  EXPECT_NEAR(back->steps[1].feature.as<model::Revolve>()->angle.value, 57.3 / 57.29577951, 1e-6);
  EXPECT_EQ(back->face_tolerances.at("s1:end"), 0.05);
}

}  // namespace
}  // namespace lostline
