#pragma once

#include <BRepAdaptor_Curve.hxx>
#include <optional>

#include "base/geometry.h"
#include "sketch/plane_curve.h"

namespace lostline::model {

/// A kernel's edge seen square to a plane, in the plane's coordinates: lines, circles and ellipses
/// exactly (an ellipse that a plane sees is an ellipse, and edge on a line), everything else as a
/// spline. Empty for one that is seen end on, and for one that cannot be read.
std::optional<sketch::Form> plane_form(const BRepAdaptor_Curve& curve, const Placement& plane);

}  // namespace lostline::model
