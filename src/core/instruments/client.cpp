#include "instruments/client.h"

#include <cmath>

namespace lostline::instruments {
namespace {

constexpr double kPatience = 60;            // s for an answer: a turntable turns slowly
constexpr double kMostPoints = 50'000'000;  // of one view

Vec3 vec(const std::vector<double>& numbers, std::size_t from) {
  return {numbers[from], numbers[from + 1], numbers[from + 2]};
}

Error unexpected(const Message& message) {
  return {ErrorCode::InvalidInput, "The instrument answered \"" + message.word + " " +
                                       message.text() + "\", which was not expected."};
}

Result<Touch> touch_of(const Message& message, std::size_t from) {
  const auto numbers = message.numbers(6, from);
  if (!numbers) return numbers.error();
  Touch touch{vec(*numbers, 0), vec(*numbers, 3)};
  const double length = touch.out.norm();
  if (!(length > 0.5 && length < 2)) return unexpected(message);
  touch.out /= length;
  return touch;
}

}  // namespace

Result<Message> Client::read(const Task& task) {
  const auto line = socket_.read(task, kPatience);
  if (!line) return line.error();
  auto message = parse(*line);
  if (message && message->word == "ERROR")
    return Error{ErrorCode::Failed, "The instrument says: " + message->text()};
  return message;
}

Result<Message> Client::ask(const std::string& command, const Task& task) {
  if (const Status sent = socket_.write(command, task); !sent) return sent.error();
  return read(task);
}

Result<Client> Client::connect(const std::string& path, const Task& task) {
  auto socket = LineSocket::connect(path);
  if (!socket) return socket.error();
  Client client(*std::move(socket));
  auto message = client.ask("HELLO " + std::to_string(kVersion), task);
  if (!message) return message.error();
  if (message->word != "INSTRUMENT") return unexpected(*message);
  constexpr int kMost = 100;  // lines of an introduction
  for (int k = 0; k < kMost; ++k) {
    if (message->word == "READY") return client;
    if (const Status taken = take(*message, client.introduction_); !taken) return taken.error();
    message = client.read(task);
    if (!message) return message.error();
  }
  return Error{ErrorCode::InvalidInput, "The instrument does not end its introduction."};
}

Result<std::optional<View>> Client::next_view(const Task& task,
                                              const std::function<void(const View&)>& coming) {
  const auto head = ask("VIEW", task);
  if (!head) return head.error();
  if (head->word == "DONE") return std::optional<View>();
  if (head->word != "VIEW") return unexpected(*head);
  const auto numbers = head->numbers(5);  // number, eye, points
  if (!numbers) return numbers.error();
  if (!((*numbers)[4] >= 0 && (*numbers)[4] <= kMostPoints)) return unexpected(*head);
  View view;
  view.number = static_cast<int>((*numbers)[0]);
  view.eye = vec(*numbers, 1);
  const auto count = static_cast<std::size_t>((*numbers)[4]);
  constexpr std::size_t kOften = 5000;  // points between two tellings
  for (std::size_t i = 0; i < count; ++i) {
    const auto point = read(task);
    if (!point) return point.error();
    if (point->word != "P") return unexpected(*point);
    const auto six = point->numbers(6);
    if (!six) return six.error();
    view.cloud.points.push_back(vec(*six, 0));
    view.cloud.normals.push_back(vec(*six, 3).normalized());
    if (coming && (i + 1) % kOften == 0) coming(view);
  }
  return std::optional(std::move(view));
}

Result<std::optional<Touch>> Client::touch(const Vec3& at, const Vec3& out, const Task& task) {
  const auto answer =
      ask(line_of("TOUCH", {at.x(), at.y(), at.z(), out.x(), out.y(), out.z()}), task);
  if (!answer) return answer.error();
  if (answer->word == "MISSED") return std::optional<Touch>();
  if (answer->word != "TOUCHED") return unexpected(*answer);
  const auto touch = touch_of(*answer, 0);
  if (!touch) return touch.error();
  return std::optional(*touch);
}

Result<std::optional<Client::Programmed>> Client::next_touch(const Task& task) {
  const auto answer = ask("NEXT", task);
  if (!answer) return answer.error();
  if (answer->word == "DONE") return std::optional<Programmed>();
  if (answer->word != "TOUCHED" || answer->rest.size() < 7) return unexpected(*answer);
  const auto touch = touch_of(*answer, 0);
  if (!touch) return touch.error();
  Programmed made;
  made.touch = *touch;
  for (std::size_t k = 6; k < answer->rest.size(); ++k)
    made.feature += (k > 6 ? " " : "") + answer->rest[k];
  return std::optional(std::move(made));
}

}  // namespace lostline::instruments
