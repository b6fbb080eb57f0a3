#pragma once

#include <TopoDS_Wire.hxx>
#include <optional>
#include <vector>

#include "base/geometry.h"
#include "base/result.h"

namespace lostline::model {

/// How a loft runs between its sections.
struct LoftWay {
  std::vector<TopoDS_Wire> guides;  ///< it touches each of them all along
  std::optional<Vec3> start, end;   ///< unit, which way it leaves its first and last section
};

/// The sections with more between them, so many that a smooth surface through all runs as meant.
/// Where a guide misses a section by a little it is drawn on to it, and less so on the way to the
/// next one.
/// @param sections  two or more, all closed or all open.
/// @errors InvalidInput  sections of different numbers of curves, or a guide that misses a section
/// by more than a fiftieth of the loft's length: the message says by how much;  Degenerate  a
/// curve without length.
Result<std::vector<TopoDS_Wire>> sections_between(const std::vector<TopoDS_Wire>& sections,
                                                  const LoftWay& way);

}  // namespace lostline::model
