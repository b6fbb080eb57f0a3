#include "model/solid.h"

#include <fmt/format.h>

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
#include <ElSLib.hxx>
#include <GCPnts_TangentialDeflection.hxx>
#include <GProp_GProps.hxx>
#include <GeomLProp_SLProps.hxx>
#include <Poly_Triangulation.hxx>
#include <Standard_Failure.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedDataMapOfShapeListOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <set>
#include <tuple>

#include "base/hash.h"
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

/// What a name was before its piece was told apart.
std::string base_of(const std::string& name) { return name.substr(0, name.find_first_of("@#")); }

/// "@3fa29c": short, and the same for the same texts.
std::string mark_of(const std::vector<std::string>& texts) {
  Hash hash;
  for (const std::string& text : texts) hash.add(std::string_view(text));
  return fmt::format("@{:06x}", hash.value() & 0xffffffU);
}

/// Where a face's middle lies on its own surface, in steps of a millionth of the part: turns with
/// the part, and orders without a tolerance.
std::array<long long, 2> own_place(const TopoDS_Face& face, double step) {
  const BRepAdaptor_Surface surface(face);
  const gp_Pnt origin = surface.Value(surface.FirstUParameter(), surface.FirstVParameter());
  gp_Pnt corner = origin;
  GProp_GProps properties;
  BRepGProp::SurfaceProperties(face, properties);
  const gp_Pnt middle = properties.CentreOfMass();
  if (surface.GetType() == GeomAbs_Plane) {
    Standard_Real u = 0;
    Standard_Real v = 0;
    ElSLib::Parameters(surface.Plane(), middle, u, v);
    return {std::llround(u / step), std::llround(v / step)};
  }
  // On turned surfaces the parameters of the bounds, which begin where the sketch began.
  corner = surface.Value(surface.LastUParameter(), surface.LastVParameter());
  return {std::llround(surface.FirstUParameter() / 1e-6),
          std::llround((surface.FirstVParameter() + corner.Distance(origin)) / step)};
}

/// Faces that an operation split share a name. Their pieces are told apart by what they border on,
/// which survives a turned frame and changed sizes, and only then by where they lie on their own
/// surface. The numbers of before, by place in space, stay as other names, for references from
/// then.
void tell_pieces_apart(Solid::Impl& impl) {
  std::map<std::string, std::vector<std::size_t>> by_name;
  for (std::size_t i = 0; i < impl.names.size(); ++i) by_name[impl.names[i].front()].push_back(i);
  TopTools_IndexedDataMapOfShapeListOfShape ancestors;
  double step = 0;
  const std::vector<std::vector<std::string>> original = impl.names;
  for (auto& [name, list] : by_name) {
    if (list.size() < 2) continue;
    if (ancestors.IsEmpty()) {
      TopExp::MapShapesAndAncestors(impl.shape, TopAbs_EDGE, TopAbs_FACE, ancestors);
      Bnd_Box bounds;
      BRepBndLib::Add(impl.shape, bounds);
      step = 1e-6 * std::sqrt(bounds.SquareExtent());
    }
    struct Piece {
      std::string mark;
      std::array<long long, 2> place;
      std::array<long long, 3> centre;
      std::size_t face;
    };
    std::vector<Piece> pieces;
    for (const std::size_t i : list) {
      const TopoDS_Face& face = TopoDS::Face(impl.faces(static_cast<int>(i) + 1));
      std::set<std::string> beside;
      for (TopExp_Explorer edge(face, TopAbs_EDGE); edge.More(); edge.Next()) {
        const int at = ancestors.FindIndex(edge.Current());
        if (at == 0) continue;
        for (const TopoDS_Shape& other : ancestors.FindFromIndex(at)) {
          const auto k = static_cast<std::size_t>(impl.faces.FindIndex(other) - 1);
          if (k != i) beside.insert(original[k].front());
        }
      }
      const Vec3 c = area_centre(face);
      pieces.push_back(
          {mark_of({beside.begin(), beside.end()}),
           own_place(face, step),
           {std::llround(c.x() / 1e-6), std::llround(c.y() / 1e-6), std::llround(c.z() / 1e-6)},
           i});
    }
    std::sort(pieces.begin(), pieces.end(),
              [](const Piece& a, const Piece& b) { return a.centre < b.centre; });
    for (std::size_t k = 1; k < pieces.size(); ++k) {
      for (std::string& own : impl.names[pieces[k].face]) own += "#" + std::to_string(k + 1);
    }
    std::sort(pieces.begin(), pieces.end(), [](const Piece& a, const Piece& b) {
      return std::tie(a.mark, a.place) < std::tie(b.mark, b.place);
    });
    for (std::size_t k = 0, same = 1; k < pieces.size(); ++k) {
      same = k > 0 && pieces[k].mark == pieces[k - 1].mark ? same + 1 : 1;
      auto& all = impl.names[pieces[k].face];
      all.insert(all.begin(),
                 name + pieces[k].mark + (same > 1 ? "." + std::to_string(same) : std::string()));
    }
  }
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
  for (auto& list : impl->names) {
    if (list.empty()) list.push_back(fallback + ":face" + std::to_string(++unnamed));
  }
  tell_pieces_apart(*impl);
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
  if (empty()) return std::nullopt;
  // Faces of the name itself; where it is gone, the pieces of what it was a piece of.
  const auto faces_of = [&](const std::string& name) {
    std::set<int> exact;
    std::set<int> pieces;
    for (std::size_t i = 0; i < impl_->names.size(); ++i) {
      for (const std::string& own : impl_->names[i]) {
        if (own == name) exact.insert(static_cast<int>(i) + 1);
        if (base_of(own) == base_of(name)) pieces.insert(static_cast<int>(i) + 1);
      }
    }
    // A whole face that was split since: any of its pieces may hold the edge.
    return exact.empty() || base_of(name) == name ? pieces : exact;
  };
  const std::set<int> a = faces_of(ref.face_a);
  const std::set<int> b = faces_of(ref.face_b);
  if (a.empty() || b.empty()) return std::nullopt;
  TopTools_IndexedDataMapOfShapeListOfShape map;
  TopExp::MapShapesAndAncestors(impl_->shape, TopAbs_EDGE, TopAbs_FACE, map);
  const TopoDS_Shape vertex =
      BRepBuilderAPI_MakeVertex(gp_Pnt(ref.near.x(), ref.near.y(), ref.near.z()));
  std::vector<std::pair<double, std::size_t>> candidates;
  for (int i = 1; i <= impl_->edges.Extent(); ++i) {
    const int at = map.FindIndex(impl_->edges(i));
    if (at == 0) continue;
    bool on_a = false;
    bool on_b = false;
    for (const TopoDS_Shape& face : map.FindFromIndex(at)) {
      const int index = impl_->faces.FindIndex(face);
      on_a = on_a || a.contains(index);
      on_b = on_b || b.contains(index);
    }
    if (!on_a || !on_b) continue;
    const BRepExtrema_DistShapeShape distance(vertex, impl_->edges(i));
    candidates.emplace_back(distance.IsDone() ? distance.Value() : 1e200,
                            static_cast<std::size_t>(i - 1));
  }
  if (candidates.empty()) return std::nullopt;
  std::sort(candidates.begin(), candidates.end());
  // Of several edges the one meant must be clearly nearer to where it was than the next.
  if (candidates.size() > 1 && candidates[0].first > 0.5 * candidates[1].first) return std::nullopt;
  return candidates.front().second;
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
