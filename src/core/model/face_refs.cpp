#include "model/face_refs.h"

#include <algorithm>

#include "model/model_impl.h"

namespace lostline::model {
namespace {

/// Whether `own` is a name, or that of a piece of what bears it: "s1:end" and "s1:end@3fa29c".
bool is_of(std::string_view own, std::string_view name) {
  return own.starts_with(name) &&
         (own.size() == name.size() || own[name.size()] == '@' || own[name.size()] == '#');
}

std::vector<std::size_t> bearers(const Model& model, std::string_view name) {
  std::vector<std::size_t> faces;
  const auto& names = model.impl().names;
  for (std::size_t i = 0; i < names.size(); ++i) {
    if (std::any_of(names[i].begin(), names[i].end(),
                    [&](const std::string& own) { return is_of(own, name); }))
      faces.push_back(i);
  }
  return faces;
}

}  // namespace

std::string former_name(std::string_view name) { return "~" + std::string(name); }

FacesMeant faces_meant(const Model& model, std::string_view name) {
  using Answer = FacesMeant::Answer;
  if (model.empty() || name.empty()) return {};
  std::vector<std::size_t> faces = bearers(model, name);
  if (!faces.empty()) {
    const Answer answer = faces.size() == 1 ? Answer::One : Answer::Several;
    return {answer, std::move(faces)};
  }
  faces = bearers(model, former_name(name));
  if (faces.size() == 1) return {Answer::One, std::move(faces)};
  // A piece that is no longer there as it was: of the others none is it for certain.
  if (faces.empty()) {
    const std::size_t mark = name.find_last_of("@#");
    if (mark != std::string_view::npos) faces = bearers(model, name.substr(0, mark));
  }
  const Answer answer = faces.empty() ? Answer::Gone : Answer::Ambiguous;
  return {answer, std::move(faces)};
}

Result<std::vector<std::size_t>> find_faces(const Model& model, const std::string& name) {
  FacesMeant meant = faces_meant(model, name);
  switch (meant.answer) {
    case FacesMeant::Answer::One:
    case FacesMeant::Answer::Several:
      return std::move(meant.faces);
    case FacesMeant::Answer::Ambiguous:
      return Error{ErrorCode::InvalidInput,
                   "Face " + name + " is ambiguous: " +
                       (meant.faces.size() == 1
                            ? std::string("it was a piece of a face that is parted otherwise now")
                            : std::to_string(meant.faces.size()) + " faces may be meant") +
                       ". Pick the one that is meant."};
    case FacesMeant::Answer::Gone:
      break;
  }
  return Error{ErrorCode::NotFound, "Face " + name + " is gone. Pick another face."};
}

}  // namespace lostline::model
