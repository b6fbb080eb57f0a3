#pragma once

#include "section/resolving/piece.h"

namespace lostline::section {

/// Puts ellipses, and splines where nothing else fits, in the place of runs of arcs and lines that
/// go over into each other without a corner, where that costs less.
void smooth_runs(const Trace& trace, std::vector<Piece>& pieces, double largest_radius,
                 const Costs& costs = {});

}  // namespace lostline::section
