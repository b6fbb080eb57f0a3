#include <algorithm>
#include <cmath>

#include "sketch/copies.h"
#include "sketch/curve_kind.h"
#include "sketch/drawing.h"

namespace lostline::sketch {
namespace {

/// Draws forms with one point where their ends fall together.
class Drawing {
 public:
  Drawing(Sketch& sketch, double same) : sketch_(sketch), same_(same) {}

  Id operator()(const StraightForm& f) { return sketch_.add_line(end(f.a), end(f.b)); }
  Id operator()(const RoundForm& f) {
    const Id centre = sketch_.add_point(f.centre);
    if (f.whole()) return sketch_.add_circle(centre, f.radius);
    const auto curve = round_piece(f);
    const Id a = end(curve->start());
    return sketch_.add_arc(centre, a, end(curve->end()), f.radius);
  }
  Id operator()(const EllipticForm& f) {
    const Vec2 side(-f.axis.y(), f.axis.x());
    const Id centre = sketch_.add_point(f.centre);
    const Id major = sketch_.add_point(f.centre + f.major * f.axis);
    const Id minor = sketch_.add_point(f.centre + f.minor * side);
    if (f.whole()) return sketch_.add_ellipse(centre, major, minor);
    const Id a = end(f.at(f.start));
    return sketch_.add_ellipse(centre, major, minor, a, end(f.at(f.start + f.sweep)));
  }
  Id operator()(const SplineForm& f) {
    if (f.spline.closed) return sketch_.add_spline(f.spline);
    const Id a = end(f.spline.poles.front());
    return sketch_.add_spline(f.spline, a, end(f.spline.poles.back()));
  }

 private:
  Id end(const Vec2& at) {
    for (const auto& [id, known] : ends_) {
      if ((known - at).squaredNorm() <= same_ * same_) return id;
    }
    ends_.emplace_back(sketch_.add_point(at), at);
    return ends_.back().first;
  }

  Sketch& sketch_;
  double same_;
  std::vector<std::pair<Id, Vec2>> ends_;
};

}  // namespace

Sketch sketch_of(const std::vector<Form>& curves, const std::vector<Vec2>& points, double same) {
  Sketch sketch;
  Drawing draw(sketch, same);
  for (const Form& form : curves) std::visit(draw, form);
  for (const Vec2& p : points) sketch.add_own_point(p);
  return sketch;
}

Sketch bring_in(const Sketch& sketch, const std::vector<Form>& curves,
                const std::vector<Vec2>& points, double same, std::vector<Id>* added) {
  std::vector<Form> known;
  for (const Entity& e : sketch.entities) {
    if (e.construction) known.push_back(placed(sketch, e)->form());
  }
  std::vector<Form> new_curves;
  for (const Form& form : curves) {
    if (std::any_of(known.begin(), known.end(),
                    [&](const Form& k) { return fall_together(k, form, same); }))
      continue;
    known.push_back(form);
    new_curves.push_back(form);
  }
  std::vector<Vec2> known_points;
  for (const Point& p : sketch.points) {
    if (p.own) known_points.push_back(p.at);
  }
  std::vector<Vec2> new_points;
  for (const Vec2& p : points) {
    if (std::any_of(known_points.begin(), known_points.end(),
                    [&](const Vec2& known_at) { return (known_at - p).norm() <= same; }))
      continue;
    known_points.push_back(p);
    new_points.push_back(p);
  }
  Sketch part = sketch_of(new_curves, new_points, same);
  for (Entity& e : part.entities) e.construction = true;
  const std::vector<Point> ends = part.points;
  for (const Point& p : ends) part.add_constraint(ConstraintType::Fixed, p.id);
  const std::vector<Entity> drawn = part.entities;
  for (const Entity& e : drawn) {
    if (has_radius(&e) && !kind_of(e).has_ends()) part.add_constraint(ConstraintType::Fixed, e.id);
  }
  Sketch result = paste(sketch, part, added);
  if (added != nullptr) {
    for (const Point& p : result.points) {
      if (p.own && p.id >= sketch.next_id) added->push_back(p.id);
    }
  }
  return result;
}

}  // namespace lostline::sketch
