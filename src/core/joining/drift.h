#pragma once

#include "base/task.h"
#include "joining/merge.h"

namespace lostline::joining {

/// How far other scans lie from one of them: the distance of each of its vertices from their
/// surface, mm, positive where the vertex lies outside, the mean of all that are near; NaN where
/// none is. Borders and surfaces that look another way do not count.
/// @param search  mm: surfaces further away are not the same place; 0: three spacings.
/// @errors Cancelled.
Result<std::vector<float>> drift_of(const Lying& one, const std::vector<Lying>& others,
                                    double search = 0, const Task& task = {});

}  // namespace lostline::joining
