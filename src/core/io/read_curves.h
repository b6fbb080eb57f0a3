#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "base/result.h"
#include "sketch/plane_curve.h"

namespace lostline::io {

/// Curves of a file, in one plane.
struct PlaneCurves {
  Placement plane;  ///< where they lie in space; xy of a drawing
  std::vector<sketch::Form> curves;
  std::vector<Vec2> points;
  /// What the file has beside them and was left out, in words: "4 texts".
  std::vector<std::string> left_out;
};

/// Lines, arcs, circles, ellipses, splines, polylines and points of a DXF drawing, those of
/// inserted blocks too, in mm by the drawing's unit (none stated: mm). What does not lie in the
/// plane of the drawing is projected on it.
/// @errors Io  no such file, or not DXF;  InvalidInput  no curves in it.
Result<PlaneCurves> read_dxf(const std::filesystem::path& path);

/// The curves of an IGES or STEP file that lie in one plane: of the edges of a model as well.
/// @errors Io; InvalidInput  no curves, or they do not lie in one plane.
Result<PlaneCurves> read_curves_iges(const std::filesystem::path& path);
Result<PlaneCurves> read_curves_step(const std::filesystem::path& path);

}  // namespace lostline::io
