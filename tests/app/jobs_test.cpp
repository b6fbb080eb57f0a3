// Single jobs in the real window, by mouse and keys, on a small plate with a bore.
#include "jobs.h"

#include "../core/full_disk.h"
#include "model/steps/move_body/move_body.h"
#include "support/places.h"

namespace lostline {
namespace {

using testing::Jobs;
using testing::PlateScan;

TEST_F(Jobs, TheUnitCanBeChangedAndUndone) {
  window_.openFile(scan_);
  ASSERT_TRUE(driver_->settle());
  auto* unit = window_.card()->findChild<QComboBox*>();
  ASSERT_NE(unit, nullptr);
  unit->setFocus();
  QTest::keyClick(unit, Qt::Key_End);  // metre
  QTest::keyClick(unit, Qt::Key_Up);   // inch
  EXPECT_EQ(unit->currentText(), QStringLiteral("inch"));
  EXPECT_TRUE(cardText().contains(QStringLiteral("1525.9"))) << cardText().toStdString();
  window_.bench().setFocus();
  driver_->key(Qt::Key_Return);
  EXPECT_NEAR(driver_->document().scan->health.box.sizes().x(), 60 * 25.4, 2);
  EXPECT_TRUE(window_.session().undoStack()->undoText().contains(QStringLiteral("in")));
  driver_->key(Qt::Key_Z, Qt::ControlModifier);
  EXPECT_NEAR(driver_->document().scan->health.box.sizes().x(), 60, 0.2);
}

TEST_F(Jobs, ASurveyCanBeCancelled) {
  window_.openFile(QString::fromStdString(testing::demo_dir() + "/pedestal.stl"));
  ASSERT_TRUE(driver_->settle());
  driver_->key(Qt::Key_Escape);
  driver_->stage(app::kSurvey);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Regions")));
  QTest::keyClick(&window_.bench(), Qt::Key_Return);
  QPushButton* cancel = nullptr;
  for (QPushButton* b : window_.statusBar()->findChildren<QPushButton*>()) cancel = b;
  ASSERT_NE(cancel, nullptr);
  // What is over in a moment is not told.
  ASSERT_TRUE(QTest::qWaitFor([cancel] { return cancel->isVisible(); },
                              1000 * static_cast<int>(testing::kPatience)));
  QTest::mouseClick(cancel, Qt::LeftButton);
  ASSERT_TRUE(driver_->settle());
  EXPECT_EQ(driver_->document().survey, nullptr);
  EXPECT_FALSE(cancel->isVisible());
}

TEST_F(Jobs, AFitWithARelationAndAMeasurementBecomeEvidence) {
  open();
  survey();
  ASSERT_TRUE(driver_->tool(QStringLiteral("Fit")));
  ASSERT_TRUE(driver_->clickRegion(region({1, 0, 0}), {1, 0.2, 0.4}));
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("RMS 0.0"))) << cardText().toStdString();
  driver_->choose(QStringLiteral("fitRelation"), 2);  // square to
  ASSERT_TRUE(driver_->clickRegion(region({0, 1, 0}), {0.2, 1, 0.4}));
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("within noise"))) << cardText().toStdString();
  window_.bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_EQ(driver_->document().fits.size(), 1U);
  ASSERT_EQ(driver_->document().relations.size(), 1U);
  EXPECT_EQ(driver_->document().relations[0].type, fit::RelationType::Perpendicular);

  ASSERT_TRUE(driver_->tool(QStringLiteral("Measure")));
  ASSERT_TRUE(driver_->clickRegion(region({0, 0, 1}), {0.2, 0.1, 1}));
  ASSERT_TRUE(driver_->clickRegion(region({0, 0, -1}), {0.2, 0.1, -1}));
  window_.bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_EQ(driver_->document().dimensions.size(), 1U);
  EXPECT_NEAR(*driver_->document().dimensions[0].reading, PlateScan::kHeight, 0.01);
  // Its nominal is inked from the Ledger, and lifted again.
  ASSERT_TRUE(driver_->ink(QString::fromStdString(driver_->document().dimensions[0].name), 10));
  EXPECT_DOUBLE_EQ(driver_->document().dimensions[0].intent.value_or(0), 10);
  driver_->key(Qt::Key_Z, Qt::ControlModifier);
  EXPECT_FALSE(driver_->document().dimensions[0].intent);
}

