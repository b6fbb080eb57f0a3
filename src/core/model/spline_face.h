#pragma once

#include "base/result.h"
#include "model/model.h"
#include "patch/spline_surface.h"

namespace lostline::model {

/// A model of one surface body: a free-form face over the whole of its domain.
/// @errors Failed  the kernel takes it for no face: it folds or crosses itself.
Result<Model> face_model(const patch::SplineSurface& surface, const std::string& name);

/// A model of one solid whose faces are free-form and meet along their sides.
/// @errors Failed  they do not close, or one folds.
Result<Model> free_body_model(const patch::SplineSurfaces& surfaces, const std::string& name);

}  // namespace lostline::model
