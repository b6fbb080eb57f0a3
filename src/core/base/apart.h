#pragma once

#include <sys/types.h>

#include <filesystem>
#include <memory>
#include <string>
#include <string_view>
#include <vector>

#include "base/task.h"

// Work that is done in a process of its own, because the library that does it may follow bad
// pointers or turn for ever: the process dies or is ended, and the program goes on.

namespace lostline {

/// What such a process can be asked for.
struct ApartWork {
  const char* name;
  /// From the bytes of a request to those of its answer. Exceptions become ApartAnswer::Refused.
  std::string (*run)(std::string_view request, const Task& task);
};

/// Serves requests that come over a socket, one after another, until it closes; then ends the
/// process, in the middle of a work too. Called by the program of the process, once.
[[noreturn]] void serve_apart(int socket, const std::vector<ApartWork>& works);

struct ApartAnswer {
  enum class Outcome {
    Answered,
    Refused,      ///< the work threw an exception
    Stopped,      ///< by the task
    Died,         ///< the process ended in the middle of it
    Hung,         ///< the process was ended: it worked for too long without a word
    Unavailable,  ///< there is no such process
  };
  Outcome outcome = Outcome::Unavailable;
  std::string bytes;  ///< the answer, or what the exception said
};

struct ApartOptions {
  std::filesystem::path program;  ///< that calls serve_apart with the socket of its first argument
  /// s of processor time since it last said how far it is: the longest stretch without a word that
  /// was measured, one hole with a modelled thread, takes ten, and a slow machine is slower.
  double silent = 120;
  /// s after which it is ended though it does nothing at all.
  double idle = 300;
  /// s that it has to stop by itself when the task is stopped.
  double grace = 2;
};

/// A process that works for this one. One request at a time; a closed one starts no other.
class ApartProcess {
 public:
  /// Starts it at once and does not wait for it. Without a program, `alive` is false.
  explicit ApartProcess(ApartOptions options);
  ~ApartProcess();
  ApartProcess(const ApartProcess&) = delete;
  ApartProcess& operator=(const ApartProcess&) = delete;

  [[nodiscard]] bool alive() const { return socket_ >= 0; }
  [[nodiscard]] pid_t process() const { return process_; }

  /// Progress that the work reports reaches the task. After anything but Answered and Refused, and
  /// after Stopped when it did not come to an end by itself, the process is gone.
  ApartAnswer ask(const char* work, std::string_view request, const Task& task);

 private:
  void close();
  ApartOptions options_;
  pid_t process_ = -1;
  int socket_ = -1;
};

/// The program of that name beside the running one, or where it is installed for it; empty when
/// there is none.
std::filesystem::path find_apart_program(const std::string& name);

}  // namespace lostline
