#pragma once

#include <TopoDS_Shape.hxx>
#include <map>
#include <vector>

#include "base/result.h"
#include "model/outline.h"
#include "model/parts.h"

namespace lostline::model {

/// Faces of a sketch's closed areas at a level, or wires of its curves for a surface, and which
/// sketch entity each of their edges comes from.
struct Profile {
  std::vector<TopoDS_Shape> shapes;
  std::vector<std::pair<TopoDS_Shape, sketch::Id>> edges;
};
/// @param begin  where circles begin, unit, in the sketch: the kernel takes a circle that is turned
/// about an axis for a torus or sphere only where it begins furthest from the axis.
/// @errors as make_outline.
Result<Profile> make_profile(const PlacedSketch& placed, const Choice& choice, double level,
                             const Vec2& begin = Vec2::UnitX());

/// The curves of a sketch as edges of the kernel, each by itself, in space; with their entities.
/// @errors Degenerate  a curve without length.
Result<std::vector<std::pair<TopoDS_Shape, sketch::Id>>> sketch_edges(const sketch::Sketch& sketch,
                                                                      const Placement& plane);

}  // namespace lostline::model
