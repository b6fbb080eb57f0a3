// Edits of a document: fits, measurements, frames, sketches, steps, decisions, and what refuses.
#include "project/edits.h"

#include "model/steps/extrude/extrude.h"
#include "model/steps/fillet/fillet.h"
#include "model/steps/hole/hole.h"
#include "plate_scan.h"
#include "project/datums.h"
#include "project/fits.h"
#include "project/formula.h"
#include "project/ledger.h"
#include "project/sketch_plane.h"
#include "reading/evidence.h"
#include "sketch/dimension_scheme.h"

namespace lostline {
namespace {

using project::Document;
using testing::PlateScan;

class Edits : public testing::PlateJob {};

project::FitRequest request(const Document& d, std::uint32_t region, fit::Kind kind) {
  project::FitRequest r;
  r.kind = kind;
  r.triangles =
      std::make_shared<const std::vector<std::uint32_t>>(survey::triangles_of(*d.survey, region));
  return r;
}

TEST_F(Edits, SurveyOfThePlateFindsItsSevenFaces) {
  int planes = 0;
  int bores = 0;
  for (const auto& r : plate_->survey->regions) {
    if (!r.fit) continue;
    planes += r.fit->surface.kind == fit::Kind::Plane;
    bores += r.fit->surface.kind == fit::Kind::Cylinder && r.fit->surface.hollow;
  }
  EXPECT_EQ(planes, 6);
  EXPECT_EQ(bores, 1);
  const fit::SurfaceFit& f = *plate_->fit_of({bore(), 0});
  EXPECT_NEAR(f.surface.radius, PlateScan::kRadius, 3 * f.u_radius);
  EXPECT_NEAR(plate_->survey->noise_sigma, kNoise, 0.4 * kNoise);
}

TEST(FineScan, IsSplitOnACoarserCopyWithTheBordersWhereTheyBelong) {
  const scan::Mesh mesh = testing::plate_mesh(0.02, 3, 5);
  ASSERT_GT(mesh.vertices.size(), 300000U);
  const scan::Topology topology = scan::build_topology(mesh);
  survey::SurveyOptions options;
  options.sensitivity = 0.2;
  const auto found = survey::split_into_regions(mesh, topology, options);
  ASSERT_TRUE(found) << found.error().message;
  ASSERT_EQ(found->regions.size(), 7U);
  double area = 0;
  for (const auto& r : found->regions) {
    ASSERT_TRUE(r.fit);
    area += r.area;
    if (r.fit->surface.kind != fit::Kind::Cylinder) continue;
    EXPECT_NEAR(r.fit->surface.radius, PlateScan::kRadius, 2 * r.fit->u_radius);
    EXPECT_NEAR(r.fit->sigma, 0.02, 0.002);
  }
  // Nothing is lost at the edges: noise alone makes the measured area a little larger than smooth.
  const double whole = std::accumulate(mesh.triangles.begin(), mesh.triangles.end(), 0.0,
                                       [&, t = std::size_t{0}](double sum, auto&) mutable {
                                         return sum + 0.5 * mesh.area_vector(t++).norm();
                                       });
  EXPECT_GT(area, 0.995 * whole);
}

TEST_F(Edits, GrowingASelectionStopsAtTheEdge) {
  const auto& scan = *plate_->scan;
  const std::uint32_t top = region({0, 0, 1});
  const auto whole = survey::triangles_of(*plate_->survey, top);
  const auto grown = survey::grow_by_normal(*scan.mesh, scan.topology, whole[whole.size() / 2],
                                            10.0 / 57.29577951308232);
  EXPECT_GT(grown.size(), 0.9 * static_cast<double>(whole.size()));
  for (const std::uint32_t t : grown) EXPECT_GT(scan.mesh->area_vector(t).normalized().z(), 0.7);
}

TEST_F(Edits, AFitWithARelationSaysWhatItCosts) {
  auto wanted = request(*plate_, region({1, 0, 0}), fit::Kind::Plane);
  const auto free = project::try_fit(*plate_, wanted);
  ASSERT_TRUE(free) << free.error().message;
  EXPECT_FALSE(free->relation);
  EXPECT_NEAR(free->fit.result.surface.axis.x(), 1, 1e-5);
  wanted.relation = fit::RelationType::Perpendicular;
  wanted.relation_to = {region({0, 1, 0}), 0};
  const auto held = project::try_fit(*plate_, wanted);
  ASSERT_TRUE(held) << held.error().message;
  const Vec3 other = plate_->fit_of(wanted.relation_to)->surface.axis;
  EXPECT_NEAR(held->fit.result.surface.axis.dot(other), 0, 1e-12);
  EXPECT_GE(held->fit.result.rms, held->fit.alone.rms * 0.9999);
  EXPECT_TRUE(held->relation->cost.within_noise);  // the plate is square
  // A plane parallel to an axis has its normal square to it.
  wanted.relation = fit::RelationType::Parallel;
  wanted.relation_to = {bore(), 0};
  const auto along = project::try_fit(*plate_, wanted);
  ASSERT_TRUE(along);
  EXPECT_NEAR(along->fit.result.surface.axis.dot(plate_->fit_of({bore(), 0})->surface.axis), 0,
              1e-12);
  wanted.relation_to = {};
  EXPECT_FALSE(project::try_fit(*plate_, wanted));
  wanted.triangles.reset();
  EXPECT_FALSE(project::try_fit(*plate_, wanted));
}

TEST_F(Edits, DistancesAndAnglesBetweenFits) {
  const project::FitRef top{region({0, 0, 1}), 0};
  const project::FitRef bottom{region({0, 0, -1}), 0};
  const project::FitRef side{region({1, 0, 0}), 0};
  const project::FitRef hole{bore(), 0};
  const auto height = project::measure(*plate_, top, bottom, false);
  ASSERT_TRUE(height) << height.error().message;
  EXPECT_NEAR(height->value, PlateScan::kHeight, 3 * height->u);
  EXPECT_LT(height->u, 0.01);
  const auto square = project::measure(*plate_, top, side, true);
  ASSERT_TRUE(square);
  EXPECT_NEAR(square->value, 90, 3 * square->u);
  const auto inset = project::measure(*plate_, side, hole, false);
  ASSERT_TRUE(inset) << inset.error().message;
  EXPECT_NEAR(inset->value, PlateScan::kLength / 2, 3 * inset->u);
  const auto crossed = project::measure(*plate_, top, side, false);
  ASSERT_FALSE(crossed);
  EXPECT_NE(crossed.error().message.find("Measure the angle"), std::string::npos);
  EXPECT_FALSE(project::measure(*plate_, top, top, false));
  EXPECT_FALSE(project::measure(*plate_, top, {999, 0}, false));
  const auto added = project::add_measurement(*plate_, top, bottom, false);
  ASSERT_TRUE(added);
  EXPECT_NEAR(*added->document.find_dimension(added->id)->reading, PlateScan::kHeight, 0.01);
}

TEST_F(Edits, AFitThatSomethingRestsOnCannotBeRemoved) {
  const auto trial =
      project::try_fit(*plate_, request(*plate_, region({0, 0, 1}), fit::Kind::Plane));
  ASSERT_TRUE(trial);
  const auto added = project::add_fit(*plate_, *trial);
  const project::FitRef kept{0, added.id};
  const auto row = project::add_measurement(added.document, kept, {region({0, 0, -1}), 0}, false);
  ASSERT_TRUE(row);
  const auto refused = project::remove_fit(row->document, added.id);
  ASSERT_FALSE(refused);
  EXPECT_NE(refused.error().message.find("rests on"), std::string::npos);
  const auto removed = project::remove_fit(added.document, added.id);
  ASSERT_TRUE(removed);
  EXPECT_TRUE(removed->fits.empty());
  EXPECT_FALSE(project::remove_fit(*removed, added.id));
}

TEST_F(Edits, FitsAndSketchesAreRenamedAndNothingElseChanges) {
  const auto fitted = project::try_fit(*plate_, request(*plate_, bore(), fit::Kind::Cylinder));
  ASSERT_TRUE(fitted) << fitted.error().message;
  const Document before = project::add_fit(*plate_, *fitted).document;
  const project::Id id = before.fits.back()->id;
  const auto after = project::rename_fit(before, id, "bearing bore");
  ASSERT_TRUE(after);
  EXPECT_EQ(after->find_fit(id)->name, "bearing bore");
  EXPECT_NE(before.find_fit(id)->name, "bearing bore") << "documents share what did not change";
  EXPECT_EQ(after->find_fit(id)->result.surface.radius, before.find_fit(id)->result.surface.radius);
  EXPECT_EQ(after->survey, before.survey);
  EXPECT_EQ(project::rename_fit(before, id, "  ").error().code, ErrorCode::InvalidInput);
  EXPECT_EQ(project::rename_fit(before, id + 1000, "x").error().code, ErrorCode::NotFound);
  EXPECT_EQ(project::rename_sketch(before, id, "x").error().code, ErrorCode::NotFound);
}

TEST_F(Edits, TheFrameLaysThePartWhereItWasAsked) {
  const fit::SurfaceFit& hole = *framed_->fit_of({bore(), 0});
  const fit::Surface axis = fit::transformed(hole.surface, framed_->to_part());
  const Vec3 foot = axis.point - axis.point.z() / axis.axis.z() * axis.axis;
  EXPECT_NEAR(foot.head<2>().norm(), 0, 1e-9);  // the axis meets the bottom in the origin
  const Vec3 top = framed_->to_part() * Vec3(30, 5, PlateScan::kHeight);
  EXPECT_NEAR(top.z(), PlateScan::kHeight, 0.01);
  EXPECT_NEAR(std::abs(top.y()), 15, 0.02);
}

TEST_F(Edits, TurningTheFrameTakesSketchAndStepsAlong) {
  auto added = project::add_sketch(*framed_, half_height());
  ASSERT_TRUE(added) << added.error().message;
  model::Extrude feature;
  feature.sketch = added->id;
  Document d =
      project::add_step(added->document, feature, "plate",
                        {{"from", 0.0, 0.01, "level", {}}, {"to", 10.0, 0.01, "level", {}}})
          .document;
  model::RouteCache cache;
  const auto before = model::recompute(d.steps, d.placed_sketches(), cache);
  ASSERT_TRUE(before);
  ASSERT_EQ(before->back().state, model::StepState::Sound) << before->back().reason;
  project::DatumFrame spec = *d.frame;
  spec.secondary_axis = datum::Axis::Y;
  const auto turned = project::set_frame(d, spec);
  ASSERT_TRUE(turned) << turned.error().message;
  const auto after = model::recompute(turned->steps, turned->placed_sketches(), cache);
  ASSERT_TRUE(after);
  ASSERT_EQ(after->back().state, model::StepState::Sound) << after->back().reason;
  EXPECT_NEAR(after->back().solid.volume(), before->back().solid.volume(),
              1e-3 * before->back().solid.volume());
  const Vec3 size = after->back().solid.box().sizes();
  EXPECT_NEAR(size.y(), PlateScan::kLength, 0.1);  // the long side now lies along y
  EXPECT_NEAR(size.x(), PlateScan::kWidth, 0.1);
}

TEST_F(Edits, LevelsDraftAndDiameterAreReadFromTheScan) {
  const project::TracedSketch t = half_height();
  auto added = project::add_sketch(*framed_, t);
  ASSERT_TRUE(added) << added.error().message;
  const project::TracedSketch& traced = *added->document.find_sketch(added->id);
  const auto levels = reading::find_levels(added->document, traced, {{}, {}});
  const auto pair = reading::suggest_extent(levels, traced.level);
  ASSERT_TRUE(pair.below && pair.above);
  EXPECT_NEAR(pair.below->level, 0, 3 * pair.below->u);
  EXPECT_NEAR(pair.above->level, PlateScan::kHeight, 3 * pair.above->u);
  sketch::Id circle = 0;
  for (const auto& e : traced.sketch.entities) {
    if (e.type == sketch::EntityType::Circle) circle = e.id;
  }
  ASSERT_NE(circle, 0U);
  const auto diameter = reading::read_diameter(traced, {circle});
  ASSERT_TRUE(diameter);
  EXPECT_NEAR(diameter->diameter, 2 * PlateScan::kRadius, 3 * diameter->u);
  EXPECT_FALSE(reading::read_diameter(traced, {}));
  EXPECT_FALSE(reading::find_draft(added->document, traced, {circle}));  // a bore without taper
}

TEST_F(Edits, SketchDimensionsBecomeRowsAndDecisionsHold) {
  auto t = half_height();
  sketch::Id circle = 0;
  for (const auto& e : t.sketch.entities) {
    if (e.type == sketch::EntityType::Circle) circle = e.id;
  }
  const sketch::Id radius = t.sketch.add_constraint(sketch::ConstraintType::Radius, circle);
  auto added = project::add_sketch(*framed_, t);
  ASSERT_TRUE(added) << added.error().message;
  ASSERT_EQ(added->document.dimensions.size(), 1U);
  const project::Dimension row = added->document.dimensions.front();
  EXPECT_EQ(row.quantity, standards::Quantity::Diameter);
  EXPECT_TRUE(row.hole);
  EXPECT_NEAR(*row.reading, 16, 3 * row.u);
  const auto inked = project::ink(added->document, row.id, 16, "whole");
  ASSERT_TRUE(inked) << inked.error().message;
  EXPECT_NEAR(inked->find_sketch(added->id)->sketch.find_entity(circle)->radius, 8, 1e-9);
  EXPECT_DOUBLE_EQ(*inked->dimensions.front().reading, *row.reading);
  // Typed in the sketch it is a decision, taken away there it is none; its text stays where it is
  // put.
  sketch::Sketch typed = added->document.find_sketch(added->id)->sketch;
  typed.find_constraint(radius)->driving = true;
  typed.find_constraint(radius)->value = 8.25;
  const auto decided = project::edit_sketch(added->document, added->id, typed);
  ASSERT_TRUE(decided) << decided.error().message;
  EXPECT_NEAR(*decided->dimensions.front().intent, 16.5, 1e-9);
  EXPECT_DOUBLE_EQ(*decided->dimensions.front().reading, *row.reading);
  const Document placed = project::place_texts(
      *decided, added->id, {{radius, Vec2(3, 4)}, {sketch::Id{9999}, Vec2(0, 0)}});
  EXPECT_EQ(placed.find_sketch(added->id)->text_places,
            (std::map<sketch::Id, Vec2>{{radius, Vec2(3, 4)}}));
  sketch::Sketch freed = decided->find_sketch(added->id)->sketch;
  EXPECT_TRUE(freed.find_constraint(radius)->driving);
  freed.find_constraint(radius)->driving = false;
  const auto lifted = project::edit_sketch(placed, added->id, freed);
  ASSERT_TRUE(lifted) << lifted.error().message;
  EXPECT_FALSE(lifted->dimensions.front().intent);
  EXPECT_EQ(lifted->find_sketch(added->id)->text_places.size(), 1U);
  // The row goes with its constraint, and a sketch in use stays.
  sketch::Sketch without = added->document.find_sketch(added->id)->sketch;
  without.remove(radius);
  const auto edited = project::edit_sketch(added->document, added->id, without);
  ASSERT_TRUE(edited) << edited.error().message;
  EXPECT_TRUE(edited->dimensions.empty());
  model::Hole hole;
  hole.sketch = added->id;
  hole.circles = {circle};
  const Document used =
      project::add_step(added->document, hole, "bore", {{"diameter", 16.0, 0.01, "", {}}}).document;
  const auto refused = project::remove_sketch(used, added->id);
  ASSERT_FALSE(refused);
  EXPECT_NE(refused.error().message.find("10 bore"), std::string::npos);
  EXPECT_TRUE(project::remove_sketch(project::remove_step(used, used.steps[0].id), added->id));
  EXPECT_FALSE(project::edit_sketch(used, 999, without));
}

TEST_F(Edits, DecisionsTogetherAreThoseOneAfterTheOtherAndTouchNoOtherSketch) {
  auto t = half_height();
  sketch::SchemeOptions scheme;
  scheme.nothing = 0.04;
  for (const sketch::Constraint& c : sketch::dimension_scheme(t.sketch, scheme).dimensions)
    t.sketch.add_constraint(c.type, c.first, c.second, c.value);
  auto one = project::add_sketch(*framed_, t);
  ASSERT_TRUE(one) << one.error().message;
  t.level += 1;
  t.name = "another";
  auto two = project::add_sketch(one->document, t);
  ASSERT_TRUE(two) << two.error().message;
  std::vector<project::Proposal> proposals;
  for (const project::Dimension& row : two->document.dimensions) {
    if (row.owner.sketch == one->id)
      proposals.push_back({row.id, std::round(*row.reading * 10) / 10, "tenth", 1});
  }
  ASSERT_GT(proposals.size(), 2U);
  const auto together = project::ink_all(two->document, proposals);
  ASSERT_TRUE(together) << together.error().message;
  project::Document singly = two->document;
  for (const project::Proposal& p : proposals) {
    auto next = project::ink(singly, p.dimension, p.value, p.reason);
    ASSERT_TRUE(next) << next.error().message;
    singly = *std::move(next);
  }
  const auto& a = *together->find_sketch(one->id);
  const auto& b = *singly.find_sketch(one->id);
  ASSERT_EQ(a.sketch.points.size(), b.sketch.points.size());
  for (std::size_t k = 0; k < a.sketch.points.size(); ++k)
    EXPECT_LT((a.sketch.points[k].at - b.sketch.points[k].at).norm(), 1e-6);
  for (const project::Proposal& p : proposals)
    EXPECT_EQ(together->find_dimension(p.dimension)->intent, p.value);
  // The other sketch is the very same, not one fitted again.
  const auto shared = [&](const project::Document& d) {
    return std::find_if(d.sketches.begin(), d.sketches.end(),
                        [&](const auto& s) { return s->id == two->id; })
        ->get();
  };
  EXPECT_EQ(shared(*together), shared(two->document));
  // As after everything was brought up to date.
  const auto fresh = project::refresh(*together);
  ASSERT_TRUE(fresh);
  for (const sketch::Point& p : fresh->find_sketch(one->id)->sketch.points)
    EXPECT_LT((p.at - a.sketch.find_point(p.id)->at).norm(), 1e-6);
}

TEST_F(Edits, ClashingDecisionsAreNamedAndNothingChanges) {
  auto t = half_height();
  std::vector<sketch::Id> lines;
  for (const auto& e : t.sketch.entities) {
    if (e.type == sketch::EntityType::Line) lines.push_back(e.id);
  }
  ASSERT_EQ(lines.size(), 4U);
  // Opposite sides of a rectangle cannot have two lengths.
  t.sketch.add_constraint(sketch::ConstraintType::Distance, lines[0]);
  t.sketch.add_constraint(sketch::ConstraintType::Distance, lines[2]);
  auto added = project::add_sketch(*framed_, t);
  ASSERT_TRUE(added) << added.error().message;
  const auto& rows = added->document.dimensions;
  ASSERT_EQ(rows.size(), 2U);
  const auto first =
      project::ink(added->document, rows[0].id, std::round(*rows[0].reading), "whole");
  ASSERT_TRUE(first) << first.error().message;
  const auto second = project::ink(*first, rows[1].id, std::round(*rows[1].reading) + 1, "typed");
  ASSERT_FALSE(second);
  EXPECT_EQ(second.error().code, ErrorCode::Degenerate);
  EXPECT_NE(second.error().message.find("outline"), std::string::npos) << second.error().message;
  EXPECT_FALSE(first->dimensions[1].intent);
}

TEST_F(Edits, StepsAreNumberedParkedEditedAndRemovedWithTheirRows) {
  auto added = project::add_sketch(*framed_, half_height());
  ASSERT_TRUE(added);
  model::Extrude feature;
  feature.sketch = added->id;
  auto first =
      project::add_step(added->document, feature, "plate",
                        {{"from", 0.0, 0.01, "level", {}}, {"to", 10.02, 0.01, "level", {}}});
  auto second = project::add_step(first.document, feature, "again", {{"to", 12.0, 0, "", 12.5}});
  EXPECT_EQ(second.document.steps[0].number, 10);
  EXPECT_EQ(second.document.steps[1].number, 20);
  EXPECT_EQ(second.document.dimensions.size(), 3U);
  EXPECT_DOUBLE_EQ(*second.document.dimensions[2].intent, 12.5);
  const auto& e = *second.document.steps[0].feature.as<model::Extrude>();
  EXPECT_DOUBLE_EQ(e.extent.to.value, 10.02);
  EXPECT_EQ(e.extent.to.dimension, second.document.dimensions[1].id);
  const Document parked = project::set_parked(second.document, second.id, true);
  EXPECT_TRUE(parked.steps[1].parked);
  EXPECT_FALSE(second.document.steps[1].parked);  // the old snapshot is untouched
  const auto edited =
      project::edit_step(parked, first.id, feature, {{"to", 9.9, 0.02, "level", {}}});
  ASSERT_TRUE(edited);
  EXPECT_DOUBLE_EQ(edited->steps[0].feature.as<model::Extrude>()->extent.to.value, 9.9);
  EXPECT_FALSE(project::edit_step(parked, 12345, feature));
  const Document removed = project::remove_step(*edited, first.id);
  EXPECT_EQ(removed.steps.size(), 1U);
  EXPECT_EQ(removed.dimensions.size(), 1U);
  EXPECT_FALSE(project::rename_dimension(removed, removed.dimensions[0].id, "  "));
  const auto renamed = project::rename_dimension(removed, removed.dimensions[0].id, "top");
  ASSERT_TRUE(renamed);
  EXPECT_EQ(renamed->dimensions[0].name, "top");
}

TEST_F(Edits, ADecisionWithoutEvidenceCannotBeLifted) {
  Document d;
  model::Fillet fillet;
  d = project::add_step(d, fillet, "edge", {{"radius", {}, 0, "", 3.0}}).document;
  const auto lifted = project::lift(d, d.dimensions[0].id);
  ASSERT_FALSE(lifted);
  EXPECT_NE(lifted.error().message.find("no reading"), std::string::npos);
}

TEST(EditsWithoutScan, SayWhatIsMissing) {
  const Document empty;
  EXPECT_FALSE(project::try_fit(empty, {}));
  EXPECT_FALSE(project::compute_frame(empty, {}));
  EXPECT_FALSE(project::ink(empty, 1, 2, "typed"));
  EXPECT_FALSE(project::lift(empty, 1));
  EXPECT_TRUE(project::cut_scan(empty, {}, 0).polylines.empty());
  EXPECT_TRUE(reading::find_levels(empty, {}, {{}, {}}).empty());
}

}  // namespace
}  // namespace lostline
