#include <QtTest>
#include <QtWidgets>

#include "../core/pedestal_job.h"
#include "window_driver.h"

namespace lostline::testing {
namespace {

#define EXPECT_STEP(condition) \
  if (!(condition)) return std::string(#condition) + " failed; " + status_of(window)

std::string status_of(app::MainWindow& window) {
  std::string text = "status:";
  for (QLabel* label : window.statusBar()->findChildren<QLabel*>())
    text += " " + label->text().toStdString();
  if (window.card() != nullptr) {
    text += " card:";
    for (QLabel* label : window.card()->findChildren<QLabel*>())
      text += " | " + label->text().toStdString();
  }
  return text;
}

/// Lines of the foot's outline that meet at the broken corner.
std::pair<sketch::Id, sketch::Id> beside_the_break(const sketch::Sketch& s) {
  sketch::Id broken = 0;
  std::pair<sketch::Id, sketch::Id> found{0, 0};
  for (const sketch::Entity& e : s.entities) {
    if (e.type != sketch::EntityType::Line) continue;
    const Vec2 d = (s.position(e.b) - s.position(e.a)).normalized();
    if (std::abs(d.x()) > 0.05 && std::abs(d.y()) > 0.05) broken = e.id;
  }
  const sketch::Entity* b = s.find_entity(broken);
  if (b == nullptr) return found;
  for (const sketch::Entity& e : s.entities) {
    if (e.type != sketch::EntityType::Line || e.id == broken) continue;
    if (e.a != b->a && e.b != b->a && e.a != b->b && e.b != b->b) continue;
    (found.first == 0 ? found.first : found.second) = e.id;
  }
  return found;
}

std::vector<sketch::Id> circles_near(const sketch::Sketch& s, double radius) {
  std::vector<sketch::Id> result;
  for (const sketch::Entity& e : s.entities) {
    if (e.type == sketch::EntityType::Circle && std::abs(e.radius - radius) < 1)
      result.push_back(e.id);
  }
  return result;
}

}  // namespace

std::string rebuild_pedestal(WindowDriver& driver, app::MainWindow& window, const QString& scan,
                             const QString& step_path) {
  const simulate::PedestalDesign design;
  // Receive: the health card comes up by itself; its proposals are kept.
  window.openFile(scan);
  EXPECT_STEP(driver.settle());
  EXPECT_STEP(window.card() != nullptr);
  driver.shot(QStringLiteral("1-receive"));
  window.bench().setFocus();
  driver.key(Qt::Key_Return);
  EXPECT_STEP(driver.settle());
  EXPECT_STEP(driver.document().scan->health.islands == 0);

  // Survey.
  driver.stage(app::kSurvey);
  EXPECT_STEP(driver.tool(QStringLiteral("Regions")));
  driver.key(Qt::Key_Return);
  EXPECT_STEP(driver.settle());
  EXPECT_STEP(driver.document().survey != nullptr);
  const project::DatumFrame wanted = pedestal_frame(driver.document());
  const auto direction = [&](const project::FitRef& ref) {
    return driver.document().fit_of(ref)->surface.axis;
  };
  EXPECT_STEP(driver.tool(QStringLiteral("Fit")));
  const std::uint32_t bore_region = wanted.origin.front().region;
  const Vec3 top = -direction(wanted.primary);
  const Vec3 slant = (top + 0.45 * any_perpendicular(top)).normalized();
  EXPECT_STEP(driver.clickRegion(bore_region, slant));
  driver.shot(QStringLiteral("3-survey"));
  driver.key(Qt::Key_Return);
  EXPECT_STEP(driver.document().fits.size() == 1);

  // Datum: foot, two hole walls, bore.
  driver.stage(app::kDatum);
  EXPECT_STEP(driver.tool(QStringLiteral("Frame")));
  EXPECT_STEP(driver.clickRegion(wanted.primary.region, direction(wanted.primary)));
  const auto hole_view = [&](const project::FitRef& ref) {
    // Into the hole, slanted so that its far wall shows.
    Vec3 axis = window.bench().camera().viewDirection();
    axis = driver.document().fit_of(ref)->surface.axis;
    if (axis.dot(direction(wanted.primary)) < 0) axis = -axis;
    return Vec3((axis + 0.35 * any_perpendicular(axis)).normalized());
  };
  app::BenchView& bench = window.bench();
  const auto click_wall = [&](const project::FitRef& ref) {
    // With the preview on, the scan lies in the part frame already: try both underside and top, in
    // whatever frame is shown.
    for (const Vec3& view :
         {hole_view(ref), Vec3(-hole_view(ref)), Vec3(Vec3(0.3, 0.2, 1).normalized()),
          Vec3(Vec3(0.3, 0.2, -1).normalized()), Vec3(Vec3(-0.3, 0.2, 1).normalized())}) {
      if (driver.clickRegion(ref.region, view)) return true;
    }
    return false;
  };
  EXPECT_STEP(click_wall(wanted.secondary[0]));
  EXPECT_STEP(click_wall(wanted.secondary[1]));
  // The origin is picked in Evidence: its row carries the region.
  auto* tree = window.findChild<QTreeWidget*>(QStringLiteral("evidence"));
  bool picked = false;
  for (QTreeWidgetItemIterator it(tree); *it != nullptr && !picked; ++it) {
    if ((*it)->text(1).isEmpty() ||
        !(*it)->text(0).endsWith(QLatin1Char(' ') + QString::number(bore_region)))
      continue;
    tree->scrollToItem(*it);
    QTest::mouseClick(tree->viewport(), Qt::LeftButton, {}, tree->visualItemRect(*it).center());
    picked = true;
  }
  EXPECT_STEP(picked);
  QTest::qWait(50);
  bench.lookAlong(0);
  driver.shot(QStringLiteral("2-datum"));
  bench.setFocus();
  driver.key(Qt::Key_Return);
  EXPECT_STEP(driver.document().frame != nullptr);

  // Trace the foot.
  driver.stage(app::kTrace);
  EXPECT_STEP(driver.tool(QStringLiteral("Section")));
  driver.number(QStringLiteral("sectionLevel"), 7);
  bench.setFocus();
  driver.key(Qt::Key_Return);
  EXPECT_STEP(driver.document().sketches.size() == 1);
  QTest::qWait(80);
  EXPECT_STEP(window.card() != nullptr);  // the sketch card follows
  const auto traced = [&]() -> const project::TracedSketch& { return driver.lastSketch(); };
  const auto beside = beside_the_break(traced().sketch);
  EXPECT_STEP(beside.first != 0 && beside.second != 0);
  driver.clickEntity(traced(), traced().sketch, beside.first);
  driver.clickEntity(traced(), traced().sketch, beside.second);
  driver.number(QStringLiteral("cornerRadius"), design.foot_corner_radius);
  EXPECT_STEP(driver.button(QStringLiteral("makeCorner")));
  const auto bore_circle = circles_near(traced().sketch, design.bore_diameter / 2);
  const auto holes = circles_near(traced().sketch, design.hole_diameter / 2);
  EXPECT_STEP(bore_circle.size() == 1 && holes.size() == 4);
  // The new corner is as round as the others.
  EXPECT_STEP(driver.button(QStringLiteral("acceptSuggestions")));
  driver.shot(QStringLiteral("4-trace"));
  bench.setFocus();
  driver.key(Qt::Key_Return);
  EXPECT_STEP(window.card() == nullptr);
  EXPECT_STEP(driver.settle());

  // Build foot and boss.
  driver.stage(app::kBuild);
  EXPECT_STEP(driver.tool(QStringLiteral("Extrude")));
  driver.text(QStringLiteral("stepName"), QStringLiteral("foot"));
  bench.setFocus();
  driver.key(Qt::Key_Return);
  EXPECT_STEP(driver.settle());
  EXPECT_STEP(driver.document().steps.size() == 1);
  driver.stage(app::kTrace);
  EXPECT_STEP(driver.tool(QStringLiteral("Section")));
  driver.number(QStringLiteral("sectionLevel"), 72);
  bench.setFocus();
  driver.key(Qt::Key_Return);
  QTest::qWait(80);
  bench.setFocus();
  driver.key(Qt::Key_Return);
  EXPECT_STEP(driver.document().sketches.size() == 2);
  driver.stage(app::kBuild);
  EXPECT_STEP(driver.tool(QStringLiteral("Extrude")));
  driver.text(QStringLiteral("stepName"), QStringLiteral("boss"));
  driver.shot(QStringLiteral("5-build"));
  bench.setFocus();
  driver.key(Qt::Key_Return);
  EXPECT_STEP(driver.settle());
  EXPECT_STEP(driver.document().steps.size() == 2);

  // The fillet where boss and foot meet: its edge is clicked on the near side.
  EXPECT_STEP(driver.tool(QStringLiteral("Fillet")));
  bench.lookAlong(0);
  QTest::qWait(60);
  driver.clickPoint(
      Vec3(0,
           -(design.boss_diameter / 2 +
             (design.boss_neutral - design.foot_thickness) * std::tan(design.boss_draft)),
           design.foot_thickness));
  driver.text(QStringLiteral("stepName"), QStringLiteral("foot fillet"));
  bench.setFocus();
  driver.key(Qt::Key_Return);
  EXPECT_STEP(driver.settle());
  EXPECT_STEP(driver.document().steps.size() == 3);

  // Ribs: the middle section, its slanted lines run on into boss and foot.
  driver.stage(app::kTrace);
  EXPECT_STEP(driver.tool(QStringLiteral("Section")));
  driver.choose(QStringLiteral("sectionPlane"), 1);
  driver.number(QStringLiteral("sectionLevel"), 0);
  bench.setFocus();
  driver.key(Qt::Key_Return);
  QTest::qWait(80);
  EXPECT_STEP(driver.document().sketches.size() == 3);
  driver.number(QStringLiteral("cornerRadius"), 0);
  for (const auto& [slope, other] : buried_rib_corners(traced().sketch)) {
    driver.clickEntity(traced(), traced().sketch, slope);
    driver.clickEntity(traced(), traced().sketch, other);
    EXPECT_STEP(driver.button(QStringLiteral("makeCorner")));
  }
  driver.button(QStringLiteral("acceptSuggestions"));
  bench.setFocus();
  driver.key(Qt::Key_Return);
  EXPECT_STEP(window.card() == nullptr);
  driver.stage(app::kBuild);
  EXPECT_STEP(driver.tool(QStringLiteral("Extrude")));
  driver.text(QStringLiteral("stepName"), QStringLiteral("ribs"));
  bench.lookAlong(1);
  QTest::qWait(60);
  const auto loops = sketch::find_loops(traced().sketch);
  EXPECT_STEP(loops.size() == 2);
  for (const auto& use : loops[1].uses) {  // the second rib: its slanted line
    const sketch::Entity& e = *traced().sketch.find_entity(use.entity);
    const Vec2 d = (traced().sketch.position(e.b) - traced().sketch.position(e.a)).normalized();
    if (std::abs(d.x()) > 0.3 && std::abs(d.y()) > 0.3)
      driver.clickEntity(traced(), traced().sketch, e.id);
  }
  bench.setFocus();
  driver.key(Qt::Key_Return);
  EXPECT_STEP(driver.settle());
  EXPECT_STEP(driver.document().steps.size() == 4);

  // Bore and foot holes, from the foot's sketch.
  const auto drill = [&](const QString& name, const std::vector<sketch::Id>& circles) {
    if (!driver.tool(QStringLiteral("Hole"))) return false;
    driver.choose(QStringLiteral("stepSketch"), 0);
    driver.text(QStringLiteral("stepName"), name);
    bench.lookAlong(5);
    QTest::qWait(60);
    const project::TracedSketch& foot = *driver.document().sketches.front();
    for (const sketch::Id id : circles) driver.clickEntity(foot, foot.sketch, id);
    bench.setFocus();
    driver.key(Qt::Key_Return);
    return driver.settle() && window.card() == nullptr;
  };
  EXPECT_STEP(drill(QStringLiteral("bore"), bore_circle));
  // Two of the foot's holes, and half a turn gives the other two.
  std::vector<sketch::Id> pair;
  for (const sketch::Id id : holes) {
    const sketch::Sketch& foot = driver.document().sketches.front()->sketch;
    if (foot.position(foot.find_entity(id)->centre).x() > 0) pair.push_back(id);
  }
  EXPECT_STEP(pair.size() == 2);
  EXPECT_STEP(drill(QStringLiteral("foot holes"), pair));
  EXPECT_STEP(driver.tool(QStringLiteral("Pattern")));
  driver.text(QStringLiteral("stepName"), QStringLiteral("all foot holes"));
  driver.number(QStringLiteral("count"), 2);
  EXPECT_STEP(driver.settle());
  bench.setFocus();
  driver.key(Qt::Key_Return);
  EXPECT_STEP(driver.settle());
  EXPECT_STEP(driver.document().steps.size() == 7);
  for (const auto& step : window.session().route()->steps) {
    if (step.state != model::StepState::Sound) return "a step is not sound: " + step.reason;
  }

  // Decisions.
  bench.lookAlong(0);
  const QString diameter(QStringLiteral("\u2300 "));
  EXPECT_STEP(driver.ink(QStringLiteral("foot from"), 0));
  EXPECT_STEP(driver.ink(QStringLiteral("foot to"), design.foot_thickness));
  EXPECT_STEP(driver.ink(QStringLiteral("boss from"), 0));
  EXPECT_STEP(driver.ink(QStringLiteral("boss to"), design.boss_height));
  EXPECT_STEP(driver.ink(QStringLiteral("boss draft"), 1.5));
  EXPECT_STEP(driver.ink(QStringLiteral("ribs from"), -design.rib_thickness / 2));
  EXPECT_STEP(driver.ink(QStringLiteral("ribs to"), design.rib_thickness / 2));
  EXPECT_STEP(driver.ink(QStringLiteral("R foot fillet"), design.foot_fillet));
  EXPECT_STEP(driver.ink(diameter + QStringLiteral("bore"), design.bore_diameter));
  EXPECT_STEP(driver.ink(diameter + QStringLiteral("foot holes"), design.hole_diameter));
  EXPECT_STEP(driver.settle());
  driver.shot(QStringLiteral("5-build-ledger"));
  // How the deviation depends on the fillet's radius.
  EXPECT_STEP(driver.selectRow(QStringLiteral("R foot fillet")));
  EXPECT_STEP(driver.button(QStringLiteral("valleyButton")));
  EXPECT_STEP(driver.settle());
  auto* valley = window.findChild<QWidget*>(QStringLiteral("valley"));
  EXPECT_STEP(valley != nullptr && valley->isVisible());
  driver.shot(QStringLiteral("5-build-valley"));

  // Prove and release.
  driver.stage(app::kProve);
  EXPECT_STEP(driver.tool(QStringLiteral("Deviation")));
  EXPECT_STEP(driver.settle());
  EXPECT_STEP(window.session().route()->map != nullptr);
  driver.shot(QStringLiteral("6-prove"));
  driver.key(Qt::Key_Escape);
  driver.stage(app::kRelease);
  EXPECT_STEP(driver.tool(QStringLiteral("Hand on")));
  driver.text(QStringLiteral("exportPath"), step_path);
  driver.shot(QStringLiteral("7-release"));
  bench.setFocus();
  driver.key(Qt::Key_Return);
  EXPECT_STEP(driver.settle());
  EXPECT_STEP(QFileInfo::exists(step_path));
  return {};
}

}  // namespace lostline::testing
