#pragma once

#include "jobs/session.h"

namespace lostline::app {

/// The latest of a stream of computations, off the interface's thread: a new one stops the one
/// before it, and only the last one's result arrives.
class Aside : public QObject {
  Q_OBJECT
 public:
  explicit Aside(Session& session, QObject* parent = nullptr);
  ~Aside() override;

  /// `work` runs on a worker; what it returns runs on the interface's thread, unless a newer
  /// request came or this object is gone by then.
  void run(Session::Work work);
  [[nodiscard]] bool running() const { return running_; }
  /// Something asked for is still to arrive.
  [[nodiscard]] bool wanted() const { return waiting_ || (running_ && !dropped_); }
  /// Forgets what was asked for: nothing of it arrives any more.
  void drop();

 Q_SIGNALS:
  void settled();                 ///< the last request has arrived
  void progressed(double share);  ///< of a request that has run for a third of a second

 private:
  void next();

  Session& session_;
  Session::Work waiting_;
  std::stop_source stop_;
  bool running_ = false;
  bool dropped_ = false;
};

}  // namespace lostline::app
