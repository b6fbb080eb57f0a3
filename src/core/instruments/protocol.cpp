#include "instruments/protocol.h"

#include <charconv>
#include <cmath>

namespace lostline::instruments {
namespace {

constexpr std::size_t kLongestLine = 1000;  // characters of a line: no message comes near it
constexpr int kDecimals = 5;                // of millimetres, and of unit directions

Error wrong(const Message& message, const std::string& why) {
  return {ErrorCode::InvalidInput,
          "The instrument sent \"" + message.word + " " + message.text() + "\": " + why + "."};
}

}  // namespace

Result<std::vector<double>> Message::numbers(std::size_t count, std::size_t from) const {
  if (rest.size() < from + count)
    return wrong(*this, std::to_string(count) + " numbers were expected");
  std::vector<double> found;
  for (std::size_t i = from; i < from + count; ++i) {
    double value = 0;
    const char* last = rest[i].data() + rest[i].size();
    const auto [end, code] = std::from_chars(rest[i].data(), last, value);
    if (code != std::errc() || end != last || !std::isfinite(value))
      return wrong(*this, "\"" + rest[i] + "\" is no number");
    found.push_back(value);
  }
  return found;
}

std::string Message::text() const {
  std::string all;
  for (const std::string& part : rest) all += (all.empty() ? "" : " ") + part;
  return all;
}

Result<Message> parse(std::string_view line) {
  while (!line.empty() && (line.back() == '\r' || line.back() == ' ')) line.remove_suffix(1);
  if (line.size() > kLongestLine)
    return Error{ErrorCode::InvalidInput, "The instrument sent a line of " +
                                              std::to_string(line.size()) +
                                              " characters; it does not speak this protocol."};
  Message message;
  for (std::size_t from = 0; from < line.size();) {
    const std::size_t to = std::min(line.find(' ', from), line.size());
    if (to > from) {
      const std::string part(line.substr(from, to - from));
      if (message.word.empty())
        message.word = part;
      else
        message.rest.push_back(part);
    }
    from = to + 1;
  }
  if (message.word.empty())
    return Error{ErrorCode::InvalidInput, "The instrument sent an empty line."};
  return message;
}

std::string line_of(std::string_view word, const std::vector<double>& numbers) {
  std::string line(word);
  for (const double value : numbers) {
    char digits[64];
    const auto [end, code] =
        std::to_chars(digits, digits + sizeof(digits), value, std::chars_format::fixed, kDecimals);
    line += ' ';
    line.append(digits, code == std::errc() ? end : digits);
  }
  return line;
}

std::vector<std::string> lines_of(const Introduction& i) {
  const bool probe = i.kind == Introduction::Kind::Probe;
  std::vector<std::string> lines{std::string("INSTRUMENT ") + (probe ? "probe " : "scanner ") +
                                 i.name};
  if (i.noise > 0) lines.push_back(line_of("NOISE", {i.noise}));
  if (i.spacing > 0) lines.push_back(line_of("SPACING", {i.spacing}));
  if (i.views > 0) lines.push_back(line_of("VIEWS", {static_cast<double>(i.views)}));
  if (probe) {
    lines.push_back(line_of("TIP", {i.tip}));
    lines.emplace_back(i.gives_centres ? "GIVES centres" : "GIVES places");
  }
  lines.emplace_back("READY");
  return lines;
}

Status take(const Message& message, Introduction& i) {
  if (message.word == "INSTRUMENT") {
    if (message.rest.empty() || (message.rest[0] != "scanner" && message.rest[0] != "probe"))
      return wrong(message, "scanners and probes are known");
    i.kind = message.rest[0] == "probe" ? Introduction::Kind::Probe : Introduction::Kind::Scanner;
    i.name.clear();
    for (std::size_t k = 1; k < message.rest.size(); ++k)
      i.name += (k > 1 ? " " : "") + message.rest[k];
    return Done{};
  }
  if (message.word == "GIVES") {
    if (message.rest.empty() || (message.rest[0] != "centres" && message.rest[0] != "places"))
      return wrong(message, "a probe gives centres or places");
    i.gives_centres = message.rest[0] == "centres";
    return Done{};
  }
  double* const value = message.word == "NOISE"     ? &i.noise
                        : message.word == "SPACING" ? &i.spacing
                        : message.word == "TIP"     ? &i.tip
                                                    : nullptr;
  if (value == nullptr && message.word != "VIEWS") return Done{};  // said by a later version
  const auto number = message.numbers(1);
  if (!number) return number.error();
  if (!(number->front() >= 0)) return wrong(message, "it is below zero");
  if (value != nullptr)
    *value = number->front();
  else
    i.views = static_cast<int>(std::min(number->front(), 100000.0));
  return Done{};
}

}  // namespace lostline::instruments
