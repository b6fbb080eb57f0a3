#pragma once

#include <QVBoxLayout>
#include <QWidget>

namespace lostline::app {

/// What stands on the Bench while there is no part: how to begin, and what was worked on before.
class StartPage : public QWidget {
  Q_OBJECT
 public:
  explicit StartPage(QWidget* parent);
  /// Lists the recent files anew.
  void refresh();

 Q_SIGNALS:
  void openWanted();
  void demoWanted();
  void tourWanted();
  void fileWanted(const QString& path);

 private:
  QVBoxLayout* recent_;
};

}  // namespace lostline::app
