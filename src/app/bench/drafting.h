#pragma once

#include <QPainter>
#include <map>
#include <set>
#include <vector>

#include "bench/camera.h"
#include "sketch/sketch.h"

namespace lostline::app {

/// A sketch's constraints and dimensions as they stand on a drawing: small marks beside what they
/// hold, dimension lines with their texts; pencil while a value is read, ink once it is decided.
struct Drafting {
  Placement base;
  double level = 0;
  sketch::Sketch sketch;
  bool turned = false;  ///< half of a turned part: distances from the axis are diameters
  /// Texts that were put elsewhere, by constraint, mm in the plane.
  std::map<sketch::Id, Vec2> text_places;
  std::set<sketch::Id> clashing;  ///< constraints
  std::set<sketch::Id> picked;    ///< entities and points
  sketch::Id chosen = 0;          ///< constraint whose mark is red and whose entities are named

  /// What was drawn where, in pixels.
  struct Placed {
    sketch::Id constraint = 0;
    QRectF box;
    bool dimension = false;
  };
  std::vector<Placed> paint(QPainter& painter, const Camera& camera) const;
};

/// "⌀ 13.50", "R 12", "40.00", "30.0°": as read, or as decided.
QString dimension_text(const sketch::Sketch& sketch, const sketch::Constraint& dimension,
                       bool turned);

}  // namespace lostline::app
