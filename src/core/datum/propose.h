#pragma once

#include <string>

#include "datum/frame.h"
#include "datum/place.h"

namespace lostline::datum {

/// A datum system for a part, with the reason for each choice.
struct Proposal {
  std::size_t primary = 0;             ///< index into the surfaces offered
  std::vector<std::size_t> secondary;  ///< a plane, an axis, or two axes
  std::vector<std::size_t> origin;     ///< tertiary: what fixes the shifts still open
  bool extremes = false;               ///< they are left to the scan's extremes
  std::array<std::string, 3> reason;   ///< of primary, secondary, tertiary
};

/// Datum systems as a drawing would have them, the best first: a large machined plane that the part
/// can stand on, then what is square to it. Rough surfaces serve only where nothing is machined.
/// @param outer  points of the scan, to see what the part can stand on.
/// @return empty when there is neither a plane nor an axis. Common practice after ISO 5459:2011.
std::vector<Proposal> propose_datums(const std::vector<Found>& found,
                                     const std::vector<Vec3>& outer, std::size_t most = 3);

}  // namespace lostline::datum
