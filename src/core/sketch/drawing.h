#pragma once

#include <vector>

#include "section/resolve.h"
#include "sketch/plane_curve.h"
#include "sketch/sketch.h"

namespace lostline::sketch {

/// A place that is drawn to: a point of the sketch, or where one is to be made.
struct Spot {
  Id point = 0;  ///< 0: a new one
  Vec2 at = Vec2::Zero();
};
/// The point of a spot, made where there is none.
Id point_at(Sketch& sketch, const Spot& spot);

// Shapes drawn by a few places, held by the constraints that make them what they are. Each gives
// its entities, in order round.
// @errors InvalidInput  the places do not make one (two fall together, or three lie in a line).

/// A rectangle along the axes of the sketch from corner to corner.
Result<std::vector<Id>> draw_rectangle(Sketch& sketch, const Spot& corner, const Spot& opposite);
/// A rectangle in any direction: one side, then how far it reaches.
Result<std::vector<Id>> draw_rectangle(Sketch& sketch, const Spot& a, const Spot& b,
                                       const Vec2& reach);
/// A slot by the centres of its ends and a place on its edge.
Result<std::vector<Id>> draw_slot(Sketch& sketch, const Spot& a, const Spot& b, const Vec2& edge);
/// A regular polygon by its centre and one corner, on a circle of construction.
Result<std::vector<Id>> draw_polygon(Sketch& sketch, const Spot& centre, const Spot& corner,
                                     int sides);
/// An ellipse by its centre, the end of its major axis and a place on its edge.
Result<std::vector<Id>> draw_ellipse(Sketch& sketch, const Spot& centre, const Vec2& major,
                                     const Vec2& edge);
/// An arc about a centre from `a` to the direction of `b`, the shorter way round.
Result<std::vector<Id>> draw_arc_about(Sketch& sketch, const Spot& centre, const Spot& a,
                                       const Vec2& b);
/// A circle or, with `whole` false, an arc from the first to the last of three places.
Result<std::vector<Id>> draw_round_through(Sketch& sketch, const Spot& a, const Spot& on,
                                           const Spot& b, bool whole);
/// A spline through places in order; closed when `closed`.
Result<std::vector<Id>> draw_spline(Sketch& sketch, const std::vector<Spot>& through, bool closed);

/// The interpolating spline of degree 3: knots by averaged parameters, chord lengths.
/// @errors InvalidInput  fewer than two places (three when closed), or two in a row fall together.
/// Source: L. Piegl and W. Tiller, The NURBS Book (1997), 9.2.1.
Result<section::PlaneSpline> spline_through(std::vector<Vec2> places, bool closed);

/// Draws a resolved curve between two points, which a whole one does not use.
Id draw_curve(Sketch& sketch, const section::Curve& curve, Id start, Id end);
/// Draws resolved curves one after the other, with shared ends where they are joined and tangent
/// where they were resolved so; from and to points that are there already, where given.
std::vector<Id> draw_chain(Sketch& sketch, const std::vector<section::Curve>& curves, Id first = 0,
                           Id last = 0);

/// A sketch of curves from elsewhere, with own points.
/// @param same  mm: ends this near are one point.
Sketch sketch_of(const std::vector<Form>& curves, const std::vector<Vec2>& points, double same);

/// Adds curves and places from elsewhere as construction that stays fixed where it is. What lies
/// there already as construction is left out.
/// @param same   mm: ends this near are one point, curves this near one curve.
/// @param added  receives the new entities and own points, if given.
Sketch bring_in(const Sketch& sketch, const std::vector<Form>& curves,
                const std::vector<Vec2>& points, double same, std::vector<Id>* added = nullptr);

}  // namespace lostline::sketch
