#include "model/copies.h"

#include <BRepBuilderAPI_Transform.hxx>

#include "model/face_refs.h"

namespace lostline::model {

namespace {

template <class Rename>
Named moved_and_named(const Named& original, const gp_Trsf& motion, const Rename& rename) {
  BRepBuilderAPI_Transform transform(original.shape, motion, true);
  Named copy{transform.Shape(), {}};
  for (const auto& [face, names] : original.names)
    copy.names.emplace_back(transform.ModifiedShape(face), rename(names.front()));
  return copy;
}

/// A name without the step that gave it, which of one step's faces is the same for all.
std::string of_copy(const std::string& name, const std::string& prefix, const std::string& mark) {
  const auto colon = name.find(':');
  return prefix + ":" + mark + (colon == std::string::npos ? ":" + name : name.substr(colon));
}

}  // namespace

Named moved(const Named& original, const gp_Trsf& motion, const std::string& prefix,
            const std::string& mark) {
  return moved_and_named(original, motion, [&](const std::string& name) {
    return std::vector{of_copy(name, prefix, mark)};
  });
}

Named moved_body(const Named& original, const gp_Trsf& motion, const std::string& prefix,
                 const std::string& mark) {
  return moved_and_named(original, motion, [&](const std::string& name) {
    // What these were called before, two faces alike where two steps had named them alike.
    return std::vector{prefix + ":" + mark + ":" + name, former_name(of_copy(name, prefix, mark))};
  });
}

gp_Trsf rigid(const Transform& motion) {
  const auto m = [&](int row, int column) { return motion.matrix()(row, column); };
  gp_Trsf trsf;
  if (motion.isApprox(Transform::Identity(), 0)) return trsf;
  trsf.SetValues(m(0, 0), m(0, 1), m(0, 2), m(0, 3), m(1, 0), m(1, 1), m(1, 2), m(1, 3), m(2, 0),
                 m(2, 1), m(2, 2), m(2, 3));
  return trsf;
}

Named placed(const Named& original, const Transform& frame) {
  if (frame.isApprox(Transform::Identity(), 0)) return original;
  BRepBuilderAPI_Transform transform(original.shape, rigid(frame), true);
  Named there{transform.Shape(), {}};
  for (const auto& [face, names] : original.names)
    there.names.emplace_back(transform.ModifiedShape(face), names);
  return there;
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
