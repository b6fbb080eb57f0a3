#include "model/steps/remove_body/remove_body.h"

#include "model/steps/kind_of.h"

namespace lostline::model {

constinit const FeatureKind RemoveBody::kind = kind_of<RemoveBody>(
    "remove_body", "Remove body", "take bodies out of the model", "trash-2", 'k');

void RemoveBody::describe(Description& d) { d.bodies({"bodies"}, bodies); }

Result<Model> RemoveBody::build(const Site& site) const {
  const auto found = find_bodies(bodies, site.before, "remove");
  if (!found) return found.error();
  if (found->size() == site.before.body_count())
    return Error{ErrorCode::InvalidInput,
                 "This would leave no body at all. Remove the steps that made them instead."};
  Model result = site.before;
  for (auto body = found->rbegin(); body != found->rend(); ++body)
    result = replaced(result, *body, {}, prefix_of(site.step));
  return result;
}

}  // namespace lostline::model
