#pragma once

#include "sketch/curve_kind.h"

namespace lostline::sketch {

const CurveKind& line_kind();
const CurveKind& arc_kind();
const CurveKind& circle_kind();

}  // namespace lostline::sketch
