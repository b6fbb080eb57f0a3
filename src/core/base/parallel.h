#pragma once

#include <cstddef>
#include <functional>

namespace lostline {

/// Calls `body(begin, end)` over [0, count) in pieces of about `grain` on all cores; returns when
/// all are done.
void parallel_for(std::size_t count, std::size_t grain,
                  const std::function<void(std::size_t, std::size_t)>& body);

/// Limits the worker threads of this process (0: as many as the machine has).
void set_thread_limit(int threads);

}  // namespace lostline
