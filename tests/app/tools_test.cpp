// Every tool is described once; what follows from the description holds for all of them.
#include <QTextBrowser>
#include <set>

#include "jobs.h"
#include "tools/tool.h"
#include "windows/leader_keys.h"

namespace lostline {
namespace {

using testing::Jobs;

TEST(Tools, AreToldApartByNameIconAndKey) {
  std::set<std::string> names, icons;
  std::set<std::pair<int, char>> keys;
  for (const app::Tool& tool : app::tools()) {
    SCOPED_TRACE(tool.name);
    EXPECT_TRUE(names.insert(tool.name).second);
    EXPECT_TRUE(icons.insert(tool.icon).second) << tool.icon;
    EXPECT_TRUE(keys.emplace(tool.stage, tool.letter).second) << tool.letter;
    EXPECT_TRUE(QFile::exists(QStringLiteral(":/icons/%1.svg").arg(QString::fromUtf8(tool.icon))));
    EXPECT_GT(std::strlen(tool.tip), 15U);
    EXPECT_EQ(app::find_tool(tool.name), &tool);
  }
  std::set<int> leaders;
  for (const app::Leader& leader : app::leaders()) {
    EXPECT_TRUE(leaders.insert(leader.key).second) << leader.title;
    std::set<int> second;
    for (const app::LeaderKey& key : leader.keys)
      EXPECT_TRUE(second.insert(key.key).second) << leader.title << " " << key.label;
  }
}

class ToolsInTheWindow : public Jobs {};

TEST_F(ToolsInTheWindow, StartByTheirKeysAndTheirCardsBearTheirNames) {
  build();
  for (const app::Tool& tool : app::tools()) {
    SCOPED_TRACE(tool.name);
    window_.bench().setFocus();
    driver_->key(app::stage_info(tool.stage).key);
    driver_->key(tool.key());
    ASSERT_NE(window_.card(), nullptr);
    EXPECT_EQ(window_.desk().tool(), &tool);
    EXPECT_EQ(window_.card()->accessibleName(), tool.title());
    EXPECT_EQ(window_.rail().stage(), tool.stage);
    window_.desk().clear();
  }
}

TEST_F(ToolsInTheWindow, SayWhatIsMissingWhereTheyCannotWorkYet) {
  for (const app::Tool& tool : app::tools()) {
    if (tool.possible(window_.session())) continue;
    SCOPED_TRACE(tool.name);
    EXPECT_FALSE(tool.lack().isEmpty());
    window_.bench().setFocus();
    driver_->key(app::stage_info(tool.stage).key);
    driver_->key(tool.key());
    EXPECT_EQ(window_.card(), nullptr);
    EXPECT_TRUE(statusText().contains(tool.lack())) << statusText().toStdString();
  }
}

TEST_F(ToolsInTheWindow, TheGuideHasAParagraphOfEachAndOpensAtTheRunningOne) {
  open();
  survey();
  ASSERT_TRUE(driver_->tool(QStringLiteral("Measure")));
  for (QAction* action : window_.findChildren<QAction*>()) {
    if (action->shortcut() == QKeySequence(Qt::Key_F1)) action->trigger();
  }
  QTest::qWait(50);
  auto* guide = window_.findChild<QTextBrowser*>(QStringLiteral("guide"));
  ASSERT_NE(guide, nullptr);
  EXPECT_TRUE(guide->textCursor().block().text().startsWith(QStringLiteral("Measure (Survey)")))
      << guide->textCursor().block().text().toStdString();
  auto* contents = window_.findChild<QListWidget*>(QStringLiteral("guideContents"));
  std::set<QString> listed;
  for (int i = 0; i < contents->count(); ++i)
    listed.insert(contents->item(i)->data(Qt::UserRole).toString());
  for (const app::Tool& tool : app::tools())
    EXPECT_TRUE(listed.contains(QString::fromUtf8(tool.name))) << tool.name;
  // What is searched for is found, and found again.
  auto* words = window_.findChild<QLineEdit*>(QStringLiteral("guideSearch"));
  QTest::keyClicks(words, QStringLiteral("bolt circle"));
  EXPECT_EQ(guide->textCursor().selectedText().toLower(), QStringLiteral("bolt circle"));
  const int first = guide->textCursor().position();
  QTest::keyClick(words, Qt::Key_Return);
  EXPECT_NE(guide->textCursor().position(), first);
  guide->window()->close();
}

}  // namespace
}  // namespace lostline
