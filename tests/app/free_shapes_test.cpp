// Pipes, patches, sweeps and lofts with the mouse, on scans of parts that the test makes.
#include <QListWidget>
#include <QPushButton>
#include <QSpinBox>

#include "jobs.h"
#include "model/route.h"
#include "model/steps/pipe_run/pipe_run.h"
#include "project/edits.h"
#include "simulate/scanner.h"
#include "sketch/drawing.h"
#include "store/project_file.h"

namespace lostline {
namespace {

using testing::Jobs;

class FreeShapes : public Jobs {
 protected:
  void shot(const char* name) {
    if (const char* folder = std::getenv("LOSTLINE_SHOTS"))
      driver_->shot_folder = QString::fromLocal8Bit(folder);
    if (driver_->shot_folder.isEmpty()) return;
    QTest::qWait(200);
    driver_->shot(QString::fromUtf8(name));
  }
  void openMesh(const scan::Mesh& mesh) {
    const QString path = folder_.filePath(QStringLiteral("shape.stl"));
    ASSERT_TRUE(io::write_stl(path.toStdString(), mesh));
    window_.openFile(path);
    ASSERT_TRUE(driver_->settle());
    ASSERT_NE(driver_->document().scan, nullptr);
    window_.bench().setFocus();
    driver_->key(Qt::Key_Return);
    ASSERT_TRUE(driver_->settle());
  }
  /// A sketch added as if it had been drawn in a plane.
  void add(const sketch::Sketch& s, const Placement& base, const std::string& name) {
    project::TracedSketch traced;
    traced.sketch = s;
    traced.base = base;
    traced.plane = project::DatumPlane::Free;
    traced.drawn = true;
    traced.name = name;
    const auto added = project::add_sketch(driver_->document(), traced);
    ASSERT_TRUE(added);
    window_.session().commit(QStringLiteral("sketch"), added->document);
    ASSERT_TRUE(driver_->settle());
  }
  void tick(const char* list, const char* sketch) {
    auto* widget = window_.card()->findChild<QListWidget*>(QLatin1String(list));
    ASSERT_NE(widget, nullptr) << list;
    const auto found = widget->findItems(QLatin1String(sketch), Qt::MatchExactly);
    ASSERT_EQ(found.size(), 1);
    found.front()->setCheckState(Qt::Checked);
    ASSERT_TRUE(driver_->settle());
  }
  void openScanOf(const model::Model& part, double spacing) {
    simulate::ScanOptions options;
    options.spacing = spacing;
    options.noise = 0.02;
    options.random_pose = false;
    options.strays = 0;
    const auto scan = simulate::simulate_scan(part, {}, options);
    ASSERT_TRUE(scan);
    openMesh(scan->mesh);
  }
  void keep(std::size_t steps) {
    window_.bench().setFocus();
    driver_->key(Qt::Key_Return);
    ASSERT_TRUE(driver_->settle());
    ASSERT_EQ(driver_->document().steps.size(), steps) << cardText().toStdString();
    EXPECT_EQ(state(steps - 1), model::StepState::Sound);
  }
};

TEST_F(FreeShapes, APipeFollowsTheClickedScan) {
  model::PipeRun truth;
  truth.radius.value = 9;
  truth.path.corners = {Vec3(0, 0, 0), Vec3(110, 0, 0), Vec3(110, 90, 0), Vec3(110, 90, 70)};
  truth.path.bends = {30, 30};
  model::Step step;
  step.feature = truth;
  const auto model = model::apply_feature(step, {{}, {}}, {});
  ASSERT_TRUE(model) << model.error().message;
  openScanOf(*model, 1.2);
  driver_->stage(app::kBuild);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Pipe")));
  bench().lookAt(Vec3(-0.3, -0.5, 0.8).normalized(), Vec3::UnitY());
  QTest::qWait(60);
  driver_->clickPoint(Vec3(40, 0, 9));
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("2 bends"))) << cardText().toStdString();
  driver_->number(QStringLiteral("wall"), 1.5);
  ASSERT_TRUE(driver_->settle());
  shot("pipe");
  keep(1);
  const auto& made = *driver_->document().steps[0].feature.as<model::PipeRun>();
  EXPECT_NEAR(made.radius.value, 9, 0.01);
  EXPECT_NEAR(made.bend.value, 30, 0.1);
  // Its numbers stand in the Ledger with what the scan says.
  const auto row =
      std::find_if(driver_->document().dimensions.begin(), driver_->document().dimensions.end(),
                   [](const auto& d) { return d.owner.field == "radius"; });
  ASSERT_NE(row, driver_->document().dimensions.end());
  ASSERT_TRUE(row->reading);
  EXPECT_GT(row->u, 0);
  // A wall of 1.5 makes a tube of it.
  const double share = (81 - 7.5 * 7.5) / 81;
  EXPECT_NEAR(window_.session().route()->solid.volume(), share * model->volume(),
              0.02 * model->volume());
  // Saved and opened again it is the same.
  const QString path = folder_.filePath(QStringLiteral("pipe.lostline"));
  const double volume = window_.session().route()->solid.volume();
  ASSERT_TRUE(store::save_project(path.toStdString(), driver_->document()));
  const auto back = store::load_project(path.toStdString());
  ASSERT_TRUE(back);
  model::RouteCache cache;
  const auto results = model::recompute(back->steps, back->placed_sketches(), cache);
  ASSERT_TRUE(results);
  EXPECT_NEAR(results->back().solid.volume(), volume, 1e-9 * volume);
}

