#include "base/apart.h"

#include <fcntl.h>
#include <poll.h>
#include <signal.h>
#include <spawn.h>
#include <sys/resource.h>
#include <sys/socket.h>
#include <sys/wait.h>
#include <time.h>
#include <unistd.h>

#include <cerrno>
#include <chrono>
#include <condition_variable>
#include <cstdint>
#include <cstring>
#include <mutex>
#include <optional>
#include <stdexcept>
#include <thread>

extern char** environ;

namespace lostline {
namespace {

using Clock = std::chrono::steady_clock;

enum class Kind : std::uint32_t { Ask, Stop, Progress, Answer, Refusal };

struct Head {
  Kind kind;
  std::uint32_t name;  ///< bytes of the name of a work before the rest
  std::uint64_t size;  ///< bytes that follow
};

bool send_all(int socket, const void* data, std::size_t size) {
  const auto* bytes = static_cast<const char*>(data);
  while (size > 0) {
    const ssize_t sent = ::send(socket, bytes, size, MSG_NOSIGNAL);
    if (sent < 0 && errno == EINTR) continue;
    if (sent <= 0) return false;
    bytes += sent;
    size -= static_cast<std::size_t>(sent);
  }
  return true;
}

bool receive_all(int socket, void* data, std::size_t size) {
  auto* bytes = static_cast<char*>(data);
  while (size > 0) {
    const ssize_t got = ::recv(socket, bytes, size, 0);
    if (got < 0 && errno == EINTR) continue;
    if (got <= 0) return false;
    bytes += got;
    size -= static_cast<std::size_t>(got);
  }
  return true;
}

bool send_message(int socket, Kind kind, std::string_view name, std::string_view rest) {
  const Head head{kind, static_cast<std::uint32_t>(name.size()), name.size() + rest.size()};
  return send_all(socket, &head, sizeof head) && send_all(socket, name.data(), name.size()) &&
         send_all(socket, rest.data(), rest.size());
}

struct Message {
  Head head{};
  std::string bytes;
};

std::optional<Message> receive_message(int socket) {
  Message message;
  if (!receive_all(socket, &message.head, sizeof message.head)) return std::nullopt;
  constexpr std::uint64_t kMost = std::uint64_t{1} << 34U;  // bytes: more is no message
  if (message.head.size > kMost || message.head.name > message.head.size) return std::nullopt;
  message.bytes.resize(message.head.size);
  if (!receive_all(socket, message.bytes.data(), message.bytes.size())) return std::nullopt;
  return message;
}

/// What the one who asks has said last.
class Requests {
 public:
  explicit Requests(int socket) : listener_([this, socket] { listen(socket); }) {}

  /// The next request, and how it is stopped.
  std::pair<Message, std::stop_token> next() {
    std::unique_lock lock(mutex_);
    arrived_.wait(lock, [this] { return waiting_.has_value(); });
    Message message = *std::exchange(waiting_, std::nullopt);
    return {std::move(message), stop_.get_token()};
  }

 private:
  void listen(int socket) {
    while (auto message = receive_message(socket)) {
      const std::scoped_lock lock(mutex_);
      if (message->head.kind == Kind::Stop) {
        stop_.request_stop();
      } else {
        stop_ = std::stop_source();
        waiting_ = std::move(message);
        arrived_.notify_one();
      }
    }
    ::_exit(0);  // nobody waits for what is being done
  }

