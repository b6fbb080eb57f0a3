#pragma once

#include <TopoDS_Edge.hxx>
#include <vector>

#include "base/result.h"
#include "sketch/sketch.h"

namespace lostline::model {

/// The curves of a sketch as edges of the kernel, each by itself, in space; with their entities.
/// @errors Degenerate  a curve without length.
Result<std::vector<std::pair<TopoDS_Edge, sketch::Id>>> sketch_edges(const sketch::Sketch& sketch,
                                                                     const Placement& plane);

}  // namespace lostline::model
