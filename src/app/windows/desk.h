#pragma once

#include <QPointer>
#include <QVBoxLayout>

#include "tools/tool.h"

namespace lostline::app {

/// The card of the running tool, and those that wait with work that is not kept yet. Starting
/// another tool or going to another stage asks nothing and loses nothing.
class Desk : public QObject {
  Q_OBJECT
 public:
  /// @param slot  layout whose head takes the card.
  Desk(Workplace place, QVBoxLayout* slot, QObject* parent = nullptr);

  [[nodiscard]] ToolCard* card() const { return running_.card; }
  /// Opens a tool's card, or the one that waits; what ran before waits if work would be lost.
  /// @param subject  that it works on, where there may be several; see Tool.
  void start(const Tool& tool, project::Id subject = 0);
  /// Of the running card; null when none runs.
  [[nodiscard]] const Tool* tool() const { return running_.card ? running_.tool : nullptr; }
  /// Takes the running card away: it waits if work would be lost, and closes otherwise.
  void setAside();
  /// Brings back a card that waits for a stage, when none runs.
  void comeBack(int stage);
  /// Closes all of them; for another project.
  void clear();
  /// After a change of the document or the model: cards follow it, or close when theirs is gone.
  void documentChanged();
  void unitChanged();
  /// Names of tools that wait; with `running` also the one that runs if it holds unkept work.
  [[nodiscard]] QStringList unkept(bool running) const;
  [[nodiscard]] std::vector<int> waitingStages() const;

 Q_SIGNALS:
  void changed(const QString& running);  ///< which card runs, or which wait; empty for none
  void sketchWanted(lostline::project::Id sketch);
  void said(const QString& text);

 private:
  struct Open {
    const Tool* tool = nullptr;
    project::Id subject = 0;
    QPointer<ToolCard> card;
  };
  void place(Open open);
  void ended(ToolCard* card);
  void retire(Open& open);

  Workplace place_;
  QVBoxLayout* slot_;
  Open running_;
  std::vector<Open> waiting_;
  Show shown_ = Show::Both;  ///< on the Bench before the card came
};

}  // namespace lostline::app
