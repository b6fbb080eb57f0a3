#include "jobs/works.h"

#include <QCoreApplication>
#include <QDateTime>
#include <QPointer>
#include <QThreadPool>
#include <QtConcurrent>
#include <algorithm>

#include "jobs/caught.h"
#include "look/catalogue.h"

namespace lostline::app {
namespace {

constexpr int kTold = 100;       // ms from one telling of the progress to the next
constexpr qint64 kUnseen = 250;  // ms: shorter work would only flicker
constexpr int kThreads = 8;      // a lane each, and the previews of a card and the Strip

}  // namespace

Works::Works(QObject* parent) : QObject(parent) {
  telling_.setInterval(kTold);
  // Lanes must not wait for each other for want of threads; inside each all cores are used anyway.
  QThreadPool* pool = QThreadPool::globalInstance();
  pool->setMaxThreadCount(std::max(pool->maxThreadCount(), kThreads));
  connect(&telling_, &QTimer::timeout, this, &Works::tell);
}

Works::~Works() {
  for (Job& job : jobs_) job.stop.request_stop();
}

void Works::run(Lane lane, const QString& title, Work work, Finish stopped) {
  const bool running =
      std::any_of(jobs_.begin(), jobs_.end(), [&](const Job& j) { return j.lane == lane; });
  if (lane == Lane::Write && running) {
    queue_.push_back({title, std::move(work), std::move(stopped)});
    return;
  }
  if (lane != Lane::Write && lane != Lane::Edit) stop(lane);
  begin(lane, title, std::move(work), std::move(stopped));
}

void Works::begin(Lane lane, const QString& title, Work work, Finish stopped) {
  Job job{++next_,
          lane,
          title,
          {},
          QDateTime::currentMSecsSinceEpoch(),
          std::make_shared<std::atomic<double>>(0)};
  const std::stop_token token = job.stop.get_token();
  const Task task(token, [share = job.share](double done) { *share = done; });
  const QPointer<Works> self(this);
  static_cast<void>(
      QtConcurrent::run([self, task, token, serial = job.serial, work = std::move(work), stopped] {
        const auto done = caught<Result<Finish>>([&]() -> Result<Finish> { return work(task); });
        QMetaObject::invokeMethod(qApp, [self, token, serial, done, stopped] {
          if (!self) return;
          self->ended(serial);
          if (token.stop_requested()) {
            if (stopped) stopped();
          } else if (!done) {
            Q_EMIT self->failed(core_text(done.error().message));
          } else if (*done) {
            (*done)();
          }
        });
      }));
  jobs_.push_back(std::move(job));
  telling_.start();
}

void Works::ended(int serial) {
  const auto job =
      std::find_if(jobs_.begin(), jobs_.end(), [&](const Job& j) { return j.serial == serial; });
  const bool wrote = job != jobs_.end() && job->lane == Lane::Write;
  if (job != jobs_.end()) jobs_.erase(job);
  if (wrote && !queue_.empty()) {
    Queued next = std::move(queue_.front());
    queue_.pop_front();
    begin(Lane::Write, next.title, std::move(next.work), std::move(next.stopped));
  }
  tell();
}

void Works::stop(Lane lane) {
  for (Job& job : jobs_) {
    if (job.lane == lane) job.stop.request_stop();
  }
  if (lane == Lane::Write) queue_.clear();
}

const Works::Job* Works::told() const {
  // The latest that was asked for; the Route, which follows by itself, when nothing else runs.
  const qint64 now = QDateTime::currentMSecsSinceEpoch();
  const Job* latest = nullptr;
  for (const Job& job : jobs_) {
    if (now - job.since < kUnseen || job.stop.stop_requested()) continue;
    if (latest == nullptr || job.lane != Lane::Route) latest = &job;
  }
  return latest;
}

void Works::tell() {
  const Job* job = told();
  if (job != nullptr)
    Q_EMIT shown(job->title, *job->share, static_cast<int>(jobs_.size() - 1));
  else if (shows_)
    Q_EMIT shown({}, 0, 0);
  shows_ = job != nullptr;
  if (jobs_.empty()) telling_.stop();
}

void Works::stopShown() {
  const Job* shown = told();
  for (Job& job : jobs_) {
    if (&job == shown) job.stop.request_stop();
  }
}

}  // namespace lostline::app
