#pragma once

#include <mutex>

namespace lostline::io {

/// The kernel's exchange library keeps global state: whoever reads or writes STEP or IGES holds
/// this.
std::mutex& exchange_mutex();
/// Its messages are not for the engineer's terminal.
void silence_exchange();

}  // namespace lostline::io
