#pragma once

#include "project/edits.h"

// Arrangements that the survey found, and what accepting one does.

namespace lostline::project {

/// A pattern in words: "bolt circle: 8 holes on ⌀ 140.002 mm, first at 12.5°, within 0.011 mm".
/// Angles are about the pattern's axis from the part's x (y for an axis along x).
std::string describe(const Document& document, const survey::Pattern& pattern);

/// Start angle of a bolt circle in the part frame, 0 … 360 / count, degrees.
double start_angle(const Document& document, const survey::Pattern& pattern);

/// Accepts patterns: keeps their regions as fits and holds them to the relations that the pattern
/// means (parallel, coaxial, equal size, mirrored), all solved together; a bolt circle, row, grid
/// or draft gives Ledger rows, a bolt circle and a symmetry their constructed feature too. Pairs
/// are held to one plane of symmetry only; a second one becomes a feature.
/// @errors as set_relations;  NotFound  a pattern that is not there.
Result<Document> accept_patterns(const Document& document, const std::vector<std::size_t>& patterns,
                                 const Task& task = {});

}  // namespace lostline::project
