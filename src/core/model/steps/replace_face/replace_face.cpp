#include "model/steps/replace_face/replace_face.h"

#include <TopExp.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <algorithm>
#include <map>
#include <set>

#include "model/faces.h"
#include "model/offsets.h"
#include "model/parting.h"
#include "model/steps/kind_of.h"

namespace lostline::model {
namespace {

/// How far outwards a solid's faces must move so that surface bodies lie inside everywhere, mm; 0
/// where they do. Straight out of a flat face; of others by the size of the surfaces.
double room_for(const Model& solid, const std::vector<std::size_t>& faces, const Model& whole,
                const std::vector<std::size_t>& surfaces) {
  double room = 0;
  for (const std::size_t body : surfaces) {
    const Box3 box = whole.only(body).box();
    for (const std::size_t face : faces) {
      const auto shape = surface_of_face(solid, face);
      if (!shape || !fit::is_flat(shape->kind)) {
        room = std::max(room, 0.5 * box.diagonal().norm());
        continue;
      }
      for (int corner = 0; corner < 8; ++corner)
        room = std::max(room, shape->distance(box.corner(static_cast<Box3::CornerType>(corner))));
    }
  }
  return room;
}

bool holds_any(const Named& piece, const std::set<std::string>& names) {
  TopTools_IndexedMapOfShape faces;
  TopExp::MapShapes(piece.shape, TopAbs_FACE, faces);
  return std::any_of(piece.names.begin(), piece.names.end(), [&](const auto& named) {
    return names.contains(named.second.front()) && faces.Contains(named.first);
  });
}

}  // namespace

constinit const FeatureKind ReplaceFace::kind = kind_of<ReplaceFace>(
    "replace_face", "Replace face", "put a surface in the place of a face", "replace", '0');

void ReplaceFace::describe(Description& d) {
  d.faces("faces", faces);
  d.bodies({"with"}, with);
  d.flag("keep_surfaces", keep);
}

Result<Model> ReplaceFace::build(const Site& site) const {
  const Model& before = site.before;
  const auto meant = body_meant(site.step.feature, before);
  if (!meant) return meant.error();
  const auto picked = find_faces(faces, before, "replace");
  if (!picked) return picked.error();
  const std::size_t body = meant->value_or(0);
  if (before.body(body).kind != BodyKind::Solid)
    return Error{ErrorCode::InvalidInput, "Faces of a solid are replaced. Pick a face of one."};
  const std::string prefix = prefix_of(site.step);
  Knife knife;
  const auto surfaces = add_surface_bodies(knife, before, with, prefix);
  if (!surfaces) return surfaces.error();
  const Model solid = before.only(body);
  std::vector<std::size_t> own;
  std::set<std::string> names;
  for (const std::size_t face : *picked) {
    names.insert(before.face_name(face));
    own.push_back(*solid.find_face(before.face_name(face)));
  }
  Named grown = copied(named_body(solid, 0));
  const double room = room_for(solid, own, before, *surfaces);
  if (room > 0) {
    // Past the surface by some of the part's size: its trace on the walls is cut clean.
    const double out = room + 0.05 * solid.box().diagonal().norm();
    std::map<std::size_t, double> distances;
    for (const std::size_t face : own) distances[face] = out;
    auto moved = move_faces(solid, distances);
    if (!moved)
      return Error{ErrorCode::Failed,
                   "The walls around this face cannot grow to the surface. Use Split with the "
                   "surface instead, or extend the solid first."};
    grown = *std::move(moved);
  }
  const auto pieces = pieces_of(grown, BodyKind::Solid, knife);
  if (!pieces) return pieces.error();
  if (pieces->size() < 2)
    return Error{ErrorCode::Failed,
                 "The surface does not cut the walls around this face all the way: it must reach "
                 "past them. Extend it, or pick another."};
  std::vector<BodyShape> kept;
  FaceNames kept_names;
  for (const Named& piece : *pieces) {
    if (holds_any(piece, names)) continue;
    Body same = before.body(body);
    if (!kept.empty()) {
      same.key = prefix;
      same.merged.clear();
      same.name.clear();
    }
    kept.push_back({std::move(same), piece.shape});
    kept_names.insert(kept_names.end(), piece.names.begin(), piece.names.end());
  }
  if (kept.empty())
    return Error{ErrorCode::Failed, "Nothing of the solid is left behind the surface."};
  Model result = replaced(before, body, make_model(std::move(kept), kept_names, prefix), prefix);
  if (keep) return result;
  for (const std::size_t surface : *surfaces) {
    if (const auto now = result.find_body(before.body(surface).key))
      result = replaced(result, *now, {}, prefix);
  }
  return result;
}

}  // namespace lostline::model
