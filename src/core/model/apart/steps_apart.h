#pragma once

#include "model/plane_view.h"
#include "model/side_by_side.h"
#include "patch/spline_surface.h"

// What the kernel's processes do for the Route and beside it. The same within this process have
// the ending _here.

namespace lostline::model {

Result<Model> apply_apart(const Step& step, const Setting& setting, const Model& before);
Result<Model> apply_here(const Step& step, const Setting& setting, const Model& before);

/// @param end  behind the last step that may be made together with the first.
SideBySide side_by_side_apart(const Setting& setting, std::size_t first, std::size_t end,
                              std::size_t most, const Model& before);

Result<PlaneView> cut_apart(const Model& model, const Placement& plane,
                            std::optional<std::size_t> body);

Result<Model> free_body_apart(const patch::SplineSurfaces& surfaces, const std::string& name);
Result<Model> free_body_here(const patch::SplineSurfaces& surfaces, const std::string& name);

}  // namespace lostline::model
