#pragma once

#include <memory>
#include <string>

#include "base/result.h"
#include "base/task.h"

namespace lostline::instruments {

/// Lines of text over a local stream socket (a name in the file system). One side waits at the
/// name, the other one connects. Moves, not copies; closed with the last owner.
class LineSocket {
 public:
  /// @errors Io  nobody waits there, or the name is too long for a socket.
  static Result<LineSocket> connect(const std::string& path);
  LineSocket(LineSocket&&) noexcept;
  LineSocket& operator=(LineSocket&&) noexcept;
  ~LineSocket();

  /// The next line without its end; waits up to `seconds` for it.
  /// @errors Io  the other side has closed, or says nothing in that time;  InvalidInput  a line
  /// without an end;  Cancelled.
  Result<std::string> read(const Task& task, double seconds = 30);
  /// Sends a line.
  /// @errors Io  the other side has closed, or takes nothing;  Cancelled.
  Status write(const std::string& line, const Task& task);

 private:
  friend class LineListener;
  explicit LineSocket(int handle);
  struct Impl;
  std::unique_ptr<Impl> impl_;
};

/// Waits at a name for who connects.
class LineListener {
 public:
  /// A name that an earlier program left behind is taken over, one at which somebody waits is not.
  /// @errors Io  the name is in use, too long, or its folder may not be written.
  static Result<LineListener> listen(const std::string& path);
  LineListener(LineListener&&) noexcept;
  LineListener& operator=(LineListener&&) noexcept;
  ~LineListener();  ///< removes the name

  /// The next one to connect. @errors Io;  Cancelled.
  Result<LineSocket> accept(const Task& task);

 private:
  LineListener(int handle, std::string path);
  struct Impl;
  std::unique_ptr<Impl> impl_;
};

}  // namespace lostline::instruments
