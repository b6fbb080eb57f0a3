#pragma once

#include <functional>

#include "instruments/line_socket.h"
#include "instruments/protocol.h"

namespace lostline::instruments {

/// What answers commands: a stand-in, or a bridge to a device.
class Instrument {
 public:
  virtual ~Instrument() = default;
  [[nodiscard]] virtual Introduction introduction() const = 0;
  /// A talk begins: views and programmes start from their first one.
  virtual void begin() = 0;
  /// Carries out a command and sends its answer, line by line.
  /// @errors InvalidInput  a command that it does not know or cannot do: it is told as ERROR;  what
  /// `send` says ends the talk.
  using Send = std::function<Status(const std::string& line)>;
  virtual Status answer(const Message& command, const Send& send, const Task& task) = 0;
};

/// Waits at a socket, greets who connects and answers until he says BYE or goes; then waits again.
/// @param talks  how many talks to wait for; 0: until the task is stopped.
/// @errors Io  the socket cannot be had;  Cancelled  when the task was stopped.
Status serve(Instrument& instrument, const std::string& path, const Task& task, int talks = 0);

}  // namespace lostline::instruments
