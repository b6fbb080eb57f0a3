#pragma once

#include <optional>

#include "fit/surface.h"
#include "model/model.h"

namespace lostline::model {

/// The surface of a face where it is a plane, cylinder, cone, sphere or torus, with its outward
/// side; empty for a free-form one.
std::optional<fit::Surface> surface_of_face(const Model& solid, std::size_t face);

}  // namespace lostline::model
