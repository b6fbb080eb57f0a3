#include "model/steps/mirror/mirror.h"

#include <gp_Ax2.hxx>
#include <gp_Trsf.hxx>

#include "model/copies.h"
#include "model/steps/kind_of.h"

namespace lostline::model {

constinit const FeatureKind Mirror::kind =
    kind_of<Mirror>("mirror", "Mirror", "mirror a step or the whole part in a plane", "flip-horizontal-2", 'm');

void Mirror::describe(Description& d) {
  d.step("source", source);
  d.reference({"plane", ReferenceInfo::Wants::Plane}, plane);
}

Result<Solid> Mirror::build(const Site& site) const {
  if (site.before.empty()) return Error{ErrorCode::InvalidInput, "There is nothing to mirror yet."};
  const auto mirror = resolve(plane, site.before);
  if (!mirror) return mirror.error();
  if (mirror->kind != fit::Kind::Plane)
    return Error{ErrorCode::InvalidInput,
                 "A mirror is a plane. Pick a datum plane or a flat face."};
  gp_Trsf motion;
  motion.SetMirror(gp_Ax2(pnt(mirror->point), dir(mirror->axis)));
  ToolBody tool;
  if (source == 0) {
    tool.body = Named{site.before.impl().shape, names_of(site.before)};
  } else {
    auto made = source_tool(site, source);
    if (!made) return made.error();
    tool = *std::move(made);
  }
  const std::string prefix = prefix_of(site.step);
  return combine(site.before, moved(tool.body, motion, prefix, "m"), tool.operation, prefix);
}


}  // namespace lostline::model
