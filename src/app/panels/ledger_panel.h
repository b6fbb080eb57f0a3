#pragma once

#include <QLabel>
#include <QLineEdit>
#include <QTableView>
#include <QVBoxLayout>

#include "jobs/session.h"

namespace lostline::app {

class LedgerModel;
class LedgerFilter;

/// The table of all dimensions, with the nominals of the chosen row below it.
class LedgerPanel : public QWidget {
  Q_OBJECT
 public:
  explicit LedgerPanel(Session& session, QWidget* parent = nullptr);
  void select(project::Id dimension);
  /// Marks the rows that rest on what is picked on the Bench.
  void mark(const std::vector<project::Id>& rows);
  /// Decides the chosen row's value by the valley's marker.
  void inkFromValley(double value) { ink(value, tr("valley")); }

 Q_SIGNALS:
  void rowPicked(lostline::project::Id dimension);
  void valleyWanted(lostline::project::Id dimension);
  void inkingWanted();  ///< the certain ones, to be approved

 private:
  void refresh();
  void spanGroups();
  void copyRows();
  void showColumnMenu(const QPoint& at);
  void showNominals();
  void inkFormula(const QString& text);
  void addTyped(const QString& text);
  void ink(double value, const QString& reason);
  [[nodiscard]] const project::Dimension* current() const;

  Session& session_;
  LedgerModel* model_;
  LedgerFilter* filter_;
  QWidget* find_ = nullptr;
  QTableView* table_;
  QLabel* summary_;
  QLabel* empty_;
  QWidget* decide_;
  QVBoxLayout* decide_layout_;
  QLineEdit* typed_ = nullptr;
  project::Id current_ = 0;
};

}  // namespace lostline::app
