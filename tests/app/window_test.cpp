// The whole job through the real window, by mouse and keys.
#include <gtest/gtest.h>

#include <QApplication>
#include <QSettings>
#include <QStandardPaths>
#include <QTemporaryDir>

#include "io/step.h"
#include "look/theme.h"
#include "simulate/parts.h"
#include "window_driver.h"

namespace lostline {
namespace {

TEST(Window, PedestalFromScanToStepByMouse) {
  QTemporaryDir folder;
  app::MainWindow window;
  window.show();
  testing::WindowDriver driver(window);
  const QString step_path = folder.filePath(QStringLiteral("pedestal.step"));
  const std::string trouble = testing::rebuild_pedestal(
      driver, window, QStringLiteral(LOSTLINE_DEMO_DIR "/pedestal.stl"), step_path);
  ASSERT_EQ(trouble, "");

  // Against the design the scan hides.
  const auto solid = io::read_step(step_path.toStdString());
  ASSERT_TRUE(solid) << solid.error().message;
  const simulate::PedestalDesign design;
  EXPECT_NEAR(solid->volume() / simulate::pedestal(design).volume(), 1.0, 0.002);
  const std::map<std::string, double> truth{{"foot to", design.foot_thickness},
                                            {"boss to", design.boss_height},
                                            {"boss draft", 1.5},
                                            {"R foot fillet", design.foot_fillet},
                                            {"\u2300 foot holes", design.hole_diameter},
                                            {"\u2300 bore", design.bore_diameter},
                                            {"ribs to", design.rib_thickness / 2}};
  for (const project::Dimension& row : driver.document().dimensions) {
    const auto it = truth.find(row.name);
    if (it == truth.end()) continue;
    ASSERT_TRUE(row.intent) << row.name;
    EXPECT_DOUBLE_EQ(*row.intent, it->second) << row.name;
    // The bore is worn: its reading may differ from the design, the others may not.
    if (row.name == "\u2300 bore") continue;
    EXPECT_NEAR(*row.reading, it->second, 3 * row.u) << row.name;
  }

  // Undo goes back through everything, redo comes forward to the same part.
  const double volume = window.session().route()->solid.volume();
  QUndoStack* undo = window.session().undoStack();
  const int count = undo->count();
  while (undo->canUndo()) undo->undo();
  EXPECT_TRUE(window.session().document().steps.empty());
  while (undo->canRedo()) undo->redo();
  EXPECT_EQ(undo->index(), count);
  ASSERT_TRUE(driver.settle());
  EXPECT_NEAR(window.session().route()->solid.volume(), volume, 1e-6 * volume);

  // Saved and opened again.
  const QString project = folder.filePath(QStringLiteral("pedestal.lostline"));
  window.saveTo(project);
  ASSERT_TRUE(driver.settle());
  window.openFile(project);
  ASSERT_TRUE(driver.settle());
  EXPECT_EQ(driver.document().steps.size(), 6U);
  EXPECT_NEAR(window.session().route()->solid.volume(), volume, 1e-6 * volume);
}

TEST(Window, ABadFileIsRefusedWhereTheUserLooks) {
  QTemporaryDir folder;
  const QString path = folder.filePath(QStringLiteral("broken.stl"));
  QFile file(path);
  ASSERT_TRUE(file.open(QIODevice::WriteOnly));
  file.write("not a scan");
  file.close();
  app::MainWindow window;
  window.show();
  testing::WindowDriver driver(window);
  QString said;
  QObject::connect(&window.session(), &app::Session::failed,
                   [&](const QString& text) { said = text; });
  window.openFile(path);
  ASSERT_TRUE(driver.settle());
  EXPECT_TRUE(said.contains(path)) << said.toStdString();
  EXPECT_EQ(driver.document().scan, nullptr);
}

}  // namespace
}  // namespace lostline

namespace lostline::testing {
int edit_until_killed(const QString& scan);
}

int main(int argc, char** argv) {
  QApplication application(argc, argv);
  QStandardPaths::setTestModeEnabled(true);
  QTemporaryDir settings;  // the person's own window settings stay untouched
  QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, settings.path());
  QApplication::setOrganizationName(QStringLiteral("Lost Line test"));
  if (argc == 3 && std::string(argv[1]) == "--edit-until-killed")
    return lostline::testing::edit_until_killed(QString::fromLocal8Bit(argv[2]));
  lostline::app::apply_theme();
  testing::InitGoogleTest(&argc, argv);
  return RUN_ALL_TESTS();
}
