#include "model/steps/split/split.h"

#include <algorithm>

#include "model/parting.h"
#include "model/steps/kind_of.h"

namespace lostline::model {
namespace {

/// Whether a piece lies on the far side of what parted it: of a surface by its middle, along
/// surface bodies the largest piece does.
bool is_far(const std::optional<fit::Surface>& surface, const std::vector<Named>& pieces,
            std::size_t piece) {
  return surface ? beyond(*surface, pieces[piece].shape) : piece == 0;
}

}  // namespace

constinit const FeatureKind Split::kind = kind_of<Split>(
    "split", "Split", "part or trim bodies along a plane, a face or a surface", "split", 'x');

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
    const auto found = add_surface_bodies(knife, before, along, prefix);
    if (!found) return found.error();
    surfaces = *found;
  }
  Model result = before;
  bool done = false;
  for (auto target = targets->rbegin(); target != targets->rend(); ++target) {
    const BodyKind kind = before.body(*target).kind;
    if (kind == BodyKind::Curve)
      return Error{ErrorCode::Unsupported,
                   "Solids and surfaces are split; this is a curve body. Pick another."};
    if (std::find(surfaces.begin(), surfaces.end(), *target) != surfaces.end())
      return Error{ErrorCode::InvalidInput, "A surface body cannot be split along itself."};
    const auto pieces = pieces_of(named_body(before, *target), kind, knife, site.setting.task);
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
