#pragma once

#include "sketch/curve_kind.h"

namespace lostline::sketch {

const CurveKind& line_kind();
const CurveKind& arc_kind();
const CurveKind& circle_kind();
const CurveKind& ellipse_kind();
const CurveKind& ellipse_arc_kind();
const CurveKind& spline_kind();
const CurveKind& closed_spline_kind();

}  // namespace lostline::sketch
