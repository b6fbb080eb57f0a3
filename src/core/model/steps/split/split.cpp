#include "model/steps/split/split.h"

#include <BRepAlgoAPI_Splitter.hxx>
#include <BRepBndLib.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepGProp.hxx>
#include <Bnd_Box.hxx>
#include <GProp_GProps.hxx>
#include <Geom_ConicalSurface.hxx>
#include <TopExp_Explorer.hxx>
#include <algorithm>
#include <cmath>
#include <gp_Cone.hxx>
#include <gp_Cylinder.hxx>
#include <gp_Pln.hxx>
#include <numbers>

#include "model/steps/kind_of.h"

namespace lostline::model {
namespace {

/// A face of a surface that reaches past a body everywhere.
TopoDS_Shape face_past(const fit::Surface& s, const Box3& box) {
  const double size = 2 * (box.diagonal().norm() + (box.center() - s.point).norm());
  const gp_Ax3 place(pnt(s.point), dir(s.axis));
  if (s.kind == fit::Kind::Plane)
    return BRepBuilderAPI_MakeFace(gp_Pln(place), -size, size, -size, size).Face();
  constexpr double kTurn = 2 * std::numbers::pi;
  if (s.kind == fit::Kind::Cylinder)
    return BRepBuilderAPI_MakeFace(gp_Cylinder(place, s.radius), 0, kTurn, -size, size).Face();
  // Along its slant, from the apex on the side where the radius grows.
  const double apex = -s.radius / std::sin(s.half_angle);
  const double low = s.half_angle > 0 ? apex : -size;
  const double high = s.half_angle > 0 ? size : apex;
  return BRepBuilderAPI_MakeFace(gp_Cone(place, s.half_angle, s.radius), 0, kTurn, low, high)
      .Face();
}

GProp_GProps volume_of(const TopoDS_Shape& shape) {
  GProp_GProps properties;
  BRepGProp::VolumeProperties(shape, properties);
  return properties;
}

/// Whether the middle of a piece lies on the far side of a surface.
bool beyond(const fit::Surface& surface, const TopoDS_Shape& shape) {
  const gp_Pnt c = volume_of(shape).CentreOfMass();
  return surface.distance({c.X(), c.Y(), c.Z()}) > 0;
}

/// Whether a piece lies on the far side of what parted it: of a surface by its middle, along
/// surface bodies the largest piece does.
bool is_far(const std::optional<fit::Surface>& surface, const std::vector<Named>& pieces,
            std::size_t piece) {
  return surface ? beyond(*surface, pieces[piece].shape) : piece == 0;
}

/// What a body is split by.
struct Knife {
  TopTools_ListOfShape faces;
  FaceNames names;
  std::optional<fit::Surface> surface;
};

/// Pieces of one body, each sharing nothing with the others.
Result<std::vector<Named>> pieces_of(const Named& body, const Knife& knife) {
  TopTools_ListOfShape arguments;
  arguments.Append(body.shape);
  BRepAlgoAPI_Splitter splitter;
  splitter.SetArguments(arguments);
  splitter.SetTools(knife.faces);
  splitter.SetNonDestructive(true);
  splitter.Build();
  if (!splitter.IsDone() || splitter.HasErrors())
    return Error{ErrorCode::Failed, "The body cannot be split there."};
  FaceNames names;
  carry(body.names, splitter, names);
  carry(knife.names, splitter, names);
  std::vector<Named> pieces;
  for (TopExp_Explorer it(splitter.Shape(), TopAbs_SOLID); it.More(); it.Next())
    pieces.push_back(copied({it.Current(), names}));
  // Far side first; among pieces of one side, and along free surfaces, the largest.
  std::stable_sort(pieces.begin(), pieces.end(), [&](const Named& a, const Named& b) {
    if (knife.surface) {
      const bool far_a = beyond(*knife.surface, a.shape);
      const bool far_b = beyond(*knife.surface, b.shape);
      if (far_a != far_b) return far_a;
    }
    return volume_of(a.shape).Mass() > volume_of(b.shape).Mass();
  });
  return pieces;
}

}  // namespace

constinit const FeatureKind Split::kind = kind_of<Split>(
    "split", "Split", "part bodies along a plane, a face or a surface", "split", 'x');

void Split::describe(Description& d) {
  d.bodies({"bodies"}, bodies);
  d.bodies({"surface_bodies", false}, along);
  d.reference({"surface", ReferenceInfo::Wants::Surface, along.empty()}, by);
  d.flag("keep_surfaces", keep);
  d.choice({"keeps", {"both sides", "far side", "near side"}}, keeps);
}

Result<Model> Split::build(const Site& site) const {
  const Model& before = site.before;
  const auto targets = find_bodies(bodies, before, "split");
  if (!targets) return targets.error();
  const std::string prefix = prefix_of(site.step);
  Knife knife;
  std::vector<std::size_t> surfaces;
  if (along.empty()) {
    const auto meant = resolve(by, site.whole);
    if (!meant) return meant.error();
    knife.surface = *meant;
    const TopoDS_Shape face = face_past(*meant, before.box());
    knife.faces.Append(face);
    knife.names.emplace_back(face, std::vector{prefix + ":cut"});
  } else {
    const auto found = find_bodies(along, before, "split along");
    if (!found) return found.error();
    surfaces = *found;
    for (const std::size_t body : surfaces) {
      if (before.body(body).kind != BodyKind::Surface)
        return Error{ErrorCode::InvalidInput,
                     std::string("A body is split along surface bodies; this is a ") +
                         kind_name(before.body(body).kind) + " body. Pick another."};
      const Named surface = copied(named_body(before, body));
      knife.faces.Append(surface.shape);
      for (const auto& [face, list] : surface.names)
        knife.names.emplace_back(face, std::vector{prefix + ":cut:" + list.front()});
    }
  }
  Model result = before;
  bool done = false;
  for (auto target = targets->rbegin(); target != targets->rend(); ++target) {
    if (before.body(*target).kind != BodyKind::Solid)
      return Error{ErrorCode::Unsupported, std::string("Solids are split; this is a ") +
                                               kind_name(before.body(*target).kind) +
                                               " body. Pick a solid."};
    const auto pieces = pieces_of(named_body(before, *target), knife);
    if (!pieces) return pieces.error();
    if (pieces->size() < 2) continue;
    done = true;
    std::vector<BodyShape> parted;
    FaceNames names;
    for (std::size_t k = 0; k < pieces->size(); ++k) {
      const Named& piece = (*pieces)[k];
      if (keeps != Keeps::Both && is_far(knife.surface, *pieces, k) != (keeps == Keeps::FarSide))
        continue;
      Body body = before.body(*target);
      if (!parted.empty()) {
        body.key = prefix;
        body.merged.clear();
        body.name.clear();
      }
      parted.push_back({std::move(body), piece.shape});
      names.insert(names.end(), piece.names.begin(), piece.names.end());
    }
    if (parted.empty())
      return Error{ErrorCode::Failed, std::string("No piece lies on the ") +
                                          (keeps == Keeps::FarSide ? "far" : "near") +
                                          " side. Keep the other side."};
    result = replaced(result, *target, make_model(std::move(parted), names, prefix), prefix);
  }
  if (!done)
    return Error{ErrorCode::Failed,
                 "Nothing is parted: the surface does not run through the body."};
  if (keep) return result;
  for (const std::size_t body : surfaces) {
    if (const auto now = result.find_body(before.body(body).key))
      result = replaced(result, *now, {}, prefix);
  }
  return result;
}

}  // namespace lostline::model
