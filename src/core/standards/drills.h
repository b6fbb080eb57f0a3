#pragma once

#include <string>
#include <vector>

namespace lostline::standards {

/// Common metric twist drill diameters, mm: tenths to 10, halves to 25, whole to 50 with quarters
/// where usual. Source: the stocked sizes of ISO 235 / DIN 338 jobber drills (from memory).
const std::vector<double>& common_drills();

/// A drill of the inch series: number 1 … 60, letter A … Z. Source: ASME B94.11M, from memory.
struct InchDrill {
  std::string name;  ///< "#7", "letter F"
  double inches = 0;
};
const std::vector<InchDrill>& inch_drills();

/// A fraction of an inch, n/64, reduced: "3/8 in", "1 1/4 in".
std::string inch_fraction_name(int sixty_fourths);

/// The basic series of preferred numbers near `value`, any decade. Source: ISO 3:1973, R40 contains
/// R20, R10 and R5.
struct PreferredNumber {
  double value = 0;
  int series = 40;  ///< the coarsest of 5, 10, 20, 40 that contains it
};
PreferredNumber preferred_near(double value);

}  // namespace lostline::standards
