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

  double grain = 0;  ///< mm2 that one point stands for

  /// How much speaks for it: what agrees, divided by what speaks against that. What agrees may do
  /// so by chance, on flats and on parts that are nearly symmetric; what contradicts does not: of
  /// scans that lie right a thousandth at most. Those miss nothing either where the scanner saw all
  /// that lay open to it; but its frame ends somewhere, so that this divides less.
  [[nodiscard]] double worth() const {
    if (!(agrees > 0)) return 0;
    constexpr double kContradicted = 0.0015;
    constexpr double kMissed = 0.02;
    const double against = std::max(0.0, contradicts - grain) / agrees / kContradicted;
    const double absent = std::max(0.0, missing - grain) / agrees / kMissed;
    return agrees / (1 + against * against) / (1 + absent);
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
