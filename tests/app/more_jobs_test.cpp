// Jobs of surveying, tracing and proving in the real window.
#include "jobs.h"
#include "look/preferences.h"
#include "look/theme.h"
#include "model/steps/extrude/extrude.h"
#include "project/relations.h"
#include "windows/preferences_dialog.h"

namespace lostline {
namespace {

using testing::Jobs;
using testing::PlateScan;

TEST_F(Jobs, RelationsAreImposedTogetherAndUndone) {
  open();
  survey();
  ASSERT_TRUE(driver_->tool(QStringLiteral("Relate")));
  driver_->choose(QStringLiteral("relationType"),
                  static_cast<int>(fit::RelationType::Perpendicular));
  ASSERT_TRUE(driver_->clickRegion(region({1, 0, 0}), {1, 0.3, 0.4}));
  ASSERT_TRUE(driver_->clickRegion(region({0, 1, 0}), {0.3, 1, 0.4}));
  ASSERT_TRUE(driver_->button(QStringLiteral("addRelation")));
  ASSERT_TRUE(driver_->settle());
  driver_->choose(QStringLiteral("relationType"), static_cast<int>(fit::RelationType::Distance));
  ASSERT_TRUE(driver_->clickRegion(region({0, 0, 1}), {0.2, 0.1, 1}));
  ASSERT_TRUE(driver_->clickRegion(region({0, 0, -1}), {0.2, 0.1, -1}));
  driver_->number(QStringLiteral("relationValue"), 10);
  ASSERT_TRUE(driver_->button(QStringLiteral("addRelation")));
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("None departs"))) << cardText().toStdString();
  window_.bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_TRUE(driver_->settle());
  const project::Document& d = driver_->document();
  ASSERT_EQ(d.relations.size(), 2U);
  ASSERT_EQ(d.fits.size(), 4U);
  EXPECT_NEAR(d.fits[0]->result.surface.axis.dot(d.fits[1]->result.surface.axis), 0, 1e-10);
  const auto& top = d.fits[2]->result.surface;
  EXPECT_NEAR(std::abs(top.distance(d.fits[3]->result.surface.point)), 10, 1e-8);
  driver_->key(Qt::Key_Z, Qt::ControlModifier);
  EXPECT_TRUE(driver_->document().fits.empty());
}

