// Makes the pictures in docs/screenshots/ from the demo, by the same hands as the interface test.
#include <QAction>
#include <QApplication>
#include <QDir>
#include <QFile>
#include <QSettings>
#include <QTemporaryDir>
#include <functional>
#include <iostream>
#include <tuple>

#include "by_mouse.h"
#include "look/preferences.h"
#include "look/theme.h"
#include "window_driver.h"

int main(int argc, char** argv) {
  using namespace lostline;
  QApplication application(argc, argv);
  if (argc != 3 && argc != 5) {
    std::cerr << "usage: lostline_shots DEMO_FOLDER PICTURE_FOLDER [WIDTH HEIGHT]\n";
    return 2;
  }
  QTemporaryDir scratch;
  QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, scratch.path());
  QApplication::setOrganizationName(QStringLiteral("Lost Line shots"));
  app::apply_theme();
  app::MainWindow window;
  window.show();
  if (argc == 5)
    window.resize(QString::fromLatin1(argv[3]).toInt(), QString::fromLatin1(argv[4]).toInt());
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
  app::BenchView& bench = window.bench();
  const auto show = [&](int stage, const QString& tool, const std::function<void()>& act,
                        const QString& name) {
    driver.stage(stage);
    if (!driver.tool(tool)) std::cerr << "no tool " << tool.toStdString() << '\n';
    driver.settle();
    act();
    driver.settle();
    driver.shot(name);
    driver.key(Qt::Key_Escape);
  };
  const project::Document& d = driver.document();
  const auto plane_along = [&](const Vec3& out) -> std::uint32_t {
    for (const auto& r : d.survey->regions) {
      if (r.fit && r.fit->surface.kind == fit::Kind::Plane &&
          (d.to_part().linear() * r.fit->surface.axis).dot(out) > 0.99)
        return r.id;
    }
    return 0;
  };
  show(
      app::kSurvey, QStringLiteral("Relate"),
      [&] {
        driver.choose(QStringLiteral("relationType"),
                      static_cast<int>(fit::RelationType::Perpendicular));
        driver.clickRegion(plane_along({0, 0, -1}), {0.2, 0.3, -1});
        driver.clickRegion(plane_along({0, -1, 0}), {0.3, -1, 0.4});
        driver.button(QStringLiteral("addRelation"));
        driver.choose(QStringLiteral("relationType"),
                      static_cast<int>(fit::RelationType::Parallel));
        driver.clickRegion(plane_along({0, -1, 0}), {0.3, -1, 0.4});
        driver.clickRegion(plane_along({0, 1, 0}), {0.3, 1, 0.4});
        driver.button(QStringLiteral("addRelation"));
        bench.lookAlong(0);
      },
      QStringLiteral("3-survey-relate"));
  show(
      app::kDatum, QStringLiteral("To model"),
      [&] {
        driver.text(QStringLiteral("modelPath"),
                    QString::fromLocal8Bit(argv[1]) + QStringLiteral("/truth/pedestal.step"));
        driver.key(Qt::Key_Return);
        driver.settle();
        bench.setShow(app::Show::Scan);
        bench.lookAlong(0);
      },
      QStringLiteral("2-datum-to-model"));
  bench.setShow(app::Show::Both);
  show(
      app::kProve, QStringLiteral("Compare"),
      [&] {
        driver.choose(QStringLiteral("comparePlane"), 1);
        driver.number(QStringLiteral("compareLevel"), 20);
        bench.lookAlong(0);
      },
      QStringLiteral("6-prove-compare"));
  // The dark sheet.
  app::Preferences dark = app::preferences();
  dark.dark_sheet = true;
  app::set_preferences(dark);
  window.applyPreferences();
  window.setStage(app::kBuild);
  bench.lookAlong(0);
  driver.settle();
  driver.shot(QStringLiteral("9-dark-sheet"));
  dark.dark_sheet = false;
  app::set_preferences(dark);
  window.applyPreferences();
  // The other parts, each by the picture that stands for it.
  const QString pictures = driver.shot_folder;
  using Rebuild = std::string (*)(testing::WindowDriver&, app::MainWindow&, const QString&);
  const std::vector<std::tuple<Rebuild, QString, QString>> parts{
      {testing::rebuild_drum_flange, QStringLiteral("flange-4-keyway"),
       QStringLiteral("part-flange")},
      {testing::rebuild_wall_bracket, QStringLiteral("bracket-3-tube"),
       QStringLiteral("part-bracket")},
      {testing::rebuild_crank, QStringLiteral("trimmed top"), QStringLiteral("part-crank")},
      {testing::rebuild_brake_drum, QStringLiteral("drum-3-vanes"), QStringLiteral("part-drum")}};
  for (const auto& [rebuild, taken, kept] : parts) {
    driver.shot_folder = scratch.path();
    window.session().replace({}, {});
    const std::string wrong = rebuild(driver, window, QString::fromLocal8Bit(argv[1]));
    if (!wrong.empty()) std::cerr << wrong << '\n';
    const QString target = pictures + QLatin1Char('/') + kept + QStringLiteral(".png");
    QFile::remove(target);
    QFile::copy(scratch.filePath(taken + QStringLiteral(".png")), target);
  }
  driver.shot_folder = pictures;
  // The guide stands in a window of its own.
  for (QAction* action : window.findChildren<QAction*>()) {
    if (action->text() == QStringLiteral("&Guide")) action->trigger();
  }
  if (auto* guide = window.findChild<QWidget*>(QStringLiteral("guideWindow"))) {
    QApplication::processEvents();
    guide->grab().save(driver.shot_folder + QStringLiteral("/8-guide.png"));
  }
  return 0;
}
