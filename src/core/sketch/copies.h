#pragma once

#include <vector>

#include "sketch/sketch.h"

namespace lostline::sketch {

/// A movement in the plane: about a place turned and scaled, then shifted.
struct PlaneMotion {
  Vec2 about = Vec2::Zero();  ///< mm
  double turn = 0;            ///< rad, counter-clockwise
  double scale = 1;           ///< above 0
  Vec2 shift = Vec2::Zero();  ///< mm

  [[nodiscard]] Vec2 operator()(const Vec2& p) const;
  /// Whether upright and level stay what they are.
  [[nodiscard]] bool keeps_axes() const;
};

/// Moves entities and own points with what they share with others. Constraints that the movement
/// breaks for them (level, upright, fixed) go; values inked within them are scaled with them.
/// @errors InvalidInput  nothing to move, a scale of nothing, or the constraints with the rest do
/// not let it go there.
Result<Sketch> move(const Sketch& sketch, const std::vector<Id>& items, const PlaneMotion& motion);

/// Adds `times` copies of entities and own points, the k-th moved k times. Constraints between the
/// copied ones are copied too, and with a scale of 1 lengths and radii are held equal to the
/// original's where it had none that were inked.
/// @errors InvalidInput  nothing to copy, fewer than one or more than 500 copies, or a scale of
/// nothing.
Result<Sketch> copy(const Sketch& sketch, const std::vector<Id>& items, const PlaneMotion& motion,
                    int times);

/// The picked entities and own points by themselves, with the constraints between them: what a
/// clipboard holds.
Sketch part_of(const Sketch& sketch, const std::vector<Id>& items);
/// Adds all of `part` under new ids. @param added  receives its entities, if given.
Sketch paste(const Sketch& sketch, const Sketch& part, std::vector<Id>* added = nullptr);

/// Cuts an entity in two at the place of it that is nearest to `at`; both share the new point.
/// @errors NotFound; InvalidInput  it is closed, or the place is one of its ends.
Result<Sketch> break_at(const Sketch& sketch, Id entity, const Vec2& at);
/// Makes one of two lines in a row or two arcs of one circle, across a gap between them if there is
/// one; the outer ends stay.
/// @param reach  mm: how far the second may lie off the first.
/// @errors NotFound; InvalidInput  they are not alike, or do not lie on one curve.
Result<Sketch> join(const Sketch& sketch, Id first, Id second, double reach);

}  // namespace lostline::sketch
