#include "jobs/project_hold.h"

#include <QFileInfo>

namespace lostline::app {

QString ProjectHold::lockOf(const QString& path) {
  // By whatever way the file is named.
  const QFileInfo info(path);
  const QString folder = QFileInfo(info.absolutePath()).canonicalFilePath();
  const QString file =
      info.exists() ? info.canonicalFilePath() : folder + QLatin1Char('/') + info.fileName();
  const QFileInfo real(file);
  return real.absolutePath() + QStringLiteral("/.") + real.fileName() + QStringLiteral(".open");
}

bool ProjectHold::take(const QString& path) {
  if (path.isEmpty()) {
    held_.reset();
    lock_.clear();
    return true;
  }
  const QString lock = lockOf(path);
  if (lock == lock_) return true;
  auto next = std::make_unique<QLockFile>(lock);
  next->setStaleLockTime(0);  // only the end of its program makes it void
  if (!next->tryLock(0)) {
    if (next->error() == QLockFile::LockFailedError) return false;
    next.reset();
  }
  held_ = std::move(next);
  lock_ = held_ ? lock : QString();
  return true;
}

bool ProjectHold::heldElsewhere(const QString& path) const {
  const QString lock = lockOf(path);
  if (lock == lock_) return false;
  QLockFile trial(lock);
  trial.setStaleLockTime(0);
  return !trial.tryLock(0) && trial.error() == QLockFile::LockFailedError;
}

}  // namespace lostline::app
