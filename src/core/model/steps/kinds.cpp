#include "model/steps/kinds.h"

#include "model/steps/boolean/boolean.h"
#include "model/steps/chamfer/chamfer.h"
#include "model/steps/draft/draft.h"
#include "model/steps/extrude/extrude.h"
#include "model/steps/fill/fill.h"
#include "model/steps/fillet/fillet.h"
#include "model/steps/flat_face/flat_face.h"
#include "model/steps/free_body/free_body.h"
#include "model/steps/hole/hole.h"
#include "model/steps/import/import.h"
#include "model/steps/loft/loft.h"
#include "model/steps/mirror/mirror.h"
#include "model/steps/move_body/move_body.h"
#include "model/steps/move_faces/move_faces.h"
#include "model/steps/offset_face/offset_face.h"
#include "model/steps/offset_surface/offset_surface.h"
#include "model/steps/patch_face/patch_face.h"
#include "model/steps/pattern/pattern.h"
#include "model/steps/pipe_run/pipe_run.h"
#include "model/steps/primitive/primitive.h"
#include "model/steps/remove_body/remove_body.h"
#include "model/steps/replace_face/replace_face.h"
#include "model/steps/revolve/revolve.h"
#include "model/steps/rib/rib.h"
#include "model/steps/ruled/ruled.h"
#include "model/steps/scale_body/scale_body.h"
#include "model/steps/sew/sew.h"
#include "model/steps/shell/shell.h"
#include "model/steps/space_curve/space_curve.h"
#include "model/steps/split/split.h"
#include "model/steps/sweep/sweep.h"
#include "model/steps/thicken/thicken.h"

namespace lostline::model {

const std::vector<const FeatureKind*>& feature_kinds() {
  static const std::vector<const FeatureKind*> kinds{
      &Extrude::kind,    &Revolve::kind,    &Sweep::kind,     &Loft::kind,
      &PipeRun::kind,    &PatchFace::kind,  &Hole::kind,      &Fillet::kind,
      &Chamfer::kind,    &Pattern::kind,    &Mirror::kind,    &Draft::kind,
      &OffsetFace::kind, &Shell::kind,      &Thicken::kind,   &Import::kind,
      &Boolean::kind,    &Split::kind,      &Sew::kind,       &MoveBody::kind,
      &RemoveBody::kind, &Rib::kind,        &FlatFace::kind,  &OffsetSurface::kind,
      &ScaleBody::kind,  &SpaceCurve::kind, &Ruled::kind,     &Fill::kind,
      &FreeBody::kind,   &Primitive::kind,  &MoveFaces::kind, &ReplaceFace::kind,
  };
  return kinds;
}

const FeatureKind* find_feature_kind(std::string_view key) {
  for (const FeatureKind* kind : feature_kinds()) {
    if (key == kind->key) return kind;
  }
  return nullptr;
}

}  // namespace lostline::model
