#include "model/steps/free_body/free_body.h"

#include "model/spline_shell.h"
#include "model/steps/kind_of.h"

namespace lostline::model {

constinit const FeatureKind FreeBody::kind = kind_of<FreeBody>(
    "free_body", "Free body", "a closed scan of a free shape as smooth patches", "amphora", '7');

void FreeBody::describe(Description& d) {
  d.surfaces("faces", faces);
  d.operation(operation, bodies);
}

Result<ToolBody> FreeBody::tool(const Site& site) const {
  if (faces == nullptr || faces->empty())
    return Error{ErrorCode::InvalidInput, "The free body has no patches yet: fit them first."};
  const auto made = spline_solid(*faces, prefix_of(site.step) + ":face");
  if (!made) return made.error();
  return ToolBody{*made, operation, bodies, BodyKind::Solid};
}

}  // namespace lostline::model
