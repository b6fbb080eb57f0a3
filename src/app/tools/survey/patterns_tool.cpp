#include <QListWidget>

#include "look/theme.h"
#include "project/patterns.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

/// Arrangements that the survey found, to be accepted one, some or all.
class PatternsTool : public ToolCard {
 public:
  explicit PatternsTool(Workplace place) : ToolCard(place, tr("Patterns"), tr("Survey")) {
    list_ = new QListWidget;
    list_->setObjectName(QStringLiteral("patterns"));
    list_->setAccessibleName(tr("Patterns"));
    list_->setToolTip(tr("Tick what the designer meant; a row shows its regions on the Bench"));
    list_->setWordWrap(true);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_->setFixedHeight(250);
    addWide(list_);
    addButtons({{tr("all"), QStringLiteral("allPatterns"), tr("Tick every row"),
                 [this] { tick(Qt::Checked); }},
                {tr("none"), QStringLiteral("noPattern"), tr("Tick no row"),
                 [this] { tick(Qt::Unchecked); }}});
    connect(list_, &QListWidget::currentRowChanged, this, [this](int row) { show(row); });
    connect(list_, &QListWidget::itemChanged, this, [this] { count(); });
    documentChanged();
  }
  void documentChanged() override {
    if (shown_ == document().survey) return;
    shown_ = document().survey;
    const QSignalBlocker block(list_);
    list_->clear();
    if (!shown_) return;
    for (const survey::Pattern& p : shown_->patterns) {
      auto* item =
          new QListWidgetItem(QString::fromStdString(project::describe(document(), p)), list_);
      item->setFlags(item->flags() | Qt::ItemIsUserCheckable);
      item->setCheckState(Qt::Unchecked);
    }
    count();
  }
  void resume() override { show(list_->currentRow()); }
  bool keep() override {
    std::vector<std::size_t> chosen;
    for (int i = 0; i < list_->count(); ++i) {
      if (list_->item(i)->checkState() == Qt::Checked)
        chosen.push_back(static_cast<std::size_t>(i));
    }
    commitAside(
        tr("accept %n pattern(s)", nullptr, static_cast<int>(chosen.size())),
        [chosen](const project::Document& d) { return project::accept_patterns(d, chosen); });
    return false;
  }

 private:
  void tick(Qt::CheckState state) {
    for (int i = 0; i < list_->count(); ++i) list_->item(i)->setCheckState(state);
  }
  void count() {
    int ticked = 0;
    for (int i = 0; i < list_->count(); ++i)
      ticked += list_->item(i)->checkState() == Qt::Checked ? 1 : 0;
    setKeepEnabled(ticked > 0);
    if (list_->count() == 0)
      setEvidence(tr("The survey found no arrangement of faces."));
    else if (ticked == 0)
      setEvidence(tr("Tick what was meant. Relations, features and Ledger rows follow."));
    else
      setEvidence(tr("%n of the patterns will hold, all solved together.", nullptr, ticked));
  }
  void show(int row) {
    if (row < 0 || !shown_ || static_cast<std::size_t>(row) >= shown_->patterns.size()) return;
    place_.bench.setSelection(shown_->patterns[static_cast<std::size_t>(row)].regions);
  }
  QListWidget* list_;
  std::shared_ptr<const survey::Survey> shown_;
};

}  // namespace

Tool patterns_tool() {
  return {QT_TRANSLATE_NOOP("tools", "Patterns"),
          "component",
          QT_TRANSLATE_NOOP(
              "tools", "Bolt circles, grids, stacks, mirrored pairs found: accept one, some, all"),
          kSurvey,
          't',
          Tool::Needs::Survey,
          [](Workplace place, project::Id) -> ToolCard* { return new PatternsTool(place); }};
}

}  // namespace lostline::app
