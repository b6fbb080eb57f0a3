#pragma once

#include <cmath>
#include <cstdlib>

namespace lostline::testing {

/// Whether everything is to be tried (`./dev test --thorough`), not only a share of it.
inline bool thorough() { return std::getenv("LOSTLINE_THOROUGH") != nullptr; }

/// Rounds of a statistical test, or parts of a table: `all` when thorough, `few` by default, and
/// `fewest` under the sanitizers, which look at memory and not at chance.
inline int rounds(int all, int few, int fewest) {
#if defined(LOSTLINE_SANITIZED)  // by the build: this file itself may not be instrumented
  static_cast<void>(all);
  static_cast<void>(few);
  return fewest;
#else
  static_cast<void>(fewest);
  return thorough() ? all : few;
#endif
}

/// How far the count of n independent trials of probability p strays from n p by chance at most:
/// 3.3 standard deviations, one count in a thousand beyond (normal approximation).
inline double stray(int n, double p) { return 3.3 * std::sqrt(n * p * (1 - p)); }

}  // namespace lostline::testing
