#include <QListWidget>
#include <set>

#include "look/catalogue.h"
#include "look/preferences.h"
#include "look/theme.h"
#include "project/ledger.h"
#include "reading/row_nominals.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

/// Proposes a nominal for every pencilled row that has one within U; what stays ticked is inked at
/// one go.
class InkTool : public ToolCard {
 public:
  explicit InkTool(Workplace place) : ToolCard(place, tr("Ink"), tr("Build")) {
    list_ = new QListWidget;
    list_->setObjectName(QStringLiteral("proposals"));
    list_->setAccessibleName(tr("Proposed decisions"));
    list_->setMinimumHeight(220);
    list_->setToolTip(tr("Untick what you want to decide yourself"));
    addWide(list_);
    connect(list_, &QListWidget::itemChanged, this, [this] { describe(); });
    setKeepText(tr("Ink  \u23ce"));
  }
  void begin() override { look(); }
  void resume() override {}
  void documentChanged() override {
    if (document().dimensions.size() == proposed_for_.size() &&
        std::equal(proposed_for_.begin(), proposed_for_.end(), document().dimensions.begin(),
                   [](const project::Dimension& a, const project::Dimension& b) {
                     return a.id == b.id && a.reading == b.reading && a.intent == b.intent;
                   }))
      return;
    look();
  }
  bool keep() override {
    std::vector<project::Proposal> chosen;
    for (int i = 0; i < list_->count(); ++i) {
      if (list_->item(i)->checkState() == Qt::Checked)
        chosen.push_back(proposals_[static_cast<std::size_t>(i)]);
    }
    commitAside(tr("ink %1 rows").arg(chosen.size()),
                [chosen](const project::Document& d) { return project::ink_all(d, chosen); });
    return false;
  }

 private:
  /// Off the interface's thread: what the whole regions say is read for every row.
  void look() {
    proposed_for_ = document().dimensions;
    setEvidence(tr("looking for what is certain \u2026"));
    aside([this, d = place_.session.snapshot()](const Task&) -> Session::Finish {
      return [this, proposals = reading::propose_inks(*d)] { fill(proposals); };
    });
  }
  void fill(std::vector<project::Proposal> proposals) {
    // What was unticked stays so.
    std::set<project::Id> unticked;
    for (int i = 0; i < list_->count(); ++i) {
      if (list_->item(i)->checkState() != Qt::Checked)
        unticked.insert(proposals_[static_cast<std::size_t>(i)].dimension);
    }
    const QSignalBlocker block(list_);
    list_->clear();
    proposals_ = std::move(proposals);
    for (const auto& p : proposals_) {
      const project::Dimension& row = *document().find_dimension(p.dimension);
      auto* item = new QListWidgetItem(
          tr("%1\n%2 \u2192 %3   %4, %5 % likely")
              .arg(QString::fromStdString(row.name),
                   QString::fromStdString(quantity_reading(row.quantity, *row.reading, row.u)),
                   QString::fromStdString(quantity_trimmed(row.quantity, p.value)),
                   core_text(p.reason))
              .arg(static_cast<int>(std::lround(100 * p.share))),
          list_);
      item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable);
      // What could as well be another nominal is left for the engineer to tick.
      const bool likely = p.share > 0.5 && !unticked.contains(p.dimension);
      item->setCheckState(likely ? Qt::Checked : Qt::Unchecked);
      item->setToolTip(item->text());
    }
    describe();
  }
  void describe() {
    int ticked = 0;
    for (int i = 0; i < list_->count(); ++i) ticked += list_->item(i)->checkState() == Qt::Checked;
    setKeepEnabled(ticked > 0);
    list_->setVisible(!proposals_.empty());
    settleHeight();
    if (!proposals_.empty())
      return setEvidence(tr("%1 of %2 rows will be inked, as one step that can be undone.")
                             .arg(ticked)
                             .arg(list_->count()));
    const auto& rows = document().dimensions;
    setEvidence(std::all_of(rows.begin(), rows.end(),
                            [](const project::Dimension& row) { return row.intent.has_value(); })
                    ? tr("Every row is inked already.")
                    : tr("No pencilled row has a nominal within its U: choose one in the Ledger "
                         "and type its value."));
  }
  QListWidget* list_;
  std::vector<project::Proposal> proposals_;
  std::vector<project::Dimension> proposed_for_;
};

}  // namespace

Tool ink_tool() {
  return {QT_TRANSLATE_NOOP("tools", "Ink"),
          "pen-line",
          QT_TRANSLATE_NOOP("tools", "Ink what is certain: all at once, each with its reason"),
          kBuild,
          'n',
          Tool::Needs::Rows,
          [](Workplace place, project::Id) -> ToolCard* { return new InkTool(place); }};
}

}  // namespace lostline::app
