#pragma once

#include "survey/grower.h"

namespace lostline::survey {

/// Leaves out of a patch the points where the surface and one that it touches run so close that a
/// point may belong to either: beside the line where a round blends into a wall. Which of the two
/// got them was told by their noise and by where each surface lay then, so they pull both towards
/// each other. What is left out is told by the surfaces alone, not by the noise of a point. A patch
/// of which less than half would be left stays as it is.
/// @param label  of the patch's own surface.
void leave_out_shared_rows(Patch& patch, int label, const Grower& grower,
                           const scan::Topology& topology, const SurveyOptions& options);

}  // namespace lostline::survey
