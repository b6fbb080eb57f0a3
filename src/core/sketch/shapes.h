#pragma once

#include <vector>

#include "sketch/sketch.h"

namespace lostline::sketch {

/// A closed outline with a name of its own, by the few numbers that a drawing gives it.
struct Shape {
  enum class Type { Rectangle, Slot, Polygon } type = Type::Rectangle;
  std::vector<Id> entities;  ///< in order round
  Vec2 centre = Vec2::Zero();
  Vec2 direction = Vec2::UnitX();  ///< unit vector along a side: the longer one of a rectangle
  double length = 0, width = 0;    ///< mm, of a rectangle over all
  double corner_radius = 0;        ///< mm; 0 for sharp corners
  Vec2 a = Vec2::Zero(), b = Vec2::Zero();  ///< centres of a slot's ends
  double radius = 0;                        ///< mm, of a slot's ends
  int sides = 0;                            ///< of a regular polygon, 3 and more
  double across_flats = 0;                  ///< mm: twice the distance of its sides from its centre
};
const char* shape_name(Shape::Type type);  ///< "rectangle"

struct ShapeOptions {
  /// mm: how far a side or an end may lie from where the shape would have it; directions by what
  /// that is at the end of a side.
  double length = 0.05;
  double angle = 0.01;  ///< rad, in addition: of short sides little is known
};

/// Rectangles, slots and regular polygons among the closed loops of a sketch, in any orientation,
/// sharp or with one radius at all corners. Corners may be shared or coincident ends.
/// O(n) in the curves.
std::vector<Shape> find_shapes(const Sketch& sketch, const ShapeOptions& options = {});

/// Constraints that make a sketch keep its shapes, in an order in which each may be taken or left.
std::vector<Constraint> constraints_of(const Sketch& sketch, const Shape& shape);

}  // namespace lostline::sketch
