#pragma once

#include <vector>

#include "base/result.h"
#include "model/model.h"

// What a reference to an edge means in a model that has changed since it was picked.

namespace lostline::model {

/// An edge of the model, and the face of it that the reference names first.
struct EdgeMeant {
  std::size_t edge = 0;
  std::size_t face = 0;
};

/// The edges that a reference means. An edge that was picked between whole faces is meant whole:
/// where one of these was parted since, all stretches of it on the same line or circle are. Of
/// several edges between the same faces the one that was picked has to be clearly nearer to where
/// it was picked than the others.
/// @errors NotFound  a face is gone, or they meet no more;  InvalidInput  it is ambiguous.
Result<std::vector<EdgeMeant>> edges_meant(const Model& model, const EdgeRef& ref);

}  // namespace lostline::model
