#pragma once

#include "survey/survey.h"

namespace lostline::survey {

/// Sides of the smallest rectangle around each plane of a survey, in the plane, mm, the longer
/// first: by the number of the region, zero for what is no plane. Whichever way the part lies, a
/// face measures the same.
std::vector<Vec2> plane_sizes(const Survey& survey, const scan::Mesh& mesh,
                              const scan::Topology& topology);

}  // namespace lostline::survey
