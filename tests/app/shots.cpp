// Makes the pictures in docs/screenshots/ from the demo, by the same hands as the interface test.
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
  return 0;
}
