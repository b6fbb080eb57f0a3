#include <array>

#include "section/resolve.h"
#include "sketch/drawing.h"
#include "sketch/solver.h"

namespace lostline::sketch {
namespace {

using section::CurveType;

/// Ends of a curve that bends one way, counter-clockwise.
std::pair<Id, Id> forward(const section::Curve& c, Id start, Id end) {
  return c.counter_clockwise ? std::pair(start, end) : std::pair(end, start);
}

Id add_ellipse(Sketch& s, const section::Curve& c, Id a, Id b) {
  const Vec2 side(-c.major_axis.y(), c.major_axis.x());
  const Id centre = s.add_point(c.centre);
  const Id major = s.add_point(c.centre + c.radius * c.major_axis);
  return s.add_ellipse(centre, major, s.add_point(c.centre + c.minor_radius * side), a, b);
}

/// How each kind of resolved curve is drawn between two points, 0 for a whole one.
struct Drawer {
  CurveType type;
  Id (*draw)(Sketch&, const section::Curve&, Id start, Id end);
};
constexpr std::array kDrawers{
    Drawer{CurveType::Line, [](Sketch& s, const section::Curve&, Id start,
                               Id end) { return s.add_line(start, end); }},
    Drawer{CurveType::Arc,
           [](Sketch& s, const section::Curve& c, Id start, Id end) {
             const auto [a, b] = forward(c, start, end);
             return s.add_arc(s.add_point(c.centre), a, b, c.radius);
           }},
    Drawer{CurveType::Circle, [](Sketch& s, const section::Curve& c, Id,
                                 Id) { return s.add_circle(s.add_point(c.centre), c.radius); }},
    Drawer{CurveType::Ellipse,
           [](Sketch& s, const section::Curve& c, Id start, Id end) {
             if (c.whole) return add_ellipse(s, c, 0, 0);
             const auto [a, b] = forward(c, start, end);
             return add_ellipse(s, c, a, b);
           }},
    Drawer{CurveType::Spline, [](Sketch& s, const section::Curve& c, Id start, Id end) {
             return c.whole ? s.add_spline(c.spline) : s.add_spline(c.spline, start, end);
           }}};

}  // namespace

Id draw_curve(Sketch& sketch, const section::Curve& curve, Id start, Id end) {
  for (const Drawer& drawer : kDrawers) {
    if (drawer.type == curve.type) return drawer.draw(sketch, curve, start, end);
  }
  return 0;
}

Sketch sketch_from_section(const section::Section& section, double tolerance, double spacing) {
  Sketch sketch;
  // Scraps between gaps tell no curve. Without the scan's spacing, from the points (section/trace).
  if (!(spacing > 0)) spacing = 2.2 * section::median_step(section.polylines);
  for (const section::Polyline& line : section.polylines) {
    if (line.support || line.few || line.length() < (line.closed ? 4 : 8) * spacing) continue;
    section::ResolveOptions options;
    options.tolerance = tolerance;
    options.close_rounds = true;
    if (const auto curves = section::resolve(line, options)) draw_chain(sketch, *curves);
  }
  return sketch;
}

std::vector<Id> draw_chain(Sketch& sketch, const std::vector<section::Curve>& curves, Id first,
                           Id last) {
  Id first_start = 0;
  Id previous_end = 0;
  std::vector<Id> drawn;  // of each curve, its entity
  for (std::size_t i = 0; i < curves.size(); ++i) {
    const section::Curve& c = curves[i];
    if (c.whole) {
      drawn.push_back(draw_curve(sketch, c, 0, 0));
      continue;
    }
    const Id start = i == 0 && first != 0 ? first
                     : previous_end != 0  ? previous_end
                                          : sketch.add_point(c.start);
    if (i == 0) first_start = start;
    const bool end_of_all = i + 1 == curves.size();
    const Id end = end_of_all && last != 0  ? last
                   : c.joined && end_of_all ? first_start
                                            : sketch.add_point(c.end);
    drawn.push_back(draw_curve(sketch, c, start, end));
    previous_end = c.joined ? end : 0;
  }
  // That two go over into each other smoothly is part of what was resolved.
  for (std::size_t i = 0; i < drawn.size(); ++i) {
    const section::Curve& c = curves[i];
    const section::Curve& next = curves[(i + 1) % drawn.size()];
    const bool straight = c.type == CurveType::Line && next.type == CurveType::Line;
    if (c.tangent && !straight && drawn.size() > 1)
      sketch.add_constraint(ConstraintType::Tangent, drawn[i], drawn[(i + 1) % drawn.size()]);
  }
  return drawn;
}

}  // namespace lostline::sketch
