#include "jobs/autosave.h"

#include <signal.h>

#include <QCoreApplication>
#include <QDir>
#include <QFileInfo>
#include <QPointer>
#include <QStandardPaths>
#include <QtConcurrent>
#include <cerrno>

#include "jobs/caught.h"
#include "look/catalogue.h"
#include "store/project_file.h"

namespace lostline::app {
namespace {

constexpr int kDelay = 2000;  // ms

/// "1234-2.lostline": process and window.
qint64 process_of(const QString& name) { return name.section(QLatin1Char('-'), 0, 0).toLongLong(); }

bool running(qint64 process) {
  return process > 0 && (::kill(static_cast<pid_t>(process), 0) == 0 || errno == EPERM);
}

/// Beside a copy: what the part is called and which file it belongs to, a line each.
QString origin_of(const QString& copy) { return copy + QStringLiteral(".origin"); }

}  // namespace

Autosave::Autosave(Session& session, QObject* parent) : QObject(parent), session_(session) {
  static int windows = 0;
  path_ = folder() +
          QStringLiteral("/%1-%2.lostline").arg(QCoreApplication::applicationPid()).arg(++windows);
  bulk_ = std::make_shared<store::BulkFolder>(path_.toStdString());
  timer_.setSingleShot(true);
  timer_.setInterval(kDelay);
  connect(&timer_, &QTimer::timeout, this, &Autosave::write);
  // The undo stack tells after it knows whether the work is clean.
  connect(session_.undoStack(), &History::indexChanged, this, [this] {
    if (!session_.undoStack()->isClean() && !timer_.isActive()) timer_.start();
  });
  connect(session_.undoStack(), &History::cleanChanged, this, [this](bool clean) {
    if (!clean) return;
    timer_.stop();
    if (writing_) return;  // the copy goes when it is done
    forget(path_);
    bulk_ = std::make_shared<store::BulkFolder>(path_.toStdString());
  });
}

Autosave::~Autosave() { forget(path_); }

QString Autosave::folder() {
  const QString path = QStandardPaths::writableLocation(QStandardPaths::AppLocalDataLocation) +
                       QStringLiteral("/unsaved");
  QDir().mkpath(path);
  return path;
}

std::vector<Autosave::Left> Autosave::leftBehind() {
  std::vector<Left> left;
  const QFileInfoList files =
      QDir(folder()).entryInfoList({QStringLiteral("*.lostline")}, QDir::Files, QDir::Time);
  for (const QFileInfo& file : files) {
    if (running(process_of(file.fileName()))) continue;
    Left one{file.absoluteFilePath(), tr("a part"), {}, file.lastModified()};
    QFile origin(origin_of(one.copy));
    if (origin.open(QIODevice::ReadOnly)) {
      const QStringList lines = QString::fromUtf8(origin.readAll()).split(QLatin1Char('\n'));
      one.title = lines.value(0);
      one.project = lines.value(1);
    }
    left.push_back(one);
  }
  // Ended before the first copy was whole: its data belong to nothing.
  for (const QString& data :
       QDir(folder()).entryList({QStringLiteral("*.lostline.data")}, QDir::Dirs)) {
    const QString copy = folder() + QLatin1Char('/') + data.chopped(5);  // without ".data"
    if (!running(process_of(data)) && !QFileInfo::exists(copy)) forget(copy);
  }
  return left;
}

void Autosave::forget(const QString& path) {
  QFile::remove(path);
  QFile::remove(origin_of(path));
  QDir(QString::fromStdString(store::BulkFolder::of(path.toStdString()).string()))
      .removeRecursively();
}

void Autosave::write() {
  if (session_.undoStack()->isClean()) return;
  if (writing_) {
    again_ = true;
    return;
  }
  writing_ = true;
  const QPointer<Autosave> self(this);
  static_cast<void>(QtConcurrent::run([self, path = path_, bulk = bulk_,
                                       document = session_.snapshot(), project = session_.path(),
                                       occupied = session_.occupied()] {
    QFile origin(origin_of(path));
    if (origin.open(QIODevice::WriteOnly))
      origin.write(
          (QString::fromStdString(document->title) + QLatin1Char('\n') + project).toUtf8());
    origin.close();
    // The write is atomic: a kill in the middle leaves the copy before it.
    const auto saved =
        caught<Status>([&] { return store::save_beside(path.toStdString(), *document, *bulk); });
    QMetaObject::invokeMethod(qApp, [self, saved, path] {
      if (!self) return forget(path);
      self->writing_ = false;
      if (!saved)
        Q_EMIT self->session_.said(tr("Unsaved work could not be copied for safety: %1")
                                       .arg(core_text(saved.error().message)));
      if (self->session_.undoStack()->isClean()) {
        forget(path);
        self->bulk_ = std::make_shared<store::BulkFolder>(path.toStdString());
      }
      if (std::exchange(self->again_, false)) self->timer_.start();
    });
  }));
}

}  // namespace lostline::app
