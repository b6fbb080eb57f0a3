#pragma once

#include <TopoDS_Edge.hxx>
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
  /// mm, how far it goes on before its first section and past its last one, each measured along
  /// that section's normal, which points from the first to the last.
  double before = 0, past = 0;
  std::vector<Vec3> normals;  ///< of the first and the last section, unit; where it goes on
};

/// Sections that a loft is laid through.
struct LoftSections {
  std::vector<TopoDS_Wire> wires;
  /// Edges of the first wire, in the order in which those of the first section given are: what
  /// they pass over is named for them.
  std::vector<std::pair<TopoDS_Edge, TopoDS_Edge>> first;  ///< of the section given, of the wire
};

/// The sections with more between them, so many that a smooth surface through all runs as meant.
/// Where a guide misses a section by a little it is drawn on to it, and less so on the way to the
/// next one. Beyond its ends it goes straight on as it leaves them.
/// @param sections  two or more, all closed or all open.
/// @errors InvalidInput  sections of different numbers of curves, or a guide that misses a section
/// by more than a fiftieth of the loft's length: the message says by how much;  Degenerate  a
/// curve without length, or a loft that leaves a section along its plane and is to go on there.
Result<LoftSections> sections_between(const std::vector<TopoDS_Wire>& sections, const LoftWay& way);

}  // namespace lostline::model
