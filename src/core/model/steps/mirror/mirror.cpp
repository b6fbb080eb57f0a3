#include "model/steps/mirror/mirror.h"

#include <gp_Ax2.hxx>
#include <gp_Trsf.hxx>

#include "model/copies.h"
#include "model/steps/kind_of.h"

namespace lostline::model {

constinit const FeatureKind Mirror::kind = kind_of<Mirror>(
    "mirror", "Mirror", "mirror a step or the whole part in a plane", "flip-horizontal-2", 'm');

void Mirror::describe(Description& d) {
  d.step("source", source);
  d.reference({"plane", ReferenceInfo::Wants::Plane}, plane);
}

Result<Model> Mirror::build(const Site& site) const {
  if (site.before.empty()) return Error{ErrorCode::InvalidInput, "There is nothing to mirror yet."};
  const auto mirror = resolve(plane, site.before);
  if (!mirror) return mirror.error();
  if (!fit::is_flat(mirror->kind))
    return Error{ErrorCode::InvalidInput,
                 "A mirror is a plane. Pick a datum plane or a flat face."};
  gp_Trsf motion;
  motion.SetMirror(gp_Ax2(pnt(mirror->point), dir(mirror->axis)));
  const std::string prefix = prefix_of(site.step);
  if (source != 0) {
    const auto made = source_tool(site, source);
    if (!made) return made.error();
    ToolBody tool = *made;
    tool.body = moved(made->body, motion, prefix, "m");
    return combine(site.before, tool, prefix, site.setting.task);
  }
  // Each body with its own image: joined where they meet, beside it elsewhere.
  Model all = site.before;
  for (std::size_t body = all.body_count(); body-- > 0;) {
    ToolBody image;
    image.body = moved_body(named_body(all, body), motion, prefix, "m");
    image.kind = all.body(body).kind;
    const auto both = combine(all.only(body), image, prefix, site.setting.task);
    if (!both) return both.error();
    all = replaced(all, body, *both, prefix);
  }
  return all;
}

}  // namespace lostline::model
