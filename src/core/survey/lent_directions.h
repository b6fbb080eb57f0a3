#pragma once

#include "survey/survey.h"

namespace lostline::survey {

/// Whether a region's own evidence tells its direction well enough to lend it.
bool lends_direction(const Region& region);

/// A short hole, a chamfer or a narrow strip says little of its direction. Where a surface that
/// belongs with it tells it three times better, and the region's own evidence does not speak
/// against it (within its U, and by the rise of the sum of squares), the region is fitted again
/// with that direction held and `Region::direction_of` names the lender. In this order: an axis
/// that it shares, a plane that it touches, a direction that at least a twentieth of the area has.
/// A strip that finds none of these is held square to a plane that it touches. `u_angle` stays that
/// of the region's own evidence.
/// A narrow band that nothing holds well is tried as a wall, plane or cylinder, square to a plane
/// that it touches.
/// @param patches  what each region, in their order, was fitted to or, without a fit, may be tried
/// with; empty: it stays as it is.
/// @param spacing  mm between neighbouring points.
/// O(regions squared) and a fit for each that borrows; uses all cores.
void lend_directions(Survey& survey, const scan::Topology& topology,
                     const std::vector<Patch>& patches, double spacing);

}  // namespace lostline::survey
