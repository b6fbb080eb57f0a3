#pragma once

#include "section/resolving/piece.h"

namespace lostline::section {

/// Fits every piece, moves the borders between neighbours point by point to where the costs are
/// least (with up to `corner` mm left out between them), and joins neighbours that one piece
/// explains at less cost, also across a short stretch of damage. Until nothing changes, at most
/// eight rounds.
void settle(Trace& trace, std::vector<Piece>& pieces, double corner, double largest_radius,
            const Costs& costs = {});

/// Fits a piece of its kind to its points; as a line where an arc is not determined or flatter than
/// the largest radius.
void refit(const Trace& trace, Piece& piece, double largest_radius);

/// Length of the stretch of points [first, last), mm.
double stretch(const Trace& trace, std::size_t first, std::size_t last);

}  // namespace lostline::section
