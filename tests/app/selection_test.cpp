// One selection on the Bench and in every list; what is hidden, and the clip plane.
#include <QTreeWidget>
#include <cstdlib>

#include "jobs.h"
#include "jobs/showing.h"
#include "store/project_file.h"
#include "tools/tool.h"

namespace lostline {
namespace {

using app::Item;
using testing::Jobs;

class SelectionTest : public Jobs {
 protected:
  app::Selection& selection() { return window_.session().selection(); }
};

TEST_F(SelectionTest, IsTheSameOnTheBenchAndInTheLists) {
  build();
  driver_->stage(app::kSurvey);
  const std::uint32_t top = region({0, 0, 1});
  const std::uint32_t side = region({1, 0, 0});
  ASSERT_TRUE(driver_->clickRegion(top, {0.2, 0.1, 1}));
  EXPECT_EQ(selection().items(), (std::vector<Item>{{Item::Kind::Region, top}}));
  ASSERT_EQ(evidence()->selectedItems().size(), 1);
  EXPECT_TRUE(evidence()->selectedItems().front()->text(0).contains(QString::number(top)));
  // Ctrl takes one more in the list; the Bench shows both.
  for (QTreeWidgetItemIterator it(evidence()); *it != nullptr; ++it) {
    if ((*it)->text(0).contains(QStringLiteral("\u25b1 %1 ").arg(side))) {
      clickRow(*it, Qt::ControlModifier);
      break;
    }
  }
  EXPECT_EQ(selection().items().size(), 2U);
  EXPECT_TRUE(selection().has({Item::Kind::Region, side}));
  EXPECT_TRUE(bench().fitSelection());
  // Ctrl on the Bench takes it out again.
  const auto triangles = survey::triangles_of(*driver_->document().survey, top);
  bench().lookAt(Vec3(0.2, 0.1, 1), Vec3::UnitY());
  QTest::qWait(30);
  for (const std::uint32_t t : triangles) {
    const QPointF at = bench().camera().toScreen(driver_->document().to_part() *
                                                 driver_->document().scan->mesh->centroid(t));
    if (bench().pickAt(QPointF(at.toPoint())).region != top) continue;
    QTest::mouseClick(&bench(), Qt::LeftButton, Qt::ControlModifier, at.toPoint());
    break;
  }
  EXPECT_EQ(selection().items(), (std::vector<Item>{{Item::Kind::Region, side}}));
  // A step chosen in the Route is red on the Bench; undo of the step drops it.
  driver_->stage(app::kBuild);
  auto* route = window_.findChild<QListWidget*>();
  QTest::mouseClick(route->viewport(), Qt::LeftButton, {},
                    route->visualItemRect(route->item(0)).center());
  ASSERT_EQ(selection().items().size(), 1U);
  EXPECT_EQ(selection().items().front().kind, Item::Kind::Step);
  EXPECT_TRUE(bench().fitSelection());
  window_.session().undoStack()->undo();
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(selection().items().empty());
}

TEST_F(SelectionTest, ABoxWithShiftTakesWhatLiesInsideIt) {
  open();
  survey();
  frame();
  driver_->stage(app::kSurvey);
  bench().lookAt(Vec3(0.3, -0.5, 1).normalized(), Vec3::UnitY());
  QTest::qWait(30);
  drag(Qt::LeftButton, {20, 20}, QPoint(bench().width() - 20, bench().height() - 20),
       Qt::ShiftModifier);
  std::size_t regions = 0;
  for (const auto& r : driver_->document().survey->regions) regions += r.triangles > 0 ? 1 : 0;
  EXPECT_EQ(selection().items().size(), regions);
  // About the bore alone.
  const std::uint32_t bore = region(Vec3::Zero());
  QRectF box;
  for (const std::uint32_t t : survey::triangles_of(*driver_->document().survey, bore)) {
    const QPointF at = bench().camera().toScreen(driver_->document().to_part() *
                                                 driver_->document().scan->mesh->centroid(t));
    box = box.united(QRectF(at - QPointF(6, 6), QSizeF(12, 12)));
  }
  drag(Qt::LeftButton, box.topLeft().toPoint(), box.bottomRight().toPoint(), Qt::ShiftModifier);
  EXPECT_TRUE(selection().has({Item::Kind::Region, bore}));
  EXPECT_LT(selection().items().size(), regions);
  // The camera stood still.
  EXPECT_FALSE(bench().pickAt(box.center()).what == app::Pick::What::Nothing &&
               selection().items().empty());
}

TEST_F(SelectionTest, EvidenceShowsOnlyWhatTheWaitingInputTakes) {
  open();
  survey();
  driver_->stage(app::kTrace);
  const auto shown = [this] {
    int planes = 0, others = 0;
    for (QTreeWidgetItemIterator it(evidence()); *it != nullptr; ++it) {
      if ((*it)->childCount() > 0 || (*it)->isHidden()) continue;
      ((*it)->text(0).contains(QStringLiteral("\u25b1")) ? planes : others)++;
    }
    return std::pair(planes, others);
  };
  const auto before = shown();
  EXPECT_GT(before.second, 0);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Section")));
  QTest::qWait(30);
  EXPECT_EQ(shown(), before) << "a datum plane waits for no pick";
  driver_->choose(QStringLiteral("sectionPlane"), 3);  // on a face or fit
  QTest::qWait(30);
  EXPECT_EQ(shown(), std::pair(before.first, 0));
  // One click in the list is the pick.
  clickRow(row(QStringLiteral("\u25b1")));
  ASSERT_TRUE(driver_->settle());
  auto* field = window_.card()->findChild<QComboBox*>(QStringLiteral("sectionFace"));
  EXPECT_FALSE(field->currentText().contains(QStringLiteral("click")));
  bench().setFocus();
  driver_->key(Qt::Key_Escape);
  QTest::qWait(30);
  EXPECT_EQ(shown(), before);
}

TEST_F(SelectionTest, AToolStartsWithWhatIsSelected) {
  build();
  driver_->stage(app::kSurvey);
  const std::uint32_t top = region({0, 0, 1});
  const std::uint32_t bottom = region({0, 0, -1});
  selection().set({{Item::Kind::Region, top}, {Item::Kind::Region, bottom}});
  QMenu menu;
  // The menu that a right click on either place opens.
  auto* panel = window_.findChild<app::EvidencePanel*>();
  Q_EMIT panel->menuWanted(&menu);
  QAction* measure = nullptr;
  QStringList offered;
  for (QAction* action : menu.actions()) {
    offered << action->text();
    if (action->text().startsWith(QStringLiteral("Measure"))) measure = action;
  }
  ASSERT_NE(measure, nullptr) << offered.join(',').toStdString();
  EXPECT_TRUE(offered.contains(QStringLiteral("Hide")));
  measure->trigger();
  ASSERT_TRUE(driver_->settle());
  EXPECT_EQ(window_.desk().tool(), app::find_tool("Measure"));
  EXPECT_TRUE(cardText().contains(QStringLiteral("10.0"))) << cardText().toStdString();
}

TEST_F(SelectionTest, TheMenuOfARowIsOfThatRow) {
  open();
  survey();
  const std::uint32_t bore = region(Vec3::Zero());
  selection().set({{Item::Kind::Region, region({0, 0, 1})}});
  QTreeWidgetItem* line = nullptr;
  for (QTreeWidgetItemIterator it(evidence()); *it != nullptr; ++it) {
    if ((*it)->text(0).endsWith(QString::number(bore)) && (*it)->childCount() == 0) line = *it;
  }
  ASSERT_NE(line, nullptr);
  evidence()->scrollToItem(line);
  std::vector<Item> offered_for;
  auto* panel = window_.findChild<app::EvidencePanel*>();
  QObject::connect(panel, &app::EvidencePanel::menuWanted, panel, [&](QMenu* menu) {
    offered_for = selection().items();
    QTimer::singleShot(50, menu, &QMenu::close);
  });
  const QPoint at = evidence()->visualItemRect(line).center();
  QTest::mouseClick(evidence()->viewport(), Qt::RightButton, {}, at);
  Q_EMIT evidence()->customContextMenuRequested(at);
  EXPECT_EQ(offered_for, (std::vector<Item>{{Item::Kind::Region, bore}}));
}

TEST_F(SelectionTest, WhatIsHiddenIsNotDrawnNotPickedAndRemembered) {
  build();
  driver_->stage(app::kSurvey);
  bench().lookAt(Vec3(0, 0, 1), Vec3::UnitY());
  driver_->rest();
  const std::uint32_t top = region({0, 0, 1});
  const QPointF at(bench().camera().toScreen(Vec3(15, 10, 10)));
  const app::Pick seen = bench().pickAt(at);
  ASSERT_EQ(seen.region, top);
  const QImage before = bench().grab().toImage();
  app::set_visibility(window_.session(), {{Item::Kind::Region, top}}, project::Visibility::Hidden);
  ASSERT_TRUE(driver_->settle());
  driver_->rest();
  EXPECT_NE(bench().pickAt(at).region, top);
  EXPECT_NE(bench().grab().toImage(), before);
  app::set_visibility(window_.session(), {{Item::Kind::Scan}}, project::Visibility::Hidden);
  ASSERT_TRUE(driver_->settle());
  EXPECT_EQ(bench().pickAt(at).what, app::Pick::What::Nothing);
  const std::string body = window_.session().route()->solid.body(0).key;
  app::set_visibility(window_.session(), {{Item::Kind::Body, 0, body}},
                      project::Visibility::Translucent);
  app::set_visibility(window_.session(), {{Item::Kind::Sketch, driver_->lastSketch().id}},
                      project::Visibility::Shown);
  ASSERT_TRUE(driver_->settle());
  const QString path = folder_.filePath(QStringLiteral("shown.lostline"));
  window_.saveTo(path);
  ASSERT_TRUE(driver_->settle());
  const auto loaded = store::load_project(path.toStdString());
  ASSERT_TRUE(loaded) << loaded.error().message;
  EXPECT_EQ(loaded->showing, driver_->document().showing);
  EXPECT_EQ(loaded->bodies, driver_->document().bodies);
  EXPECT_TRUE(loaded->bodies.at(body).translucent);
  app::show_all(window_.session());
  ASSERT_TRUE(driver_->settle());
  EXPECT_EQ(bench().pickAt(at).region, top);
  EXPECT_TRUE(driver_->document().bodies.empty());
  // Translucent: drawn after the others, still picked, remembered.
  app::set_visibility(window_.session(), {{Item::Kind::Region, top}},
                      project::Visibility::Translucent);
  ASSERT_TRUE(driver_->settle());
  if (const char* folder = std::getenv("LOSTLINE_SHOTS")) {
    driver_->shot_folder = QString::fromLocal8Bit(folder);
    driver_->shot(QStringLiteral("translucent"));
  }
  EXPECT_EQ(bench().pickAt(at).region, top);
  int said = 0;
  for (QTreeWidgetItemIterator it(evidence()); *it != nullptr; ++it) {
    for (int c = 0; c < evidence()->columnCount(); ++c)
      said += (*it)->text(c) == QStringLiteral("translucent") ? 1 : 0;
  }
  EXPECT_EQ(said, 1);
  {
    const project::Document& d = driver_->document();
    const app::ScanArrays arrays = app::arrays_of(d.scan, d.survey.get(), d.showing);
    std::size_t of_top = 0;
    for (const auto& r : d.survey->regions) of_top += r.id == top ? r.triangles : 0;
    EXPECT_EQ(arrays.translucent, of_top);
    EXPECT_EQ(arrays.opaque + arrays.translucent, d.scan->mesh->triangles.size());
    EXPECT_EQ(arrays.indices.size(), 3 * d.scan->mesh->triangles.size());
    EXPECT_EQ(arrays.vertices.size(), 6 * d.scan->mesh->vertices.size());
    window_.saveTo(path);
    ASSERT_TRUE(driver_->settle());
    const auto again = store::load_project(path.toStdString());
    ASSERT_TRUE(again) << again.error().message;
    EXPECT_EQ(again->showing.of_region(top), project::Visibility::Translucent);
  }
  // Only one: all others of its kind go.
  app::show_only(window_.session(), {{Item::Kind::Region, top}});
  ASSERT_TRUE(driver_->settle());
  for (const auto& r : driver_->document().survey->regions) {
    if (r.triangles == 0) continue;
    EXPECT_EQ(driver_->document().showing.hidden_regions.contains(r.id), r.id != top);
  }
}

TEST_F(SelectionTest, TheClipPlaneIsDraggedAndShowsTheCutOfTheModel) {
  build();
  driver_->stage(app::kBuild);
  bench().lookAt(Vec3(0.5, -0.8, 0.35).normalized(), Vec3::UnitZ());
  driver_->rest();
  bench().setFocus();
  driver_->key(Qt::Key_W);
  driver_->key(Qt::Key_C);
  ASSERT_TRUE(bench().clip());
  EXPECT_LT(bench().clip()->normal.y(), -0.99) << "what is nearer to the eye goes";
  driver_->rest();
  // Where the plane passes through material the picture shows the hatched cut, not the far wall.
  const double level = bench().clip()->offset;
  const double centre = -level;
  const QPointF cut = bench().camera().toScreen(Vec3(-19, centre, 5));
  const QImage picture = bench().grab().toImage();
  const double ratio = bench().devicePixelRatioF();
  int hatched = 0, plain = 0;
  for (int dx = -10; dx <= 10; ++dx) {
    const QColor c = picture.pixelColor((ratio * (cut + QPointF(dx, 0))).toPoint());
    hatched += c.lightnessF() < 0.5 ? 1 : 0;
    plain += std::abs(c.red() - 0xC9) < 12 && std::abs(c.blue() - 0xDA) < 12 ? 1 : 0;
  }
  EXPECT_GT(plain, 8);
  EXPECT_GT(hatched, 1);
  // Nothing beyond it can be picked.
  const app::Pick pick = bench().pickAt(bench().rect().center());
  if (pick.what != app::Pick::What::Nothing) {
    EXPECT_LE(bench().clip()->normal.dot(pick.point), level + 1e-6);
  }
  const app::Camera before = bench().camera();
  const QPoint handle = bench().clipHandle().toPoint();
  const Vec3 n = bench().clip()->normal;
  const QPointF along = before.toScreen(5 * n) - before.toScreen(Vec3::Zero());
  drag(Qt::LeftButton, handle, handle + along.toPoint());
  EXPECT_NEAR(bench().clip()->offset - level, 5, 0.5);
  EXPECT_LT(bench().camera().rotation.angularDistance(before.rotation), 1e-12);
  driver_->key(Qt::Key_W);
  driver_->key(Qt::Key_F);
  EXPECT_GT(bench().clip()->normal.y(), 0.99);
  driver_->key(Qt::Key_W);
  driver_->key(Qt::Key_C);
  EXPECT_FALSE(bench().clip());
}

}  // namespace
}  // namespace lostline
