#include "model/solid.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepBndLib.hxx>
#include <BRepBuilderAPI_Copy.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepGProp.hxx>
#include <BRepMesh_IncrementalMesh.hxx>
#include <BRep_Tool.hxx>
#include <Bnd_Box.hxx>
#include <GCPnts_TangentialDeflection.hxx>
#include <GProp_GProps.hxx>
#include <GeomLProp_SLProps.hxx>
#include <Poly_Triangulation.hxx>
#include <Standard_Failure.hxx>
#include <TopExp.hxx>
#include <TopTools_IndexedDataMapOfShapeListOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <algorithm>
#include <map>

#include "model/solid_impl.h"

namespace lostline::model {
namespace {

Vec3 vec(const gp_Pnt& p) { return {p.X(), p.Y(), p.Z()}; }

std::vector<int> faces_of_edge(const Solid::Impl& impl, int edge) {
  TopTools_IndexedDataMapOfShapeListOfShape map;
  TopExp::MapShapesAndAncestors(impl.shape, TopAbs_EDGE, TopAbs_FACE, map);
  std::vector<int> result;
  const int at = map.FindIndex(impl.edges(edge));
  if (at == 0) return result;
  for (const TopoDS_Shape& face : map.FindFromIndex(at))
    result.push_back(impl.faces.FindIndex(face));
  return result;
}

/// Numbers the faces and edges of the shape.
void index_parts(Solid::Impl& impl) {
  TopExp::MapShapes(impl.shape, TopAbs_FACE, impl.faces);
  TopTools_IndexedMapOfShape edges;
  TopExp::MapShapes(impl.shape, TopAbs_EDGE, edges);
  for (int i = 1; i <= edges.Extent(); ++i) {
    if (!BRep_Tool::Degenerated(TopoDS::Edge(edges(i)))) impl.edges.Add(edges(i));
  }
}

Vec3 area_centre(const TopoDS_Shape& face) {
  GProp_GProps properties;
  BRepGProp::SurfaceProperties(face, properties);
  return vec(properties.CentreOfMass());
}

}  // namespace

Solid private_copy(const Solid& solid) {
  if (solid.empty()) return solid;
  const Solid::Impl& original = solid.impl();
  auto impl = std::make_shared<Solid::Impl>();
  impl->shape = BRepBuilderAPI_Copy(original.shape, true, false).Shape();
  index_parts(*impl);
  // A copy is explored in the order of its original.
  if (impl->faces.Extent() != original.faces.Extent() ||
      impl->edges.Extent() != original.edges.Extent())
    throw Standard_Failure("the model cannot be copied");
  impl->names = original.names;
  return Solid(std::move(impl));
}

Solid make_solid(const TopoDS_Shape& shape, const FaceNames& names, const std::string& fallback) {
  auto impl = std::make_shared<Solid::Impl>();
  impl->shape = shape;
  index_parts(*impl);
  impl->names.resize(static_cast<std::size_t>(impl->faces.Extent()));
  for (const auto& [face, given] : names) {
    const int index = impl->faces.FindIndex(face);
    if (index == 0) continue;
    auto& list = impl->names[static_cast<std::size_t>(index - 1)];
    for (const std::string& name : given) {
      if (std::find(list.begin(), list.end(), name) == list.end()) list.push_back(name);
    }
  }
  int unnamed = 0;
  std::map<std::string, std::vector<std::size_t>> by_name;
  for (std::size_t i = 0; i < impl->names.size(); ++i) {
    if (impl->names[i].empty())
      impl->names[i].push_back(fallback + ":face" + std::to_string(++unnamed));
    by_name[impl->names[i].front()].push_back(i);
  }
  // A face split in pieces: the pieces share the name and are told apart by their place.
  for (auto& [name, list] : by_name) {
    if (list.size() < 2) continue;
    std::vector<std::pair<Vec3, std::size_t>> placed;
    for (const std::size_t i : list)
      placed.emplace_back(area_centre(impl->faces(static_cast<int>(i) + 1)), i);
    std::sort(placed.begin(), placed.end(), [](const auto& a, const auto& b) {
      for (int k = 0; k < 3; ++k) {
        if (std::abs(a.first[k] - b.first[k]) > 1e-6) return a.first[k] < b.first[k];
      }
      return a.second < b.second;
    });
    for (std::size_t k = 1; k < placed.size(); ++k) {
      impl->names[placed[k].second].insert(impl->names[placed[k].second].begin(),
                                           name + "#" + std::to_string(k + 1));
      auto& all = impl->names[placed[k].second];
      all.erase(std::remove(all.begin() + 1, all.end(), name), all.end());
    }
  }
  return Solid(std::move(impl));
}

Result<Solid> guarded(const std::string& what, const std::function<Result<Solid>()>& work) {
  try {
    return work();
  } catch (const Standard_Failure& failure) {
    const char* text = failure.GetMessageString();
    return Error{
        ErrorCode::Failed,
        what + " could not be computed" +
            (text != nullptr && *text != 0 ? std::string(" (") + text + ")" : std::string()) + "."};
  }
}

double Solid::volume() const {
  if (empty()) return 0;
  GProp_GProps properties;
  BRepGProp::VolumeProperties(impl_->shape, properties);
  return properties.Mass();
}

double Solid::area() const {
  if (empty()) return 0;
  GProp_GProps properties;
  BRepGProp::SurfaceProperties(impl_->shape, properties);
  return properties.Mass();
}

bool Solid::valid() const { return !empty() && BRepCheck_Analyzer(impl_->shape).IsValid(); }

Box3 Solid::box() const {
  Box3 box;
  if (empty()) return box;
  Bnd_Box bounds;
  BRepBndLib::AddOptimal(impl_->shape, bounds, false, false);
  if (bounds.IsVoid()) return box;
  box.extend(vec(bounds.CornerMin()));
  box.extend(vec(bounds.CornerMax()));
  return box;
}

std::size_t Solid::face_count() const { return empty() ? 0 : impl_->names.size(); }
const std::string& Solid::face_name(std::size_t face) const { return impl_->names[face].front(); }

std::optional<std::size_t> Solid::find_face(const std::string& name) const {
  if (empty()) return std::nullopt;
  for (std::size_t i = 0; i < impl_->names.size(); ++i) {
    const auto& list = impl_->names[i];
    if (std::find(list.begin(), list.end(), name) != list.end()) return i;
  }
  return std::nullopt;
}

EdgeRef Solid::ref_of_edge(std::size_t edge, const Vec3& near) const {
  const std::vector<int> faces = faces_of_edge(*impl_, static_cast<int>(edge) + 1);
  EdgeRef ref;
  ref.near = near;
  if (!faces.empty()) ref.face_a = face_name(static_cast<std::size_t>(faces.front() - 1));
  if (!faces.empty()) ref.face_b = face_name(static_cast<std::size_t>(faces.back() - 1));
  if (ref.face_b < ref.face_a) std::swap(ref.face_a, ref.face_b);
  return ref;
}

std::optional<std::size_t> Solid::find_edge(const EdgeRef& ref) const {
  const std::optional<std::size_t> a = find_face(ref.face_a);
  const std::optional<std::size_t> b = find_face(ref.face_b);
  if (!a || !b) return std::nullopt;
  TopTools_IndexedDataMapOfShapeListOfShape map;
  TopExp::MapShapesAndAncestors(impl_->shape, TopAbs_EDGE, TopAbs_FACE, map);
  const TopoDS_Shape vertex =
      BRepBuilderAPI_MakeVertex(gp_Pnt(ref.near.x(), ref.near.y(), ref.near.z()));
  std::optional<std::size_t> best;
  double nearest = 1e300;
  for (int i = 1; i <= impl_->edges.Extent(); ++i) {
    const int at = map.FindIndex(impl_->edges(i));
    if (at == 0) continue;
    bool on_a = false;
    bool on_b = false;
    for (const TopoDS_Shape& face : map.FindFromIndex(at)) {
      const auto index = static_cast<std::size_t>(impl_->faces.FindIndex(face) - 1);
      on_a = on_a || index == *a;
      on_b = on_b || index == *b;
    }
    if (!on_a || !on_b) continue;
    const BRepExtrema_DistShapeShape distance(vertex, impl_->edges(i));
    const double d = distance.IsDone() ? distance.Value() : 1e200;
    if (d < nearest) {
      nearest = d;
      best = static_cast<std::size_t>(i - 1);
    }
  }
  return best;
}

Result<Tessellation> tessellate(const Solid& solid, const TessellationOptions& options) {
  Tessellation result;
  if (solid.empty()) return result;
  try {
    // Triangles are stored in the shape itself; a copy keeps the shared one unchanged for other
    // threads. Its faces and edges come in the same order.
    const Solid copy = private_copy(solid);
    const Solid::Impl& impl = copy.impl();
    const BRepMesh_IncrementalMesh mesher(impl.shape, options.deflection, false, options.angle,
                                          true);
    for (int f = 1; f <= impl.faces.Extent(); ++f) {
      const TopoDS_Face& face = TopoDS::Face(impl.faces(f));
      TopLoc_Location location;
      const Handle(Poly_Triangulation)& triangulation = BRep_Tool::Triangulation(face, location);
      if (triangulation.IsNull()) {
        return Error{ErrorCode::Failed, "Face " + solid.face_name(static_cast<std::size_t>(f - 1)) +
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
    for (int e = 1; e <= impl.edges.Extent(); ++e) {
      const TopoDS_Edge& edge = TopoDS::Edge(impl.edges(e));
      const int at = ancestors.FindIndex(edge);
      if (at == 0) continue;
      const TopTools_ListOfShape& faces = ancestors.FindFromIndex(at);
      if (BRep_Tool::IsClosed(edge, TopoDS::Face(faces.First()))) continue;  // a seam
      if (faces.Extent() > 1 && BRep_Tool::Continuity(edge, TopoDS::Face(faces.First()),
                                                      TopoDS::Face(faces.Last())) >= GeomAbs_G1)
        continue;
      const BRepAdaptor_Curve curve(edge);
      const GCPnts_TangentialDeflection points(curve, 0.1, options.deflection, 2);
      Tessellation::EdgeLine line{static_cast<std::size_t>(e - 1), {}};
      for (int i = 1; i <= points.NbPoints(); ++i) line.points.push_back(vec(points.Value(i)));
      result.edges.push_back(std::move(line));
    }
    return result;
  } catch (const Standard_Failure& failure) {
    return Error{ErrorCode::Failed,
                 std::string("The model cannot be triangulated: ") + failure.GetMessageString()};
  }
}

}  // namespace lostline::model
