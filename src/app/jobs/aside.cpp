#include "jobs/aside.h"

#include <QCoreApplication>
#include <QPointer>
#include <QtConcurrent>

namespace lostline::app {

Aside::Aside(Session& session, QObject* parent) : QObject(parent), session_(session) {}

Aside::~Aside() { stop_.request_stop(); }

void Aside::run(Session::Work work) {
  stop_.request_stop();
  waiting_ = std::move(work);
  if (!running_) next();
}

void Aside::next() {
  running_ = true;
  stop_ = std::stop_source();
  const QPointer<Aside> self(this);
  const Task task(stop_.get_token());
  const auto occupied = session_.occupied();
  static_cast<void>(QtConcurrent::run([self, task, occupied, work = std::exchange(waiting_, {})] {
    const Session::Finish finish = work(task);
    QMetaObject::invokeMethod(qApp, [self, occupied, finish] {
      if (!self) return;
      self->running_ = false;
      if (self->waiting_) return self->next();
      if (finish) finish();
      if (self && !self->running_) Q_EMIT self->settled();
    });
  }));
}

}  // namespace lostline::app
