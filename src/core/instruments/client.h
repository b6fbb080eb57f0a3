#pragma once

#include <functional>
#include <optional>

#include "instruments/line_socket.h"
#include "instruments/protocol.h"
#include "scan/point_cloud.h"

namespace lostline::instruments {

/// One view of a scanner, in coordinates that stay with the part: what turned it is taken out.
struct View {
  int number = 0;           ///< from 1
  Vec3 eye = Vec3::Zero();  ///< where it was taken from
  scan::PointCloud cloud;   ///< points with normals
};

/// A place that a probe touched.
struct Touch {
  Vec3 at = Vec3::Zero();  ///< mm: the centre of the ball, or the place itself; see Introduction
  Vec3 out =
      Vec3::UnitZ();  ///< unit, out of the material as far as the probe knows: against its way
};

/// The program's side of a talk with an instrument.
class Client {
 public:
  /// Connects and greets.
  /// @errors Io  nothing answers there;  InvalidInput  it speaks another protocol.
  static Result<Client> connect(const std::string& path, const Task& task = {});

  [[nodiscard]] const Introduction& instrument() const { return introduction_; }
  /// The next view; empty after the last one.
  /// @param coming  told what has come of the view, every few thousand points.
  Result<std::optional<View>> next_view(const Task& task,
                                        const std::function<void(const View&)>& coming = {});
  /// Touches the part at a place, coming from along `out`. Empty when it touched nothing.
  Result<std::optional<Touch>> touch(const Vec3& at, const Vec3& out, const Task& task);
  /// The next touch of the instrument's own programme, with the feature it belongs to; empty after
  /// the last one.
  struct Programmed {
    std::string feature;  ///< "plane 1": its kind first
    Touch touch;
  };
  Result<std::optional<Programmed>> next_touch(const Task& task);

 private:
  explicit Client(LineSocket socket) : socket_(std::move(socket)) {}
  /// Sends a command and reads the first line of the answer. @errors  what the instrument says.
  Result<Message> ask(const std::string& command, const Task& task);
  Result<Message> read(const Task& task);

  LineSocket socket_;
  Introduction introduction_;
};

}  // namespace lostline::instruments
