#pragma once

#include <functional>
#include <stop_token>
#include <utility>

#include "base/result.h"

namespace lostline {

/// Stop request and progress of one long computation. A default Task never stops and reports
/// nowhere.
class Task {
 public:
  Task() = default;
  /// @param progress  called from worker threads with 0..1; must be thread-safe.
  explicit Task(std::stop_token stop, std::function<void(double)> progress = {})
      : stop_(std::move(stop)), progress_(std::move(progress)) {}

  [[nodiscard]] bool stopped() const { return stop_.stop_requested(); }
  void report(double share) const {
    if (progress_) progress_(begin_ + share * (end_ - begin_));
  }
  /// The same task, its progress mapped to [begin, end] of this one.
  [[nodiscard]] Task part(double begin, double end) const {
    Task result = *this;
    result.begin_ = begin_ + begin * (end_ - begin_);
    result.end_ = begin_ + end * (end_ - begin_);
    return result;
  }

 private:
  std::stop_token stop_;
  std::function<void(double)> progress_;
  double begin_ = 0.0;
  double end_ = 1.0;
};

inline Error cancelled() { return {ErrorCode::Cancelled, "Stopped at your request."}; }

}  // namespace lostline
