#include "base/text.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace lostline {

const char* unit_symbol(Unit unit) {
  switch (unit) {
    case Unit::Millimetre:
      return "mm";
    case Unit::Centimetre:
      return "cm";
    case Unit::Inch:
      return "inch";
    case Unit::Metre:
      return "m";
  }
  return "mm";
}

int decimals_for_uncertainty(double u, int fallback) {
  if (!std::isfinite(u) || u <= 0) return fallback;
  const double exponent = std::floor(std::log10(u));
  const double lead = u / std::pow(10.0, exponent);
  const int decimals = static_cast<int>(-exponent) + (lead < 1.95 ? 1 : 0);
  return std::clamp(decimals, 0, 6);
}

std::string format_fixed(double value, int decimals) {
  if (!std::isfinite(value)) return "unknown";
  std::string text = fmt::format("{:.{}f}", value, decimals);
  if (text[0] == '-') {
    const bool zero = text.find_first_not_of("-0.") == std::string::npos;
    text = zero ? text.substr(1) : "\u2212" + text.substr(1);
  }
  return text;
}

std::string format_reading(double value, double u) {
  const int decimals = decimals_for_uncertainty(u);
  if (!std::isfinite(u) || u <= 0) return format_fixed(value, decimals);
  return format_fixed(value, decimals) + " \u00b1 " + format_fixed(u, decimals);
}

std::string format_trimmed(double value, int decimals) {
  std::string text = format_fixed(value, decimals);
  if (text.find('.') != std::string::npos) {
    text.erase(text.find_last_not_of('0') + 1);
    if (text.back() == '.') text.pop_back();
  }
  return text;
}

std::string format_count(std::uint64_t count) {
  std::string digits = std::to_string(count);
  for (int i = static_cast<int>(digits.size()) - 3; i > 0; i -= 3) {
    digits.insert(static_cast<std::size_t>(i), "\u2009");
  }
  return digits;
}

}  // namespace lostline
