#include "model/profile.h"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <Geom_BSplineCurve.hxx>
#include <TColStd_Array1OfInteger.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <TColgp_Array1OfPnt.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Vertex.hxx>
#include <TopoDS_Wire.hxx>
#include <algorithm>
#include <cmath>
#include <gp_Circ.hxx>
#include <gp_Elips.hxx>
#include <gp_Pln.hxx>

#include "model/model_impl.h"
#include "sketch/curve_kind.h"

namespace lostline::model {
namespace {

Vec2 point_on(const sketch::Sketch& s, const sketch::Loop& loop) {
  return sketch::placed(s, *s.find_entity(loop.uses.front().entity))->start();
}

/// Makes a kernel edge from a form, between the vertices of the entity's ends where it has any.
struct EdgeOf {
  const Placement& plane;
  const Vec2& begin;  ///< of circles
  TopoDS_Vertex a, b;

  TopoDS_Edge operator()(const sketch::StraightForm&) const { return made({a, b}); }
  TopoDS_Edge operator()(const sketch::RoundForm& form) const {
    const gp_Circ circle(gp_Ax2(pnt(plane.to_space(form.centre)), dir(plane.normal),
                                dir(begin.x() * plane.x + begin.y() * plane.y)),
                         std::max(form.radius, 1e-9));
    return form.whole() ? made({circle}) : made({circle, a, b});
  }
  TopoDS_Edge operator()(const sketch::EllipticForm& form) const {
    const gp_Ax2 axes(pnt(plane.to_space(form.centre)), dir(plane.normal),
                      dir(form.axis.x() * plane.x + form.axis.y() * plane.y));
    // The kernel wants the larger radius first.
    if (form.minor > form.major) {
      const Vec2 other(-form.axis.y(), form.axis.x());
      const gp_Ax2 turned(axes.Location(), axes.Direction(),
                          dir(other.x() * plane.x + other.y() * plane.y));
      const gp_Elips ellipse(turned, form.minor, form.major);
      return form.whole() ? made({ellipse}) : made({ellipse, a, b});
    }
    const gp_Elips ellipse(axes, form.major, form.minor);
    return form.whole() ? made({ellipse}) : made({ellipse, a, b});
  }
  TopoDS_Edge operator()(const sketch::SplineForm& form) const {
    const section::PlaneSpline& s = form.spline;
    const section::PlaneSpline open = s.closed ? s.between(s.low(), s.high()) : s;
    TColgp_Array1OfPnt poles(1, static_cast<int>(open.poles.size()));
    for (std::size_t k = 0; k < open.poles.size(); ++k)
      poles.SetValue(static_cast<int>(k) + 1, pnt(plane.to_space(open.poles[k])));
    std::vector<double> values;
    std::vector<int> times;
    for (const double knot : open.knots) {
      if (values.empty() || knot > values.back()) {
        values.push_back(knot);
        times.push_back(1);
      } else {
        ++times.back();
      }
    }
    TColStd_Array1OfReal knots(1, static_cast<int>(values.size()));
    TColStd_Array1OfInteger multiplicities(1, static_cast<int>(values.size()));
    for (std::size_t k = 0; k < values.size(); ++k) {
      knots.SetValue(static_cast<int>(k) + 1, values[k]);
      multiplicities.SetValue(static_cast<int>(k) + 1, times[k]);
    }
    const Handle(Geom_BSplineCurve) curve =
        new Geom_BSplineCurve(poles, knots, multiplicities, section::PlaneSpline::kDegree);
    return s.closed ? made({curve}) : made({curve, a, b});
  }
  static TopoDS_Edge made(BRepBuilderAPI_MakeEdge make) {
    return make.IsDone() ? make.Edge() : TopoDS_Edge();
  }
};

Result<TopoDS_Wire> make_wire(const Outline& outline, const Placement& plane, const Vec2& begin,
                              const sketch::Loop& loop, Profile& profile) {
  const sketch::Sketch& s = outline.sketch;
  BRepBuilderAPI_MakeWire wire;
  std::map<sketch::Id, TopoDS_Vertex> vertices;
  const auto vertex = [&](sketch::Id id) {
    auto it = vertices.find(id);
    if (it == vertices.end())
      it = vertices.emplace(id, BRepBuilderAPI_MakeVertex(pnt(plane.to_space(s.position(id)))))
               .first;
    return it->second;
  };
  for (const sketch::Loop::Use& use : loop.uses) {
    const sketch::Entity& e = *s.find_entity(use.entity);
    const bool ends = sketch::kind_of(e).has_ends();
    TopoDS_Edge edge = std::visit(EdgeOf{plane, begin, ends ? vertex(e.a) : TopoDS_Vertex(),
                                         ends ? vertex(e.b) : TopoDS_Vertex()},
                                  sketch::placed(s, e)->form());
    if (edge.IsNull())
      return Error{ErrorCode::Degenerate,
                   sketch::name_of(s, e.id) +
                       " has no length or does not run through its ends. Fit the sketch again."};
    if (use.reversed) edge.Reverse();
    wire.Add(edge);
    if (!wire.IsDone())
      return Error{ErrorCode::Degenerate,
                   "The profile does not close at " + sketch::name_of(s, e.id) + "."};
    const auto origin = outline.origin.find(e.id);
    profile.edges.emplace_back(wire.Edge(), origin != outline.origin.end() ? origin->second : e.id);
  }
  return wire.Wire();
}

}  // namespace

Result<std::vector<std::pair<TopoDS_Shape, sketch::Id>>> sketch_edges(const sketch::Sketch& sketch,
                                                                      const Placement& plane) {
  std::vector<std::pair<TopoDS_Shape, sketch::Id>> edges;
  const Vec2 begin = Vec2::UnitX();
  for (const sketch::Entity& e : sketch.entities) {
    if (e.construction) continue;
    TopoDS_Vertex a;
    TopoDS_Vertex b;
    if (sketch::kind_of(e).has_ends()) {
      a = BRepBuilderAPI_MakeVertex(pnt(plane.to_space(sketch.position(e.a))));
      b = BRepBuilderAPI_MakeVertex(pnt(plane.to_space(sketch.position(e.b))));
    }
    const TopoDS_Edge edge =
        std::visit(EdgeOf{plane, begin, a, b}, sketch::placed(sketch, e)->form());
    if (edge.IsNull())
      return Error{ErrorCode::Degenerate, sketch::name_of(sketch, e.id) + " has no length."};
    edges.emplace_back(edge, e.id);
  }
  return edges;
}

Result<Profile> make_profile(const PlacedSketch& placed, const Choice& choice, double level,
                             const Vec2& begin) {
  const auto outline = make_outline(placed.sketch, choice);
  if (!outline) return outline.error();
  const sketch::Sketch& s = outline->sketch;
  const std::vector<sketch::Loop>& loops = outline->loops;
  const Placement plane = placed.base.shifted(level);
  Profile profile;
  if (choice.surface) {
    for (const sketch::Loop& loop : loops) {
      Result<TopoDS_Wire> wire = make_wire(*outline, plane, begin, loop, profile);
      if (!wire) return wire.error();
      profile.shapes.push_back(*wire);
    }
    return profile;
  }
  // Loops come largest first: one inside an even number of others bounds material, its direct inner
  // ones are holes.
  std::vector<sketch::Polygon> polygons;
  polygons.reserve(loops.size());
  for (const sketch::Loop& loop : loops) polygons.push_back(sketch::polygon_of(s, loop));
  std::vector<int> depth(loops.size(), 0);
  for (std::size_t i = 0; i < loops.size(); ++i) {
    for (std::size_t j = 0; j < i; ++j)
      depth[i] += sketch::contains(polygons[j], point_on(s, loops[i])) ? 1 : 0;
  }
  const gp_Pln gp_plane(gp_Ax3(pnt(plane.origin), dir(plane.normal), dir(plane.x)));
  for (std::size_t i = 0; i < loops.size(); ++i) {
    if (depth[i] % 2 != 0) continue;
    Result<TopoDS_Wire> outer = make_wire(*outline, plane, begin, loops[i], profile);
    if (!outer) return outer.error();
    BRepBuilderAPI_MakeFace face(gp_plane, *outer, true);
    for (std::size_t j = i + 1; j < loops.size(); ++j) {
      if (depth[j] != depth[i] + 1 || !sketch::contains(polygons[i], point_on(s, loops[j])))
        continue;
      Result<TopoDS_Wire> inner = make_wire(*outline, plane, begin, loops[j], profile);
      if (!inner) return inner.error();
      face.Add(TopoDS::Wire((*inner).Reversed()));
    }
    if (!face.IsDone()) return Error{ErrorCode::Degenerate, "The profile bounds no area."};
    profile.shapes.push_back(face.Face());
  }
  return profile;
}

}  // namespace lostline::model
