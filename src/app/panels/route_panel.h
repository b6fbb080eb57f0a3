#pragma once

#include <QLabel>
#include <QListWidget>

#include "jobs/session.h"

namespace lostline::app {

/// The build history.
class RoutePanel : public QWidget {
  Q_OBJECT
 public:
  explicit RoutePanel(Session& session, QWidget* parent = nullptr);

 Q_SIGNALS:
  void stepOpened(lostline::project::Id step);
  void stepPicked(lostline::project::Id step);

 private:
  void rebuild();
  [[nodiscard]] project::Id current() const;

  Session& session_;
  QListWidget* list_;
  QLabel* summary_;
  QLabel* empty_;
};

}  // namespace lostline::app
