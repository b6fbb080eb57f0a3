#include "curves.h"

#include "section/resolve.h"
#include "sketch/curve_kind.h"
#include "sketch/solver.h"

namespace lostline::cli {
namespace {

Json vec2(const Vec2& p) { return Json::array({p.x(), p.y()}); }

struct EntityJson {
  Json json;
  Json operator()(const sketch::StraightForm& s) {
    json.update({{"a", vec2(s.a)}, {"b", vec2(s.b)}});
    return json;
  }
  Json operator()(const sketch::RoundForm& r) {
    json.update({{"centre", vec2(r.centre)}, {"radius", r.radius}});
    if (!r.whole()) json.update({{"start", r.start}, {"end", r.start + r.sweep}});
    return json;
  }
  Json operator()(const sketch::EllipticForm& e) {
    json["type"] = "ellipse";
    json.update({{"centre", vec2(e.centre)},
                 {"major_axis", vec2(e.axis)},
                 {"major_radius", e.major},
                 {"minor_radius", e.minor},
                 {"start", e.whole() ? 0 : e.start},
                 {"end", e.whole() ? e.sweep : e.start + e.sweep}});
    return json;
  }
  Json operator()(const sketch::SplineForm& form) {
    const section::PlaneSpline& given = form.spline;
    const section::PlaneSpline s = given.closed ? given.between(given.low(), given.high()) : given;
    Json poles = Json::array();
    for (const Vec2& pole : s.poles) poles.push_back(vec2(pole));
    json["type"] = "spline";
    json.update({{"degree", section::PlaneSpline::kDegree},
                 {"knots", s.knots},
                 {"poles", poles},
                 {"closed", given.closed}});
    return json;
  }
};

Json entities_of(const sketch::Sketch& sketch) {
  Json entities = Json::array();
  for (const sketch::Entity& e : sketch.entities) {
    EntityJson as_json{{{"type", sketch::kind_of(e).key()}}};
    entities.push_back(std::visit(as_json, sketch::placed(sketch, e)->form()));
  }
  return entities;
}

Json shapes_of(const Curves& curves) {
  Json shapes = Json::array();
  for (const sketch::Shape& shape : curves.shapes) {
    Json j{{"type", sketch::shape_name(shape.type)}};
    switch (shape.type) {
      case sketch::Shape::Type::Rectangle:
        j.update({{"centre", vec2(shape.centre)},
                  {"direction", vec2(shape.direction)},
                  {"length", shape.length},
                  {"width", shape.width},
                  {"corner_radius", shape.corner_radius}});
        break;
      case sketch::Shape::Type::Slot:
        j.update({{"a", vec2(shape.a)}, {"b", vec2(shape.b)}, {"radius", shape.radius}});
        break;
      case sketch::Shape::Type::Polygon:
        j.update({{"centre", vec2(shape.centre)},
                  {"direction", vec2(shape.direction)},
                  {"sides", shape.sides},
                  {"across_flats", shape.across_flats},
                  {"corner_radius", shape.corner_radius}});
        break;
    }
    Json entities = Json::array();
    for (const sketch::Id id : shape.entities) {
      for (std::size_t i = 0; i < curves.sketch.entities.size(); ++i) {
        if (curves.sketch.entities[i].id == id) entities.push_back(i);
      }
    }
    j["entities"] = entities;
    shapes.push_back(j);
  }
  return shapes;
}

}  // namespace

Curves resolved(const section::Section& section, double tolerance) {
  Curves curves;
  curves.sketch = sketch::sketch_from_section(section, tolerance, 0);
  const double noise = section::noise_of(section);
  const double step = section::median_step(section.polylines);
  sketch::ShapeOptions options;
  // A side is told far better than a point; what is left is the scanner's rounding.
  options.length = std::max({2 * noise, 0.05 * step, tolerance / 4});
  curves.shapes = sketch::find_shapes(curves.sketch, options);
  curves.reach = 20 * std::max({tolerance, noise, 0.05});
  return curves;
}

Json json_of(const section::Section& section, const Curves& curves, bool points) {
  Json polylines = Json::array();
  for (const section::Polyline& line : section.polylines) {
    if (line.support) continue;  // drawn by another run already
    Json list = Json::array();
    if (points)
      for (const Vec2& p : line.points) list.push_back(vec2(p));
    polylines.push_back({{"closed", line.closed},
                         {"few", line.few},
                         {"points", points ? list : Json(line.points.size())},
                         {"length", line.length()},
                         {"gaps", line.gaps.size()}});
  }
  const sketch::Drift drift = sketch::measure_drift(curves.sketch, section, curves.reach);
  Json result{{"polylines", polylines},
              {"entities", entities_of(curves.sketch)},
              {"shapes", shapes_of(curves)}};
  result["frame"] = {{"origin", to_json(section.plane.origin)},
                     {"x", to_json(section.plane.x)},
                     {"y", to_json(section.plane.y)}};
  const bool none = curves.sketch.entities.empty();
  if (section.spread) result["spread"] = *section.spread;
  result["rms"] = none ? Json() : Json(drift.rms);
  result["max_drift"] = none ? Json() : Json(std::abs(drift.greatest));
  return result;
}

}  // namespace lostline::cli
