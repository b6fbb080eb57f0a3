#pragma once

#include <algorithm>

#include "joining/piece.h"

// What two scans say of one way to lie on each other.

namespace lostline::joining {

/// Areas in mm2 of the first scan's surface as laid on the second.
struct Overlap {
  double agrees = 0;       ///< lies on the other within the scatter, looking the same way
  double contradicts = 0;  ///< lies where the other shows that it does not
  /// Lies open to the eye that saw the other, which shows nothing there; the frame of the scanner
  /// may have ended before.
  double missing = 0;
  double rms = 0;          ///< mm, of what agrees
  std::size_t points = 0;  ///< that agree

  /// How much speaks for it. What agrees may do so by chance, on flats and on parts that are
  /// nearly symmetric; what contradicts does not, but for a few thousandths at borders. What is
  /// missing says a little: a scanner's frame ends somewhere.
  [[nodiscard]] double worth() const {
    constexpr double kChance = 0.003;
    return agrees - 0.3 * missing - 40 * std::max(0.0, contradicts - kChance * agrees);
  }
};

struct OverlapOptions {
  double tolerance = 0;  ///< mm: nearer agrees
  double far = 0;        ///< mm: surfaces side by side nearer than this are one and the same
  std::size_t most = 1500;
};

/// @param motion  from the first's to the second's coordinates.
Overlap overlap_of(const Piece& first, const Piece& second, const Transform& motion,
                   const OverlapOptions& options);
/// Both ways, by the smaller area.
Overlap overlap_both(const Piece& first, const Piece& second, const Transform& motion,
                     const OverlapOptions& options);

}  // namespace lostline::joining
