#pragma once

#include <QLineEdit>
#include <QStandardItemModel>

#include "panels/ledger_panel.h"
#include "tools/tool.h"

namespace lostline::app {

/// Finds tools, Ledger rows and steps by a part of their name.
class SearchBox : public QLineEdit {
  Q_OBJECT
 public:
  SearchBox(LedgerPanel& ledger, Session& session);

 Q_SIGNALS:
  void toolChosen(const lostline::app::Tool& tool);
  void stepChosen(lostline::project::Id step);

 protected:
  void focusInEvent(QFocusEvent* event) override;

 private:
  enum class Kind { Tool, Row, Step };
  void fill();
  void choose(const QString& text);

  LedgerPanel& ledger_;
  Session& session_;
  QStandardItemModel* found_;
};

}  // namespace lostline::app
