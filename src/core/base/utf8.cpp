#include "base/utf8.h"

#include <algorithm>

namespace lostline {
namespace {

/// Bytes of the well-formed character that a text begins with; 0: there is none.
std::size_t utf8_length(std::string_view text) {
  const auto byte = [&](std::size_t k) { return static_cast<unsigned char>(text[k]); };
  const unsigned char first = byte(0);
  if (first < 0x80) return 1;
  const std::size_t length = first >= 0xC2 && first <= 0xDF   ? 2
                             : first >= 0xE0 && first <= 0xEF ? 3
                             : first >= 0xF0 && first <= 0xF4 ? 4
                                                              : 0;
  if (length == 0 || text.size() < length) return 0;
  // No shorter form there is, no surrogate, nothing past the last character.
  const unsigned char least = first == 0xE0 ? 0xA0 : first == 0xF0 ? 0x90 : 0x80;
  const unsigned char most = first == 0xED ? 0x9F : first == 0xF4 ? 0x8F : 0xBF;
  if (byte(1) < least || byte(1) > most) return 0;
  for (std::size_t k = 2; k < length; ++k)
    if (byte(k) < 0x80 || byte(k) > 0xBF) return 0;
  return length;
}

}  // namespace

std::string as_utf8(std::string_view text) {
  std::string result;
  result.reserve(text.size());
  while (!text.empty()) {
    const std::size_t length = utf8_length(text);
    if (length > 0)
      result += text.substr(0, length);
    else
      result += "\uFFFD";
    text.remove_prefix(std::max<std::size_t>(length, 1));
  }
  return result;
}

}  // namespace lostline
