#include "model/steps/loft/loft_body.h"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <GeomAPI_Interpolate.hxx>
#include <Geom_BSplineCurve.hxx>
#include <TColgp_HArray1OfPnt.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Vertex.hxx>
#include <gp_Pln.hxx>

#include "model/sewn.h"

namespace lostline::model {
namespace {

/// The plane end of a loft, inside the ends of its sides; null where they are not flat.
TopoDS_Face end_face(const std::vector<Handle(Geom_BSplineSurface)>& sides, bool last) {
  BRepBuilderAPI_MakeWire wire;
  std::vector<Vec3> places;
  for (const auto& side : sides) {
    double u0 = 0;
    double u1 = 0;
    double v0 = 0;
    double v1 = 0;
    side->Bounds(u0, u1, v0, v1);
    const Handle(Geom_Curve) curve = side->VIso(last ? v1 : v0);
    wire.Add(BRepBuilderAPI_MakeEdge(curve).Edge());
    constexpr int kOfSide = 8;
    for (int k = 0; k < kOfSide; ++k)
      places.push_back(vec(curve->Value(u0 + (u1 - u0) * k / kOfSide)));
  }
  if (!wire.IsDone()) return {};
  Vec3 middle = Vec3::Zero();
  for (const Vec3& p : places) middle += p / static_cast<double>(places.size());
  Vec3 normal = Vec3::Zero();
  for (std::size_t k = 0; k < places.size(); ++k)
    normal += (places[k] - middle).cross(places[(k + 1) % places.size()] - middle);
  if (!(normal.norm() > 0)) return {};
  BRepBuilderAPI_MakeFace face(gp_Pln(pnt(middle), dir(normal)), wire.Wire(), true);
  return face.IsDone() ? face.Face() : TopoDS_Face();
}

/// A line where places lie on one, else a curve through them.
TopoDS_Edge edge_through(const std::vector<Vec3>& places, bool ring, const TopoDS_Vertex& from,
                         const TopoDS_Vertex& to) {
  const Vec3 way = places.back() - places.front();
  bool straight = way.norm() > 0;
  for (const Vec3& p : places)
    straight =
        straight && (p - places.front()).cross(way).norm() < 1e-9 * way.squaredNorm();  // a line
  if (straight) return BRepBuilderAPI_MakeEdge(from, to).Edge();
  const std::size_t count = places.size() - (ring ? 1 : 0);
  const Handle(TColgp_HArray1OfPnt) points = new TColgp_HArray1OfPnt(1, static_cast<int>(count));
  for (std::size_t i = 0; i < count; ++i) points->SetValue(static_cast<int>(i) + 1, pnt(places[i]));
  GeomAPI_Interpolate through(points, ring, 1e-9);
  through.Perform();
  if (!through.IsDone()) return {};
  const Handle(Geom_BSplineCurve) curve = through.Curve();
  return BRepBuilderAPI_MakeEdge(curve, from, to, curve->FirstParameter(), curve->LastParameter())
      .Edge();
}

}  // namespace

Result<Named> loft_body(const std::vector<Handle(Geom_BSplineSurface)>& sides,
                        const std::vector<std::vector<std::string>>& names, bool solid,
                        const std::string& prefix) {
  // The sides share their poles; what is between them is rounding.
  BRepBuilderAPI_Sewing sewing(1e-5);
  FaceNames faces;
  for (std::size_t c = 0; c < sides.size(); ++c)
    faces.emplace_back(BRepBuilderAPI_MakeFace(sides[c], 1e-7).Shape(), names[c]);
  for (const bool last : {false, true}) {
    if (!solid) break;
    const TopoDS_Face face = end_face(sides, last);
    if (face.IsNull())
      return Error{ErrorCode::Failed, "The loft has no plane end: its sections are not flat."};
    faces.emplace_back(face, std::vector{prefix + (last ? ":end" : ":start")});
  }
  for (const auto& [face, own] : faces) sewing.Add(face);
  sewing.Perform();
  TopoDS_Shape made = sewn_shell(sewing);
  if (solid) made = sewn_solid(sewing);
  if (made.IsNull())
    return Error{ErrorCode::Failed, "No surface goes through these sections in this order."};
  return Named{made, sewn_names(sewing, faces)};
}

Result<LoftWire> wire_beyond(const LoftSection& section, const LoftSection& other, double reach,
                             const Vec3& normal) {
  constexpr std::size_t kAlong = 65;  // places along a curve that is no line
  std::vector<std::vector<Vec3>> places(section.curves());
  for (std::size_t c = 0; c < places.size(); ++c) {
    for (std::size_t i = 0; i < kAlong; ++i) {
      const double share = static_cast<double>(i) / (kAlong - 1);
      const Vec3 here = section.at(c, share);
      if (!(reach > 0)) {
        places[c].push_back(here);
        continue;
      }
      const Vec3 way = here - other.at(c, share);
      const double rise = std::abs(way.dot(normal));
      constexpr double kFlat = 0.05;  // sine: flatter than 3 degrees it never gets there
      if (!(rise > kFlat * way.norm()))
        return Error{ErrorCode::Degenerate,
                     "The loft leaves its end section nearly along that section's plane and cannot "
                     "go on beyond it."};
      places[c].push_back(here + reach / rise * way);
    }
  }
  const bool ring = section.ring();
  std::vector<TopoDS_Vertex> corners;
  corners.reserve(places.size() + 1);
  for (const auto& curve : places)
    corners.push_back(BRepBuilderAPI_MakeVertex(pnt(curve.front())).Vertex());
  corners.push_back(section.closed()
                        ? corners.front()
                        : BRepBuilderAPI_MakeVertex(pnt(places.back().back())).Vertex());
  LoftWire made;
  BRepBuilderAPI_MakeWire wire;
  for (std::size_t c = 0; c < places.size(); ++c) {
    const TopoDS_Edge edge = edge_through(places[c], ring, corners[c], corners[c + 1]);
    if (!edge.IsNull()) wire.Add(edge);
    if (edge.IsNull() || !wire.IsDone())
      return Error{ErrorCode::Degenerate, "The loft's end beyond a section is not one chain."};
    made.edges.push_back(wire.Edge());
  }
  made.wire = wire.Wire();
  return made;
}

}  // namespace lostline::model