TEST_F(Jobs, GrowingOverNormalsFollowsTheAngle) {
  open();
  driver_->stage(app::kSurvey);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Fit")));  // without a survey
  window_.bench().lookAt(Vec3(0.2, 0.1, 1), Vec3::UnitY());
  QTest::qWait(30);
  driver_->clickPoint(driver_->document().to_part() * Vec3(10, 10, 10));
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("RMS"))) << cardText().toStdString();
  driver_->number(QStringLiteral("growAngle"), 12);
  ASSERT_TRUE(driver_->settle());
  window_.bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_EQ(driver_->document().fits.size(), 1U);
  const auto& kept = *driver_->document().fits[0];
  EXPECT_NEAR(std::abs(kept.result.surface.axis.z()), 1, 1e-4);
  EXPECT_GT(kept.triangles->size(), 5000U);
}

TEST_F(Jobs, ConstraintsAndDimensionsByLeaderKeys) {
  open();
  survey();
  frame();
  section();
  const auto& traced = driver_->lastSketch();
  std::vector<sketch::Id> lines;
  sketch::Id circle = 0;
  for (const auto& e : traced.sketch.entities)
    e.type == sketch::EntityType::Line ? lines.push_back(e.id) : static_cast<void>(circle = e.id);
  ASSERT_EQ(lines.size(), 4U);
  ASSERT_NE(circle, 0U);
  driver_->clickEntity(traced, traced.sketch, circle);
  driver_->key(Qt::Key_V);
  EXPECT_TRUE(statusText().contains(QStringLiteral("dimension of the picks")));
  driver_->key(Qt::Key_D);
  EXPECT_TRUE(cardText().contains(QStringLiteral("loose"))) << cardText().toStdString();
  // A constraint that does not suit its picks is refused where the user looks.
  driver_->clickEntity(traced, traced.sketch, circle);
  driver_->key(Qt::Key_R);
  driver_->key(Qt::Key_H);
  EXPECT_TRUE(cardText().contains(QStringLiteral("horizontal"))) << cardText().toStdString();
  driver_->clickEntity(traced, traced.sketch, circle);  // unpick
  driver_->clickEntity(traced, traced.sketch, lines[0]);
  driver_->key(Qt::Key_V);
  driver_->key(Qt::Key_D);
  window_.bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_EQ(window_.card(), nullptr) << cardText().toStdString();
  ASSERT_EQ(driver_->document().dimensions.size(), 2U);
  EXPECT_NEAR(*driver_->document().dimensions[0].reading, 16, 0.02);
  const double length = *driver_->document().dimensions[1].reading;
  EXPECT_LT(std::min(std::abs(length - 60), std::abs(length - 40)), 0.05);
  // Esc gives a leader up.
  driver_->key(Qt::Key_W);
  driver_->key(Qt::Key_Escape);
  EXPECT_FALSE(statusText().contains(QStringLiteral("front")));
}

