#include "instruments/instrument.h"

namespace lostline::instruments {
namespace {

Status introduce(Instrument& instrument, LineSocket& socket, const Task& task) {
  instrument.begin();
  for (const std::string& line : lines_of(instrument.introduction())) {
    if (Status sent = socket.write(line, task); !sent) return sent;
  }
  return Done{};
}

/// Until the other side goes.
Status talk(Instrument& instrument, LineSocket& socket, const Task& task) {
  constexpr double kPatience = 3600;  // s without a command: who has gone is not waited for
  while (true) {
    const auto line = socket.read(task, kPatience);
    if (!line) return line.error();
    const auto command = parse(*line);
    Status done = Done{};
    if (!command)
      done = command.error();
    else if (command->word == "BYE")
      return Done{};
    else if (command->word == "HELLO")
      done = introduce(instrument, socket, task);
    else
      done = instrument.answer(
          *command, [&](const std::string& text) { return socket.write(text, task); }, task);
    if (done) continue;
    if (done.error().code != ErrorCode::InvalidInput) return done;
    if (Status told = socket.write("ERROR " + done.error().message, task); !told) return told;
  }
}

}  // namespace

Status serve(Instrument& instrument, const std::string& path, const Task& task, int talks) {
  auto listener = LineListener::listen(path);
  if (!listener) return listener.error();
  LineListener waiting = *std::move(listener);
  for (int held = 0; talks == 0 || held < talks; ++held) {
    auto socket = waiting.accept(task);
    if (!socket) return socket.error();
    LineSocket open = *std::move(socket);
    const Status ended = talk(instrument, open, task);
    if (task.stopped()) return cancelled();
    static_cast<void>(ended);  // who has gone needs no answer
  }
  return Done{};
}

}  // namespace lostline::instruments