TEST_F(FreeShapes, ACollarIsReadAlongAPipeThatIsThere) {
  model::PipeRun truth;
  truth.radius.value = 9;
  truth.path.corners = {Vec3(0, 0, 0), Vec3(110, 0, 0), Vec3(110, 90, 0)};
  truth.path.bends = {30};
  model::Step pipe;
  pipe.feature = truth;
  const auto plain = model::apply_feature(pipe, {{}, {}}, {});
  ASSERT_TRUE(plain) << plain.error().message;
  model::Step ring = pipe;
  ring.id = 2;
  truth.in_part = true;
  truth.from.value = 30;
  truth.to.value = 42;
  truth.radius.value = 13;
  ring.feature = truth;
  const auto model = model::apply_feature(ring, {{}, {}}, *plain);
  ASSERT_TRUE(model) << model.error().message;
  openScanOf(*model, 1.0);
  driver_->stage(app::kBuild);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Pipe")));
  bench().lookAt(Vec3(-0.3, -0.5, 0.8).normalized(), Vec3::UnitY());
  QTest::qWait(60);
  driver_->clickPoint(Vec3(60, 0, 9));
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("1 bend"))) << cardText().toStdString();
  keep(1);
  // Once more, along the pipe that is there.
  ASSERT_TRUE(driver_->tool(QStringLiteral("Pipe")));
  bench().setShow(app::Show::Scan);
  driver_->choose(QStringLiteral("onto"), 1);
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("has another radius")))
      << cardText().toStdString();
  driver_->clickPoint(Vec3(36, 0, 13));
  ASSERT_TRUE(driver_->settle());
  shot("collar");
  EXPECT_TRUE(cardText().contains(QStringLiteral("scan: R 1"))) << cardText().toStdString();
  keep(2);
  const auto& made = *driver_->document().steps[1].feature.as<model::PipeRun>();
  EXPECT_TRUE(made.in_part);
  EXPECT_NEAR(made.radius.value, 13, 0.02);
  EXPECT_NEAR(made.to.value - made.from.value, 12, 0.1);
  int rows = 0;
  for (const auto& row : driver_->document().dimensions) {
    if (row.owner.step != driver_->document().steps[1].id || !row.reading) continue;
    ++rows;
    EXPECT_GT(row.u, 0) << row.owner.field;
  }
  EXPECT_GE(rows, 3);
  EXPECT_NEAR(window_.session().route()->solid.volume(), model->volume(), 0.01 * model->volume());
}

