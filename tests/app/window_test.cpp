// The whole job through the real window, by mouse and keys.
#include <gtest/gtest.h>

#include <QApplication>
#include <QSettings>
#include <QStandardPaths>
#include <QTemporaryDir>
#include <cstdio>
#include <map>
#include <set>

#include "io/step.h"
#include "look/theme.h"
#include "simulate/parts.h"
#include "support/places.h"
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
      driver, window, QString::fromStdString(testing::demo_dir() + "/pedestal.stl"), step_path);
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

  // The deviation is the surface's own noise and roughness, but where the part is worn or broken
  // and at edges, which the scanner rounds: in cells of 8 mm its RMS stays below 1.2 times what the
  // survey's free fits leave there, on 95 % of the surface.
  {
    const project::Document& d = driver.document();
    const survey::Survey& survey = *d.survey;
    std::vector<double> noise_at(d.scan->mesh->vertices.size(), std::nan(""));
    for (std::size_t v = 0; v < noise_at.size(); ++v) {
      std::set<std::uint32_t> around;
      for (const std::uint32_t n : d.scan->topology.vertex_neighbours[v]) {
        for (const std::uint32_t t : d.scan->topology.vertex_triangles[n])
          around.insert(survey.triangle_region[t]);
      }
      const std::uint32_t region = around.size() == 1 ? *around.begin() : 0;
      if (region != 0 && survey.regions[region - 1].fit)
        noise_at[v] = survey.regions[region - 1].fit->sigma;
    }
    const auto route = window.session().route();
    ASSERT_TRUE(route->map);
    struct Cell {
      double deviation = 0, noise = 0;
      int points = 0;
    };
    std::map<std::array<long, 3>, Cell> cells;
    const Transform to_part = d.to_part();
    for (std::size_t i = 0; i < d.scan->mesh->vertices.size(); ++i) {
      const Vec3 p = to_part * d.scan->mesh->vertices[i];
      const double value = route->map->value[i];
      const double noise = noise_at[i];
      const bool worn = std::abs(std::hypot(p.x(), p.y()) - design.bore_diameter / 2) < 1;
      const bool broken = std::hypot(std::abs(p.x()) - design.foot_length / 2,
                                     std::abs(p.y()) - design.foot_width / 2) < 28;
      if (worn || broken || !std::isfinite(value) || !std::isfinite(noise)) continue;
      Cell& c = cells[{std::lround(p.x() / 8), std::lround(p.y() / 8), std::lround(p.z() / 8)}];
      c.deviation += value * value;
      c.noise += noise * noise;
      ++c.points;
    }
    int all = 0;
    int within = 0;
    for (const auto& [place, c] : cells) {
      all += c.points;
      if (c.deviation <= 1.2 * 1.2 * c.noise) within += c.points;
    }
    const double share = static_cast<double>(within) / all;
    RecordProperty("within_noise_share", std::to_string(share));
    std::printf("within 1.2 times the surface's noise: %.4f\n", share);
    EXPECT_GT(share, 0.95);
  }

  // Undo goes back through everything, redo comes forward to the same part.
  const double volume = window.session().route()->solid.volume();
  app::History* undo = window.session().undoStack();
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
  EXPECT_EQ(driver.document().steps.size(), 7U);
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
  // One sample a pixel: half of the time went into smooth edges.
  QSurfaceFormat format;
  format.setSamples(0);
  QSurfaceFormat::setDefaultFormat(format);
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