  std::mutex mutex_;
  std::condition_variable arrived_;
  std::optional<Message> waiting_;
  std::stop_source stop_;
  std::thread listener_;
};

/// Processor time of another process, s; empty when it cannot be told.
std::optional<double> processor_time(pid_t process) {
  clockid_t clock{};
  timespec time{};
  if (::clock_getcpuclockid(process, &clock) != 0 || ::clock_gettime(clock, &time) != 0)
    return std::nullopt;
  return static_cast<double>(time.tv_sec) + 1e-9 * static_cast<double>(time.tv_nsec);
}

double seconds_since(Clock::time_point start) {
  return std::chrono::duration<double>(Clock::now() - start).count();
}

}  // namespace

void serve_apart(int socket, const std::vector<ApartWork>& works) {
  // What dies here is expected: it leaves no core behind.
  const rlimit none{0, 0};
  ::setrlimit(RLIMIT_CORE, &none);
  Requests requests(socket);
  std::mutex speaking;
  while (true) {
    const auto [request, stop] = requests.next();
    const std::string name = request.bytes.substr(0, request.head.name);
    const Task task(stop, [&](double share) {
      const std::scoped_lock lock(speaking);
      send_message(socket, Kind::Progress, {},
                   {reinterpret_cast<const char*>(&share), sizeof share});
    });
    std::string answer;
    Kind kind = Kind::Refusal;
    try {
      const ApartWork* asked = nullptr;
      for (const ApartWork& work : works)
        if (name == work.name) asked = &work;
      if (asked == nullptr) throw std::invalid_argument("no work is called " + name);
      answer = asked->run(std::string_view(request.bytes).substr(request.head.name), task);
      kind = Kind::Answer;
    } catch (const std::exception& exception) {
      answer = exception.what();
    } catch (...) {
      answer = "an unknown reason";
    }
    const std::scoped_lock lock(speaking);
    if (!send_message(socket, kind, {}, answer)) ::_exit(0);
  }
}

ApartProcess::ApartProcess(ApartOptions options) : options_(std::move(options)) {
  if (options_.program.empty()) return;
  int ends[2];
  if (::socketpair(AF_UNIX, SOCK_STREAM | SOCK_CLOEXEC, 0, ends) != 0) return;
  constexpr int kSocketThere = 3;
  posix_spawn_file_actions_t actions;
  posix_spawn_file_actions_init(&actions);
  // A socket that is already at that number would close on the way: duplicating it onto itself
  // keeps it.
  posix_spawn_file_actions_adddup2(&actions, ends[1], kSocketThere);
  std::string program = options_.program.string();
  std::string number = std::to_string(kSocketThere);
  char* arguments[] = {program.data(), number.data(), nullptr};
  const int failed =
      ::posix_spawn(&process_, program.c_str(), &actions, nullptr, arguments, environ);
  posix_spawn_file_actions_destroy(&actions);
  ::close(ends[1]);
  if (failed != 0) {
    ::close(ends[0]);
    process_ = -1;
    return;
  }
  socket_ = ends[0];
}

ApartProcess::~ApartProcess() { close(); }

void ApartProcess::close() {
  if (socket_ < 0) return;
  ::close(socket_);
  socket_ = -1;
  ::kill(process_, SIGKILL);
  int status = 0;
  while (::waitpid(process_, &status, 0) < 0 && errno == EINTR) {
  }
  process_ = -1;
}

ApartAnswer ApartProcess::ask(const char* work, std::string_view request, const Task& task) {
  using Outcome = ApartAnswer::Outcome;
  if (!alive()) return {};
  const auto gone = [&](Outcome outcome) -> ApartAnswer {
    close();
    return {outcome, {}};
  };
  if (!send_message(socket_, Kind::Ask, work, request)) return gone(Outcome::Died);
  Clock::time_point spoken = Clock::now();
  double busy = processor_time(process_).value_or(0);
  std::optional<Clock::time_point> stopped;
  while (true) {
    if (!stopped && task.stopped()) {
      stopped = Clock::now();
      if (!send_message(socket_, Kind::Stop, {}, {})) return gone(Outcome::Died);
    }
    if (stopped && seconds_since(*stopped) > options_.grace) return gone(Outcome::Stopped);
    pollfd end{socket_, POLLIN, 0};
    const int ready = ::poll(&end, 1, 20);
    if (ready < 0 && errno != EINTR) return gone(Outcome::Died);
    if (ready <= 0) {
      const double silent = seconds_since(spoken);
      const bool working = processor_time(process_).value_or(0) - busy > options_.silent;
      if ((silent > options_.silent && working) || silent > options_.idle)
        return gone(Outcome::Hung);
      continue;
    }
    auto message = receive_message(socket_);
    if (!message) return gone(Outcome::Died);
    spoken = Clock::now();
    busy = processor_time(process_).value_or(0);
    if (message->head.kind == Kind::Progress) {
      double share = 0;
      std::memcpy(&share, message->bytes.data(), std::min(sizeof share, message->bytes.size()));
      task.report(share);
      continue;
    }
    if (stopped) return {Outcome::Stopped, {}};
    return {message->head.kind == Kind::Answer ? Outcome::Answered : Outcome::Refused,
            std::move(message->bytes)};
  }
}

std::filesystem::path find_apart_program(const std::string& name) {
  namespace fs = std::filesystem;
  std::error_code error;
  const fs::path self = fs::read_symlink("/proc/self/exe", error);
  if (error) return {};
  for (const fs::path& path : {self.parent_path() / name,
                               self.parent_path().parent_path() / "libexec" / "lostline" / name}) {
    if (::access(path.c_str(), X_OK) == 0) return path;
  }
  return {};
}

}  // namespace lostline