TEST_F(FreeShapes, APatchGoesThroughWhatWasClicked) {
  scan::Mesh mesh;
  constexpr int kCells = 70;
  for (int i = 0; i <= kCells; ++i) {
    for (int j = 0; j <= kCells; ++j) {
      const double x = i;
      const double y = j;
      mesh.vertices.emplace_back(x, y, 6 * std::sin(x / 14) * std::cos(y / 17));
    }
  }
  for (std::uint32_t i = 0; i < kCells; ++i) {
    for (std::uint32_t j = 0; j < kCells; ++j) {
      const std::uint32_t a = i * (kCells + 1) + j;
      mesh.triangles.push_back({a, a + kCells + 1, a + kCells + 2});
      mesh.triangles.push_back({a, a + kCells + 2, a + 1});
    }
  }
  openMesh(mesh);
  driver_->stage(app::kBuild);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Patch")));
  bench().lookAt(Vec3(0.2, -0.4, 0.9).normalized(), Vec3::UnitY());
  QTest::qWait(60);
  driver_->clickPoint(Vec3(35, 35, 6 * std::sin(35.0 / 14) * std::cos(35.0 / 17)));
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("poles"))) << cardText().toStdString();
  driver_->number(QStringLiteral("patchTolerance"), 0.2);
  ASSERT_TRUE(driver_->settle());
  shot("patch");
  keep(1);
  EXPECT_TRUE(window_.session().route()->solid.has(model::BodyKind::Surface));
}

TEST_F(FreeShapes, AFreeBodyIsFittedToAClosedScan) {
  // A lump: rings of points between two poles.
  scan::Mesh mesh;
  constexpr int kRings = 60;
  constexpr int kRound = 120;
  const auto at = [](double lift, double turn) {
    const Vec3 d(std::cos(lift) * std::cos(turn), std::cos(lift) * std::sin(turn), std::sin(lift));
    const double r = 24 * (1 + 0.12 * std::sin(3 * d.x() + 1) * std::cos(2 * d.y()));
    return Vec3(r * d.x(), r * d.y(), 1.5 * r * d.z());
  };
  mesh.vertices.push_back(at(-std::numbers::pi / 2, 0));
  for (int i = 1; i < kRings; ++i)
    for (int j = 0; j < kRound; ++j)
      mesh.vertices.push_back(at(std::numbers::pi * (static_cast<double>(i) / kRings - 0.5),
                                 2 * std::numbers::pi * j / kRound));
  mesh.vertices.push_back(at(std::numbers::pi / 2, 0));
  const auto ring = [](int i, int j) {
    return static_cast<std::uint32_t>(1 + (i - 1) * kRound + (j + kRound) % kRound);
  };
  const auto top = static_cast<std::uint32_t>(mesh.vertices.size() - 1);
  for (int j = 0; j < kRound; ++j) {
    mesh.triangles.push_back({0, ring(1, j + 1), ring(1, j)});
    mesh.triangles.push_back({top, ring(kRings - 1, j), ring(kRings - 1, j + 1)});
    for (int i = 1; i + 1 < kRings; ++i) {
      mesh.triangles.push_back({ring(i, j), ring(i, j + 1), ring(i + 1, j + 1)});
      mesh.triangles.push_back({ring(i, j), ring(i + 1, j + 1), ring(i + 1, j)});
    }
  }
  openMesh(mesh);
  driver_->stage(app::kBuild);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Free body")));
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("patches of"))) << cardText().toStdString();
  EXPECT_TRUE(cardText().contains(QStringLiteral("patches meet within")));
  shot("free_body");
  keep(1);
  const model::Model solid = window_.session().route()->solid;
  EXPECT_TRUE(solid.valid());
  EXPECT_TRUE(solid.has(model::BodyKind::Solid));
  EXPECT_GT(solid.volume(), 6e4);
  // Edited, with another number of patches.
  const std::size_t before = solid.face_count();
  auto* list = window_.findChild<QListWidget*>();
  ASSERT_NE(list, nullptr);
  Q_EMIT list->itemActivated(list->item(0));
  ASSERT_TRUE(driver_->settle());
  auto* patches = window_.card()->findChild<QSpinBox*>(QStringLiteral("patches"));
  ASSERT_NE(patches, nullptr);
  patches->setValue(60);
  auto* fit = window_.card()->findChild<QPushButton*>(QStringLiteral("fitBody"));
  ASSERT_NE(fit, nullptr);
  QTest::mouseClick(fit, Qt::LeftButton);
  ASSERT_TRUE(driver_->settle());
  keep(1);
  EXPECT_GT(window_.session().route()->solid.face_count(), before);
}

