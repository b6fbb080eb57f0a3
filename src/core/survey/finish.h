#pragma once

#include "survey/survey.h"

// What follows from the fits of all regions together.

namespace lostline::survey {

/// Finish and trust of every region, from its roughness beside that of the smoothest.
void judge_finish(std::vector<Region>& regions);

/// Pairs of regions that are parallel, square or coaxial within their uncertainty.
std::vector<FoundRelation> find_relations(const std::vector<Region>& regions);

}  // namespace lostline::survey
