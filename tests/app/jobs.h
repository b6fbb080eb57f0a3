#pragma once

#include <gtest/gtest.h>

#include <QtTest>
#include <QtWidgets>

#include "../core/plate_scan.h"
#include "io/mesh_files.h"
#include "project/ledger.h"
#include "window_driver.h"

namespace lostline::testing {

/// A window with the scan of the plate, and the first stages as single acts.
class Jobs : public ::testing::Test {
 protected:
  void SetUp() override {
    window_.show();
    driver_ = std::make_unique<WindowDriver>(window_);
    QObject::connect(&window_.session(), &app::Session::failed,
                     [this](const QString& text) { said_ = text; });
    scan_ = folder_.filePath(QStringLiteral("plate.stl"));
    ASSERT_TRUE(io::write_stl(scan_.toStdString(), plate_mesh(0.01)));
  }
  void open() {
    window_.openFile(scan_);
    ASSERT_TRUE(driver_->settle());
    ASSERT_NE(driver_->document().scan, nullptr);
    window_.bench().setFocus();
    driver_->key(Qt::Key_Return);  // the health card's proposals
  }
  void survey() {
    driver_->stage(app::kSurvey);
    ASSERT_TRUE(driver_->tool(QStringLiteral("Regions")));
    driver_->key(Qt::Key_Return);
    ASSERT_NE(driver_->document().survey, nullptr);
  }
  /// A region by the direction that its plane faces, in part coordinates; the bore for zero.
  std::uint32_t region(const Vec3& out) {
    const auto& d = driver_->document();
    for (const auto& r : d.survey->regions) {
      if (!r.fit) continue;
      const bool plane = r.fit->surface.kind == fit::Kind::Plane;
      if (out.isZero() ? !plane
                       : plane && (d.to_part().linear() * r.fit->surface.axis).dot(out) > 0.99)
        return r.id;
    }
    return 0;
  }
  void frame() {
    driver_->stage(app::kDatum);
    ASSERT_TRUE(driver_->tool(QStringLiteral("Frame")));
    const std::uint32_t bottom = region({0, 0, -1});
    const std::uint32_t side = region({1, 0, 0});
    const std::uint32_t hole = region(Vec3::Zero());
    ASSERT_TRUE(driver_->clickRegion(bottom, {0.2, 0.1, -1}));
    ASSERT_TRUE(driver_->clickRegion(side, {1, 0.2, 0.4}));
    ASSERT_TRUE(driver_->clickRegion(hole, {0.5, 0.2, 1}));
    window_.bench().setFocus();
    driver_->key(Qt::Key_Return);
    ASSERT_NE(driver_->document().frame, nullptr);
  }
  /// A section at half height, kept with its sketch.
  void section() {
    driver_->stage(app::kTrace);
    ASSERT_TRUE(driver_->tool(QStringLiteral("Section")));
    driver_->number(QStringLiteral("sectionLevel"), 5);
    window_.bench().setFocus();
    driver_->key(Qt::Key_Return);
    ASSERT_EQ(driver_->document().sketches.size(), 1U);
    QTest::qWait(60);
    ASSERT_NE(window_.card(), nullptr);
  }
  void extrude() {
    driver_->stage(app::kBuild);
    ASSERT_TRUE(driver_->tool(QStringLiteral("Extrude")));
    driver_->text(QStringLiteral("stepName"), QStringLiteral("plate"));
    window_.bench().setFocus();
    driver_->key(Qt::Key_Return);
    ASSERT_EQ(driver_->document().steps.size(), 1U);
    ASSERT_EQ(state(0), model::StepState::Sound);
  }
  /// All of it: a model of one step, the plate. Made by hand the first time; later windows are
  /// given the same edits one after the other.
  void build() {
    static std::vector<std::shared_ptr<const project::Document>> edits;
    app::Session& session = window_.session();
    if (edits.empty()) {
      std::vector<std::shared_ptr<const project::Document>> made;
      const auto watching = QObject::connect(&session, &app::Session::changed, [&] {
        if (made.empty() || made.back() != session.snapshot()) made.push_back(session.snapshot());
      });
      buildByHand();
      QObject::disconnect(watching);
      if (!HasFatalFailure()) edits = std::move(made);
      return;
    }
    session.replace(*edits.front(), {});
    window_.bench().lookAlong(0);
    window_.bench().fitView();
    for (std::size_t k = 1; k < edits.size(); ++k)
      session.commit(QStringLiteral("edit %1").arg(k), *edits[k]);
    driver_->stage(app::kBuild);
    ASSERT_TRUE(driver_->settle());
    ASSERT_EQ(state(0), model::StepState::Sound);
  }
  void buildByHand() {
    open();
    survey();
    frame();
    section();
    driver_->key(Qt::Key_Return);
    extrude();
  }
  model::StepState state(std::size_t step) {
    const auto& steps = window_.session().route()->steps;
    return step < steps.size() ? steps[step].state : model::StepState::Stale;
  }
  app::BenchView& bench() { return window_.bench(); }
  /// A drag on the Bench; QTest's moves carry no buttons.
  void drag(Qt::MouseButton button, const QPoint& from, const QPoint& to,
            Qt::KeyboardModifiers modifiers = {}) {
    QTest::mousePress(&bench(), button, modifiers, from);
    for (int i = 1; i <= 4; ++i) {
      const QPointF at = QPointF(from) + (QPointF(to) - QPointF(from)) * i / 4.0;
      QMouseEvent move(QEvent::MouseMove, at, bench().mapToGlobal(at), Qt::NoButton, button,
                       modifiers);
      QApplication::sendEvent(&bench(), &move);
    }
    QTest::mouseRelease(&bench(), button, modifiers, to);
    QTest::qWait(30);
    driver_->settle();
  }
  QTreeWidget* evidence() { return window_.findChild<QTreeWidget*>(QStringLiteral("evidence")); }
  QTreeWidgetItem* row(const QString& text) {
    for (QTreeWidgetItemIterator it(evidence()); *it != nullptr; ++it) {
      if ((*it)->text(0).contains(text)) return *it;
    }
    return nullptr;
  }
  void clickRow(QTreeWidgetItem* item, Qt::KeyboardModifiers modifiers = {}) {
    evidence()->scrollToItem(item);
    QTest::mouseClick(evidence()->viewport(), Qt::LeftButton, modifiers,
                      evidence()->visualItemRect(item).center());
  }
  QString cardText() {
    QString text;
    if (window_.card() == nullptr) return text;
    for (QLabel* label : window_.card()->findChildren<QLabel*>()) text += label->text() + ' ';
    return text;
  }
  QString statusText() {
    QString text;
    for (QLabel* label : window_.statusBar()->findChildren<QLabel*>()) text += label->text() + ' ';
    return text;
  }

  QTemporaryDir folder_;
  QString scan_;
  QString said_;
  app::MainWindow window_;
  std::unique_ptr<WindowDriver> driver_;
};

}  // namespace lostline::testing
