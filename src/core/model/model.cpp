#include "model/model.h"

#include <fmt/format.h>

#include <BRepAdaptor_Surface.hxx>
#include <BRepBndLib.hxx>
#include <BRepBuilderAPI_Copy.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepCheck_ListOfStatus.hxx>
#include <BRepCheck_Shell.hxx>
#include <BRepCheck_Solid.hxx>
#include <BRepGProp.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Bnd_Box.hxx>
#include <ElSLib.hxx>
#include <GProp_GProps.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedDataMapOfShapeListOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>
#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <map>
#include <set>
#include <tuple>

#include "base/hash.h"
#include "model/apart/kernel_process.h"
#include "model/edge_refs.h"
#include "model/face_refs.h"
#include "model/model_impl.h"

namespace lostline::model {
namespace {

std::vector<int> faces_of_edge(const Model::Impl& impl, int edge) {
  TopTools_IndexedDataMapOfShapeListOfShape map;
  TopExp::MapShapesAndAncestors(impl.shape, TopAbs_EDGE, TopAbs_FACE, map);
  std::vector<int> result;
  const int at = map.FindIndex(impl.edges(edge));
  if (at == 0) return result;
  for (const TopoDS_Shape& face : map.FindFromIndex(at))
    result.push_back(impl.faces.FindIndex(face));
  return result;
}

/// Numbers the faces and edges of the bodies.
void index_parts(Model::Impl& impl) {
  if (impl.bodies.size() == 1) {
    impl.shape = impl.bodies.front().shape;
  } else {
    TopoDS_Compound all;
    const BRep_Builder builder;
    builder.MakeCompound(all);
    for (const BodyShape& b : impl.bodies) builder.Add(all, b.shape);
    impl.shape = all;
  }
  TopExp::MapShapes(impl.shape, TopAbs_FACE, impl.faces);
  TopTools_IndexedMapOfShape edges;
  TopExp::MapShapes(impl.shape, TopAbs_EDGE, edges);
  for (int i = 1; i <= edges.Extent(); ++i) {
    if (!BRep_Tool::Degenerated(TopoDS::Edge(edges(i)))) impl.edges.Add(edges(i));
  }
  impl.face_body.assign(static_cast<std::size_t>(impl.faces.Extent()), 0);
  for (std::size_t b = 0; b < impl.bodies.size(); ++b) {
    for (TopExp_Explorer face(impl.bodies[b].shape, TopAbs_FACE); face.More(); face.Next())
      impl.face_body[static_cast<std::size_t>(impl.faces.FindIndex(face.Current()) - 1)] =
          static_cast<std::uint32_t>(b);
  }
}

Vec3 area_centre(const TopoDS_Shape& face) {
  GProp_GProps properties;
  BRepGProp::SurfaceProperties(face, properties);
  return vec(properties.CentreOfMass());
}

/// "@3fa29c": short, and the same for the same texts.
std::string mark_of(const std::vector<std::string>& texts) {
  Hash hash;
  for (const std::string& text : texts) hash.add(std::string_view(text));
  return fmt::format("@{:06x}", hash.value() & 0xffffffU);
}

/// What marks the pieces beside a face: its former name where it has one, so that marks stay.
std::string marking_name(const std::vector<std::string>& names) {
  for (const std::string& name : names)
    if (name.starts_with('~')) return name.substr(1);
  return names.front();
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
void tell_pieces_apart(Model::Impl& impl) {
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
          if (k != i) beside.insert(marking_name(original[k]));
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

Model private_copy(const Model& model) {
  if (model.empty()) return model;
  const Model::Impl& original = model.impl();
  auto impl = std::make_shared<Model::Impl>();
  for (const BodyShape& b : original.bodies)
    impl->bodies.push_back({b.body, BRepBuilderAPI_Copy(b.shape, true, false).Shape()});
  index_parts(*impl);
  // A copy is explored in the order of its original.
  if (impl->faces.Extent() != original.faces.Extent() ||
      impl->edges.Extent() != original.edges.Extent())
    throw Standard_Failure("the model cannot be copied");
  impl->names = original.names;
  return Model(std::move(impl));
}

FaceNames names_of(const Model& model) {
  FaceNames names;
  for (std::size_t i = 0; i < model.face_count(); ++i)
    names.emplace_back(model.impl().faces(static_cast<int>(i) + 1), model.impl().names[i]);
  return names;
}

Model make_model(std::vector<BodyShape> bodies, const FaceNames& names,
                 const std::string& fallback) {
  if (bodies.empty()) return {};
  auto impl = std::make_shared<Model::Impl>();
  impl->bodies = std::move(bodies);
  std::map<std::string, int> uses;
  for (BodyShape& b : impl->bodies) {
    // A step may make several bodies: the first has its key, the others are counted.
    const int use = ++uses[b.body.key];
    if (use > 1) b.body.key += "." + std::to_string(use);
  }
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
  return Model(std::move(impl));
}

Model make_named(std::vector<BodyShape> bodies, std::vector<std::vector<std::string>> names,
                 std::uint64_t serial) {
  auto impl = std::make_shared<Model::Impl>();
  impl->bodies = std::move(bodies);
  index_parts(*impl);
  if (names.size() != static_cast<std::size_t>(impl->faces.Extent()))
    throw Standard_Failure("the faces of a model have not kept their number");
  impl->names = std::move(names);
  impl->serial.value = serial;
  return Model(std::move(impl));
}

Model::Impl::Serial::Serial() : value(next_serial()) {}

Model make_solid(const TopoDS_Shape& shape, const FaceNames& names, const std::string& fallback) {
  Body body;
  body.key = fallback;
  return make_model({{std::move(body), shape}}, names, fallback);
}

Result<Model> guarded(const std::string& what, const std::function<Result<Model>()>& work) {
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

namespace {

/// What the kernel is asked on any thread, the interface's too: where it throws, `otherwise`.
template <class Ask>
auto asked(const Ask& ask, const decltype(ask())& otherwise) {
  try {
    return ask();
  } catch (const Standard_Failure&) {
    return otherwise;
  }
}

constexpr double kNotKnown = std::numeric_limits<double>::quiet_NaN();

}  // namespace

double Model::volume() const {
  if (empty()) return 0;
  std::call_once(impl_->measured->once, [this] {
    for (const BodyShape& b : impl_->bodies) {
      if (b.body.kind != BodyKind::Solid) continue;
      impl_->measured->volume += asked(
          [&] {
            GProp_GProps properties;
            BRepGProp::VolumeProperties(b.shape, properties);
            return properties.Mass();
          },
          kNotKnown);
    }
  });
  return impl_->measured->volume;
}

double Model::area() const {
  if (empty()) return 0;
  return asked(
      [&] {
        GProp_GProps properties;
        BRepGProp::SurfaceProperties(impl_->shape, properties);
        return properties.Mass();
      },
      kNotKnown);
}

bool still_valid(const Model& made, const Model& before) {
  if (made.empty() || before.empty()) return made.valid();
  const auto sound = [](const BRepCheck_ListOfStatus& list) {
    return std::all_of(list.begin(), list.end(),
                       [](BRepCheck_Status status) { return status == BRepCheck_NoError; });
  };
  TopoDS_Compound fresh;
  const BRep_Builder builder;
  builder.MakeCompound(fresh);
  for (const BodyShape& b : made.impl().bodies) {
    if (b.body.kind == BodyKind::Curve) builder.Add(fresh, b.shape);
    for (TopExp_Explorer solid(b.shape, TopAbs_SOLID); solid.More(); solid.Next()) {
      const Handle(BRepCheck_Solid) whole = new BRepCheck_Solid(TopoDS::Solid(solid.Current()));
      if (!sound(whole->Status())) return false;
      for (TopExp_Explorer at(solid.Current(), TopAbs_SHELL); at.More(); at.Next()) {
        const Handle(BRepCheck_Shell) shell = new BRepCheck_Shell(TopoDS::Shell(at.Current()));
        if (!sound(shell->Status()) || shell->Closed() != BRepCheck_NoError ||
            shell->Orientation() != BRepCheck_NoError)
          return false;
      }
    }
    for (TopExp_Explorer at(b.shape, TopAbs_SHELL, TopAbs_SOLID); at.More(); at.Next()) {
      const Handle(BRepCheck_Shell) shell = new BRepCheck_Shell(TopoDS::Shell(at.Current()));
      if (!sound(shell->Status())) return false;
    }
  }
  for (int i = 1; i <= made.impl().faces.Extent(); ++i) {
    const TopoDS_Shape& face = made.impl().faces(i);
    if (!before.impl().faces.Contains(face)) builder.Add(fresh, face);
  }
  return BRepCheck_Analyzer(fresh, true, true).IsValid();
}

bool Model::valid() const {
  return !empty() &&
         asked([&] { return BRepCheck_Analyzer(impl_->shape, true, true).IsValid() != 0; }, false);
}

bool Body::is(const std::string& wanted) const {
  return key == wanted || std::find(merged.begin(), merged.end(), wanted) != merged.end();
}

const char* kind_name(BodyKind kind) {
  switch (kind) {
    case BodyKind::Solid:
      return "solid";
    case BodyKind::Surface:
      return "surface";
    case BodyKind::Curve:
      return "curve";
  }
  return "";
}

std::size_t Model::body_count() const { return empty() ? 0 : impl_->bodies.size(); }
const Body& Model::body(std::size_t body) const { return impl_->bodies[body].body; }
std::size_t Model::body_of_face(std::size_t face) const { return impl_->face_body[face]; }

std::optional<std::size_t> Model::find_body(const std::string& key) const {
  for (std::size_t i = 0; i < body_count(); ++i) {
    if (body(i).is(key)) return i;
  }
  return std::nullopt;
}

bool Model::has(BodyKind kind) const {
  for (std::size_t i = 0; i < body_count(); ++i) {
    if (body(i).kind == kind) return true;
  }
  return false;
}

Model Model::only(std::size_t body) const {
  if (body_count() == 1) return *this;
  auto impl = std::make_shared<Impl>();
  impl->bodies = {impl_->bodies[body]};
  index_parts(*impl);
  for (int i = 1; i <= impl->faces.Extent(); ++i)
    impl->names.push_back(
        impl_->names[static_cast<std::size_t>(impl_->faces.FindIndex(impl->faces(i)) - 1)]);
  return Model(std::move(impl));
}

Model Model::dressed(std::vector<Body> bodies) const {
  if (empty()) return *this;
  auto impl = std::make_shared<Impl>(*impl_);
  for (std::size_t i = 0; i < bodies.size(); ++i) impl->bodies[i].body = std::move(bodies[i]);
  return Model(std::move(impl));
}

Box3 Model::box() const {
  Box3 box;
  if (empty()) return box;
  const Bnd_Box bounds = asked(
      [&] {
        Bnd_Box found;
        BRepBndLib::AddOptimal(impl_->shape, found, false, false);
        return found;
      },
      Bnd_Box());
  if (bounds.IsVoid()) return box;
  box.extend(vec(bounds.CornerMin()));
  box.extend(vec(bounds.CornerMax()));
  return box;
}

std::size_t Model::face_count() const { return empty() ? 0 : impl_->names.size(); }
const std::string& Model::face_name(std::size_t face) const { return impl_->names[face].front(); }

std::optional<std::size_t> Model::find_face(const std::string& name) const {
  const FacesMeant meant = faces_meant(*this, name);
  return meant.answer == FacesMeant::Answer::One ? std::optional(meant.faces.front())
                                                 : std::nullopt;
}

EdgeRef Model::ref_of_edge(std::size_t edge, const Vec3& near) const {
  const std::vector<int> faces = faces_of_edge(*impl_, static_cast<int>(edge) + 1);
  EdgeRef ref;
  ref.near = near;
  if (!faces.empty()) ref.face_a = face_name(static_cast<std::size_t>(faces.front() - 1));
  if (!faces.empty()) ref.face_b = face_name(static_cast<std::size_t>(faces.back() - 1));
  if (ref.face_b < ref.face_a) std::swap(ref.face_a, ref.face_b);
  return ref;
}

std::optional<std::size_t> Model::find_edge(const EdgeRef& ref) const {
  const auto meant = edges_meant(*this, ref);
  return meant ? std::optional(meant->front().edge) : std::nullopt;
}

}  // namespace lostline::model
