#include "model/steps/patch_face/patch_face.h"

#include "model/spline_shell.h"
#include "model/steps/kind_of.h"

namespace lostline::model {

constinit const FeatureKind PatchFace::kind = kind_of<PatchFace>(
    "patch", "Patch", "a free-form face through an area of the scan", "waves", 'a');

std::string PatchFace::words() const { return "patch"; }

void PatchFace::describe(Description& d) { d.surface("face", face); }

Result<ToolBody> PatchFace::tool(const Site& site) const {
  if (face == nullptr)
    return Error{ErrorCode::InvalidInput, "Click an area of the scan: the patch has no face yet."};
  const auto made = spline_shell(*face, prefix_of(site.step) + ":face");
  if (!made) return made.error();
  return ToolBody{*made, Operation::NewBody, {}, BodyKind::Surface};
}

}  // namespace lostline::model
