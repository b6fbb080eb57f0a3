#include "model/steps/flat_face/flat_face.h"

#include <cmath>

#include "model/profile.h"
#include "model/steps/kind_of.h"

namespace lostline::model {

constinit const FeatureKind FlatFace::kind = kind_of<FlatFace>(
    "flat_face", "Flat face", "fill the outlines of a sketch with a surface", "square", '2');

void FlatFace::describe(Description& d) {
  d.sketches({"sketch", 1, 1}, sketch);
  d.number({"level", NumberInfo::Unit::Length}, level);
}

Result<ToolBody> FlatFace::tool(const Site& site) const {
  if (sketch.size() != 1)
    return Error{ErrorCode::InvalidInput, "Choose the sketch whose outlines are filled."};
  if (!std::isfinite(level.value))
    return Error{ErrorCode::InvalidInput, "Give a level that is a number."};
  const PlacedSketch* placed = find_sketch(site.setting, sketch.front());
  if (placed == nullptr) return sketch_gone();
  const std::vector<sketch::Id> no_loops;
  const std::vector<Vec2> no_areas;
  const auto profile = make_profile(*placed, {no_loops, no_areas}, level.value);
  if (!profile) return profile.error();
  const std::string prefix = prefix_of(site.step);
  Gathered gathered;
  for (const TopoDS_Shape& face : profile->shapes)
    gathered.add(face, {{face, std::vector{prefix + ":face"}}});
  return ToolBody{gathered.take(), Operation::NewBody, {}, BodyKind::Surface};
}

}  // namespace lostline::model