TEST_F(Jobs, RegionsAreSplitMergedAndPaintedByHand) {
  open();
  survey();
  const std::uint32_t top = region({0, 0, 1});
  const std::size_t before = driver_->document().survey->regions.size();
  ASSERT_TRUE(driver_->tool(QStringLiteral("Repaint")));
  app::BenchView& bench = window_.bench();
  bench.lookAt(Vec3::UnitZ(), Vec3::UnitY());
  QTest::qWait(30);
  const auto at = [&](double x, double y) {
    return bench.camera().toScreen(driver_->document().to_part() * Vec3(x, y, 10)).toPoint();
  };
  const auto stroke = [&](const QPoint& from, const QPoint& to) {
    QTest::mousePress(&bench, Qt::LeftButton, {}, from);
    for (int k = 1; k <= 10; ++k) QTest::mouseMove(&bench, from + (to - from) * k / 10);
    QTest::mouseRelease(&bench, Qt::LeftButton, {}, to);
    ASSERT_TRUE(driver_->settle());
  };
  driver_->choose(QStringLiteral("repaintMode"), 1);  // splits by a line
  stroke(at(48, 3), at(48, 37));
  ASSERT_EQ(driver_->document().survey->regions.size(), before + 1) << said_.toStdString();
  const auto fresh = static_cast<std::uint32_t>(before + 1);
  EXPECT_EQ(driver_->document().survey->regions[fresh - 1].fit->surface.kind, fit::Kind::Plane);
  driver_->choose(QStringLiteral("repaintMode"), 0);
  driver_->click(at(20, 5));
  driver_->click(at(55, 30));
  ASSERT_TRUE(driver_->button(QStringLiteral("mergeRegions")));
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(driver_->document().survey->regions[fresh - 1].triangles == 0 ||
              driver_->document().survey->regions[top - 1].triangles == 0);
  driver_->choose(QStringLiteral("repaintMode"), 3);  // paints a new region
  stroke(at(10, 10), at(20, 10));
  EXPECT_EQ(driver_->document().survey->regions.size(), before + 2);
  EXPECT_GT(driver_->document().survey->regions.back().triangles, 40U);
  while (window_.session().undoStack()->undoText().contains(QStringLiteral("region")) &&
         driver_->document().survey->regions.size() > before)
    driver_->key(Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(driver_->document().survey->regions.size(), before);
}

TEST_F(Jobs, ThicknessAndRadiusByClicksBecomeRows) {
  open();
  driver_->stage(app::kSurvey);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Measure")));  // without a survey
  driver_->choose(QStringLiteral("measureWhat"), 3);
  window_.bench().lookAt(Vec3(0.2, 0.1, 1), Vec3::UnitY());
  QTest::qWait(30);
  driver_->clickPoint(driver_->document().to_part() * Vec3(8, 8, 10));
  window_.bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_EQ(driver_->document().dimensions.size(), 1U) << cardText().toStdString();
  EXPECT_NEAR(*driver_->document().dimensions[0].reading, PlateScan::kHeight, 0.02);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Measure")));
  driver_->choose(QStringLiteral("measureWhat"), 2);
  for (const double a : {1.2, 1.9, 2.6}) {  // what of the bore can be seen from there
    const Vec3 p(30 + 8 * std::cos(a), 20 + 8 * std::sin(a), 7);
    window_.bench().lookAt(Vec3(-std::cos(a), -std::sin(a), 1.6), Vec3::UnitY());
    QTest::qWait(30);
    driver_->clickPoint(driver_->document().to_part() * p);
  }
  window_.bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_EQ(driver_->document().dimensions.size(), 2U) << cardText().toStdString();
  EXPECT_NEAR(*driver_->document().dimensions[1].reading, PlateScan::kRadius, 0.5);
}

TEST_F(Jobs, ACircleThroughClickedPointsIsKeptAndShown) {
  open();
  driver_->stage(app::kSurvey);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Fit")));
  driver_->choose(QStringLiteral("fitKind"), static_cast<int>(fit::Kind::Circle));
  driver_->choose(QStringLiteral("fitEvidence"), 3);  // clicked points
  window_.bench().lookAt(Vec3(0.1, 0.1, 1), Vec3::UnitY());
  QTest::qWait(30);
  for (const Vec2& p : {Vec2(15, 20), Vec2(30, 34), Vec2(45, 20)}) {
    driver_->clickPoint(driver_->document().to_part() * Vec3(p.x(), p.y(), 10));
    ASSERT_TRUE(driver_->settle());
  }
  window_.bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_EQ(driver_->document().fits.size(), 1U) << cardText().toStdString();
  EXPECT_EQ(driver_->document().fits[0]->points.size(), 3U);
  // Its row in Evidence can be clicked like any other.
  auto* tree = window_.findChild<QTreeWidget*>(QStringLiteral("evidence"));
  for (QTreeWidgetItemIterator it(tree); *it != nullptr; ++it) {
    if (!(*it)->text(0).contains(QStringLiteral("circle"))) continue;
    tree->scrollToItem(*it);
    QTest::mouseClick(tree->viewport(), Qt::LeftButton, {}, tree->visualItemRect(*it).center());
  }
  ASSERT_TRUE(driver_->settle());
}

TEST_F(Jobs, FormulasAndTypedReadingsFromTheLedger) {
  open();
  driver_->stage(app::kSurvey);
  for (int i = 0; i < 2; ++i) {
    ASSERT_TRUE(driver_->tool(QStringLiteral("Measure")));
    driver_->choose(QStringLiteral("measureWhat"), 3);
    window_.bench().lookAt(Vec3(0.2, 0.1, 1), Vec3::UnitY());
    QTest::qWait(30);
    driver_->clickPoint(driver_->document().to_part() * Vec3(8.0 + i, 8, 10));
    window_.bench().setFocus();
    driver_->key(Qt::Key_Return);
  }
  project::Document named = driver_->document();
  ASSERT_EQ(named.dimensions.size(), 2U);
  named.dimensions[0].name = "height";
  named.dimensions[1].name = "half";
  window_.session().commit(QStringLiteral("rename"), named);
  const auto type = [&](const QString& row, const QString& text) {
    ASSERT_TRUE(driver_->selectRow(row));
    auto* box = window_.findChild<QLineEdit*>(QStringLiteral("typedIntent"));
    ASSERT_NE(box, nullptr);
    box->setFocus();
    box->setText(text);
    QTest::keyClick(box, Qt::Key_Return);
    ASSERT_TRUE(driver_->settle());
  };
  type(QStringLiteral("height"), QStringLiteral("10"));
  type(QStringLiteral("half"), QStringLiteral("= [height] / 2 + 1"));
  EXPECT_DOUBLE_EQ(driver_->document().dimensions[1].intent.value_or(0), 6) << said_.toStdString();
  type(QStringLiteral("height"), QStringLiteral("12"));
  EXPECT_DOUBLE_EQ(driver_->document().dimensions[1].intent.value_or(0), 7);
  type(QStringLiteral("half"), QStringLiteral("= [heigth] / 2"));
  EXPECT_TRUE(said_.contains(QStringLiteral("heigth"))) << said_.toStdString();
  type(QStringLiteral("height"), QStringLiteral("caliper 9,98 +- 0.02"));
  ASSERT_EQ(driver_->document().dimensions[0].typed.size(), 1U) << said_.toStdString();
  EXPECT_DOUBLE_EQ(driver_->document().dimensions[0].typed[0].value, 9.98);
  EXPECT_DOUBLE_EQ(driver_->document().dimensions[0].typed[0].u, 0.02);
  EXPECT_EQ(driver_->document().dimensions[0].typed[0].instrument, "caliper");
}

TEST_F(Jobs, AHalfPlaneAboutTheBoreGivesATurnedProfile) {
  open();
  survey();
  frame();
  driver_->stage(app::kTrace);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Section")));
  driver_->choose(QStringLiteral("sectionPlane"), 4);  // about the z axis, where the bore is
  driver_->number(QStringLiteral("sectionAngle"), 90);
  window_.bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_EQ(driver_->document().sketches.size(), 1U) << cardText().toStdString();
  const project::TracedSketch& t = driver_->lastSketch();
  ASSERT_TRUE(t.turn);
  EXPECT_EQ(t.name, "turn 90\u00b0");
  // The wall between bore and rim: everything lies right of the bore's radius.
  ASSERT_FALSE(t.section.polylines.empty());
  for (const auto& line : t.section.polylines)
    for (const Vec2& p : line.points) EXPECT_GT(p.x(), PlateScan::kRadius - 0.2);
  driver_->key(Qt::Key_Escape);
  // A fan folds the corners in: the plate is not turned, so its rim is at many radii.
  ASSERT_TRUE(driver_->tool(QStringLiteral("Section")));
  driver_->choose(QStringLiteral("sectionPlane"), 5);
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("outlines"))) << cardText().toStdString();
  driver_->key(Qt::Key_Escape);
}

