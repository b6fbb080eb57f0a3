#include "instruments/line_socket.h"

#include <poll.h>
#include <sys/socket.h>
#include <sys/stat.h>
#include <sys/un.h>
#include <unistd.h>

#include <cerrno>
#include <chrono>
#include <cstring>
#include <utility>

namespace lostline::instruments {
namespace {

using Clock = std::chrono::steady_clock;

constexpr int kSlice = 50;                    // ms between looks at the task
constexpr std::size_t kLongestWait = 100000;  // bytes without an end of line: not this protocol

Error failed(const std::string& what) {
  return {ErrorCode::Io, what + ": " + std::strerror(errno) + "."};
}

/// A file descriptor that closes itself.
class Handle {
 public:
  explicit Handle(int number) : number_(number) {}
  Handle(const Handle&) = delete;
  Handle& operator=(const Handle&) = delete;
  ~Handle() {
    if (number_ >= 0) ::close(number_);
  }
  [[nodiscard]] int get() const { return number_; }
  int release() { return std::exchange(number_, -1); }

 private:
  int number_;
};

Result<sockaddr_un> address_of(const std::string& path) {
  sockaddr_un address{};
  address.sun_family = AF_UNIX;
  if (path.empty() || path.size() >= sizeof(address.sun_path))
    return Error{ErrorCode::Io,
                 "The name of a socket has 1 to " + std::to_string(sizeof(address.sun_path) - 1) +
                     " characters; \"" + path + "\" has " + std::to_string(path.size()) + "."};
  std::memcpy(address.sun_path, path.c_str(), path.size() + 1);
  return address;
}

/// Connects, or says why not in errno.
int connected(const sockaddr_un& address) {
  Handle handle(::socket(AF_UNIX, SOCK_STREAM | SOCK_CLOEXEC, 0));
  if (handle.get() < 0) return -1;
  // The interface of sockets takes every kind of address as a plain one.
  // NOLINTNEXTLINE(cppcoreguidelines-pro-type-reinterpret-cast)
  if (::connect(handle.get(), reinterpret_cast<const sockaddr*>(&address), sizeof(address)) != 0)
    return -1;
  return handle.release();
}

/// Waits until a descriptor is ready. 1 ready, 0 not in that time, -1 stopped or failed.
int ready(int handle, short what, const Task& task, double seconds) {
  const auto until = Clock::now() + std::chrono::duration<double>(seconds);
  while (!task.stopped()) {
    pollfd one{handle, what, 0};
    const int got = ::poll(&one, 1, kSlice);
    if (got > 0) return 1;
    if (got < 0 && errno != EINTR) return -1;
    if (Clock::now() > until) return 0;
  }
  return -1;
}

}  // namespace

struct LineSocket::Impl {
  explicit Impl(int number) : handle(number) {}
  Handle handle;
  std::string waiting;     // read and not yet given
  std::size_t looked = 0;  // of it, in which there is no end of a line
};

LineSocket::LineSocket(int handle) : impl_(std::make_unique<Impl>(handle)) {}
LineSocket::LineSocket(LineSocket&&) noexcept = default;
LineSocket& LineSocket::operator=(LineSocket&&) noexcept = default;
LineSocket::~LineSocket() = default;

Result<LineSocket> LineSocket::connect(const std::string& path) {
  const auto address = address_of(path);
  if (!address) return address.error();
  const int handle = connected(*address);
  if (handle < 0) return failed("No instrument answers at " + path);
  return LineSocket(handle);
}

Result<std::string> LineSocket::read(const Task& task, double seconds) {
  std::string& waiting = impl_->waiting;
  while (true) {
    const std::size_t end = waiting.find('\n', impl_->looked);
    if (end != std::string::npos) {
      std::string line = waiting.substr(0, end);
      waiting.erase(0, end + 1);
      impl_->looked = 0;
      return line;
    }
    impl_->looked = waiting.size();
    if (waiting.size() > kLongestWait)
      return Error{ErrorCode::InvalidInput,
                   "What answers does not end its lines; it is no instrument of this protocol."};
    const int state = ready(impl_->handle.get(), POLLIN, task, seconds);
    if (task.stopped()) return cancelled();
    if (state < 0) return failed("The connection to the instrument broke");
    if (state == 0) return Error{ErrorCode::Io, "The instrument says nothing any more."};
    char buffer[16384];
    const ssize_t got = ::recv(impl_->handle.get(), buffer, sizeof(buffer), 0);
    if (got < 0 && (errno == EINTR || errno == EAGAIN)) continue;
    if (got < 0) return failed("The connection to the instrument broke");
    if (got == 0) return Error{ErrorCode::Io, "The instrument has closed the connection."};
    waiting.append(buffer, static_cast<std::size_t>(got));
  }
}

Status LineSocket::write(const std::string& line, const Task& task) {
  const std::string all = line + "\n";
  constexpr double kPatience = 30;  // s that the other side may take nothing
  for (std::size_t sent = 0; sent < all.size();) {
    const int state = ready(impl_->handle.get(), POLLOUT, task, kPatience);
    if (task.stopped()) return cancelled();
    if (state == 0) return Error{ErrorCode::Io, "The instrument takes no commands any more."};
    if (state < 0) return failed("The connection to the instrument broke");
    const ssize_t got = ::send(impl_->handle.get(), all.data() + sent, all.size() - sent,
                               MSG_NOSIGNAL | MSG_DONTWAIT);
    if (got < 0 && (errno == EINTR || errno == EAGAIN)) continue;
    if (got < 0) return failed("The connection to the instrument broke");
    sent += static_cast<std::size_t>(got);
  }
  return Done{};
}

struct LineListener::Impl {
  Impl(int number, std::string name) : handle(number), path(std::move(name)) {}
  Impl(const Impl&) = delete;
  Impl& operator=(const Impl&) = delete;
  ~Impl() { ::unlink(path.c_str()); }
  Handle handle;
  std::string path;
};

LineListener::LineListener(int handle, std::string path)
    : impl_(std::make_unique<Impl>(handle, std::move(path))) {}
LineListener::LineListener(LineListener&&) noexcept = default;
LineListener& LineListener::operator=(LineListener&&) noexcept = default;
LineListener::~LineListener() = default;

Result<LineListener> LineListener::listen(const std::string& path) {
  const auto address = address_of(path);
  if (!address) return address.error();
  Handle handle(::socket(AF_UNIX, SOCK_STREAM | SOCK_CLOEXEC, 0));
  if (handle.get() < 0) return failed("No socket can be made");
  const auto bind = [&] {
    // NOLINTNEXTLINE(cppcoreguidelines-pro-type-reinterpret-cast): as for connect
    const auto* plain = reinterpret_cast<const sockaddr*>(&*address);
    return ::bind(handle.get(), plain, sizeof(*address)) == 0;
  };
  if (!bind()) {
    if (errno != EADDRINUSE) return failed("No instrument can wait at " + path);
    if (const int other = connected(*address); other >= 0 || errno != ECONNREFUSED) {
      if (other >= 0) ::close(other);
      return Error{ErrorCode::Io, path + " is in use. Give another name for the socket."};
    }
    struct stat file {};
    if (::stat(path.c_str(), &file) != 0 || !S_ISSOCK(file.st_mode))
      return Error{ErrorCode::Io, path + " is a file. Give another name for the socket."};
    ::unlink(path.c_str());  // left behind
    if (!bind()) return failed("No instrument can wait at " + path);
  }
  LineListener listener(handle.release(), path);
  if (::listen(listener.impl_->handle.get(), 4) != 0)
    return failed("No instrument can wait at " + path);
  return listener;
}

Result<LineSocket> LineListener::accept(const Task& task) {
  while (true) {
    constexpr double kLong = 1e6;  // s: an instrument waits until it is switched off
    const int state = ready(impl_->handle.get(), POLLIN, task, kLong);
    if (task.stopped()) return cancelled();
    if (state < 0) return failed("The instrument can wait no longer");
    if (state == 0) continue;
    const int handle = ::accept4(impl_->handle.get(), nullptr, nullptr, SOCK_CLOEXEC);
    if (handle >= 0) return LineSocket(handle);
    if (errno != EINTR && errno != EAGAIN && errno != ECONNABORTED)
      return failed("The instrument can wait no longer");
  }
}

}  // namespace lostline::instruments
