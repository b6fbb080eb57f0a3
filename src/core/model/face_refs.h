#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "base/result.h"
#include "model/model.h"

// What a persistent name of a face means in a model that has changed since it was picked.

namespace lostline::model {

/// A name means the whole face that bore it when it was picked: every piece of it where an
/// operation has parted it since. A piece that was picked for itself means that piece, and its
/// pieces. Nothing else is taken in its place.
struct FacesMeant {
  enum class Answer {
    One,
    Several,    ///< pieces of one face, all of which are meant
    Gone,       ///< nothing bears the name
    Ambiguous,  ///< several faces answer, and the name does not tell which: the candidates
  };
  Answer answer = Answer::Gone;
  std::vector<std::size_t> faces;  ///< ascending; of Gone none
};
FacesMeant faces_meant(const Model& model, std::string_view name);

/// The faces that a name means, for those who take as many as there are.
/// @errors NotFound  it is gone;  InvalidInput  it is ambiguous: the message says what happened.
Result<std::vector<std::size_t>> find_faces(const Model& model, const std::string& name);

/// Names that were given before names told more; they mean something only where nothing else does.
/// Kept beside the present ones as "~" with the former name.
std::string former_name(std::string_view name);

}  // namespace lostline::model
