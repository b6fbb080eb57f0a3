#include "model/bodies.h"

#include <BRepBuilderAPI_Copy.hxx>
#include <TopExp.hxx>
#include <algorithm>
#include <set>

#include "model/edge_refs.h"
#include "model/face_refs.h"

namespace lostline::model {

Result<std::optional<std::size_t>> body_meant(const Feature& feature, const Model& model) {
  const Uses uses = uses_of(feature);
  std::set<std::size_t> meant;
  for (const std::string& name : uses.faces) {
    for (const std::size_t face : faces_meant(model, name).faces)
      meant.insert(model.body_of_face(face));
  }
  for (const EdgeRef& ref : uses.edges) {
    const auto edges = edges_meant(model, ref);
    if (!edges) continue;
    for (const EdgeMeant& edge : *edges) meant.insert(model.body_of_face(edge.face));
  }
  if (meant.size() > 1)
    return Error{ErrorCode::InvalidInput,
                 "What is picked lies on several bodies. Make a step for each of them."};
  return meant.empty() ? std::optional<std::size_t>() : std::optional(*meant.begin());
}

Model replaced(const Model& whole, std::size_t body, const Model& with, const std::string& prefix) {
  std::vector<BodyShape> bodies = whole.impl().bodies;
  const Body former = bodies[body].body;
  FaceNames names = names_of(whole);
  auto at = bodies.erase(bodies.begin() + static_cast<std::ptrdiff_t>(body));
  if (!with.empty()) {
    std::vector<BodyShape> now = with.impl().bodies;
    // It is the body it was, unless the step says otherwise.
    if (now.size() == 1 && now.front().body.key == prefix) {
      const BodyKind kind = now.front().body.kind;
      now.front().body = former;
      now.front().body.kind = kind;
    }
    bodies.insert(at, now.begin(), now.end());
    const FaceNames made = names_of(with);
    names.insert(names.end(), made.begin(), made.end());
  }
  return make_model(std::move(bodies), names, prefix);
}

Result<std::vector<std::size_t>> find_bodies(const std::vector<std::string>& keys,
                                             const Model& model, const char* what) {
  if (keys.empty())
    return Error{ErrorCode::InvalidInput, std::string("Pick at least one body to ") + what + "."};
  std::set<std::size_t> found;
  for (const std::string& key : keys) {
    const auto body = model.find_body(key);
    if (!body) return Error{ErrorCode::NotFound, "Body " + key + " is gone. Pick another body."};
    found.insert(*body);
  }
  return std::vector<std::size_t>(found.begin(), found.end());
}

Named copied(const Named& original) {
  BRepBuilderAPI_Copy copy(original.shape, true, false);
  TopTools_IndexedMapOfShape faces;
  TopExp::MapShapes(original.shape, TopAbs_FACE, faces);
  Named result{copy.Shape(), {}};
  for (const auto& [face, names] : original.names) {
    if (faces.Contains(face)) result.names.emplace_back(copy.ModifiedShape(face), names);
  }
  return result;
}

Named named_body(const Model& model, std::size_t body) {
  Named named{model.impl().bodies[body].shape, {}};
  for (std::size_t i = 0; i < model.face_count(); ++i) {
    if (model.body_of_face(i) == body)
      named.names.emplace_back(model.impl().faces(static_cast<int>(i) + 1), model.impl().names[i]);
  }
  return named;
}

}  // namespace lostline::model