TEST_F(Jobs, AnAreaAmongCrossingLinesIsExtruded) {
  open();
  survey();
  frame();
  section();
  // Two lines right across the plate, past its rim: six loose ends in all.
  app::BenchView& bench = window_.bench();
  const auto traced = driver_->lastSketch();
  const auto screen = [&](const Vec2& p) {
    return bench.camera().toScreen(traced.base.to_space(p, traced.level));
  };
  for (const double x : {-20.0, 20.0}) {
    driver_->key(Qt::Key_G);
    driver_->key(Qt::Key_L);
    driver_->click(screen({x, -23}));
    driver_->click(screen({x, 23}));
    driver_->key(Qt::Key_Escape);
    driver_->key(Qt::Key_Escape);
  }
  window_.bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_EQ(window_.card(), nullptr) << cardText().toStdString();
  driver_->stage(app::kBuild);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Extrude")));
  window_.bench().lookAt(Vec3(0.05, 0.1, 1), Vec3::UnitY());
  QTest::qWait(30);
  const auto& now = driver_->lastSketch();
  driver_->clickPoint(now.base.to_space({-14, 3}, now.level));
  ASSERT_TRUE(driver_->settle());
  window_.bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_TRUE(driver_->settle());
  ASSERT_EQ(driver_->document().steps.size(), 1U) << cardText().toStdString();
  ASSERT_EQ(state(0), model::StepState::Sound) << window_.session().route()->steps[0].reason;
  const auto& e = *driver_->document().steps[0].feature.as<model::Extrude>();
  ASSERT_EQ(e.areas.size(), 1U);
  // The middle of the plate, without the bore.
  const double expected = (40 * 40 - std::numbers::pi * 64) * 10;
  EXPECT_NEAR(window_.session().route()->solid.volume(), expected, 0.02 * expected);
}

