#include "base/parallel.h"

#include <tbb/blocked_range.h>
#include <tbb/global_control.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <atomic>
#include <memory>
#include <thread>
#include <vector>

namespace lostline {

#ifdef __SANITIZE_THREAD__

// The thread sanitizer sees what is compiled with it: not how the library's workers hand their work
// over. Plain threads then, and more of them than cores, to meet in more ways.
void parallel_for(std::size_t count, std::size_t grain,
                  const std::function<void(std::size_t, std::size_t)>& body) {
  constexpr std::size_t kThreads = 4;
  grain = std::max<std::size_t>(grain, 1);
  std::atomic<std::size_t> next = 0;
  const auto work = [&] {
    for (std::size_t begin = next.fetch_add(grain); begin < count; begin = next.fetch_add(grain))
      body(begin, std::min(count, begin + grain));
  };
  std::vector<std::jthread> others;
  for (std::size_t k = 1; k < std::min(kThreads, (count + grain - 1) / grain); ++k)
    others.emplace_back(work);
  work();
}

#else

void parallel_for(std::size_t count, std::size_t grain,
                  const std::function<void(std::size_t, std::size_t)>& body) {
  tbb::parallel_for(
      tbb::blocked_range<std::size_t>(0, count, grain),
      [&](const tbb::blocked_range<std::size_t>& range) { body(range.begin(), range.end()); });
}

#endif

void set_thread_limit(int threads) {
  static std::unique_ptr<tbb::global_control> control;
  control.reset();
  if (threads > 0) {
    control = std::make_unique<tbb::global_control>(tbb::global_control::max_allowed_parallelism,
                                                    static_cast<std::size_t>(threads));
  }
}

}  // namespace lostline
