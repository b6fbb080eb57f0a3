// Nothing is lost: copies of unsaved work survive a kill, and undo leads back to equal states.
#include <gtest/gtest.h>
#include <signal.h>

#include <QProcess>
#include <QStandardPaths>
#include <QtTest>
#include <QtWidgets>
#include <random>

#include "../core/plate_scan.h"
#include "io/mesh_files.h"
#include "jobs/autosave.h"
#include "model/steps/hole/hole.h"
#include "project/ledger.h"
#include "project/sketch_plane.h"
#include "store/manifest.h"
#include "store/project_file.h"
#include "window_driver.h"

namespace lostline::testing {

/// Opens a scan and edits on and on, copying often; the parent process kills it.
int edit_until_killed(const QString& scan) {
  QStandardPaths::setTestModeEnabled(true);
  app::Session session;
  app::Autosave autosave(session);
  autosave.setDelay(15);
  auto opened = project::open_scan(scan.toStdString());
  if (!opened) return 1;
  session.commit(QStringLiteral("scan"), project::with_scan({}, *opened));
  QTimer edits;
  int count = 0;
  QObject::connect(&edits, &QTimer::timeout, [&] {
    project::Document next = session.document();
    project::Dimension row;
    row.id = next.next_id++;
    row.name = "row " + std::to_string(++count);
    row.reading = count;
    next.dimensions.push_back(row);
    session.commit(QStringLiteral("row"), next);
  });
  edits.start(3);
  return QApplication::exec();
}

namespace {

class Safety : public ::testing::Test {
 protected:
  void SetUp() override {
    scan_ = folder_.filePath(QStringLiteral("plate.stl"));
    ASSERT_TRUE(io::write_stl(scan_.toStdString(), plate_mesh(0.01)));
    for (const auto& left : app::Autosave::leftBehind()) app::Autosave::forget(left.copy);
  }
  QTemporaryDir folder_;
  QString scan_;
};

TEST_F(Safety, ACopySurvivesAKillAtAnyMoment) {
  std::mt19937 random(5);
  int recovered = 0;
  for (int run = 0; run < 5; ++run) {
    QProcess child;
    child.start(QCoreApplication::applicationFilePath(),
                {QStringLiteral("--edit-until-killed"), scan_});
    ASSERT_TRUE(child.waitForStarted());
    // From its first copy on, at any moment: opening takes what the machine needs.
    const QDir copies(app::Autosave::folder());
    for (int i = 0; i < 600 && copies.entryList({QStringLiteral("*.lostline")}).isEmpty(); ++i)
      QTest::qWait(50);
    QTest::qWait(100 + static_cast<int>(random() % 700));
    ::kill(static_cast<pid_t>(child.processId()), SIGKILL);
    child.waitForFinished();
    const auto left = app::Autosave::leftBehind();
    if (left.empty()) continue;  // killed before the first edit
    const auto document = store::load_project(left.front().copy.toStdString());
    ASSERT_TRUE(document) << document.error().message;
    ASSERT_NE(document->scan, nullptr);
    // The rows are whole and in order, whatever moment it was.
    for (std::size_t i = 0; i < document->dimensions.size(); ++i)
      EXPECT_EQ(document->dimensions[i].name, "row " + std::to_string(i + 1));
    recovered += !document->dimensions.empty();
    app::Autosave::forget(left.front().copy);
    EXPECT_TRUE(copies.entryList({QStringLiteral("*.lostline.data")}, QDir::Dirs).isEmpty());
  }
  EXPECT_GE(recovered, 3);
}

// Killed while the first copy was written, which is nothing to offer.
TEST_F(Safety, DataWithoutTheirCopyGo) {
  const QDir copies(app::Autosave::folder());
  const QString lost = QStringLiteral("999999997-1.lostline.data");
  ASSERT_TRUE(copies.mkpath(lost));
  EXPECT_TRUE(app::Autosave::leftBehind().empty());
  EXPECT_FALSE(copies.exists(lost));
  const QString mine =
      QStringLiteral("%1-99.lostline.data").arg(QCoreApplication::applicationPid());
  ASSERT_TRUE(copies.mkpath(mine));
  EXPECT_TRUE(app::Autosave::leftBehind().empty());
  EXPECT_TRUE(copies.exists(mine)) << "its window still writes";
  EXPECT_TRUE(copies.rmdir(mine));
}

TEST_F(Safety, LeftWorkIsOfferedByNameAndComesBackUnsavedToItsFile) {
  const auto scan = project::open_scan(scan_.toStdString());
  ASSERT_TRUE(scan);
  // Two copies of processes that cannot be running, one of a project that has a file.
  const auto leave = [&](int process, const QString& title, const QString& file) {
    const QString copy = app::Autosave::folder() + QStringLiteral("/%1-1.lostline").arg(process);
    EXPECT_TRUE(store::save_project(copy.toStdString(), project::with_scan({}, *scan)));
    QFile origin(copy + QStringLiteral(".origin"));
    EXPECT_TRUE(origin.open(QIODevice::WriteOnly));
    origin.write((title + QLatin1Char('\n') + file).toUtf8());
    return copy;
  };
  const QString own = folder_.filePath(QStringLiteral("cover.lostline"));
  const QString other = leave(999999998, QStringLiteral("flange"), {});
  QTest::qWait(1100);  // the newest comes first; times of files may be whole seconds
  const QString copy = leave(999999999, QStringLiteral("cover"), own);
  app::MainWindow window;
  window.show();
  WindowDriver driver(window);
  window.offerRecovery();
  QTest::qWait(30);
  QStringList offered;
  for (QLabel* label : window.findChildren<QLabel*>()) offered << label->text();
  EXPECT_TRUE(offered.join(' ').contains(QStringLiteral("cover, ")));
  EXPECT_TRUE(offered.join(' ').contains(QStringLiteral("flange, ")));
  ASSERT_TRUE(driver.button(QStringLiteral("recover")));
  ASSERT_NE(driver.document().scan, nullptr);
  EXPECT_EQ(driver.document().scan->name, "plate");
  EXPECT_FALSE(window.session().undoStack()->isClean());
  EXPECT_EQ(window.session().path(), own);
  EXPECT_FALSE(QFileInfo::exists(copy));
  EXPECT_TRUE(QFileInfo::exists(other));
  // The other is thrown away by its own button.
  ASSERT_TRUE(driver.button(QStringLiteral("declineRecovery")));
  EXPECT_FALSE(QFileInfo::exists(other));
  EXPECT_TRUE(app::Autosave::leftBehind().empty());
  window.session().undoStack()->setClean();
}

TEST_F(Safety, ASecondWindowOnOneProjectIsToldAndMayOpenACopy) {
  const auto scan = project::open_scan(scan_.toStdString());
  ASSERT_TRUE(scan);
  const QString path = folder_.filePath(QStringLiteral("cover.lostline"));
  ASSERT_TRUE(store::save_project(path.toStdString(), project::with_scan({}, *scan)));
  auto first = std::make_unique<app::MainWindow>();
  first->show();
  WindowDriver one(*first);
  first->openFile(path);
  ASSERT_TRUE(one.settle());
  EXPECT_EQ(first->session().path(), path);

  app::MainWindow second;
  second.show();
  WindowDriver two(second);
  // Answers the question as soon as it is asked.
  int asked = 0;
  const auto open_and_press = [&](const QString& file, bool copy) {
    QTimer answer;
    QObject::connect(&answer, &QTimer::timeout, &answer, [&] {
      auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
      if (box == nullptr) return;
      ++asked;
      answer.stop();
      EXPECT_TRUE(box->text().contains(QFileInfo(file).fileName())) << box->text().toStdString();
      auto* button = copy ? box->findChild<QAbstractButton*>(QStringLiteral("openCopy"))
                          : box->button(QMessageBox::Cancel);
      ASSERT_NE(button, nullptr);
      QTest::mouseClick(button, Qt::LeftButton);
    });
    answer.start(30);
    second.openFile(file);
    EXPECT_TRUE(two.settle());
  };
  open_and_press(path, false);
  EXPECT_EQ(asked, 1);
  EXPECT_EQ(second.session().document().scan, nullptr);
  // By another way to the same file too.
  const QString link = folder_.filePath(QStringLiteral("link.lostline"));
  ASSERT_TRUE(QFile::link(path, link));
  open_and_press(link, true);
  EXPECT_EQ(asked, 2);
  ASSERT_NE(second.session().document().scan, nullptr);
  EXPECT_EQ(second.session().path(), QString());
  // What the other works on is not written over.
  const QDateTime written = QFileInfo(path).lastModified();
  second.saveTo(path);
  ASSERT_TRUE(two.settle());
  EXPECT_EQ(QFileInfo(path).lastModified(), written);
  EXPECT_EQ(second.session().path(), QString());
  // Once it is closed the file is free.
  first.reset();
  second.saveTo(path);
  ASSERT_TRUE(two.settle());
  EXPECT_EQ(second.session().path(), path);
  const QStringList hidden = QDir(folder_.path()).entryList(QDir::Files | QDir::Hidden);
  EXPECT_EQ(hidden.filter(QStringLiteral(".open")).size(), 1) << hidden.join(' ').toStdString();
}

TEST_F(Safety, TheHistoryForgetsItsOldestStepsBeyondItsBound) {
  const auto scan = project::open_scan(scan_.toStdString());
  ASSERT_TRUE(scan);
  app::Session session;
  session.commit(QStringLiteral("scan"), project::with_scan({}, *scan));
  const auto other_scan = [&] {  // as a cleaning makes it
    auto cleaned = project::prepare_scan(*(*scan)->mesh, "plate", "", Unit::Millimetre);
    EXPECT_TRUE(cleaned);
    return project::with_changed_scan(session.document(), *cleaned);
  };
  for (int i = 0; i < 6; ++i) session.commit(QStringLiteral("clean"), other_scan());
  app::History& history = *session.undoStack();
  EXPECT_EQ(history.count(), 7);
  const std::size_t all = history.bytes();
  history.setBound(all / 2);
  EXPECT_LE(history.bytes(), all / 2);
  EXPECT_EQ(history.count(), 3);
  EXPECT_FALSE(history.isClean());
  while (history.canUndo()) history.undo();
  EXPECT_FALSE(history.isClean()) << "what is on the disk can no longer be reached";
  ASSERT_NE(session.document().scan, nullptr);
  // However small the bound, the last step can be taken back.
  history.setBound(0);
  session.commit(QStringLiteral("clean"), other_scan());
  session.commit(QStringLiteral("clean"), other_scan());
  EXPECT_EQ(history.count(), 1);
  history.setClean();
}

// What an edit of a sketch keeps is its section too, of which each state has its own.
TEST_F(Safety, TheHistoryCountsWhatSketchesKeep) {
  project::Document one;
  auto traced = std::make_shared<project::TracedSketch>();
  traced->section.polylines.resize(1);
  auto& line = traced->section.polylines.front();
  line.points.resize(5000, Vec2::Zero());
  line.chords.resize(5000, Vec2::Zero());
  line.triangles.resize(5000);
  one.sketches = {traced};
  project::Document two = one;
  two.title = "renamed";
  EXPECT_LT(app::bytes_of_its_own(one, two), 10'000U);
  auto edited = std::make_shared<project::TracedSketch>(*traced);
  edited->sketch.add_line(edited->sketch.add_point({0, 0}), edited->sketch.add_point({1, 0}));
  two.sketches = {edited};
  const std::size_t bytes = app::bytes_of_its_own(one, two);
  EXPECT_GT(bytes, 5000U * (2 * sizeof(Vec2) + 4));
  EXPECT_LT(300 * bytes, 100'000'000U);  // three hundred edits
}

TEST_F(Safety, ARandomWalkOfEditsUndoAndRedoMeetsEqualStates) {
  const auto scan = project::open_scan(scan_.toStdString());
  ASSERT_TRUE(scan);
  project::Document start = project::with_scan({}, *scan);
  project::TracedSketch t;
  t.name = "outline";
  t.level = 5;
  t.tolerance = 0.08;
  t.sketch = sketch::sketch_from_section(project::cut_scan(start, t.base, 5), 0.08,
                                         start.scan->health.spacing);
  sketch::Id circle = 0;
  for (const auto& e : t.sketch.entities) {
    if (e.type == sketch::EntityType::Circle) circle = e.id;
  }
  t.sketch.add_constraint(sketch::ConstraintType::Radius, circle);
  const auto added = project::add_sketch(start, t);
  ASSERT_TRUE(added) << added.error().message;
  app::Session session;
  session.commit(QStringLiteral("start"), added->document);
  const auto state = [&] { return store::write_manifest(session.document()).dump(); };
  std::vector<std::string> states{state()};
  std::size_t at = 0;
  std::mt19937 random(17);
  int edits = 0;
  for (int i = 0; i < 400; ++i) {
    const auto choice = random() % 10;
    if (choice < 3 && at > 0) {
      session.undoStack()->undo();
      ASSERT_EQ(state(), states[--at]) << "undo " << i;
      continue;
    }
    if (choice < 5 && at + 1 < states.size()) {
      session.undoStack()->redo();
      ASSERT_EQ(state(), states[++at]) << "redo " << i;
      continue;
    }
    const project::Document& d = session.document();
    const auto any_step = [&]() -> project::Id {
      return d.steps.empty() ? 0 : d.steps[random() % d.steps.size()].id;
    };
    const auto any_row = [&] { return d.dimensions[random() % d.dimensions.size()].id; };
    Result<project::Document> next = Error{};
    switch (random() % 8) {
      case 0: {
        model::Hole hole;
        hole.sketch = added->id;
        hole.circles = {circle};
        next = project::add_step(d, hole, "hole " + std::to_string(i),
                                 {{"diameter", 16.0, 0.01, "circle", {}}}, any_step())
                   .document;
        break;
      }
      case 1:
        next = project::ink(d, any_row(), 10 + static_cast<double>(random() % 20) / 4, "typed");
        break;
      case 2:
        next = project::lift(d, any_row());
        break;
      case 3:
        next = project::rename_dimension(d, any_row(), "name " + std::to_string(i));
        break;
      case 4:
        if (any_step() != 0) next = project::remove_step(d, any_step());
        break;
      case 5:
        if (any_step() != 0) next = project::set_parked(d, any_step(), random() % 2 == 0);
        break;
      case 6:
        if (any_step() != 0) next = project::move_step(d, any_step(), random() % 5);
        break;
      default:
        if (any_step() != 0) next = project::rename_step(d, any_step(), "s " + std::to_string(i));
    }
    if (!next) continue;
    session.commit(QStringLiteral("edit"), *std::move(next));
    states.resize(at + 1);
    states.push_back(state());
    ++at;
    ++edits;
    // Numbers ascend along the Route, whatever was inserted or moved.
    for (std::size_t k = 1; k < session.document().steps.size(); ++k)
      ASSERT_LT(session.document().steps[k - 1].number, session.document().steps[k].number);
  }
  EXPECT_GT(edits, 100);
  // The last state survives the file too.
  const std::string path = folder_.filePath(QStringLiteral("walk.lostline")).toStdString();
  ASSERT_TRUE(store::save_project(path, session.document()));
  const auto back = store::load_project(path);
  ASSERT_TRUE(back) << back.error().message;
  EXPECT_EQ(store::write_manifest(*back).dump(), state());
  for (int i = 0; i < 3000 && session.busy(); ++i) QTest::qWait(10);
}

}  // namespace
}  // namespace lostline::testing
