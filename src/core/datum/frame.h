#pragma once

#include <array>
#include <string>
#include <vector>

#include "base/result.h"
#include "fit/surface.h"

namespace lostline::datum {

/// One of the signed axes of the part frame.
enum class Axis { X, Y, Z, MinusX, MinusY, MinusZ };
Vec3 axis_vector(Axis axis);
const char* axis_name(Axis axis);  ///< "+x" …
/// Reads "+x", "x", "-z" …
Result<Axis> parse_axis(const std::string& text);

/// The fits of a 3-2-1 frame, in scan coordinates.
struct FrameInput {
  fit::Surface primary;  ///< its direction (normal or axis) becomes `primary_axis`; a plane also
                         ///< gives the zero along it
  Axis primary_axis = Axis::MinusZ;
  /// Two directions within the primary plane: a plane's normal, a cylinder's axis across, or the
  /// line between two axes square to the primary.
  std::vector<fit::Surface> secondary;
  Axis secondary_axis = Axis::X;
  /// What fixes the origin across the primary direction: an axis (its foot), or planes; empty takes
  /// it from the others as far as they go.
  std::vector<fit::Surface> origin;
  /// Least coordinates of the scan fix the shifts that are still open, as a part laid into a
  /// corner: points of the scan, or null.
  const std::vector<Vec3>* extremes = nullptr;
};

struct Frame {
  Transform to_part = Transform::Identity();  ///< scan coordinates to part coordinates, rigid
  std::array<std::string, 3>
      held_by;  ///< what fixes rotation, rotation about the primary, and origin, in words
};

/// A right-handed frame from fits by the 3-2-1 principle: the primary takes two rotations (and one
/// shift when a plane), the secondary the third rotation, the origin the remaining shifts.
/// @errors InvalidInput  both axes on one line, no secondary;  Degenerate  the secondary direction
/// is parallel to the primary, two axes
///         coincide, or the shifts are not all fixed: the message says which.
/// Source: ISO 5459:2011, datums and datum systems.
Result<Frame> frame_321(const FrameInput& input);

}  // namespace lostline::datum
