// The whole job on the demo part, without a window, against the design it hides.
#include <gtest/gtest.h>

#include <numbers>

#include "deviation/deviation.h"
#include "io/step.h"
#include "model/steps/extrude/extrude.h"
#include "model/steps/fillet/fillet.h"
#include "model/steps/hole/hole.h"
#include "pedestal_job.h"
#include "project/datums.h"
#include "project/ledger.h"
#include "reading/row_nominals.h"
#include "store/project_file.h"
#include "support/places.h"

namespace lostline {
namespace {

using project::Document;

class PedestalJob : public ::testing::Test {
 protected:
  static void SetUpTestSuite() {
    const auto scan = project::open_scan(testing::demo_dir() + "/pedestal.stl");
    ASSERT_TRUE(scan) << scan.error().message;
    Document document = project::with_scan({}, *scan);
    const auto survey = survey::split_into_regions(*document.scan->mesh, document.scan->topology);
    ASSERT_TRUE(survey) << survey.error().message;
    document = project::with_survey(document, std::make_shared<const survey::Survey>(*survey));
    surveyed_ = new Document(document);
    const auto framed = project::set_frame(document, testing::pedestal_frame(document));
    ASSERT_TRUE(framed) << framed.error().message;
    framed_ = new Document(*framed);
  }
  static Document* surveyed_;
  static Document* framed_;
  const simulate::PedestalDesign design_;
};
Document* PedestalJob::surveyed_ = nullptr;
Document* PedestalJob::framed_ = nullptr;

TEST_F(PedestalJob, SurveyFindsTheMachinedFacesAndTheTaperedBoss) {
  const auto expect = [&](double radius, double u_factor) {
    const std::uint32_t region = testing::cylinder_region(*surveyed_, radius);
    ASSERT_NE(region, 0U);
    const fit::SurfaceFit& f = *surveyed_->fit_of({region, 0});
    EXPECT_NEAR(f.surface.radius, radius, u_factor * f.u_radius);
    EXPECT_EQ(surveyed_->survey->regions[region - 1].finish, survey::Finish::Machined);
  };
  expect(design_.hole_diameter / 2, 3);
  int holes = 0;
  bool cone = false;
  for (const survey::Region& r : surveyed_->survey->regions) {
    if (!r.fit) continue;
    holes += r.fit->surface.kind == fit::Kind::Cylinder && r.fit->surface.hollow &&
             std::abs(r.fit->surface.radius - design_.hole_diameter / 2) < 0.05;
    if (r.fit->surface.kind == fit::Kind::Cone &&
        std::abs(r.fit->surface.half_angle - design_.boss_draft) < 3 * r.fit->u_half_angle + 0.0002)
      cone = true;
  }
  EXPECT_EQ(holes, 4);
  EXPECT_TRUE(cone);
  EXPECT_LT(surveyed_->survey->unassigned_area_fraction, 0.1);
}

TEST_F(PedestalJob, FootSectionResolvesIntoTheDesignersLinesAndArcs) {
  const project::TracedSketch t =
      testing::traced(*framed_, project::DatumPlane::Xy, 7, 0.2, "foot");
  const auto count = [&](sketch::EntityType type) {
    return std::count_if(t.sketch.entities.begin(), t.sketch.entities.end(),
                         [&](const auto& e) { return e.type == type; });
  };
  EXPECT_EQ(count(sketch::EntityType::Line), 5);  // four sides and the break
  EXPECT_EQ(count(sketch::EntityType::Arc), 3);   // the fourth corner is broken off
  EXPECT_EQ(count(sketch::EntityType::Circle), 5);
}

/// Lines of a sketch by direction and place: the long sides, the short sides, and the break.
struct FootLines {
  sketch::Id right = 0, top = 0, slanted = 0;
};
FootLines foot_lines(const sketch::Sketch& s) {
  FootLines lines;
  for (const sketch::Entity& e : s.entities) {
    if (e.type != sketch::EntityType::Line) continue;
    const Vec2 a = s.position(e.a);
    const Vec2 d = s.position(e.b) - a;
    const bool upright = std::abs(d.x()) < 0.05 * d.norm();
    const bool level = std::abs(d.y()) < 0.05 * d.norm();
    if (!upright && !level) lines.slanted = e.id;
  }
  const sketch::Entity& broken = *s.find_entity(lines.slanted);
  for (const sketch::Entity& e : s.entities) {
    if (e.type != sketch::EntityType::Line || e.id == broken.id) continue;
    if (e.a != broken.a && e.b != broken.a && e.a != broken.b && e.b != broken.b) continue;
    const Vec2 d = s.position(e.b) - s.position(e.a);
    (std::abs(d.x()) > std::abs(d.y()) ? lines.top : lines.right) = e.id;
  }
  return lines;
}

TEST_F(PedestalJob, RouteGivesTheDesignedVolumeAndDimensions) {
  Document d = *framed_;
  // Foot: outline with its broken corner made whole.
  project::TracedSketch foot = testing::traced(d, project::DatumPlane::Xy, 7, 0.2, "foot");
  const FootLines lines = foot_lines(foot.sketch);
  sketch::Id arc = 0;
  const auto whole =
      sketch::make_corner(foot.sketch, lines.right, lines.top, design_.foot_corner_radius, &arc);
  ASSERT_TRUE(whole) << whole.error().message;
  foot.sketch = *whole;
  std::vector<sketch::Id> arcs;
  std::vector<sketch::Id> holes;
  sketch::Id bore = 0;
  for (const sketch::Entity& e : foot.sketch.entities) {
    if (e.type == sketch::EntityType::Arc && e.id != arc) arcs.push_back(e.id);
    if (e.type == sketch::EntityType::Circle)
      e.radius > 15 ? bore = e.id : (holes.push_back(e.id), 0U);
  }
  foot.sketch.add_constraint(sketch::ConstraintType::Equal, arc, arcs.front());
  const sketch::Id corner_radius =
      foot.sketch.add_constraint(sketch::ConstraintType::Radius, arcs.front());
  const sketch::Id hole_radius =
      foot.sketch.add_constraint(sketch::ConstraintType::Radius, holes.front());
  const sketch::Id bore_radius = foot.sketch.add_constraint(sketch::ConstraintType::Radius, bore);
  auto added = project::add_sketch(d, foot);
  ASSERT_TRUE(added) << added.error().message;
  d = added->document;
  const project::Id foot_id = added->id;
  const auto row_of = [&](sketch::Id c) -> const project::Dimension& {
    return *std::find_if(d.dimensions.begin(), d.dimensions.end(), [&](const auto& r) {
      return r.owner.sketch == foot_id && r.owner.constraint == c;
    });
  };
  EXPECT_NEAR(*row_of(hole_radius).reading, design_.hole_diameter, 3 * row_of(hole_radius).u);
  EXPECT_NEAR(*row_of(corner_radius).reading, design_.foot_corner_radius,
              3 * row_of(corner_radius).u);
  EXPECT_TRUE(row_of(hole_radius).hole);
  const auto nominals = standards::nominals_near(
      *row_of(hole_radius).reading, row_of(hole_radius).u, standards::Quantity::Diameter, true);
  EXPECT_DOUBLE_EQ(nominals.front().value, 13.5);
  EXPECT_EQ(nominals.front().source, "ISO 273, M12 medium");

  // Extents come from the scan's own levels.
  const auto extrude = [&](project::Id sketch_id, std::vector<sketch::Id> loops,
                           const std::string& name) {
    const project::TracedSketch& t = *d.find_sketch(sketch_id);
    const reading::LevelPair levels =
        reading::suggest_extent(reading::find_levels(d, t, {loops, {}}), t.level);
    std::vector<project::FieldReading> fields;
    EXPECT_TRUE(levels.below && levels.above) << name;
    fields.push_back({"from", levels.below->level, levels.below->u, "level", {}});
    fields.push_back({"to", levels.above->level, levels.above->u, "level", {}});
    model::Extrude feature;
    feature.sketch = sketch_id;
    feature.loops = loops;
    if (const auto draft = reading::find_draft(d, t, loops)) {
      fields.push_back(
          {"draft", draft->angle * 57.29577951308232, draft->u * 57.29577951308232, "cone", {}});
    }
    d = project::add_step(d, feature, name, fields).document;
  };
  const auto check = [&](const std::string& name, double truth) {
    for (const project::Dimension& row : d.dimensions) {
      if (row.name != name) continue;
      EXPECT_NEAR(*row.reading, truth, 3 * row.u) << name;
      const auto inked = project::ink(d, row.id, truth, "design");
      ASSERT_TRUE(inked) << inked.error().message;
      d = *inked;
      return;
    }
    ADD_FAILURE() << "no row " << name;
  };
  extrude(foot_id, {lines.right}, "foot");
  check("foot from", 0);
  check("foot to", design_.foot_thickness);

  project::TracedSketch boss =
      testing::traced(d, project::DatumPlane::Xy, design_.boss_neutral, 0.25, "boss");
  // The ribs cut the boss at this height: its outline is arcs. Above them it is a circle.
  boss = testing::traced(d, project::DatumPlane::Xy, 72, 0.25, "boss");
  ASSERT_EQ(boss.sketch.entities.size(), 2U);
  added = project::add_sketch(d, boss);
  ASSERT_TRUE(added) << added.error().message;
  d = added->document;
  const sketch::Entity outer =
      *std::max_element(boss.sketch.entities.begin(), boss.sketch.entities.end(),
                        [](const auto& a, const auto& b) { return a.radius < b.radius; });
  extrude(added->id, {outer.id}, "boss");
  check("boss to", design_.boss_height);
  check("boss draft", 1.5);

  // Ribs: the outline of the middle section, as thick as the levels beside it.
  project::TracedSketch ribs = testing::traced(d, project::DatumPlane::Xz, 0, 0.25, "ribs");
  ribs.sketch = testing::buried_ribs(ribs.sketch);
  added = project::add_sketch(d, ribs);
  ASSERT_TRUE(added) << added.error().message;
  d = added->document;
  extrude(added->id, {}, "ribs");
  check("ribs from", -design_.rib_thickness / 2);
  check("ribs to", design_.rib_thickness / 2);

  model::Hole bore_hole;
  bore_hole.sketch = foot_id;
  bore_hole.circles = {bore};
  d = project::add_step(d, bore_hole, "bore",
                        {{"diameter", *row_of(bore_radius).reading, row_of(bore_radius).u,
                          "section", design_.bore_diameter}})
          .document;
  model::Hole four = bore_hole;
  four.circles = holes;
  d = project::add_step(d, four, "foot holes",
                        {{"diameter", *row_of(hole_radius).reading, row_of(hole_radius).u,
                          "section", design_.hole_diameter}})
          .document;

  model::RouteCache cache;
  auto results = model::recompute(d.steps, d.placed_sketches(), cache);
  ASSERT_TRUE(results);
  for (std::size_t i = 0; i < results->size(); ++i)
    EXPECT_EQ((*results)[i].state, model::StepState::Sound)
        << d.steps[i].name << ": " << (*results)[i].reason;
  const model::Model truth = simulate::pedestal();
  EXPECT_NEAR((*results).back().solid.volume() / truth.volume(), 1.0, 0.002);

  // Deviation on the unworn surface is that of the noise and the skin.
  const auto comparator = deviation::Comparator::build(results->back().solid);
  ASSERT_TRUE(comparator);
  std::vector<Vec3> points;
  for (const Vec3& v : d.scan->mesh->vertices) points.push_back(d.to_part() * v);
  const auto map = comparator->compare(points);
  ASSERT_TRUE(map);
  const deviation::Statistics s = deviation::statistics(*map, 0.15);
  EXPECT_GT(s.within_fraction, 0.93);

  // What the rows rest on tells how it was made: a cast boss and its round, machined bores and top.
  const auto made = [&](const project::Document& at, const char* step, const char* field) {
    const auto of = std::find_if(at.steps.begin(), at.steps.end(),
                                 [&](const model::Step& s) { return s.name == step; });
    const auto row = std::find_if(at.dimensions.begin(), at.dimensions.end(), [&](const auto& r) {
      return r.owner.step == of->id && r.owner.field == field;
    });
    return row == at.dimensions.end() ? std::nullopt : reading::finish_of(at, *row);
  };
  EXPECT_EQ(made(d, "boss", "draft"), survey::Finish::AsCast);
  EXPECT_EQ(made(d, "boss", "to"), survey::Finish::Machined);
  EXPECT_EQ(made(d, "bore", "diameter"), survey::Finish::Machined);
  EXPECT_EQ(made(d, "foot holes", "diameter"), survey::Finish::Machined);
  model::Fillet round;
  const double at_foot =
      design_.boss_diameter / 2 +
      (design_.boss_neutral - design_.foot_thickness) * std::tan(design_.boss_draft);
  round.edges = {{"", "", Vec3(0, -at_foot, design_.foot_thickness)}};
  // Its radius is read along the sharp edge, past the ribs that stand on it.
  std::vector<Vec3> edge;
  for (int k = 0; k <= 64; ++k) {
    const double a = 2 * std::numbers::pi * k / 64;
    edge.emplace_back(at_foot * std::cos(a), at_foot * std::sin(a), design_.foot_thickness);
  }
  const auto radius = reading::read_edge_radius(d, edge);
  ASSERT_TRUE(radius);
  EXPECT_NEAR(radius->radius, design_.foot_fillet, 3 * radius->u);
  EXPECT_LT(radius->u, 0.1);
  const auto rounded = project::add_step(d, round, "foot fillet", {{"radius", 4.02, 0.02, "", {}}});
  EXPECT_EQ(made(rounded.document, "foot fillet", "radius"), survey::Finish::AsCast);

  // Saved and opened again, the Route gives the same part.
  const std::string path = testing::scratch() / "pedestal.lostline";
  ASSERT_TRUE(store::save_project(path, d));
  const auto back = store::load_project(path);
  ASSERT_TRUE(back) << back.error().message;
  model::RouteCache fresh;
  const auto again = model::recompute(back->steps, back->placed_sketches(), fresh);
  ASSERT_TRUE(again);
  EXPECT_NEAR(again->back().solid.volume(), results->back().solid.volume(), 1e-6 * truth.volume());
  EXPECT_EQ(store::ledger_csv(*back), store::ledger_csv(d));
}

}  // namespace
}  // namespace lostline
