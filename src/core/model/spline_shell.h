#pragma once

#include "model/model_impl.h"
#include "patch/spline_surface.h"

namespace lostline::model {

/// A free-form face as a shell of its own, under a name.
/// @errors Failed  the kernel takes it for no face: it folds or crosses itself.
Result<Named> spline_shell(const patch::SplineSurface& surface, const std::string& name);

/// Free-form faces whose sides meet as one solid; faces are called `name` with their number.
/// @errors Failed  they do not close, or one folds.
Result<Named> spline_solid(const patch::SplineSurfaces& surfaces, const std::string& name);

}  // namespace lostline::model