TEST_F(FreeShapes, SweepAndLoftOfTickedSketches) {
  open();
  sketch::Sketch profile;
  ASSERT_TRUE(sketch::draw_rectangle(profile, {0, {-3, -2}}, {0, {3, 2}}));
  Placement across;
  across.x = Vec3::UnitY();
  across.y = Vec3::UnitZ();
  across.normal = Vec3::UnitX();
  add(profile, across, "profile");
  sketch::Sketch path;
  const auto mid = path.add_point({40, 0});
  path.add_line(path.add_point({0, 0}), mid);
  path.add_arc(path.add_point({40, 20}), mid, path.add_point({60, 20}), 20);
  add(path, {}, "way");
  sketch::Sketch round;
  round.add_circle(round.add_point({0, 0}), 6);
  add(round, across.shifted(-30), "end");
  driver_->stage(app::kBuild);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Sweep")));
  tick("profile", "profile");
  tick("path", "way");
  shot("sweep");
  keep(1);
  EXPECT_NEAR(window_.session().route()->solid.volume(), 24 * (40 + std::numbers::pi * 10), 1);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Loft")));
  tick("sections", "profile");
  tick("sections", "end");
  shot("loft");
  keep(2);
  EXPECT_GT(window_.session().route()->solid.volume(), 24 * (40 + std::numbers::pi * 10) + 1000);
  // The sketch is in use now.
  EXPECT_FALSE(project::remove_sketch(driver_->document(), driver_->document().sketches[1]->id));
}

TEST_F(FreeShapes, AHoleTakesTheSeatOfItsScrew) {
  build();
  ASSERT_TRUE(driver_->settle());
  const double plate = window_.session().route()->solid.volume();
  sketch::Sketch places;
  places.add_own_point({-20, 10});
  places.add_own_point({-20, -10});
  add(places, {}, "places");
  ASSERT_TRUE(driver_->tool(QStringLiteral("Hole")));
  ASSERT_TRUE(driver_->settle());
  const auto choose = [&](const char* name, int index) {
    auto* box = window_.card()->findChild<QComboBox*>(QLatin1String(name));
    ASSERT_NE(box, nullptr) << name;
    box->setCurrentIndex(index);
    ASSERT_TRUE(driver_->settle());
  };
  choose("head", 1);
  choose("screw", 4);  // M6
  driver_->number(QStringLiteral("entry"), 10);
  ASSERT_TRUE(driver_->settle());
  shot("hole");
  keep(2);
  const double taken = 2 * std::numbers::pi * (3.3 * 3.3 * (10 - 6.4) + 5.5 * 5.5 * 6.4);
  EXPECT_NEAR(plate - window_.session().route()->solid.volume(), taken, 0.03 * taken);
}

TEST_F(FreeShapes, WallsThatWereClickedBecomeSketchAndStep) {
  open();
  survey();
  frame();
  driver_->stage(app::kBuild);
  ASSERT_TRUE(driver_->tool(QStringLiteral("From regions")));
  for (const Vec3& out : {Vec3(1, 0, 0), Vec3(-1, 0, 0), Vec3(0, 1, 0), Vec3(0, -1, 0)}) {
    const std::uint32_t wall = region(out);
    ASSERT_NE(wall, 0U);
    ASSERT_TRUE(driver_->clickRegion(wall, out + Vec3(0.2, 0.1, 0.5)));
    ASSERT_TRUE(driver_->settle());
  }
  EXPECT_TRUE(cardText().contains(QStringLiteral("extrude along z"))) << cardText().toStdString();
  shot("from-regions");
  keep(1);
  EXPECT_EQ(driver_->document().sketches.size(), 1U);
  EXPECT_NEAR(window_.session().route()->solid.volume(), 60 * 40 * 10, 150);
  // One undo takes both back.
  driver_->key(Qt::Key_Z, Qt::ControlModifier);
  EXPECT_TRUE(driver_->document().steps.empty());
  EXPECT_TRUE(driver_->document().sketches.empty());
}

}  // namespace
}  // namespace lostline
