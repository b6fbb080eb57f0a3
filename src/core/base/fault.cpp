#include "base/fault.h"

#include <csetjmp>
#include <csignal>
#include <cstdint>
#include <mutex>

namespace lostline {
namespace {

/// Where the innermost guarded work of this thread was entered.
thread_local sigjmp_buf* entered = nullptr;
struct sigaction before_ours;

void on_fault(int signal, siginfo_t* info, void* /*context*/) {
  constexpr std::uintptr_t kNullObject = 65536;  // no object that the kernel makes is larger
  // An address that no process can have comes without it, as 0, and with another code.
  if (entered != nullptr && info->si_code == SEGV_MAPERR &&
      reinterpret_cast<std::uintptr_t>(info->si_addr) < kNullObject)
    siglongjmp(*entered, 1);
  // Not ours: the instruction runs again and meets whoever was there before.
  sigaction(signal, &before_ours, nullptr);
}

void listen() {
  static std::once_flag once;
  std::call_once(once, [] {
    struct sigaction action = {};
    action.sa_sigaction = on_fault;
    action.sa_flags = SA_SIGINFO | SA_NODEFER;
    sigemptyset(&action.sa_mask);
    sigaction(SIGSEGV, &action, &before_ours);
  });
}

}  // namespace

bool survives_null_access(const std::function<void()>& work) {
  listen();
  sigjmp_buf here;
  sigjmp_buf* const outer = entered;
  // No variable that lives across the jump is changed after it.
  if (sigsetjmp(here, 1) != 0) {  // NOLINT(cert-err52-cpp): no other way out of a signal handler
    entered = outer;
    return false;
  }
  entered = &here;
  try {
    work();
  } catch (...) {
    entered = outer;
    throw;
  }
  entered = outer;
  return true;
}

}  // namespace lostline
