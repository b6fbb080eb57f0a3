#include "model/profile.h"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Vertex.hxx>
#include <TopoDS_Wire.hxx>
#include <algorithm>
#include <cmath>
#include <gp_Circ.hxx>
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
