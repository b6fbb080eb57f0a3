#pragma once

#include <vector>

#include "sketch/sketch.h"

namespace lostline::sketch {

/// Adds a constraint to what was picked, in the sense in which it was picked: of one thing each by
/// itself, of two the first with each of the others; a circle's centre stands for it where a point
/// is wanted, an entity's points where they are to be fixed; a symmetry without a line is about the
/// upright axis. Distances along an axis and lengths of arcs come in pencil, as with_dimension.
/// @errors InvalidInput  too few picks, or the constraint does not go with them.
Result<Sketch> with_constraint(const Sketch& sketch, ConstraintType type,
                               const std::vector<Id>& picks);

/// Adds the dimension of what was picked, in pencil: the radius of a round, the length of a line,
/// the distance of two things. One that follows from what holds or is read already is a reference.
/// @errors InvalidInput  none, or more than two picks.
Result<Sketch> with_dimension(const Sketch& sketch, const std::vector<Id>& picks);

/// Adds the angle of two lines, in pencil.
/// @errors InvalidInput  not two lines.
Result<Sketch> with_angle(const Sketch& sketch, const std::vector<Id>& picks);

}  // namespace lostline::sketch