TEST_F(Jobs, DrawingByHandSnapsToTheSection) {
  open();
  survey();
  frame();
  section();
  const auto entities = driver_->lastSketch().sketch.entities.size();
  app::BenchView& bench = window_.bench();
  const auto& traced = driver_->lastSketch();
  const auto screen = [&](const Vec2& p) {
    return bench.camera().toScreen(traced.base.to_space(p, traced.level));
  };
  driver_->key(Qt::Key_G);
  EXPECT_TRUE(statusText().contains(QStringLiteral("circle")));
  driver_->key(Qt::Key_C);
  driver_->click(screen({20, 10}));
  driver_->click(screen({23, 10}));
  driver_->key(Qt::Key_Escape);
  ASSERT_NE(window_.card(), nullptr);  // Esc ended the drawing, not the card
  driver_->key(Qt::Key_G);
  driver_->key(Qt::Key_L);
  driver_->click(screen({-25, -12}));
  driver_->click(screen({-18, -12}));
  driver_->click(screen({-18, -5}));
  driver_->key(Qt::Key_Escape);
  driver_->key(Qt::Key_Escape);
  bench.setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_EQ(window_.card(), nullptr) << cardText().toStdString();
  const auto& drawn = driver_->lastSketch().sketch;
  EXPECT_EQ(drawn.entities.size(), entities + 3);
  EXPECT_NEAR(drawn.entities[entities].radius, 3, 0.3);
  EXPECT_EQ(drawn.entities[entities + 1].b, drawn.entities[entities + 2].a);  // one chain
}

TEST_F(Jobs, AFilletThatIsTooLargeBreaksItsStepOnly) {
  open();
  survey();
  frame();
  section();
  window_.bench().setFocus();
  driver_->key(Qt::Key_Escape);
  extrude();
  const double volume = window_.session().route()->solid.volume();
  EXPECT_NEAR(volume, 60 * 40 * 10, 30);  // by its outer outline; the bore is a step of its own
  ASSERT_TRUE(driver_->tool(QStringLiteral("Fillet")));
  window_.bench().lookAlong(0);
  QTest::qWait(60);
  driver_->clickPoint(Vec3(0, -20, 10));
  ASSERT_TRUE(driver_->settle());
  driver_->number(QStringLiteral("radius"), 2);
  driver_->text(QStringLiteral("stepName"), QStringLiteral("rim"));
  window_.bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_EQ(driver_->document().steps.size(), 2U) << cardText().toStdString();
  EXPECT_EQ(state(1), model::StepState::Sound);
  EXPECT_LT(window_.session().route()->solid.volume(), volume);
  ASSERT_TRUE(driver_->ink(QStringLiteral("R rim"), 30));
  ASSERT_TRUE(driver_->settle());
  EXPECT_EQ(state(0), model::StepState::Sound);
  EXPECT_EQ(state(1), model::StepState::Broken);
  EXPECT_NE(window_.session().route()->steps[1].reason.find("too large"), std::string::npos);
  EXPECT_NEAR(window_.session().route()->solid.volume(), volume, 1e-6 * volume);
  // Parked with a key, taken up again, removed.
  auto* list = window_.findChild<QListWidget*>();
  for (QListWidget* l : window_.findChildren<QListWidget*>()) {
    if (l->accessibleName() == QStringLiteral("Route")) list = l;
  }
  list->setCurrentRow(1);
  list->setFocus();
  driver_->key(Qt::Key_P);
  EXPECT_TRUE(driver_->document().steps[1].parked);
  EXPECT_EQ(state(1), model::StepState::Parked);
  driver_->key(Qt::Key_Z, Qt::ControlModifier);
  EXPECT_FALSE(driver_->document().steps[1].parked);
  // Edited by Return on its row: a small radius is sound again.
  list->setFocus();
  list->setCurrentRow(1);
  driver_->key(Qt::Key_Return);
  ASSERT_NE(window_.card(), nullptr);
  EXPECT_TRUE(cardText().contains(QStringLiteral("too large"))) << cardText().toStdString();
  driver_->number(QStringLiteral("radius"), 1.5);
  driver_->text(QStringLiteral("stepName"), QStringLiteral("top edge"));
  window_.bench().setFocus();
  driver_->key(Qt::Key_Return);
  EXPECT_EQ(driver_->document().steps[1].name, "top edge");
  EXPECT_EQ(state(1), model::StepState::Sound);
}

