#pragma once

#include <string>
#include <vector>

namespace lostline::standards {

/// A metric screw thread. Source: ISO 261:1998 (diameters and pitches, first and second choice),
/// ISO 724:1993 (basic minor diameter D1 = d - 1.082532 P).
struct Thread {
  double diameter = 0;  ///< major, mm
  double pitch = 0;     ///< mm
  bool coarse = true;

  [[nodiscard]] std::string name() const;  ///< "M10", "M10 \u00d7 1.25"
  [[nodiscard]] double minor_diameter() const { return diameter - 1.082532 * pitch; }
  /// Common practice, no source: d - P, to the next half tenth.
  [[nodiscard]] double tap_drill() const;
};
const std::vector<Thread>& metric_threads();

}  // namespace lostline::standards
