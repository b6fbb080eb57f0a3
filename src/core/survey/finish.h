#pragma once

#include "survey/survey.h"

// What follows from the fits of all regions together.

namespace lostline::survey {

/// Roughness and form of every region from its residuals; then finish, trust, shared surfaces,
/// relations and patterns. A finish set by hand stays.
void draw_conclusions(Survey& survey, const scan::Mesh& mesh, const scan::Topology& topology);

/// Finish and trust of every region, from its roughness beside that of the smoothest surfaces that
/// agree with each other, which show what the scanner alone contributes. Unknown for all where no
/// group stands out and the noise could hide a casting's roughness. Limits: common practice, no
/// source.
void judge_finish(std::vector<Region>& regions);
/// Trust that goes with a finish.
double trust_of(Finish finish);

/// How far things meant for one place usually lie apart, mm: a thousandth of the regions' extent
/// (common practice, no source). What two regions must agree within is a share of it, or their U.
double usual_departure(const std::vector<Region>& regions);

/// Numbers regions that lie on one surface alike.
void find_shared(std::vector<Region>& regions);

/// Pairs of regions that are parallel, square or coaxial within their uncertainty.
std::vector<FoundRelation> find_relations(const std::vector<Region>& regions);

/// Arrangements of regions, those that say most first.
/// @param tolerance  mm, greatest departure from the ideal place; U widens it. 0: a thousandth of
/// the regions' extent (common practice, no source).
std::vector<Pattern> find_patterns(const std::vector<Region>& regions, double tolerance = 0);

}  // namespace lostline::survey
