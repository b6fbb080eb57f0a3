// Ways of the window that no single tool owns: looking about, choosing, waiting, going back.
#include <QTreeWidget>

#include "jobs.h"
#include "jobs/works.h"
#include "model/steps/primitive/primitive.h"
#include "panels/route_panel.h"
#include "project/edits.h"
#include "sketch/curve_kind.h"
#include "store/project_file.h"

namespace lostline {
namespace {

using testing::Jobs;

class Ways : public Jobs {};

TEST_F(Ways, TheLeftButtonTurnsAboutThePlaceUnderItAndTheRightOnePans) {
  open();
  driver_->stage(app::kBuild);
  bench().lookAt(Vec3(0.5, -0.7, 0.6).normalized(), Vec3::UnitZ());
  QTest::qWait(60);
  const QPoint middle = bench().rect().center() + QPoint(40, 0);
  const app::Pick under = bench().pickAt(middle);
  ASSERT_EQ(under.what, app::Pick::What::Scan);
  const app::Camera before = bench().camera();
  drag(Qt::LeftButton, middle, middle + QPoint(60, 20));
  EXPECT_GT(bench().camera().rotation.angularDistance(before.rotation), 0.1);
  EXPECT_EQ(bench().camera().scale, before.scale);
  const QPointF after = bench().camera().toScreen(under.point);
  EXPECT_NEAR(after.x(), middle.x(), 0.5);
  EXPECT_NEAR(after.y(), middle.y(), 0.5);
  // Right: what was under the pointer goes with it.
  const app::Camera turned = bench().camera();
  drag(Qt::RightButton, middle, middle + QPoint(-50, 30));
  EXPECT_LT(bench().camera().rotation.angularDistance(turned.rotation), 1e-12);
  const QPointF panned = bench().camera().toScreen(under.point);
  EXPECT_NEAR(panned.x(), after.x() - 50, 1);
  EXPECT_NEAR(panned.y(), after.y() + 30, 1);
}

TEST_F(Ways, ATurnedViewPicksNothingAndAClickDoes) {
  open();
  survey();
  ASSERT_TRUE(driver_->tool(QStringLiteral("Measure")));
  const QPoint middle = bench().rect().center() + QPoint(60, 10);
  const auto chosen = [this] {
    return window_.card()->findChild<QPushButton*>(QStringLiteral("between"))->text();
  };
  ASSERT_NE(bench().pickAt(middle).region, 0U);
  const QString none = chosen();
  drag(Qt::LeftButton, middle, middle + QPoint(30, 10));
  EXPECT_EQ(chosen(), none);
  ASSERT_NE(bench().pickAt(middle).region, 0U);
  driver_->click(middle);
  EXPECT_NE(chosen(), none);
}

TEST_F(Ways, TheViewGoesToTheSelectionAndToAWindow) {
  open();
  survey();
  const std::uint32_t bore = region(Vec3::Zero());
  bench().setSelection({bore});
  const double whole = bench().camera().scale;
  bench().setFocus();
  driver_->key(Qt::Key_W);
  driver_->key(Qt::Key_S);
  EXPECT_GT(bench().camera().scale, 1.5 * whole);
  // Straight at a round face is along its axis.
  driver_->key(Qt::Key_W);
  driver_->key(Qt::Key_N);
  const auto& fit = *driver_->document().survey->regions[bore - 1].fit;
  EXPECT_GT(std::abs(bench().camera().viewDirection().dot(driver_->document().to_part().linear() *
                                                          fit.surface.axis)),
            0.999);
  driver_->key(Qt::Key_W);
  driver_->key(Qt::Key_0);
  const double fitted = bench().camera().scale;
  driver_->key(Qt::Key_W);
  driver_->key(Qt::Key_W);
  const QPoint middle = bench().rect().center();
  drag(Qt::LeftButton, middle - QPoint(50, 50), middle + QPoint(50, 50));
  EXPECT_GT(bench().camera().scale, 2 * fitted);
}

TEST_F(Ways, WhatLiesUnderThePointerIsMarkedWithoutDrawingTheScanAnew) {
  open();
  survey();
  bench().lookAt(Vec3(0.4, -0.5, 1).normalized(), Vec3::UnitZ());
  driver_->rest();
  const QPoint middle = bench().rect().center() + QPoint(60, 10);
  const std::uint32_t region = bench().pickAt(middle).region;
  ASSERT_NE(region, 0U);
  const QImage before = window_.grab().toImage();
  const std::size_t frames = bench().framesDrawn();
  QTest::mouseMove(&bench(), middle);
  // The display server answers when it has time.
  const QTreeWidgetItem* marked = nullptr;
  const auto is_marked = [&] {
    for (QTreeWidgetItemIterator it(evidence()); *it != nullptr; ++it) {
      if ((*it)->background(0).style() != Qt::NoBrush) marked = *it;
    }
    return marked != nullptr;
  };
  ASSERT_TRUE(QTest::qWaitFor(is_marked, 1000 * static_cast<int>(testing::kPatience)));
  EXPECT_EQ(bench().framesDrawn(), frames);
  EXPECT_TRUE(marked->text(0).contains(QString::number(region)));
  EXPECT_NE(window_.grab().toImage(), before);
}

TEST_F(Ways, EvidenceIsNarrowedByTypingAndRenamedInPlace) {
  open();
  survey();
  section();
  driver_->key(Qt::Key_Return);
  ASSERT_NE(row(QStringLiteral("plane")), nullptr);
  driver_->text(QStringLiteral("evidenceFilter"), QStringLiteral("cylinder"));
  int shown = 0;
  for (QTreeWidgetItemIterator it(evidence()); *it != nullptr; ++it)
    shown += !(*it)->isHidden() && (*it)->childCount() == 0;
  EXPECT_EQ(shown, 1);  // the bore
  // Escape clears the field, and nothing else.
  ASSERT_TRUE(driver_->tool(QStringLiteral("Section")));
  auto* field = window_.findChild<QLineEdit*>(QStringLiteral("evidenceFilter"));
  field->setFocus();
  QTest::keyClick(field, Qt::Key_Escape);
  EXPECT_TRUE(field->text().isEmpty());
  EXPECT_NE(window_.card(), nullptr);
  bench().setFocus();
  driver_->key(Qt::Key_Escape);
  EXPECT_EQ(window_.card(), nullptr);
  // A sketch gets another name, as one step that can be undone.
  const QString name = QString::fromStdString(driver_->lastSketch().name);
  QTreeWidgetItem* sketch = row(name);
  ASSERT_NE(sketch, nullptr);
  clickRow(sketch);
  evidence()->setFocus();
  QTest::keyClick(evidence(), Qt::Key_F2);
  auto* editor = evidence()->viewport()->findChild<QLineEdit*>();
  ASSERT_NE(editor, nullptr);
  editor->selectAll();
  QTest::keyClicks(editor, QStringLiteral("outline of the plate"));
  QTest::keyClick(editor, Qt::Key_Return);
  ASSERT_TRUE(driver_->settle());
  EXPECT_EQ(driver_->lastSketch().name, "outline of the plate");
  window_.session().undoStack()->undo();
  EXPECT_EQ(QString::fromStdString(driver_->lastSketch().name), name);
}

TEST_F(Ways, DeleteRemovesWhatIsSelectedAndSaysSo) {
  open();
  survey();
  section();
  driver_->key(Qt::Key_Return);
  ASSERT_TRUE(driver_->settle());
  // A region cannot go: it is said, and nothing changes.
  const int before = window_.session().undoStack()->index();
  QTreeWidgetItem* plane = row(QStringLiteral("\u25b1"));
  ASSERT_NE(plane, nullptr);
  clickRow(plane);
  evidence()->setFocus();
  QTest::keyClick(evidence(), Qt::Key_Delete);
  ASSERT_TRUE(driver_->settle());
  EXPECT_EQ(window_.session().undoStack()->index(), before);
  EXPECT_TRUE(said_.contains(QStringLiteral("Repaint"))) << said_.toStdString();
  clickRow(row(QString::fromStdString(driver_->lastSketch().name)));
  QTest::keyClick(evidence(), Qt::Key_Delete);
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(driver_->document().sketches.empty());
  EXPECT_TRUE(statusText().contains(QStringLiteral("removed")));
}

TEST_F(Ways, ASketchUndoesItsOwnStepsFirst) {
  open();
  survey();
  frame();
  section();  // its sketch's card stands open
  const int kept = window_.session().undoStack()->index();
  const auto draw = [&] {
    driver_->button(QStringLiteral("draw circle"));
    const auto& base = driver_->lastSketch().base;
    driver_->clickPoint(base.to_space(Vec2(-15, 5), driver_->lastSketch().level));
    driver_->clickPoint(base.to_space(Vec2(-12, 5), driver_->lastSketch().level));
    driver_->key(Qt::Key_Escape);
  };
  const auto said = [this] { return cardText(); };
  const QString before = said();
  draw();
  EXPECT_NE(said(), before);
  driver_->key(Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(window_.session().undoStack()->index(), kept) << "the document lost nothing";
  ASSERT_NE(window_.card(), nullptr);
  driver_->key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
  EXPECT_EQ(window_.session().undoStack()->index(), kept);
  driver_->key(Qt::Key_Z, Qt::ControlModifier);
  // With none of its own left, what was kept goes, and the card with it.
  driver_->key(Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(window_.session().undoStack()->index(), kept - 1);
  EXPECT_EQ(window_.card(), nullptr);
}

TEST_F(Ways, ASaveOutlivesOtherWorkAndFilesAreWrittenInOrder) {
  open();
  app::Works& works = window_.session().works();
  const QString path = folder_.filePath(QStringLiteral("a.lostline"));
  std::vector<int> order;
  std::atomic<bool> go = false;
  const auto wait = [&go](const Task& task) {
    while (!go && !task.stopped()) std::this_thread::sleep_for(std::chrono::milliseconds(5));
  };
  works.run(app::Works::Lane::Write, QStringLiteral("first"), [&](const Task& task) {
    wait(task);
    return app::Works::Finish([&order] { order.push_back(1); });
  });
  works.run(app::Works::Lane::Write, QStringLiteral("second"),
            [&](const Task&) { return app::Works::Finish([&order] { order.push_back(2); }); });
  bool ended = false;
  works.run(
      app::Works::Lane::Read, QStringLiteral("a valley"),
      [&](const Task& task) {
        wait(task);
        return app::Works::Finish();
      },
      [&ended] { ended = true; });
  // Another reading ends the one before it, and no file.
  works.run(app::Works::Lane::Read, QStringLiteral("another valley"),
            [](const Task&) { return app::Works::Finish(); });
  QTest::qWait(100);
  EXPECT_TRUE(ended);
  EXPECT_TRUE(order.empty());
  // What throws is told, and its lane goes on.
  works.run(app::Works::Lane::Read, QStringLiteral("a broken one"),
            [](const Task&) -> app::Works::Finish { throw std::runtime_error("out of order"); });
  go = true;
  ASSERT_TRUE(driver_->settle());
  EXPECT_EQ(order, (std::vector<int>{1, 2}));
  EXPECT_TRUE(said_.contains(QStringLiteral("out of order"))) << said_.toStdString();
}

TEST_F(Ways, WhatDidNotChangeIsNotComputedAnew) {
  build();
  ASSERT_TRUE(driver_->settle());
  const auto before = window_.session().route();
  ASSERT_NE(before->map, nullptr);
  // A name, a tolerance: the model, its triangles and the distances are the same objects.
  project::Document next = driver_->document();
  next.title = "another name";
  next.tolerance = 0.001;
  window_.session().commit(QStringLiteral("rename"), next);
  ASSERT_TRUE(driver_->settle());
  const auto after = window_.session().route();
  EXPECT_EQ(after->tessellation, before->tessellation);
  EXPECT_EQ(after->index, before->index);
  EXPECT_EQ(after->map, before->map);
  EXPECT_FALSE(after->map_is_old);
  EXPECT_LT(after->statistics.within_fraction, before->statistics.within_fraction);
  // Another value: while its distances are computed those before it stay, and say so.
  bool stayed = false;
  QObject::connect(&window_.session(), &app::Session::routeChanged, &window_, [&] {
    const auto now = window_.session().route();
    stayed = stayed || (now->map == before->map && now->map_is_old);
  });
  ASSERT_TRUE(driver_->ink(QStringLiteral("plate to"), 12));
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(stayed);
  EXPECT_NE(window_.session().route()->map, before->map);
  EXPECT_FALSE(window_.session().route()->map_is_old);
}

TEST_F(Ways, AStepMadeInOneGoWithOthersOpensOnTheModelBeforeIt) {
  build();
  ASSERT_TRUE(driver_->settle());
  const Box3 box = window_.session().route()->solid.box();
  const std::size_t plain = window_.session().route()->solid.face_count();
  const std::size_t first = driver_->document().steps.size();
  project::Document next = driver_->document();
  for (int k = 0; k < 3; ++k) {  // three pockets along an edge
    model::Primitive pocket;
    pocket.shape = model::Primitive::Shape::Block;
    pocket.operation = model::Operation::Cut;
    const double size = 0.05 * box.sizes().x();
    pocket.x_from.value = box.min().x() + (1 + 3 * k) * size;
    pocket.x_to.value = pocket.x_from.value + size;
    pocket.y_from.value = box.min().y() + size;
    pocket.y_to.value = pocket.y_from.value + size;
    pocket.z_from.value = box.max().z() - 0.2 * box.sizes().z();
    pocket.z_to.value = box.max().z() + size;
    next = project::add_step(next, pocket, "pocket " + std::to_string(k + 1), {}).document;
  }
  window_.session().commit(QStringLiteral("pockets"), next);
  ASSERT_TRUE(driver_->settle());
  ASSERT_EQ(window_.session().route()->solid.face_count(), plain + 15);
  ASSERT_EQ(window_.session().route()->steps.size(), first + 3);
  EXPECT_FALSE(window_.session().route()->steps[first].kept);
  auto* panel = window_.findChild<app::RoutePanel*>();
  ASSERT_NE(panel, nullptr);
  Q_EMIT panel->stepOpened(driver_->document().steps[first + 1].id);
  ASSERT_TRUE(driver_->settle());
  ASSERT_NE(window_.card(), nullptr);
  EXPECT_TRUE(window_.session().route()->steps[first].kept);
  EXPECT_EQ(window_.session().modelBefore(driver_->document().steps[first + 1].id).face_count(),
            plain + 5);
  // Changed, it stands between the others as before.
  driver_->number(QStringLiteral("z_from"), box.max().z() - 0.4 * box.sizes().z());
  ASSERT_TRUE(driver_->settle());
  bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_TRUE(driver_->settle());
  EXPECT_EQ(window_.session().route()->solid.face_count(), plain + 15);
  for (const model::StepResult& result : window_.session().route()->steps)
    EXPECT_EQ(result.state, model::StepState::Sound) << result.reason;
}

TEST_F(Ways, ACardThatWaitsLeavesTheBenchToTheOneThatRuns) {
  build();
  auto* route = window_.findChild<QListWidget*>();
  ASSERT_NE(route, nullptr);
  route->setCurrentRow(0);
  QTest::keyClick(route, Qt::Key_Return);  // the step's card
  ASSERT_TRUE(driver_->settle());
  ASSERT_NE(window_.card(), nullptr);
  driver_->number(QStringLiteral("to"), 9);
  driver_->stage(app::kSurvey);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Measure")));
  ASSERT_TRUE(driver_->clickRegion(region({0, 0, 1}), {0.2, 0.1, 1}));
  EXPECT_EQ(window_.desk().unkept(false).size(), 1);
  ASSERT_TRUE(bench().fitSelection());
  // What the waiting card edits goes: it is closed, said, and the other keeps its picks.
  project::Document less = driver_->document();
  less.steps.clear();
  window_.session().commit(QStringLiteral("remove the step"), less);
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(window_.desk().unkept(false).isEmpty());
  EXPECT_TRUE(statusText().contains(QStringLiteral("was closed"))) << statusText().toStdString();
  ASSERT_NE(window_.card(), nullptr);
  EXPECT_TRUE(bench().fitSelection());
}

TEST_F(Ways, AnotherProjectIsSeenWholeAndUpright) {
  build();
  const QString path = folder_.filePath(QStringLiteral("plate.lostline"));
  window_.saveTo(path);
  ASSERT_TRUE(driver_->settle());
  bench().lookAlong(0);
  const app::Camera upright = bench().camera();
  window_.openFile(scan_);  // without a frame: it lies elsewhere
  ASSERT_TRUE(driver_->settle());
  bench().camera().orbit(200, 90, Vec3(500, 0, 0));
  bench().camera().scale *= 20;
  window_.openFile(path);
  ASSERT_TRUE(driver_->settle());
  EXPECT_LT(bench().camera().rotation.angularDistance(upright.rotation), 1e-9);
  EXPECT_NE(bench().pickAt(bench().rect().center() + QPoint(60, 10)).what,
            app::Pick::What::Nothing);
}

TEST_F(Ways, AStoppedRouteIsNotHandedOn) {
  build();
  window_.session().recompute();
  window_.session().works().stop(app::Works::Lane::Route);
  ASSERT_TRUE(driver_->settle());
  ASSERT_TRUE(window_.session().route()->stopped);
  driver_->stage(app::kRelease);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Hand on")));
  const QString path = folder_.filePath(QStringLiteral("plate.step"));
  driver_->text(QStringLiteral("exportPath"), path);
  bench().setFocus();
  driver_->key(Qt::Key_Return);
  EXPECT_TRUE(cardText().contains(QStringLiteral("Recompute"))) << cardText().toStdString();
  EXPECT_FALSE(QFileInfo::exists(path));
  driver_->key(Qt::Key_F5);
  EXPECT_FALSE(window_.session().route()->stopped);
  bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_TRUE(driver_->settle());
  EXPECT_GT(QFileInfo(path).size(), 1000);
}

TEST_F(Ways, AFileIsNotWrittenOverUnasked) {
  build();
  const QString path = folder_.filePath(QStringLiteral("plate.step"));
  QFile there(path);
  ASSERT_TRUE(there.open(QIODevice::WriteOnly));
  there.write("mine");
  there.close();
  driver_->stage(app::kRelease);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Hand on")));
  driver_->text(QStringLiteral("exportPath"), path);
  bench().setFocus();
  driver_->key(Qt::Key_Return);
  EXPECT_NE(window_.card(), nullptr);
  EXPECT_TRUE(cardText().contains(QStringLiteral("exists"))) << cardText().toStdString();
  EXPECT_EQ(QFileInfo(path).size(), 4);
  driver_->key(Qt::Key_Return);  // again: yes
  ASSERT_TRUE(driver_->settle());
  EXPECT_GT(QFileInfo(path).size(), 1000);
}

}  // namespace
}  // namespace lostline
