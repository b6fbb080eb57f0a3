#include "base/parallel.h"

#include <tbb/blocked_range.h>
#include <tbb/global_control.h>
#include <tbb/parallel_for.h>

#include <memory>

namespace lostline {

void parallel_for(std::size_t count, std::size_t grain,
                  const std::function<void(std::size_t, std::size_t)>& body) {
  tbb::parallel_for(
      tbb::blocked_range<std::size_t>(0, count, grain),
      [&](const tbb::blocked_range<std::size_t>& range) { body(range.begin(), range.end()); });
}

void set_thread_limit(int threads) {
  static std::unique_ptr<tbb::global_control> control;
  control.reset();
  if (threads > 0) {
    control = std::make_unique<tbb::global_control>(tbb::global_control::max_allowed_parallelism,
                                                    static_cast<std::size_t>(threads));
  }
}

}  // namespace lostline
