#pragma once

#include <TopoDS_Face.hxx>
#include <map>
#include <vector>

#include "base/result.h"
#include "model/outline.h"
#include "model/parts.h"

namespace lostline::model {

/// Faces of a sketch's closed areas at a level, and which sketch entity each of their edges comes
/// from.
struct Profile {
  std::vector<TopoDS_Face> faces;
  std::vector<std::pair<TopoDS_Shape, sketch::Id>> edges;
};
/// @errors as make_outline.
Result<Profile> make_profile(const PlacedSketch& placed, const Choice& choice, double level);

}  // namespace lostline::model
