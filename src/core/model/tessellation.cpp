#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepMesh_IncrementalMesh.hxx>
#include <BRep_Tool.hxx>
#include <GCPnts_TangentialDeflection.hxx>
#include <Poly_Triangulation.hxx>
#include <Standard_Failure.hxx>
#include <TopExp.hxx>
#include <TopTools_IndexedDataMapOfShapeListOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>

#include "model/model_impl.h"

namespace lostline::model {
namespace {

/// Not the seam of a closed surface, nor an edge between faces that meet smoothly.
bool is_drawn(const TopoDS_Edge& edge, const TopTools_ListOfShape& faces) {
  if (faces.IsEmpty()) return true;  // of a curve body
  const TopoDS_Face& first = TopoDS::Face(faces.First());
  if (BRep_Tool::IsClosed(edge, first)) return false;
  return faces.Extent() == 1 ||
         BRep_Tool::Continuity(edge, first, TopoDS::Face(faces.Last())) < GeomAbs_G1;
}

}  // namespace

Result<Tessellation> tessellate(const Model& model, const TessellationOptions& options) {
  Tessellation result;
  if (model.empty()) return result;
  try {
    // Triangles are stored in the shape itself; a copy keeps the shared one unchanged for other
    // threads. Its faces and edges come in the same order.
    const Model copy = private_copy(model);
    const Model::Impl& impl = copy.impl();
    const BRepMesh_IncrementalMesh mesher(impl.shape, options.deflection, false, options.angle,
                                          true);
    for (int f = 1; f <= impl.faces.Extent(); ++f) {
      const TopoDS_Face& face = TopoDS::Face(impl.faces(f));
      TopLoc_Location location;
      const Handle(Poly_Triangulation)& triangulation = BRep_Tool::Triangulation(face, location);
      if (triangulation.IsNull()) {
        return Error{ErrorCode::Failed, "Face " + model.face_name(static_cast<std::size_t>(f - 1)) +
                                            " cannot be triangulated."};
      }
      const gp_Trsf& trsf = location.Transformation();
      const bool reversed = face.Orientation() == TopAbs_REVERSED;
      const auto offset = static_cast<std::uint32_t>(result.mesh.vertices.size());
      const BRepAdaptor_Surface surface(face);
      for (int i = 1; i <= triangulation->NbNodes(); ++i) {
        result.mesh.vertices.push_back(vec(triangulation->Node(i).Transformed(trsf)));
        const gp_Pnt2d uv = triangulation->HasUVNodes() ? triangulation->UVNode(i) : gp_Pnt2d();
        result.parameters.emplace_back(uv.X(), uv.Y());
        gp_Pnt p;
        gp_Vec du;
        gp_Vec dv;
        surface.D1(uv.X(), uv.Y(), p, du, dv);
        gp_Vec n = du.Crossed(dv);
        Vec3 normal = Vec3::Zero();
        if (n.Magnitude() > 1e-12) {
          normal = Vec3(n.X(), n.Y(), n.Z()).normalized();
          if (reversed) normal = -normal;
        }
        result.normals.push_back(normal);
      }
      for (int i = 1; i <= triangulation->NbTriangles(); ++i) {
        int a = 0;
        int b = 0;
        int c = 0;
        triangulation->Triangle(i).Get(a, b, c);
        if (reversed) std::swap(b, c);
        result.mesh.triangles.push_back({offset + static_cast<std::uint32_t>(a - 1),
                                         offset + static_cast<std::uint32_t>(b - 1),
                                         offset + static_cast<std::uint32_t>(c - 1)});
        result.triangle_face.push_back(static_cast<std::uint32_t>(f - 1));
      }
    }
    TopTools_IndexedDataMapOfShapeListOfShape ancestors;
    TopExp::MapShapesAndAncestors(impl.shape, TopAbs_EDGE, TopAbs_FACE, ancestors);
    std::vector<TopTools_IndexedMapOfShape> body_edges(impl.bodies.size());
    for (std::size_t b = 0; b < impl.bodies.size(); ++b)
      TopExp::MapShapes(impl.bodies[b].shape, TopAbs_EDGE, body_edges[b]);
    const auto body_of_edge = [&](const TopoDS_Shape& edge) {
      std::size_t b = 0;
      while (b + 1 < body_edges.size() && !body_edges[b].Contains(edge)) ++b;
      return b;
    };
    for (int e = 1; e <= impl.edges.Extent(); ++e) {
      const TopoDS_Edge& edge = TopoDS::Edge(impl.edges(e));
      if (ancestors.Contains(edge) && !is_drawn(edge, ancestors.FindFromKey(edge))) continue;
      const BRepAdaptor_Curve curve(edge);
      const GCPnts_TangentialDeflection points(curve, 0.1, options.deflection, 2);
      Tessellation::EdgeLine line{static_cast<std::size_t>(e - 1), body_of_edge(edge), {}};
      for (int i = 1; i <= points.NbPoints(); ++i) line.points.push_back(vec(points.Value(i)));
      result.edges.push_back(std::move(line));
    }
    return result;
  } catch (const Standard_Failure& failure) {
    return Error{ErrorCode::Failed,
                 std::string("The model cannot be triangulated: ") + failure.GetMessageString()};
  }
}

Tessellation part_of(const Tessellation& all, const Model& model, const std::vector<bool>& bodies) {
  Tessellation part;
  part.mesh.vertices = all.mesh.vertices;
  part.normals = all.normals;
  part.parameters = all.parameters;
  for (std::size_t t = 0; t < all.mesh.triangles.size(); ++t) {
    if (!bodies[model.body_of_face(all.triangle_face[t])]) continue;
    part.mesh.triangles.push_back(all.mesh.triangles[t]);
    part.triangle_face.push_back(all.triangle_face[t]);
  }
  for (const Tessellation::EdgeLine& line : all.edges) {
    if (bodies[line.body]) part.edges.push_back(line);
  }
  return part;
}

}  // namespace lostline::model
