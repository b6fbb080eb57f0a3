#include "model/copies.h"

#include <BRepBuilderAPI_Transform.hxx>

namespace lostline::model {

Named moved(const Named& original, const gp_Trsf& motion, const std::string& prefix,
            const std::string& mark) {
  BRepBuilderAPI_Transform transform(original.shape, motion, true);
  Named copy{transform.Shape(), {}};
  for (const auto& [face, names] : original.names) {
    const std::string& name = names.front();
    const auto colon = name.find(':');
    copy.names.emplace_back(
        transform.ModifiedShape(face),
        std::vector{prefix + ":" + mark +
                    (colon == std::string::npos ? ":" + name : name.substr(colon))});
  }
  return copy;
}

Result<ToolBody> source_tool(const Site& site, Id source) {
  for (const Step& s : site.setting.steps) {
    if (s.id == site.step.id) break;  // only what comes before
    if (s.id != source) continue;
    if (s.feature.kind().tool == nullptr)
      return Error{ErrorCode::Unsupported,
                   "A " + s.feature.words() +
                       " has no material of its own that could be repeated. "
                       "Pick another step."};
    // What it refers to is where it was made, and may be gone since.
    if (site.setting.before_step != nullptr) {
      const auto it = site.setting.before_step->find(source);
      if (it != site.setting.before_step->end()) {
        const Model there = private_copy(it->second);
        return s.feature.kind().tool(s.feature, {s, site.setting, there, there});
      }
    }
    return s.feature.kind().tool(s.feature, {s, site.setting, site.before, site.whole});
  }
  return Error{ErrorCode::NotFound,
               "The step it repeats is gone or comes later. Pick a step before this one."};
}

}  // namespace lostline::model
