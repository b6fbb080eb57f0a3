#pragma once

#include <QDateTime>
#include <QTimer>
#include <memory>
#include <vector>

#include "jobs/session.h"
#include "store/bulk.h"

namespace lostline::app {

/// Keeps a copy of unsaved work beside the program's data, so that a crash or a kill loses at most
/// the time since the last copy. One file for each running window, with a folder beside it for what
/// is large, which is written once; a clean end removes both.
class Autosave : public QObject {
  Q_OBJECT
 public:
  Autosave(Session& session, QObject* parent = nullptr);
  ~Autosave() override;

  /// A copy that a window which is no longer running left behind.
  struct Left {
    QString copy;
    QString title;
    QString project;  ///< that it was saved as before; empty when never
    QDateTime when;
  };
  /// Newest first.
  [[nodiscard]] static std::vector<Left> leftBehind();
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
  std::shared_ptr<store::BulkFolder> bulk_;  // used by one copy at a time
  bool writing_ = false;
  bool again_ = false;
};

}  // namespace lostline::app
