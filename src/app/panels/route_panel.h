#pragma once

#include <QLabel>
#include <QListWidget>
#include <set>

#include "jobs/session.h"

class QMenu;

namespace lostline::app {

/// The build history.
class RoutePanel : public QWidget {
  Q_OBJECT
 public:
  explicit RoutePanel(Session& session, QWidget* parent = nullptr);

 Q_SIGNALS:
  void stepOpened(lostline::project::Id step);
  void chosen(const lostline::app::Item& step);
  /// Its menu is about to open; what can be done with any item goes in front.
  void menuWanted(QMenu* menu);

 private:
  void rebuild();
  /// Steps of one kind in a row fold under a line of their own; folds it or opens it again.
  void toggleGroup(const QListWidgetItem* line);
  void showFolded();
  [[nodiscard]] project::Id current() const;

  Session& session_;
  QListWidget* list_;
  QLabel* summary_;
  QLabel* empty_;
  std::set<project::Id> folded_;  ///< groups, by their first step
};

}  // namespace lostline::app
