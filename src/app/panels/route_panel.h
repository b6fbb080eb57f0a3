#pragma once

#include <QLabel>
#include <QListWidget>

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
  [[nodiscard]] project::Id current() const;

  Session& session_;
  QListWidget* list_;
  QLabel* summary_;
  QLabel* empty_;
};

}  // namespace lostline::app
