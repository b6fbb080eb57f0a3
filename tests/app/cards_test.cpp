// What every card owes, whatever its tool: nothing lost, nothing hidden, the view left alone.
#include <array>
#include <cmath>

#include "../support/rounds.h"
#include "jobs.h"
#include "look/preferences.h"
#include "store/project_file.h"
#include "windows/leader_keys.h"

namespace lostline {
namespace {

using testing::Jobs;

class EveryCard : public Jobs {
 protected:
  struct Tool {
    int stage;
    QString name;
  };
  std::vector<Tool> tools() {
    std::vector<Tool> all;
    for (int stage = app::kReceive; stage <= app::kRelease; ++stage) {
      for (const QString& name : window_.rail().toolNames(stage)) {
        if (name != QStringLiteral("Open")) all.push_back({stage, name});
      }
    }
    return all;
  }
  /// A third of them; all when thorough.
  std::vector<Tool> someTools() {
    std::vector<Tool> all = tools();
    if (testing::thorough()) return all;
    std::vector<Tool> some;
    for (std::size_t i = all.size() % 3; i < all.size(); i += 3) some.push_back(all[i]);
    return some;
  }
  app::ToolCard* start(const Tool& tool) {
    driver_->stage(tool.stage);
    EXPECT_TRUE(driver_->tool(tool.name)) << tool.name.toStdString();
    driver_->settle();
    EXPECT_NE(window_.card(), nullptr) << tool.name.toStdString();
    return window_.card();
  }
  void discard() {
    // Twice where a step of the card's own is ended first.
    for (int i = 0; i < 2 && window_.card() != nullptr; ++i) {
      window_.bench().setFocus();
      driver_->key(Qt::Key_Escape);
    }
    EXPECT_EQ(window_.card(), nullptr);
  }
  /// A press of the mouse on the card, as somebody who works in it does.
  void work(app::ToolCard* card) {
    QTest::mouseClick(card->findChild<QLabel*>(QStringLiteral("evidence")), Qt::LeftButton);
  }
  bool seen(QWidget* widget) {
    const QRect here(widget->mapTo(&window_, QPoint()), widget->size());
    return widget->isVisible() && window_.rect().contains(here);
  }
  void expectInches(app::ToolCard* card) {
    for (QLabel* label : card->findChildren<QLabel*>()) {
      EXPECT_FALSE(label->text().endsWith(QStringLiteral(", mm"))) << label->text().toStdString();
      const auto* box = qobject_cast<QAbstractSpinBox*>(label->buddy());
      if (box == nullptr) continue;
      const auto* length = qobject_cast<const app::LengthBox*>(box);
      EXPECT_EQ(label->text().endsWith(QStringLiteral(", in")),
                length != nullptr && length->isLength())
          << label->text().toStdString();
      if (length == nullptr || !length->isLength() || length->value() == 0) continue;
      const auto decimals = length->text().section(QLatin1Char('.'), 1).size();
      EXPECT_NEAR(length->text().toDouble(), length->value() / 25.4,
                  0.51 * std::pow(10.0, -static_cast<double>(decimals)))
          << label->text().toStdString();
    }
  }
  QPushButton* named(app::ToolCard* card, const QString& accessible_name) {
    for (QPushButton* b : card->findChildren<QPushButton*>()) {
      if (b->accessibleName() == accessible_name) return b;
    }
    return nullptr;
  }
};

TEST_F(EveryCard, LeavesTheBenchFreeTheViewAloneAndKeepAndDiscardInSight) {
  window_.resize(1280, 720);
  build();
  app::BenchView& bench = window_.bench();
  bench.lookAlong(Vec3(0.4, -0.8, 0.45), Vec3::UnitZ());
  bench.camera().scale *= 1.7;
  QTest::qWait(50);
  for (const Tool& tool : tools()) {
    SCOPED_TRACE(tool.name.toStdString());
    const app::Camera before = bench.camera();
    const QSize room = bench.size();
    const int undo = window_.session().undoStack()->index();
    app::ToolCard* card = start(tool);
    ASSERT_NE(card, nullptr);
    QTest::qWait(20);
    EXPECT_FALSE(bench.isAncestorOf(card));
    EXPECT_EQ(bench.size(), room);
    EXPECT_EQ(window_.height(), 720);
    QPushButton* keep = named(card, QStringLiteral("Keep"));
    ASSERT_NE(keep, nullptr);
    EXPECT_TRUE(seen(keep));
    QPushButton* drop = named(card, QStringLiteral("Discard"));
    EXPECT_TRUE(drop->isHidden() || seen(drop));
    EXPECT_FALSE(card->accessibleName().isEmpty());
    // A bar beside the inputs only where they do not fit without one.
    const auto* area = card->findChild<QScrollArea*>();
    ASSERT_NE(area, nullptr);
    EXPECT_FALSE(area->verticalScrollBar()->isVisible() &&
                 card->height() >= card->sizeHint().height());
    discard();
    EXPECT_EQ(window_.session().undoStack()->index(), undo);
    EXPECT_EQ(bench.camera().scale, before.scale);
    EXPECT_LT((bench.camera().target - before.target).norm(), 1e-9);
    EXPECT_LT(bench.camera().rotation.angularDistance(before.rotation), 1e-9);
  }
}

TEST_F(EveryCard, FollowsWhateverUndoTakesAway) {
  build();
  const project::Document whole = driver_->document();
  project::Document no_steps = whole;
  no_steps.steps.clear();
  project::Document no_sketches = no_steps;
  no_sketches.sketches.clear();
  no_sketches.dimensions.clear();
  project::Document no_survey = no_sketches;
  no_survey.survey.reset();
  no_survey.fits.clear();
  no_survey.relations.clear();
  no_survey.frame.reset();
  app::History* stack = window_.session().undoStack();
  const QPointF middle = window_.bench().rect().center();
  std::size_t next = 0;
  for (const Tool& tool : tools()) {
    // Each of the poorer documents in turn, all of them for every tool when thorough.
    const std::array poorer{no_steps, no_sketches, no_survey, project::Document()};
    const std::size_t count = testing::thorough() ? poorer.size() : 1;
    for (std::size_t i = 0; i < count; ++i) {
      const project::Document& less = poorer.at(next++ % poorer.size());
      SCOPED_TRACE(tool.name.toStdString() + " " + std::to_string(next % poorer.size()));
      const int built = stack->index();
      ASSERT_NE(start(tool), nullptr);
      work(window_.card());
      driver_->click(middle);
      window_.session().commit(QStringLiteral("take away"), less);
      driver_->click(middle);
      driver_->settle();
      // What is kept now rests on what there is; nothing of what is gone comes back.
      window_.bench().setFocus();
      driver_->key(Qt::Key_Return);
      EXPECT_LE(driver_->document().sketches.size(), less.sketches.size() + 1);
      window_.desk().clear();
      stack->setIndex(built);
      driver_->settle();
      ASSERT_EQ(driver_->document().steps.size(), 1U);
    }
  }
}

TEST_F(EveryCard, FollowsUndoAndRedoStepByStep) {
  build();
  app::History* stack = window_.session().undoStack();
  const int built = stack->index();
  for (const Tool& tool : someTools()) {
    SCOPED_TRACE(tool.name.toStdString());
    ASSERT_NE(start(tool), nullptr);
    for (int i = 0; i + 1 < built; ++i) stack->undo();
    driver_->settle();
    for (int i = 0; i + 1 < built; ++i) stack->redo();
    window_.session().announce();
    driver_->settle();
    window_.desk().clear();
    ASSERT_EQ(stack->index(), built);
    ASSERT_EQ(driver_->document().steps.size(), 1U);
  }
}

TEST_F(EveryCard, WaitsWithWhatWasEnteredAndComesBack) {
  build();
  for (const Tool& tool : someTools()) {
    SCOPED_TRACE(tool.name.toStdString());
    const QPointer<app::ToolCard> card = start(tool);
    ASSERT_NE(card, nullptr);
    std::vector<std::pair<QDoubleSpinBox*, double>> numbers;
    for (QDoubleSpinBox* box : card->findChildren<QDoubleSpinBox*>()) {
      if (!box->isVisible()) continue;
      numbers.emplace_back(box, box->value());
    }
    // Where nothing can be discarded nothing is unkept.
    const bool waits = !named(card, QStringLiteral("Discard"))->isHidden();
    work(card);
    const int elsewhere = tool.stage == app::kReceive ? app::kProve : app::kReceive;
    driver_->stage(elsewhere);
    EXPECT_EQ(window_.card(), nullptr);
    EXPECT_EQ(window_.desk().unkept(false), waits ? QStringList{tool.name} : QStringList());
    driver_->stage(tool.stage);
    QTest::qWait(30);
    driver_->settle();
    EXPECT_EQ(window_.card(), waits ? card.data() : nullptr);
    if (!waits) continue;
    for (const auto& [box, value] : numbers)
      EXPECT_EQ(box->value(), value) << box->objectName().toStdString();
    discard();
    EXPECT_TRUE(window_.desk().unkept(true).isEmpty());
  }
}

TEST_F(EveryCard, HasInchesInEveryLengthOrInNone) {
  build();
  const app::Preferences before = app::preferences();
  app::Preferences inches = before;
  inches.inches = true;
  app::set_preferences(inches);
  window_.applyPreferences();
  for (const Tool& tool : tools()) {
    SCOPED_TRACE(tool.name.toStdString());
    app::ToolCard* card = start(tool);
    ASSERT_NE(card, nullptr);
    expectInches(card);
    discard();
  }
  app::set_preferences(before);
  window_.applyPreferences();
}

TEST_F(EveryCard, FollowsTheUnitWhileItIsOpen) {
  build();
  const app::Preferences before = app::preferences();
  app::Preferences inches = before;
  inches.inches = true;
  for (const Tool& tool : someTools()) {
    SCOPED_TRACE(tool.name.toStdString());
    app::ToolCard* card = start(tool);
    ASSERT_NE(card, nullptr);
    app::set_preferences(inches);
    window_.applyPreferences();
    driver_->settle();
    ASSERT_EQ(window_.card(), card);
    expectInches(card);
    discard();
    app::set_preferences(before);
    window_.applyPreferences();
  }
}

TEST_F(EveryCard, OutlivesASaveAndAnotherProjectClosesIt) {
  build();
  const QString path = folder_.filePath(QStringLiteral("plate.lostline"));
  for (const Tool& tool : someTools()) {
    SCOPED_TRACE(tool.name.toStdString());
    app::ToolCard* card = start(tool);
    ASSERT_NE(card, nullptr);
    window_.saveTo(path);
    driver_->settle();
    EXPECT_EQ(window_.card(), card);
    window_.openFile(path);
    driver_->settle();
    EXPECT_EQ(window_.card(), nullptr);
    ASSERT_EQ(driver_->document().steps.size(), 1U);
  }
}

}  // namespace
}  // namespace lostline
