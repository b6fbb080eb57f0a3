#pragma once

#include <QTimer>

#include "jobs/session.h"

namespace lostline::app {

/// Keeps a copy of unsaved work beside the program's data, so that a crash or a kill loses at most
/// the time since the last copy. One file for each running window; a clean end removes it.
class Autosave : public QObject {
  Q_OBJECT
 public:
  Autosave(Session& session, QObject* parent = nullptr);
  ~Autosave() override;

  /// Copies that windows which are no longer running left behind, newest first.
  [[nodiscard]] static QStringList leftBehind();
  /// Folder of the copies.
  [[nodiscard]] static QString folder();
  /// Milliseconds from an edit to its copy; the next edits in that time go with it.
  void setDelay(int milliseconds) { timer_.setInterval(milliseconds); }
  /// Removes a copy that was recovered or declined.
  static void forget(const QString& path);

 private:
  void write();

  Session& session_;
  QTimer timer_;
  QString path_;
  bool writing_ = false;
  bool again_ = false;
};

}  // namespace lostline::app
