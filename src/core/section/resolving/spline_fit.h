#pragma once

#include "section/resolving/piece.h"

namespace lostline::section {

/// The spline that explains the points [first, last) at the least cost: knots are put where the
/// points depart most, as long as each pays for itself. The parameters are those of the feet,
/// corrected until they settle. False when the points are too few, or are not explained at a cost
/// below `most`.
/// Source: L. Piegl and W. Tiller, The NURBS Book (1997), 9.4; parameter correction after J.
/// Hoschek, Intrinsic parametrization for approximation, CAGD 5 (1988).
bool fit_spline(const Trace& trace, Piece& piece, double most, const Costs& costs = {});

/// Fits the poles of a spline whose knots are given.
bool fit_poles(const Trace& trace, Piece& piece);

}  // namespace lostline::section
