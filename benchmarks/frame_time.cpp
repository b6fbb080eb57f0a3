// Time of a frame of the Bench, moving and at rest, and until what lies under the pointer is
// highlighted, for scans given on the command line.
#include <QApplication>
#include <QElapsedTimer>
#include <QMouseEvent>
#include <QSettings>
#include <QTemporaryDir>
#include <QThread>
#include <algorithm>
#include <iostream>

#include "look/theme.h"
#include "project/edits.h"
#include "survey/survey.h"
#include "windows/main_window.h"

namespace {

double median(std::vector<double> values) {
  std::nth_element(values.begin(), values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2),
                   values.end());
  return values[values.size() / 2];
}

void wait(const std::function<bool()>& until, int most_milliseconds) {
  for (int i = 0; i < most_milliseconds / 10 && !until(); ++i) {
    QCoreApplication::processEvents();
    QThread::msleep(10);
  }
}

/// From a move of the pointer on to another region until it is highlighted, ms.
double hover(lostline::app::MainWindow& window) {
  using namespace lostline;
  const project::Document& d = window.session().document();
  const auto found = survey::split_into_regions(*d.scan->mesh, d.scan->topology);
  if (!found) return 0;
  window.session().commit(QStringLiteral("survey"),
                          project::with_new_split(d, std::make_shared<survey::Survey>(*found)));
  wait([&] { return !window.session().busy(); }, 60000);
  app::BenchView& bench = window.bench();
  wait([] { return false; }, 500);
  wait([&] { return !bench.drawing(); }, 60000);
  std::vector<double> taken;
  std::uint32_t last = 0;
  for (int y = 40; y < bench.height() - 40; y += 9) {
    for (int x = 40; x < bench.width() - 40; x += 9) {
      const QPointF at(x, y);
      const app::Pick pick = bench.pickAt(at);
      if (pick.region == 0 || pick.region == last) continue;
      last = pick.region;
      QElapsedTimer timer;
      timer.start();
      QMouseEvent move(QEvent::MouseMove, at, bench.mapToGlobal(at), Qt::NoButton, Qt::NoButton,
                       Qt::NoModifier);
      QCoreApplication::sendEvent(&bench, &move);
      QCoreApplication::processEvents();
      taken.push_back(static_cast<double>(timer.nsecsElapsed()) * 1e-6);
    }
  }
  return taken.empty() ? 0 : median(taken);
}

}  // namespace

int main(int argc, char** argv) {
  using namespace lostline;
  QApplication application(argc, argv);
  QTemporaryDir settings;
  QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, settings.path());
  app::apply_theme();
  for (int i = 1; i < argc; ++i) {
    app::MainWindow window;
    window.show();
    window.openFile(QString::fromLocal8Bit(argv[i]));
    wait([&] { return window.session().document().scan && !window.session().busy(); }, 60000);
    if (!window.session().document().scan) {
      std::cerr << argv[i] << " could not be opened\n";
      return 1;
    }
    if (window.card() != nullptr) window.card()->close();
    app::BenchView& bench = window.bench();
    double longest = 0;  // stay in the event loop, milliseconds
    const auto frame = [&](bool moving) {
      bench.camera().rotation = bench.camera().rotation * Eigen::AngleAxisd(0.05, Vec3::UnitY());
      if (moving)
        bench.stir();
      else
        bench.setShow(bench.show());  // the same, drawn anew
      const std::size_t frames = bench.framesDrawn();
      QElapsedTimer turn;
      do {
        turn.start();
        QCoreApplication::processEvents();
        if (!moving) longest = std::max(longest, static_cast<double>(turn.nsecsElapsed()) * 1e-6);
      } while (bench.drawing() || bench.framesDrawn() == frames);
      return bench.lastFrameMilliseconds();
    };
    std::vector<double> moving;
    std::vector<double> resting;
    for (int k = 0; k < 25; ++k) moving.push_back(frame(true));
    wait([] { return false; }, 500);
    for (int k = 0; k < 15; ++k) resting.push_back(frame(false));
    std::cout << argv[i] << ": " << window.session().document().scan->mesh->triangles.size()
              << " triangles, moving " << median(moving) << " ms, at rest " << median(resting)
              << " ms in turns of at most " << longest << " ms, hover " << hover(window) << " ms\n";
  }
  return 0;
}
