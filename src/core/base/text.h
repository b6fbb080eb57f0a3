#pragma once

#include <cstdint>
#include <string>

namespace lostline {

/// Display unit of lengths; inside everything is millimetres.
enum class Unit { Millimetre, Inch, Metre, Centimetre };

constexpr double mm_per(Unit unit) {
  switch (unit) {
    case Unit::Millimetre:
      return 1.0;
    case Unit::Centimetre:
      return 10.0;
    case Unit::Inch:
      return 25.4;
    case Unit::Metre:
      return 1000.0;
  }
  return 1.0;
}
const char* unit_symbol(Unit unit);

/// Number of decimals that a value with expanded uncertainty `u` deserves: U is shown with one
/// significant digit (two when it begins with 1), after JCGM 100:2008 (GUM) 7.2.6. 0..6; `u` <= 0
/// or not finite gives `fallback`.
int decimals_for_uncertainty(double u, int fallback = 3);

/// `value` with a fixed number of decimals, a true minus sign and no negative zero.
std::string format_fixed(double value, int decimals);
/// "41.97 ± 0.02": digits by the uncertainty.
std::string format_reading(double value, double u);
/// `value` without trailing zeros, at most `decimals`.
std::string format_trimmed(double value, int decimals = 4);
/// 412306 -> "412 306" with thin spaces.
std::string format_count(std::uint64_t count);

}  // namespace lostline
