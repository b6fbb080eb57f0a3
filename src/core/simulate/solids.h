#pragma once

#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepFilletAPI_MakeFillet.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <BRep_Tool.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Shape.hxx>
#include <TopoDS_Vertex.hxx>
#include <string>
#include <vector>

#include "model/model_impl.h"

// What the hidden models of the stand-in scanner are put together from.

namespace lostline::simulate {

/// Fillets the edges for whose two end points `wanted` holds.
template <class Wanted>
TopoDS_Shape fillet_where(const TopoDS_Shape& shape, double radius, Wanted wanted) {
  BRepFilletAPI_MakeFillet fillet(shape);
  TopTools_IndexedMapOfShape edges;
  TopExp::MapShapes(shape, TopAbs_EDGE, edges);
  for (int i = 1; i <= edges.Extent(); ++i) {
    const TopoDS_Edge& edge = TopoDS::Edge(edges(i));
    const gp_Pnt a = BRep_Tool::Pnt(TopExp::FirstVertex(edge));
    const gp_Pnt b = BRep_Tool::Pnt(TopExp::LastVertex(edge));
    if (wanted(a, b)) fillet.Add(radius, edge);
  }
  return fillet.Shape();
}

/// Upright, on a point.
inline TopoDS_Shape cylinder(double x, double y, double z, double diameter, double height) {
  return BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(x, y, z), gp::DZ()), diameter / 2, height).Shape();
}

inline TopoDS_Face polygon_face(const std::vector<gp_Pnt>& corners) {
  BRepBuilderAPI_MakePolygon outline;
  for (const gp_Pnt& p : corners) outline.Add(p);
  outline.Close();
  return BRepBuilderAPI_MakeFace(outline.Wire()).Face();
}

/// A half section turned about z: x is the radius, y the height.
inline TopoDS_Shape turned(const std::vector<Vec2>& section) {
  std::vector<gp_Pnt> corners;
  corners.reserve(section.size());
  for (const Vec2& p : section) corners.emplace_back(p.x(), 0, p.y());
  return BRepPrimAPI_MakeRevol(polygon_face(corners), gp::OZ()).Shape();
}

/// A section in the plane of x and z, moved along y.
inline TopoDS_Shape prism_along_y(const std::vector<Vec2>& section, double from, double to) {
  std::vector<gp_Pnt> corners;
  corners.reserve(section.size());
  for (const Vec2& p : section) corners.emplace_back(p.x(), from, p.y());
  return BRepPrimAPI_MakePrism(polygon_face(corners), gp_Vec(0, to - from, 0)).Shape();
}

inline model::Model solid_of(const TopoDS_Shape& shape, const std::string& name) {
  return model::make_solid(TopExp_Explorer(shape, TopAbs_SOLID).Current(), {}, name);
}

}  // namespace lostline::simulate
