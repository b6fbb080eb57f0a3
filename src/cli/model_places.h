#pragma once

#include <cstddef>
#include <optional>

#include "model/model.h"

namespace lostline::cli {

// What a place "x,y,z" on the command line means of a model. What is further off than a hundredth
// of its size was not meant (common practice, no source).

std::optional<std::size_t> face_near(const model::Model& model, const Vec3& at);
std::optional<std::size_t> edge_near(const model::Model& model, const Vec3& at);

}  // namespace lostline::cli