TEST_F(Jobs, StepsOfOneKindFoldAndAreDraggedToAnotherPlace) {
  build();
  // Three moves of the body in a row, each by itself.
  for (int k = 1; k <= 3; ++k) {
    model::MoveBody move;
    move.bodies = {window_.session().route()->solid.body(0).key};
    move.x.value = k;
    ASSERT_TRUE(window_.session().apply(
        QStringLiteral("move"),
        project::add_step(driver_->document(), move, "move " + std::to_string(k), {}).document));
    ASSERT_TRUE(driver_->settle());
  }
  driver_->stage(app::kBuild);
  QListWidget* route = nullptr;
  for (QListWidget* l : window_.findChildren<QListWidget*>()) {
    if (l->accessibleName() == QStringLiteral("Route")) route = l;
  }
  ASSERT_NE(route, nullptr);
  const auto count = static_cast<int>(driver_->document().steps.size());
  ASSERT_EQ(route->count(), count + 1) << "a line over the three";
  const int head = count - 3;
  EXPECT_TRUE(route->item(head)->text().startsWith(QStringLiteral("3 ")));
  const auto click = [&](int row) {
    QTest::mouseClick(route->viewport(), Qt::LeftButton, {},
                      route->visualItemRect(route->item(row)).center());
  };
  click(head);
  EXPECT_TRUE(route->item(head + 1)->isHidden());
  click(head);
  EXPECT_FALSE(route->item(head + 1)->isHidden());
  // The last one is dropped above the first of them.
  const std::string last = driver_->document().steps.back().name;
  route->setCurrentRow(route->count() - 1);
  QTest::qWait(60);  // the list scrolls there
  const std::unique_ptr<QMimeData> data(route->model()->mimeData({route->currentIndex()}));
  route->scrollToItem(route->item(head));
  QTest::qWait(60);
  const QRect target = route->visualItemRect(route->item(head + 1));
  const QPoint at(target.center().x(), target.top() + 1);
  ASSERT_EQ(route->itemAt(at), route->item(head + 1));
  // A drop from outside of the list would not be let through: it is told as the list tells itself.
  struct Told : QListWidget {
    using QListWidget::dropEvent;
  };
  QDropEvent drop(at, Qt::MoveAction, data.get(), Qt::LeftButton, {});
  (static_cast<QListWidget*>(route)->*(&Told::dropEvent))(&drop);
  ASSERT_TRUE(driver_->settle());
  EXPECT_EQ(driver_->document().steps[static_cast<std::size_t>(count - 3)].name, last);
  window_.session().undoStack()->undo();
  ASSERT_TRUE(driver_->settle());
  EXPECT_EQ(driver_->document().steps.back().name, last);
}

TEST_F(Jobs, AnOutlineIsTakenWithAnOffsetAndDimensioned) {
  open();
  survey();
  frame();
  driver_->stage(app::kTrace);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Outline")));
  driver_->number(QStringLiteral("outlineOffset"), 2);
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("outlines"))) << cardText().toStdString();
  window_.bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_TRUE(driver_->settle());
  ASSERT_EQ(driver_->document().sketches.size(), 1U);
  const project::TracedSketch& outline = *driver_->document().sketches.front();
  ASSERT_TRUE(outline.silhouette);
  EXPECT_EQ(outline.silhouette->offset, 2);
  EXPECT_FALSE(outline.sketch.entities.empty());
  // Dimensioned in one act, and kept as rows of the Ledger in pencil.
  ASSERT_NE(window_.card(), nullptr) << "the sketch opens";
  auto* all = window_.findChild<QPushButton*>(QStringLiteral("dimensionIt"));
  ASSERT_NE(all, nullptr);
  QTest::mouseClick(all, Qt::LeftButton);
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("dimension")) ||
              cardText().contains(QStringLiteral("loose")));
  window_.bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_TRUE(driver_->settle());
  EXPECT_FALSE(driver_->document().dimensions.empty());
  for (const project::Dimension& row : driver_->document().dimensions)
    EXPECT_FALSE(row.intent.has_value());
}

