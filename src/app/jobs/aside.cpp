#include "jobs/aside.h"

#include <QCoreApplication>
#include <QElapsedTimer>
#include <QPointer>
#include <QtConcurrent>
#include <atomic>

#include "jobs/caught.h"

namespace lostline::app {

Aside::Aside(Session& session, QObject* parent) : QObject(parent), session_(session) {}

Aside::~Aside() { stop_.request_stop(); }

void Aside::run(Session::Work work) {
  stop_.request_stop();
  waiting_ = std::move(work);
  dropped_ = false;
  if (!running_) next();
}

void Aside::drop() {
  stop_.request_stop();
  waiting_ = {};
  dropped_ = running_;
}

void Aside::next() {
  running_ = true;
  dropped_ = false;
  stop_ = std::stop_source();
  const QPointer<Aside> self(this);
  // Told a few times a second at most.
  const auto told = std::make_shared<std::atomic<qint64>>(330);
  const auto clock = std::make_shared<QElapsedTimer>();
  clock->start();
  const Task task(stop_.get_token(), [self, told, clock](double share) {
    const qint64 now = clock->elapsed();
    qint64 due = told->load();
    if (now < due || !told->compare_exchange_strong(due, now + 100)) return;
    QMetaObject::invokeMethod(qApp, [self, share] {
      if (self && self->running_) Q_EMIT self->progressed(share);
    });
  });
  const auto occupied = session_.occupied();
  static_cast<void>(QtConcurrent::run([self, task, occupied, work = std::exchange(waiting_, {})] {
    const auto done =
        caught<Result<Session::Finish>>([&]() -> Result<Session::Finish> { return work(task); });
    const Session::Finish finish =
        done ? *done
             : Session::Finish([self, error = done.error()] { self->session_.report(error); });
    QMetaObject::invokeMethod(qApp, [self, occupied, finish] {
      if (!self) return;
      self->running_ = false;
      if (self->waiting_) return self->next();
      if (std::exchange(self->dropped_, false)) return;
      if (finish) finish();
      if (self && !self->running_) Q_EMIT self->settled();
    });
  }));
}

}  // namespace lostline::app
