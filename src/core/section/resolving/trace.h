#pragma once

#include "section/resolve.h"
#include "section/resolving/piece.h"

namespace lostline::section {

/// The run of points with what can be said of its noise before anything is fitted.
Trace trace_of(const Polyline& polyline, const ResolveOptions& options);

/// Begins a closed trace at another of its points.
Trace turned_by(const Trace& trace, std::size_t start);

/// The points [first, last), every so many of them, which then weigh as many: enough to see whether
/// a curve fits.
Trace thinned(const Trace& trace, std::size_t first, std::size_t last, std::size_t most);

/// What the residuals of settled pieces say of the noise: sigma, and the inflation for what
/// neighbours share. Pieces with fewer than `fewest` points say nothing.
void read_noise(Trace& trace, const std::vector<Piece>& pieces, double least_sigma);

}  // namespace lostline::section
