// How long single events hold up the window's thread while a job is done on a large scan. Drawing
// the Bench is left out: lostline_frame_time measures it.
#include <QApplication>
#include <QElapsedTimer>
#include <QSettings>
#include <QTemporaryDir>
#include <QThread>
#include <algorithm>
#include <iostream>
#include <map>

#include "jobs/showing.h"
#include "look/theme.h"
#include "model/steps/extrude/extrude.h"
#include "project/datums.h"
#include "project/ledger.h"
#include "tools/tool.h"
#include "windows/main_window.h"

namespace {

using namespace lostline;

/// Times every event that is delivered.
class Watched : public QApplication {
 public:
  using QApplication::QApplication;
  struct Stall {
    double milliseconds = 0;
    QString what;
  };
  std::vector<Stall> stalls;
  bool notify(QObject* receiver, QEvent* event) override {
    ++depth_;
    QElapsedTimer timer;
    timer.start();
    const QString what = QString::fromUtf8(receiver->metaObject()->className()) + QLatin1Char(' ') +
                         QString::number(static_cast<int>(event->type()));
    const bool drawing = event->type() == QEvent::Paint || event->type() == QEvent::UpdateRequest ||
                         event->type() == QEvent::Expose;
    const bool handled = QApplication::notify(receiver, event);
    --depth_;
    const double took = static_cast<double>(timer.nsecsElapsed()) * 1e-6;
    if (depth_ == 0 && !drawing && took > 20) stalls.push_back({took, what});
    return handled;
  }

 private:
  int depth_ = 0;
};

void wait(const std::function<bool()>& until, int most_milliseconds) {
  QElapsedTimer timer;
  timer.start();
  while (timer.elapsed() < most_milliseconds && !until()) {
    QCoreApplication::processEvents();
    QThread::msleep(5);
  }
}

}  // namespace

int main(int argc, char** argv) {
  Watched application(argc, argv);
  if (argc < 2) {
    std::cerr << "usage: lostline_watchdog SCAN [STEPS]\n";
    return 2;
  }
  const int steps = argc > 2 ? std::atoi(argv[2]) : 200;
  QTemporaryDir settings;
  QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, settings.path());
  app::apply_theme();
  app::MainWindow window;
  window.show();
  app::Session& session = window.session();
  const auto rest = [&] {
    int idle = 0;
    wait([&] { return (idle = session.busy() ? 0 : idle + 1) > 20; }, 600000);
  };
  const auto act = [&](const char* name, const std::function<void()>& what) {
    application.stalls.clear();
    QElapsedTimer timer;
    timer.start();
    // As an event of its own, so that it is watched too.
    QMetaObject::invokeMethod(&application, what, Qt::QueuedConnection);
    rest();
    std::sort(application.stalls.begin(), application.stalls.end(),
              [](const auto& a, const auto& b) { return a.milliseconds > b.milliseconds; });
    std::cout << name << ": " << timer.elapsed() / 1000.0 << " s; longest events";
    for (std::size_t i = 0; i < std::min<std::size_t>(application.stalls.size(), 3); ++i)
      std::cout << "  " << application.stalls[i].milliseconds << " ms ("
                << application.stalls[i].what.toStdString() << ")";
    std::cout << std::endl;
  };
  const auto start = [&](const char* tool) {
    for (const app::Tool& t : app::tools()) {
      if (std::string(t.name) == tool) Q_EMIT window.rail().toolChosen(t);
    }
  };
  act("open", [&] { window.openFile(QString::fromLocal8Bit(argv[1])); });
  if (!session.document().scan) return 1;
  std::cout << session.document().scan->mesh->triangles.size() << " triangles\n";
  act("keep the health", [&] { window.card()->tryKeep(); });
  act("stage Survey", [&] { window.setStage(app::kSurvey); });
  act("Regions, preview", [&] { start("Regions"); });
  act("Regions, keep", [&] { window.card()->tryKeep(); });
  act("select a region", [&] { session.selection().set({{app::Item::Kind::Region, 1}}); });
  act("hide a region", [&] {
    app::set_visibility(session, {{app::Item::Kind::Region, 2}}, project::Visibility::Hidden);
  });
  act("box over all", [&] { Q_EMIT window.bench().boxed(window.bench().rect(), {}); });
  act("frame", [&] {
    session.edit(QStringLiteral("frame"), [](const project::Document& d) {
      return project::set_frame(d, project::propose_frames(d).front().specification);
    });
  });
  act("stage Trace", [&] { window.setStage(app::kTrace); });
  act("Section", [&] { start("Section"); });
  act("Section, keep", [&] { window.card()->tryKeep(); });
  act("Sketch, keep", [&] {
    if (window.card() != nullptr) window.card()->tryKeep();
  });
  act("stage Build", [&] { window.setStage(app::kBuild); });
  act("Extrude", [&] { start("Extrude"); });
  act("Extrude, keep", [&] { window.card()->tryKeep(); });
  act("many steps", [&] {
    session.edit(
        QStringLiteral("steps"), [steps](const project::Document& d) -> Result<project::Document> {
          project::Document next = d;
          for (int i = 0; i < steps && !next.steps.empty(); ++i) {
            model::Feature feature = next.steps.front().feature;
            feature.as<model::Extrude>()->extent.to.value += 0.01 * i;
            next = project::add_step(next, feature, "step " + std::to_string(i), {}).document;
          }
          return next;
        });
  });
  act("select a step", [&] {
    session.selection().set({{app::Item::Kind::Step, session.document().steps.back().id}});
  });
  act("ink a row", [&] {
    session.edit(QStringLiteral("ink"), [](const project::Document& d) {
      return project::ink(d, d.dimensions.back().id, d.dimensions.back().value() + 0.1, "typed");
    });
  });
  act("edit the last step", [&] {
    Q_EMIT window.findChild<app::RoutePanel*>()->stepOpened(session.document().steps.back().id);
  });
  act("discard", [&] { window.card()->close(); });
  act("stage Prove", [&] { window.setStage(app::kProve); });
  act("undo", [&] { session.undoStack()->undo(); });
  act("stage Survey again", [&] { window.setStage(app::kSurvey); });
  return 0;
}
