#pragma once

#include <map>
#include <vector>

#include "sketch/sketch.h"

namespace lostline::sketch {

/// An area bounded by pieces of lines, arcs and circles, whatever else crosses or ends near them.
struct Area {
  std::vector<Loop::Use> uses;    ///< of pieces, the area on their left; holes included
  std::vector<Id> bounds;         ///< entities of the sketch that bound it, ascending
  std::vector<Polygon> outlines;  ///< the outer one, then holes
  Vec2 inside = Vec2::Zero();     ///< a point well inside
  double size = 0;                ///< mm2, without the holes

  [[nodiscard]] bool has(const Vec2& p) const;
};

/// The areas of a sketch: every curve is cut where others cross it, loose ends are dropped, and the
/// smallest closed circuits are followed round.
struct Areas {
  Sketch pieces;            ///< the cut curves, with shared ends
  std::map<Id, Id> origin;  ///< of each piece: the entity it was cut from
  std::vector<Area> areas;  ///< largest first
};
/// O(n^2) for n entities. Source of the walk: M. de Berg et al., Computational Geometry (2008),
/// 2.2, doubly-connected edge lists.
Areas find_areas(const Sketch& sketch);

/// The loops round some areas together: what lies between two of them is no boundary.
std::vector<Loop> boundary_of(const Areas& areas, const std::vector<std::size_t>& chosen);

}  // namespace lostline::sketch
