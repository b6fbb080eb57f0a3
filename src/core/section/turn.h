#pragma once

#include "section/section.h"

namespace lostline::section {

/// The part of a section with x >= 0: what a half-plane about the y axis of its frame sees. Runs
/// that cross the axis end on it.
Section half_of(const Section& section);

/// Half-planes all round the y axis of `base`, folded onto the one at zero angle. What most blades
/// agree on is the profile, drawn by the run that follows it longest; what few of them see (holes,
/// keyways, flats) is drawn apart; all blades are support for a fit.
///
/// @param blades  number of half-planes, evenly spaced.
/// About 1 ms a blade at 1 M triangles, on all cores.
Section cut_fan(const SectionIndex& index, const Placement& base, int blades,
                const SectionOptions& options = {});

}  // namespace lostline::section