TEST_F(Jobs, ABoxOnTheBenchSelectsAndDeletes) {
  open();
  driver_->stage(app::kReceive);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Clean")));
  app::BenchView& bench = window_.bench();
  bench.lookAlong(5);
  QTest::qWait(50);
  const auto before = driver_->document().scan->mesh->triangles.size();
  // The corner of the plate farthest to the right and up, seen from above.
  Box3 box;
  for (const Vec3& v : driver_->document().scan->mesh->vertices) box.extend(v);
  const QPoint from = bench.camera().toScreen(Vec3(52, 32, 10)).toPoint();
  const QPoint to = bench.camera().toScreen(Vec3(62, 42, 10)).toPoint();
  QTest::mousePress(&bench, Qt::LeftButton, {}, from);
  QTest::mouseMove(&bench, (from + to) / 2);
  QMouseEvent move(QEvent::MouseMove, QPointF(to), bench.mapToGlobal(QPointF(to)), Qt::NoButton,
                   Qt::LeftButton, Qt::NoModifier);
  QApplication::sendEvent(&bench, &move);
  QTest::mouseRelease(&bench, Qt::LeftButton, {}, to);
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("triangles selected")))
      << cardText().toStdString();
  // Selected from below as well, then from above again: what is hidden now stays selected.
  const auto count = [&] {
    return cardText().section(QStringLiteral(" triangles selected"), 0, 0);
  };
  driver_->button(QStringLiteral("invert"));
  const QString inverted = count();
  const QPoint off = bench.camera().toScreen(Vec3(-8, -8, 10)).toPoint();
  QTest::mousePress(&bench, Qt::LeftButton, {}, off);
  QMouseEvent nudge(QEvent::MouseMove, QPointF(off + QPoint(8, 8)),
                    bench.mapToGlobal(QPointF(off + QPoint(8, 8))), Qt::NoButton, Qt::LeftButton,
                    Qt::NoModifier);
  QApplication::sendEvent(&bench, &nudge);
  QTest::mouseRelease(&bench, Qt::LeftButton, {}, off + QPoint(8, 8));
  EXPECT_EQ(count(), inverted);  // a box over nothing changes nothing
  driver_->button(QStringLiteral("invert"));
  ASSERT_TRUE(driver_->button(QStringLiteral("grow")));
  bench.setFocus();
  driver_->key(Qt::Key_Return);
  const auto after = driver_->document().scan->mesh->triangles.size();
  EXPECT_LT(after, before);
  EXPECT_GT(after, before * 9 / 10);
  // The underside stays: only what faces the eye was meant.
  int below = 0;
  for (std::size_t t = 0; t < after; ++t) {
    const Vec3 c = driver_->document().scan->mesh->centroid(t);
    below += c.z() < 0.5 && c.x() > 54 && c.y() > 34;
  }
  EXPECT_GT(below, 20);
  driver_->choose(QStringLiteral("cleanWhat"), 7);  // smooth
  driver_->number(QStringLiteral("cleanValue"), 2);
  bench.setFocus();
  driver_->key(Qt::Key_Return);
  EXPECT_TRUE(cardText().contains(QStringLiteral("moved RMS"))) << cardText().toStdString();
  driver_->key(Qt::Key_Escape);
  driver_->key(Qt::Key_Z, Qt::ControlModifier);
  driver_->key(Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(driver_->document().scan->mesh->triangles.size(), before);
}

TEST_F(Jobs, SearchStartsToolsAndFindsRows) {
  open();
  survey();
  driver_->key(Qt::Key_F, Qt::ControlModifier);
  auto* search = window_.findChild<QLineEdit*>(QStringLiteral("search"));
  ASSERT_NE(search, nullptr);
  search->setFocus();
  QTest::keyClicks(search, QStringLiteral("Measure"));
  QTest::keyClick(search, Qt::Key_Return);
  QTest::qWait(80);
  ASSERT_NE(window_.card(), nullptr);
  EXPECT_TRUE(cardText().contains(QStringLiteral("Measure")));
  EXPECT_EQ(window_.rail().stage(), app::kSurvey);
}

