#include "model/steps/patch_face/patch_face.h"

#include <algorithm>

#include "base/text.h"
#include "model/border.h"
#include "model/spline_shell.h"
#include "model/steps/kind_of.h"

namespace lostline::model {

constinit const FeatureKind PatchFace::kind = kind_of<PatchFace>(
    "patch", "Patch", "a free-form face through an area of the scan", "waves", 'a');

std::string PatchFace::words() const { return "patch"; }

void PatchFace::describe(Description& d) {
  d.surface("face", face);
  d.bodies({"curves", false}, curves);
  d.edges("edges", edges);
  d.flag("tangent", tangent);
}

namespace {

/// The face inside its border, as that lies now.
Result<Named> bounded(const PatchFace& patch, const Model& whole, const std::string& name) {
  const auto border = border_of(whole, patch.curves, patch.edges, false);
  if (!border) return border.error();
  const patch::SplineSurface& face = *patch.face;
  // The first place is looked for all over the face, the others from the one before.
  const Vec3 first = border->front().front().at;
  Vec2 foot(0.5, 0.5);
  double least = 1e300;
  constexpr int kGrid = 24;
  for (int i = 0; i <= kGrid; ++i) {
    for (int j = 0; j <= kGrid; ++j) {
      const Vec2 at(static_cast<double>(i) / kGrid, static_cast<double>(j) / kGrid);
      const double d = (face.at(at.x(), at.y()) - first).squaredNorm();
      if (d >= least) continue;
      least = d;
      foot = at;
    }
  }
  std::vector<std::vector<Vec2>> on_face;
  double off = 0;
  Box3 box;
  for (const BorderStretch& stretch : *border) {
    std::vector<Vec2> feet;
    for (const patch::HeldPlace& place : stretch) {
      foot = face.foot(place.at, foot, 30);
      feet.push_back(foot);
      off = std::max(off, (face.at(foot.x(), foot.y()) - place.at).norm());
      box.extend(place.at);
    }
    on_face.push_back(std::move(feet));
  }
  for (std::size_t k = 0; k < on_face.size(); ++k)
    on_face[k].back() = on_face[(k + 1) % on_face.size()].front();
  constexpr double kMoved = 2e-3;  // of the border's size: it was drawn on to it more closely
  if (off > kMoved * box.diagonal().norm())
    return Error{ErrorCode::Failed, "The border lies " + format_trimmed(off, 3) +
                                        " mm off the patch: curves or edges have moved since it "
                                        "was fitted. Edit the patch, and it is fitted anew."};
  return trimmed_shell(face, on_face, name);
}

}  // namespace

Result<ToolBody> PatchFace::tool(const Site& site) const {
  if (face == nullptr)
    return Error{ErrorCode::InvalidInput, "Click an area of the scan: the patch has no face yet."};
  const std::string name = prefix_of(site.step) + ":face";
  const auto made = curves.empty() && edges.empty() ? spline_shell(*face, name)
                                                    : bounded(*this, site.whole, name);
  if (!made) return made.error();
  return ToolBody{*made, Operation::NewBody, {}, BodyKind::Surface};
}

}  // namespace lostline::model
