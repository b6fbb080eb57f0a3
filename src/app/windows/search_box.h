#pragma once

#include <QLineEdit>
#include <QStandardItemModel>

#include "panels/ledger_panel.h"
#include "windows/rail.h"

namespace lostline::app {

/// Finds tools, Ledger rows and steps by a part of their name.
class SearchBox : public QLineEdit {
  Q_OBJECT
 public:
  SearchBox(Rail& rail, LedgerPanel& ledger, Session& session);

 Q_SIGNALS:
  void toolChosen(int stage, const QString& name);
  void stepChosen(lostline::project::Id step);

 protected:
  void focusInEvent(QFocusEvent* event) override;

 private:
  enum Kind { Tool, Row, Step };
  void fill();
  void choose(const QString& text);

  Rail& rail_;
  LedgerPanel& ledger_;
  Session& session_;
  QStandardItemModel* found_;
};

}  // namespace lostline::app
