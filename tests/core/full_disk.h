#pragma once

#include <sys/resource.h>

#include <csignal>

namespace lostline::testing {

/// Lets files of this process grow to `bytes` only while it lives: writers fail half-way, as on a
/// full disk.
class FullDisk {
 public:
  explicit FullDisk(rlim_t bytes) : handler_(std::signal(SIGXFSZ, SIG_IGN)) {
    ::getrlimit(RLIMIT_FSIZE, &old_);
    const rlimit little{bytes, old_.rlim_max};
    ::setrlimit(RLIMIT_FSIZE, &little);
  }
  ~FullDisk() {
    ::setrlimit(RLIMIT_FSIZE, &old_);
    std::signal(SIGXFSZ, handler_);
  }
  FullDisk(const FullDisk&) = delete;
  FullDisk& operator=(const FullDisk&) = delete;

 private:
  void (*handler_)(int);
  rlimit old_{};
};

}  // namespace lostline::testing