TEST_F(Jobs, TheGuideOpensWithItsPictures) {
  for (QAction* action : window_.findChildren<QAction*>()) {
    if (action->text() == QStringLiteral("&Guide")) action->trigger();
  }
  QTest::qWait(50);
  auto* guide = window_.findChild<QTextBrowser*>(QStringLiteral("guide"));
  ASSERT_NE(guide, nullptr);
  EXPECT_TRUE(guide->isVisible());
  EXPECT_TRUE(guide->toPlainText().contains(QStringLiteral("Every tool in one paragraph")));
  // Every tool of the rail has its paragraph.
  for (int stage = 0; stage < 7; ++stage) {
    for (const QString& name : window_.rail().toolNames(stage)) {
      if (name == QStringLiteral("Open")) continue;
      EXPECT_TRUE(guide->toPlainText().contains(name)) << name.toStdString();
    }
  }
}

TEST_F(Jobs, SavingFailsOpenlyAndNothingIsLost) {
  open();
  window_.saveTo(QStringLiteral("/no/such/folder/plate.lostline"));
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(said_.contains(QStringLiteral("/no/such/folder"))) << said_.toStdString();
  EXPECT_NE(driver_->document().scan, nullptr);
  const QString path = folder_.filePath(QStringLiteral("plate.lostline"));
  said_.clear();
  {
    const testing::FullDisk full(1000);
    window_.saveTo(path);
    ASSERT_TRUE(driver_->settle());
  }
  EXPECT_FALSE(said_.isEmpty());
  EXPECT_FALSE(QFileInfo::exists(path));
  survey();
  EXPECT_FALSE(window_.session().undoStack()->isClean());
  window_.saveTo(path);
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(window_.session().undoStack()->isClean());
  EXPECT_TRUE(QFileInfo::exists(path));
}

TEST_F(Jobs, ADamagedProjectIsRefusedAndTheOpenOneStays) {
  open();
  window_.session().undoStack()->setClean();
  const QString path = folder_.filePath(QStringLiteral("damaged.lostline"));
  QFile file(path);
  ASSERT_TRUE(file.open(QIODevice::WriteOnly));
  file.write("PK\003\004 but no more");
  file.close();
  // Dropped on the window.
  QMimeData data;
  data.setUrls({QUrl::fromLocalFile(path)});
  QDragEnterEvent enter(QPoint(300, 300), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
  QCoreApplication::sendEvent(&window_, &enter);
  EXPECT_TRUE(enter.isAccepted());
  QDropEvent drop(QPointF(300, 300), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
  QCoreApplication::sendEvent(&window_, &drop);
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(said_.contains(QStringLiteral("damaged.lostline"))) << said_.toStdString();
  ASSERT_NE(driver_->document().scan, nullptr);
  EXPECT_EQ(driver_->document().scan->name, "plate");
}

TEST_F(Jobs, EditsAskedForTogetherAllCountInOrder) {
  project::Document d;
  for (const char* name : {"a", "b"}) {
    project::Dimension row;
    row.id = d.next_id++;
    row.name = name;
    row.reading = 9.98;
    d.dimensions.push_back(row);
  }
  app::Session& session = window_.session();
  session.commit(QStringLiteral("rows"), d);
  const auto ink = [&](project::Id id, double value) {
    session.edit(QStringLiteral("ink"), [id, value](const project::Document& document) {
      QThread::msleep(50);
      return project::ink(document, id, value, "typed");
    });
  };
  ink(1, 10);
  ink(2, 11);
  session.commit(QStringLiteral("title"), [&] {
    project::Document next = session.document();
    next.title = "changed meanwhile";
    return next;
  }());
  ASSERT_TRUE(driver_->settle());
  EXPECT_EQ(session.document().title, "changed meanwhile");
  EXPECT_DOUBLE_EQ(session.document().dimensions[0].intent.value_or(0), 10);
  EXPECT_DOUBLE_EQ(session.document().dimensions[1].intent.value_or(0), 11);
  EXPECT_EQ(session.undoStack()->count(), 4);
}

}  // namespace
}  // namespace lostline
