#pragma once

#include <vector>

#include "model/model.h"
#include "patch/patch.h"

namespace lostline::model {

/// A stretch of a border: places from its beginning to its end, both included. The next stretch
/// begins where it ends.
using BorderStretch = std::vector<patch::HeldPlace>;

/// A closed chain of curves in space and edges of a model, in order.
/// @param curves  keys of curve bodies.
/// @param tangent  the places along edges carry the normal of the face that the edge bounds.
/// @errors NotFound  a curve or an edge is gone;  InvalidInput  none is named, or they do not
/// close: ends further apart than a thousandth of the border's length do not meet.
Result<std::vector<BorderStretch>> border_of(const Model& model,
                                             const std::vector<std::string>& curves,
                                             const std::vector<EdgeRef>& edges, bool tangent);

/// All places of a border once, in order.
std::vector<patch::HeldPlace> places_of(const std::vector<BorderStretch>& border);

}  // namespace lostline::model