TEST_F(Jobs, TheModelIsComparedInASectionAndWhatIsMissingIsHatched) {
  build();
  driver_->stage(app::kProve);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Compare")));
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("RMS 0.0"))) << cardText().toStdString();
  driver_->number(QStringLiteral("compareLevel"), 400);
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("misses the model")));
  driver_->key(Qt::Key_Escape);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Missing")));
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("% of the model"))) << cardText().toStdString();
  driver_->key(Qt::Key_Escape);  // discarded, the Bench shows what it showed too
  EXPECT_EQ(window_.bench().show(), app::Show::Both);
}

TEST_F(Jobs, StepsInsertedBehindAMarkKeepTheirOrder) {
  build();
  driver_->key(Qt::Key_Escape);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Mirror")));
  driver_->key(Qt::Key_Return);
  ASSERT_EQ(driver_->document().steps.size(), 2U);
  window_.session().setInsertAfter(driver_->document().steps[0].id);
  double top = 15;
  for (const QString& name : {QStringLiteral("first"), QStringLiteral("second")}) {
    ASSERT_TRUE(driver_->tool(QStringLiteral("Extrude")));
    driver_->text(QStringLiteral("stepName"), name);
    driver_->number(QStringLiteral("to"), top += 5);
    ASSERT_TRUE(driver_->settle());
    window_.bench().setFocus();
    driver_->key(Qt::Key_Return);
    ASSERT_TRUE(driver_->settle());
  }
  const auto& steps = driver_->document().steps;
  ASSERT_EQ(steps.size(), 4U) << steps[1].name << cardText().toStdString();
  EXPECT_EQ(steps[1].name, "first");
  EXPECT_EQ(steps[2].name, "second");
}

TEST_F(Jobs, QualityIsPaintedAndSeveralScansLieBesideEachOther) {
  open();
  driver_->stage(app::kReceive);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Quality")));
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("typical 0.0"))) << cardText().toStdString();
  driver_->choose(QStringLiteral("qualityWhat"), 1);
  EXPECT_TRUE(cardText().contains(QStringLiteral("typical 0."))) << cardText().toStdString();
  driver_->key(Qt::Key_Escape);
  const QString other = folder_.filePath(QStringLiteral("other.stl"));
  ASSERT_TRUE(io::write_stl(other.toStdString(), testing::plate_mesh(0.02, 7)));
  window_.addScans({other, scan_});
  ASSERT_TRUE(driver_->settle());
  ASSERT_EQ(driver_->document().other_scans.size(), 2U);
  EXPECT_EQ(driver_->document().other_scans[0]->name, "other");
  ASSERT_TRUE(window_.session().apply(QStringLiteral("work on other"),
                                      project::work_on_scan(driver_->document(), 0)));
  EXPECT_EQ(driver_->document().scan->name, "other");
  EXPECT_EQ(driver_->document().other_scans[0]->name, "plate");
  window_.addScans({folder_.filePath(QStringLiteral("none.stl"))});
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(said_.contains(QStringLiteral("none.stl")));
  const auto triangles = driver_->document().scan->mesh->triangles.size();
  const auto joined = project::join_scan(driver_->document(), 0);
  ASSERT_TRUE(joined);
  EXPECT_EQ(joined->scan->mesh->triangles.size(), 2 * triangles);
  EXPECT_EQ(joined->other_scans.size(), 1U);
}

