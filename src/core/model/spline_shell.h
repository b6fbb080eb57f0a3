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

/// A free-form face inside a closed border that lies on it.
/// @param border  stretch by stretch, parameters of the surface; each begins where the one before
/// ends.
/// @errors Failed  it folds, or the border crosses itself.
Result<Named> trimmed_shell(const patch::SplineSurface& surface,
                            const std::vector<std::vector<Vec2>>& border, const std::string& name);

}  // namespace lostline::model
