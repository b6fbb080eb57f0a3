// Everything can be reached and is named: for the keyboard, and for those who hear the screen.
#include <QAccessible>
#include <set>

#include "jobs.h"
#include "tools/tool.h"
#include "windows/tour.h"

namespace lostline {
namespace {

using testing::Jobs;

class Access : public Jobs {
 protected:
  /// Widgets that somebody works with, which have no name that can be read out.
  std::vector<std::string> nameless(QWidget& top) {
    std::vector<std::string> found;
    for (QWidget* w : top.findChildren<QWidget*>()) {
      if (!w->isVisible() || w->focusPolicy() == Qt::NoFocus) continue;
      const QString inner = w->objectName();
      // Parts of a composed widget are read out with it.
      if (inner.startsWith(QStringLiteral("qt_")) ||
          qobject_cast<QAbstractSpinBox*>(w->parentWidget()) != nullptr ||
          qobject_cast<QComboBox*>(w->parentWidget()) != nullptr ||
          qobject_cast<QMenuBar*>(w) != nullptr || w->inherits("QComboBoxPrivateContainer"))
        continue;
      QAccessibleInterface* face = QAccessible::queryAccessibleInterface(w);
      if (face == nullptr || !face->text(QAccessible::Name).trimmed().isEmpty()) continue;
      found.push_back(std::string(w->metaObject()->className()) + " " + inner.toStdString());
    }
    return found;
  }
};

TEST_F(Access, EverythingThatTakesTheFocusHasAName) {
  EXPECT_EQ(nameless(window_), std::vector<std::string>()) << "the start";
  build();
  for (const app::Tool& tool : app::tools()) {
    window_.bench().setFocus();
    driver_->key(app::stage_info(tool.stage).key);
    driver_->key(tool.key());
    ASSERT_NE(window_.card(), nullptr) << tool.name;
    EXPECT_EQ(nameless(window_), std::vector<std::string>()) << tool.name;
    window_.desk().clear();
  }
}

TEST_F(Access, TheTabKeyGoesRoundEverythingAndLeavesTheBench) {
  build();
  ASSERT_TRUE(driver_->tool(QStringLiteral("Extrude")));
  window_.bench().setFocus();
  std::set<QWidget*> reached;
  bool came_back = false;
  for (int i = 0; i < 150 && !came_back; ++i) {
    QWidget* now = QApplication::focusWidget();
    ASSERT_NE(now, nullptr);
    QTest::keyClick(now, Qt::Key_Tab);
    QWidget* next = QApplication::focusWidget();
    ASSERT_NE(next, now) << now->metaObject()->className() << " " << now->objectName().toStdString()
                         << " keeps the focus";
    came_back = next == &window_.bench();
    reached.insert(next);
  }
  EXPECT_TRUE(came_back);
  // The card's fields, both lists, the search.
  for (const char* name : {"stepName", "from", "to", "evidence", "ledger", "search"}) {
    bool there = false;
    for (const QWidget* w : reached) there = there || w->objectName() == QString::fromUtf8(name);
    EXPECT_TRUE(there) << name;
  }
}

TEST_F(Access, TheTourLeadsFromTheScanToDecidedValues) {
  auto* tour = window_.findChild<app::Tour*>();
  ASSERT_NE(tour, nullptr);
  EXPECT_FALSE(tour->isVisible());
  open();
  tour->begin();
  EXPECT_TRUE(tour->isVisible());
  EXPECT_EQ(tour->step(), 0);
  const auto start = [&] {
    for (QPushButton* b : tour->findChildren<QPushButton*>()) {
      if (b->text().startsWith(QStringLiteral("Start"))) QTest::mouseClick(b, Qt::LeftButton);
    }
    driver_->settle();
    ASSERT_NE(window_.card(), nullptr);
  };
  const auto keep = [&] {
    window_.bench().setFocus();
    driver_->key(Qt::Key_Return);
    QTest::qWait(60);
  };
  start();
  EXPECT_EQ(window_.desk().tool()->name, std::string("Regions"));
  keep();
  EXPECT_EQ(tour->step(), 1);
  start();
  ASSERT_TRUE(driver_->button(QStringLiteral("proposeFrame")));
  keep();
  EXPECT_EQ(tour->step(), 2);
  start();
  driver_->number(QStringLiteral("sectionLevel"), 5);
  keep();
  EXPECT_EQ(tour->step(), 3);
  keep();
  start();
  keep();
  EXPECT_EQ(tour->step(), 4);
  // Undo goes back in the tour as well.
  window_.session().undoStack()->undo();
  driver_->settle();
  EXPECT_EQ(tour->step(), 3);
  for (QPushButton* b : tour->findChildren<QPushButton*>()) {
    if (b->text().startsWith(QStringLiteral("Leave"))) QTest::mouseClick(b, Qt::LeftButton);
  }
  EXPECT_FALSE(tour->isVisible());
  EXPECT_EQ(driver_->document().sketches.size(), 1U) << "what was made stays";
}

TEST_F(Access, TheStartPageListsWhatWasWorkedOnBefore) {
  open();
  const QString path = folder_.filePath(QStringLiteral("before.lostline"));
  window_.saveTo(path);
  ASSERT_TRUE(driver_->settle());
  window_.session().replace({}, {});
  QTest::qWait(30);
  QPushButton* line = nullptr;
  for (QPushButton* b : window_.findChildren<QPushButton*>(QStringLiteral("recentFile"))) {
    if (b->toolTip() == path) line = b;
  }
  ASSERT_NE(line, nullptr);
  ASSERT_TRUE(line->isVisible());
  QTest::mouseClick(line, Qt::LeftButton);
  ASSERT_TRUE(driver_->settle());
  EXPECT_EQ(window_.session().path(), path);
  EXPECT_FALSE(window_.findChild<QWidget*>(QStringLiteral("startPage"))->isVisible());
}

}  // namespace
}  // namespace lostline