TEST_F(Jobs, AKeptViewComesBack) {
  open();
  app::BenchView& bench = window_.bench();
  bench.lookAt(Vec3(1, 2, 3), Vec3::UnitZ());
  const project::SavedView view = bench.savedView("side");
  const QPointF before = bench.camera().toScreen(Vec3(10, 5, 3));
  bench.lookAlong(5);
  bench.recall(view);
  const QPointF after = bench.camera().toScreen(Vec3(10, 5, 3));
  EXPECT_NEAR(before.x(), after.x(), 0.5);
  EXPECT_NEAR(before.y(), after.y(), 0.5);
}

/// Puts the preferences back, however a test ends.
struct KeepPreferences {
  app::Preferences before = app::preferences();
  ~KeepPreferences() {
    app::set_preferences(before);
    app::apply_theme();
  }
};

TEST_F(Jobs, PreferencesChangeUnitAndSheetAtOnce) {
  const KeepPreferences keep;
  open();
  const auto prefer = [&](int unit, int sheet) {
    QTimer::singleShot(50, &window_, [&, unit, sheet] {
      auto* dialog = window_.findChild<app::PreferencesDialog*>();
      ASSERT_NE(dialog, nullptr);
      dialog->findChild<QComboBox*>(QStringLiteral("prefUnit"))->setCurrentIndex(unit);
      dialog->findChild<QComboBox*>(QStringLiteral("prefSheet"))->setCurrentIndex(sheet);
      dialog->accept();
    });
    for (QAction* action : window_.findChildren<QAction*>()) {
      if (action->text().contains(QStringLiteral("Preferences"))) action->trigger();
    }
    QApplication::setActiveWindow(&window_);  // a window manager would do so
    ASSERT_TRUE(driver_->settle());
  };
  prefer(1, 1);
  EXPECT_TRUE(app::preferences().inches);
  EXPECT_LT(app::role::paper.lightness(), 80);
  EXPECT_GT(app::role::ink.lightness(), 200);
  EXPECT_TRUE(statusText().contains(QStringLiteral("in ")));
  // The plate is 10 mm thick: 0.394 in.
  window_.setStage(app::kSurvey);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Measure")));
  driver_->choose(QStringLiteral("measureWhat"), 3);
  window_.bench().lookAt(Vec3(0.2, 0.1, 1), Vec3::UnitY());
  QTest::qWait(30);
  driver_->clickPoint(driver_->document().to_part() * Vec3(8, 8, 10));
  EXPECT_TRUE(cardText().contains(QStringLiteral("0.39"))) << cardText().toStdString();
  window_.bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_EQ(driver_->document().dimensions.size(), 1U);
  EXPECT_NEAR(*driver_->document().dimensions[0].reading, 10, 0.02);  // inside all is mm
  // A value typed in the Ledger is in inches, too.
  ASSERT_TRUE(driver_->selectRow(QStringLiteral("wall thickness")));
  auto* box = window_.findChild<QLineEdit*>(QStringLiteral("typedIntent"));
  ASSERT_NE(box, nullptr);
  box->setText(QStringLiteral("0.5"));
  QTest::keyClick(box, Qt::Key_Return);
  ASSERT_TRUE(driver_->settle());
  EXPECT_DOUBLE_EQ(driver_->document().dimensions[0].intent.value_or(0), 12.7);
  prefer(0, 0);
  EXPECT_FALSE(app::preferences().inches);
  EXPECT_GT(app::role::paper.lightness(), 200);
}

TEST(LengthBox, ShowsAndTakesTheUnitPreferred) {
  {
    const KeepPreferences keep;
    app::Preferences inches = keep.before;
    inches.inches = true;
    app::set_preferences(inches);
    app::LengthBox box(2);
    box.setRange(-100, 1000);
    box.setLocale(QLocale::c());
    box.setValue(25.4);
    EXPECT_EQ(box.text(), QStringLiteral("1.000"));
    box.show();
    box.selectAll();
    QTest::keyClicks(&box, QStringLiteral("0.25"));
    QTest::keyClick(&box, Qt::Key_Tab);
    EXPECT_NEAR(box.value(), 6.35, 1e-9);
  }
  app::LengthBox metric(2);
  metric.setValue(6.35);
  EXPECT_EQ(metric.text(), QStringLiteral("6.35"));
}

}  // namespace
}  // namespace lostline
