#pragma once

#include "survey/survey.h"

namespace lostline::survey {

/// Narrow walls in bands that no surface holds as a whole: the end of a tube, the rim of a thin
/// wall, the sides of a low boss, a bevel of two or three rows of points. The edges beside such a
/// strip have moved most of its points and turned its normals, so that no surface grows on it. But
/// it is square to a plane that it touches, or turned about the axis of a surface that it touches:
/// seen along that plane's normal, or in the half-plane through that axis, it is a straight line,
/// whose points away from the edges are enough to tell it. Strips are taken one by one from a band,
/// those with most points first; each becomes a region with its lender in `direction_of`.
/// @param normals  smoothed, one a vertex.
/// @param spacing  mm between neighbouring points.
/// @param smallest_area  mm2, of a strip.
/// Regions are found by place in `survey.regions`: label i + 1 in `triangle_region`; areas, centres
/// and counts follow. Ends early when the task is stopped.
void find_strips(Survey& survey, const scan::Mesh& mesh, const scan::Topology& topology,
                 const std::vector<Vec3>& normals, double spacing, double smallest_area,
                 const Task& task = {});

}  // namespace lostline::survey
