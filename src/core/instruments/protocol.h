#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "base/geometry.h"
#include "base/result.h"

// The lines that an instrument and the program exchange; docs/design/instrument-protocol.md.

namespace lostline::instruments {

constexpr int kVersion = 1;

/// A line: a word in capitals, then words and numbers.
struct Message {
  std::string word;
  std::vector<std::string> rest;

  /// The numbers behind the word, `from` the n-th part on.
  /// @errors InvalidInput  one is missing, or is no finite number.
  [[nodiscard]] Result<std::vector<double>> numbers(std::size_t count, std::size_t from = 0) const;
  /// All that follows the word, as it was written.
  [[nodiscard]] std::string text() const;
};

/// @errors InvalidInput  an empty line, or one longer than any that the protocol has.
Result<Message> parse(std::string_view line);

/// "POINT 1.25000 -3.00000 0.00400": millimetres and directions to five decimals.
std::string line_of(std::string_view word, const std::vector<double>& numbers);

/// What an instrument says of itself when it is greeted.
struct Introduction {
  enum class Kind { Scanner, Probe } kind = Kind::Scanner;
  std::string name;
  double noise = 0;    ///< mm, standard deviation of a point; 0: not known
  double spacing = 0;  ///< mm, of a scanner's points
  int views = 0;       ///< that a scanner will give; 0: not known
  double tip = 0;      ///< mm, diameter of a probe's ball
  /// A probe gives the centre of its ball; else the place touched, the ball taken off already.
  bool gives_centres = true;
};
/// The lines that introduce it, the last one READY.
std::vector<std::string> lines_of(const Introduction& introduction);
/// Takes one of those lines.
/// @errors InvalidInput  an unknown kind of instrument, or a number that makes no sense.
Status take(const Message& message, Introduction& introduction);

}  // namespace lostline::instruments
