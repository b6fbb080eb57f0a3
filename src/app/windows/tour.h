#pragma once

#include <QFrame>
#include <QLabel>
#include <QPushButton>

#include "tools/tool.h"

namespace lostline::app {

/// Five steps on the demo, from the scan to a model: each says what to do and why, and goes on by
/// itself once it is done. It can be left at any time.
class Tour : public QFrame {
  Q_OBJECT
 public:
  explicit Tour(Session& session, QWidget* parent = nullptr);
  void begin();
  void leave();
  [[nodiscard]] bool running() const { return step_ >= 0; }
  [[nodiscard]] int step() const { return step_; }

 Q_SIGNALS:
  void toolWanted(const lostline::app::Tool& tool);

 private:
  void follow();
  void show(int step);

  Session& session_;
  QLabel* head_;
  QLabel* text_;
  QPushButton* start_;
  QPushButton* leave_;
  int step_ = -1;
};

}  // namespace lostline::app
