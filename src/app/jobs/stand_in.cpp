#include "jobs/stand_in.h"

#include <QCoreApplication>
#include <QDir>
#include <QFileInfo>
#include <QThread>
#include <atomic>

#include "io/formats.h"
#include "simulate/parts.h"
#include "simulate/touch_probe.h"
#include "simulate/turntable.h"

namespace lostline::app {

StandIn::StandIn(std::unique_ptr<instruments::Instrument> instrument)
    : instrument_(std::move(instrument)) {
  static std::atomic<int> number{0};
  socket_ = QDir::temp()
                .filePath(QStringLiteral("lostline-%1-%2")
                              .arg(QCoreApplication::applicationPid())
                              .arg(++number))
                .toStdString();
  serving_ = std::async(std::launch::async, [this] {
    return instruments::serve(*instrument_, socket_, Task(stop_.get_token()));
  });
  // It listens within milliseconds; connecting before that would be refused.
  for (int k = 0; k < 200 && !QFileInfo::exists(QString::fromStdString(socket_)); ++k)
    QThread::msleep(10);
}

StandIn::~StandIn() {
  stop_.request_stop();
  serving_.wait();
}

Result<std::unique_ptr<StandIn>> StandIn::start(instruments::Introduction::Kind kind,
                                                const std::string& model) {
  const auto part =
      model.empty() ? Result<model::Model>(simulate::pedestal()) : io::read_model(model);
  if (!part) return part.error();
  std::unique_ptr<instruments::Instrument> instrument;
  if (kind == instruments::Introduction::Kind::Scanner) {
    auto made = simulate::Turntable::make(*part, {});
    if (!made) return made.error();
    instrument = *std::move(made);
  } else {
    auto made = simulate::TouchProbe::make(*part, {});
    if (!made) return made.error();
    instrument = *std::move(made);
  }
  return std::unique_ptr<StandIn>(new StandIn(std::move(instrument)));
}

}  // namespace lostline::app
