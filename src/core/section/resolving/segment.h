#pragma once

#include "section/resolving/piece.h"

namespace lostline::section {

/// The lines and arcs that explain a trace at the least cost: sum over the pieces of their squared
/// residuals and what a piece costs, with up to `corner` mm left out between two pieces, where a
/// scanner rounds. Optimal over borders on a grid of at most `places`.
/// Source: optimal partitioning with pruning, R. Killick, P. Fearnhead and I. Eckley, Optimal
/// detection of changepoints with a linear computational cost, JASA 107 (2012); arcs by the
/// algebraic fit of G. Taubin, IEEE Trans. PAMI 13 (1991).
std::vector<Piece> segment(const Trace& trace, double corner, double largest_radius,
                           std::size_t places, const Costs& costs = {});

}  // namespace lostline::section
