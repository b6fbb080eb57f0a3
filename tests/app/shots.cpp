// Makes the pictures in docs/screenshots/ from the demo, by the same hands as the interface test.
#include <QAction>
#include <QApplication>
#include <QDir>
#include <QSettings>
#include <QTemporaryDir>
#include <iostream>

#include "look/theme.h"
#include "window_driver.h"

int main(int argc, char** argv) {
  using namespace lostline;
  QApplication application(argc, argv);
  if (argc != 3) {
    std::cerr << "usage: lostline_shots DEMO_FOLDER PICTURE_FOLDER\n";
    return 2;
  }
  QTemporaryDir scratch;
  QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, scratch.path());
  QApplication::setOrganizationName(QStringLiteral("Lost Line shots"));
  app::apply_theme();
  app::MainWindow window;
  window.show();
  testing::WindowDriver driver(window);
  driver.shot_folder = QString::fromLocal8Bit(argv[2]);
  QDir().mkpath(driver.shot_folder);
  driver.shot(QStringLiteral("0-start"));
  const std::string trouble = testing::rebuild_pedestal(
      driver, window, QString::fromLocal8Bit(argv[1]) + QStringLiteral("/pedestal.stl"),
      scratch.filePath(QStringLiteral("pedestal.step")));
  if (!trouble.empty()) {
    driver.shot(QStringLiteral("trouble"));
    std::cerr << trouble << '\n';
    return 1;
  }
  // The guide stands in a window of its own.
  for (QAction* action : window.findChildren<QAction*>()) {
    if (action->text() == QStringLiteral("&Guide")) action->trigger();
  }
  if (auto* guide = window.findChild<QWidget*>(QStringLiteral("guide"))) {
    QApplication::processEvents();
    guide->grab().save(driver.shot_folder + QStringLiteral("/8-guide.png"));
  }
  return 0;
}
