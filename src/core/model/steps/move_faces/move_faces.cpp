#include "model/steps/move_faces/move_faces.h"

#include <BRepAlgoAPI_Defeaturing.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepGProp.hxx>
#include <GProp_GProps.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <cmath>
#include <gp_Trsf.hxx>
#include <map>

#include "model/apart/kernel_process.h"
#include "model/faces.h"
#include "model/offsets.h"
#include "model/steps/kind_of.h"

namespace lostline::model {
namespace {

double volume_of(const TopoDS_Shape& shape) {
  GProp_GProps properties;
  BRepGProp::VolumeProperties(shape, properties);
  return properties.Mass();
}

/// The solid without the faces, its neighbours grown together; empty when they do not.
std::optional<Named> without(const Model& solid, const std::vector<std::size_t>& faces) {
  BRepAlgoAPI_Defeaturing remove;
  remove.SetShape(solid.impl().shape);
  for (const std::size_t face : faces)
    remove.AddFaceToRemove(solid.impl().faces(static_cast<int>(face) + 1));
  remove.SetRunParallel(!in_copy());
  remove.Build();
  if (!remove.IsDone() || remove.HasErrors()) return std::nullopt;
  TopExp_Explorer found(remove.Shape(), TopAbs_SOLID);
  if (!found.More()) return std::nullopt;
  Named plain{found.Current(), {}};
  carry(names_of(solid), remove, plain.names);
  for (const std::size_t face : faces) {
    // Faces that could not be healed stay: then nothing was removed.
    const TopoDS_Shape& own = solid.impl().faces(static_cast<int>(face) + 1);
    if (!remove.IsDeleted(own)) return std::nullopt;
  }
  return plain;
}

Named moved(const Named& original, const gp_Trsf& motion) {
  BRepBuilderAPI_Transform transform(original.shape, motion, true);
  Named copy{transform.Shape(), {}};
  TopTools_IndexedMapOfShape own;  // names may speak of faces that are no longer there
  TopExp::MapShapes(original.shape, TopAbs_FACE, own);
  for (const auto& [face, list] : original.names)
    if (own.Contains(face)) copy.names.emplace_back(transform.ModifiedShape(face), list);
  return copy;
}

/// What one solid has and the other has not; empty when that is nothing.
std::optional<Named> more(const Named& one, const Named& other) {
  auto rest = boolean_of(one, other, Operation::Cut);
  if (!rest || !(volume_of(rest->shape) > 1e-9 * std::abs(volume_of(one.shape))))
    return std::nullopt;
  return *std::move(rest);
}

}  // namespace

constinit const FeatureKind MoveFaces::kind = kind_of<MoveFaces>(
    "move_faces", "Move faces", "move a hole, boss or flat face as it is", "move-diagonal", '9');

void MoveFaces::describe(Description& d) {
  using Unit = NumberInfo::Unit;
  d.faces("faces", faces);
  d.number({"x", Unit::Length}, x);
  d.number({"y", Unit::Length}, y);
  d.number({"z", Unit::Length}, z);
  d.place("frame", frame);
}

Result<Model> MoveFaces::build(const Site& site) const {
  const Vec3 by = frame.linear() * Vec3(x.value, y.value, z.value);
  if (!by.allFinite() || by.isZero())
    return Error{ErrorCode::InvalidInput, "Say how far the faces move: x, y and z are all zero."};
  const auto picked = find_faces(faces, site.before, "move");
  if (!picked) return picked.error();
  const std::string prefix = prefix_of(site.step);
  const Named whole = named_body(site.before, 0);
  if (const auto plain = without(site.before, *picked)) {
    // A feature by itself: what it takes away and what it adds, moved and made again.
    const auto pocket = more(*plain, whole);
    const auto boss = more(whole, *plain);
    gp_Trsf motion;
    motion.SetTranslation(vec(by));
    Result<Named> made = *plain;
    if (pocket) made = boolean_of(*made, moved(*pocket, motion), Operation::Cut);
    if (made && boss) made = boolean_of(*made, moved(*boss, motion), Operation::Add);
    if (!made) return made.error();
    if (pocket || boss) return make_solid(made->shape, made->names, prefix);
  }
  std::map<std::size_t, double> distances;
  for (const std::size_t face : *picked) {
    const auto shape = surface_of_face(site.before, face);
    if (!shape || !fit::is_flat(shape->kind))
      return Error{ErrorCode::Failed,
                   "These faces are no hole, pocket or boss by themselves. Pick all faces of it, "
                   "or flat faces only."};
    distances[face] = by.dot(shape->axis);
  }
  const auto made = move_faces(site.before, distances);
  if (!made)
    return Error{ErrorCode::Failed, "The faces do not meet again so far away. Try a smaller move."};
  return make_solid(made->shape, made->names, prefix);
}

std::vector<NumberReading> MoveFaces::read(const Site& site, const ScanEvidence& scan) const {
  const auto picked = find_faces(faces, site.before, "move");
  if (!picked) return {};
  // Each axis by the first flat face square to it.
  const std::string source = "scan at the face";
  std::vector<NumberReading> readings;
  for (const auto& [field, axis] :
       {std::pair{"x", Vec3(frame.linear().col(0))}, std::pair{"y", Vec3(frame.linear().col(1))},
        std::pair{"z", Vec3(frame.linear().col(2))}}) {
    for (const std::size_t face : *picked) {
      constexpr double kSquare = 0.9998;  // cosine of a degree
      const auto shape = surface_of_face(site.before, face);
      if (!shape || !fit::is_flat(shape->kind) || std::abs(shape->axis.dot(axis)) < kSquare)
        continue;
      const auto behind = scan.behind_face(site.before, face);
      if (!behind) continue;
      readings.push_back(
          {field, behind->shift * (shape->axis.dot(axis) > 0 ? 1 : -1), behind->u_shift, source});
      break;
    }
  }
  return readings;
}

}  // namespace lostline::model
