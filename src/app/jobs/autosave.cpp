#include "jobs/autosave.h"

#include <signal.h>

#include <QCoreApplication>
#include <QDir>
#include <QFileInfo>
#include <QPointer>
#include <QStandardPaths>
#include <QtConcurrent>
#include <cerrno>

#include "store/project_file.h"

namespace lostline::app {
namespace {

constexpr int kDelay = 2000;  // ms

/// "1234-2.lostline": process and window.
qint64 process_of(const QString& name) { return name.section(QLatin1Char('-'), 0, 0).toLongLong(); }

bool running(qint64 process) {
  return process > 0 && (::kill(static_cast<pid_t>(process), 0) == 0 || errno == EPERM);
}

}  // namespace

Autosave::Autosave(Session& session, QObject* parent) : QObject(parent), session_(session) {
  static int windows = 0;
  path_ = folder() +
          QStringLiteral("/%1-%2.lostline").arg(QCoreApplication::applicationPid()).arg(++windows);
  timer_.setSingleShot(true);
  timer_.setInterval(kDelay);
  connect(&timer_, &QTimer::timeout, this, &Autosave::write);
  // The undo stack tells after it knows whether the work is clean.
  connect(session_.undoStack(), &QUndoStack::indexChanged, this, [this] {
    if (!session_.undoStack()->isClean() && !timer_.isActive()) timer_.start();
  });
  connect(session_.undoStack(), &QUndoStack::cleanChanged, this, [this](bool clean) {
    if (!clean) return;
    timer_.stop();
    QFile::remove(path_);
  });
}

Autosave::~Autosave() { QFile::remove(path_); }

QString Autosave::folder() {
  const QString path = QStandardPaths::writableLocation(QStandardPaths::AppLocalDataLocation) +
                       QStringLiteral("/unsaved");
  QDir().mkpath(path);
  return path;
}

QStringList Autosave::leftBehind() {
  QStringList left;
  const QFileInfoList files =
      QDir(folder()).entryInfoList({QStringLiteral("*.lostline")}, QDir::Files, QDir::Time);
  for (const QFileInfo& file : files) {
    if (!running(process_of(file.fileName()))) left << file.absoluteFilePath();
  }
  return left;
}

void Autosave::forget(const QString& path) { QFile::remove(path); }

void Autosave::write() {
  if (writing_) {
    again_ = true;
    return;
  }
  writing_ = true;
  const QPointer<Autosave> self(this);
  static_cast<void>(QtConcurrent::run(
      [self, path = path_, document = session_.snapshot(), occupied = session_.occupied()] {
        // The write is atomic: a kill in the middle leaves the copy before it.
        const Status saved = store::save_project(path.toStdString(), *document);
        QMetaObject::invokeMethod(qApp, [self, saved, path] {
          if (!self) {
            QFile::remove(path);
            return;
          }
          self->writing_ = false;
          if (!saved)
            Q_EMIT self->session_.said(tr("Unsaved work could not be copied for safety: %1")
                                           .arg(QString::fromStdString(saved.error().message)));
          if (self->session_.undoStack()->isClean()) QFile::remove(path);
          if (std::exchange(self->again_, false)) self->timer_.start();
        });
      }));
}

}  // namespace lostline::app
