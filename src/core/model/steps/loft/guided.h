#pragma once

#include <memory>

#include "model/steps/loft/sections.h"
#include "model/steps/loft/skin.h"

namespace lostline::model {

/// The rows that a loft passes through: its sections, and between them so many more that a smooth
/// surface follows the guides. A guide that misses a section by a little is drawn on to it, and
/// less so on the way to the next one.
/// @param guides  the surface touches each of them all along.
/// @errors InvalidInput  two sections lie on each other, or a guide misses a section by more than a
/// fiftieth of the loft's length: the message says by how much;  Degenerate  a guide without
/// length.
Result<std::vector<LoftRow>> rows_along(
    const std::shared_ptr<const std::vector<LoftSection>>& sections,
    const std::vector<TopoDS_Wire>& guides, const LoftEnd& start, const LoftEnd& end);

}  // namespace lostline::model
