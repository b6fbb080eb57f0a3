#pragma once

#include <QObject>
#include <QTimer>
#include <atomic>
#include <deque>
#include <functional>
#include <memory>
#include <stop_token>
#include <vector>

#include "base/task.h"

namespace lostline::app {

/// Long work off the interface's thread, with progress and cancel. Every lane has its own: opening
/// a valley does not end a save, and what computes the Route holds up no edit.
class Works : public QObject {
  Q_OBJECT
 public:
  enum class Lane {
    Open,   ///< a new one ends the one before it
    Write,  ///< files: one after the other, none is ended by another
    Edit,   ///< of the document; its owner starts them one after the other
    Read,   ///< pictures and tables of what there is: a new one ends the one before it
    Draw,   ///< arrays for the Bench: a new one ends the one before it
    Route,  ///< the model and its distances: a new one ends the one before it
  };
  /// What work returns: it runs on the interface's thread, unless the work was stopped.
  using Finish = std::function<void()>;
  using Work = std::function<Finish(const Task&)>;

  explicit Works(QObject* parent = nullptr);
  ~Works() override;

  /// @param stopped  runs on the interface's thread instead of the finish when it was stopped.
  void run(Lane lane, const QString& title, Work work, Finish stopped = {});
  /// Ends what runs and waits in a lane.
  void stop(Lane lane);
  /// Ends the work that the status line shows.
  void stopShown();
  [[nodiscard]] bool busy() const { return !jobs_.empty() || !queue_.empty(); }

 Q_SIGNALS:
  /// What the status line says; an empty title for nothing. `others` run beside it.
  void shown(const QString& title, double share, int others);
  void failed(const QString& message);

 private:
  struct Job {
    int serial;
    Lane lane;
    QString title;
    std::stop_source stop;
    qint64 since;  ///< ms
    std::shared_ptr<std::atomic<double>> share;
  };
  struct Queued {
    QString title;
    Work work;
    Finish stopped;
  };
  void begin(Lane lane, const QString& title, Work work, Finish stopped);
  void ended(int serial);
  void tell();
  [[nodiscard]] const Job* told() const;

  std::vector<Job> jobs_;
  std::deque<Queued> queue_;  ///< files to be written
  QTimer telling_;
  int next_ = 0;
  bool shows_ = false;
};

}  // namespace lostline::app
