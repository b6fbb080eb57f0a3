#include "model/steps/boolean/boolean.h"

#include <algorithm>

#include "model/steps/kind_of.h"

namespace lostline::model {

constinit const FeatureKind Boolean::kind =
    kind_of<Boolean>("boolean", "Combine",
                     "join bodies, cut one by others, or keep what they share", "combine", 'j');

std::string Boolean::words() const {
  return makes == Kind::Join ? "join" : makes == Kind::Cut ? "cut by bodies" : "common of bodies";
}

void Boolean::describe(Description& d) {
  d.bodies({"body"}, target);
  d.bodies({"others"}, tools);
  d.choice({"result", {"join", "cut", "common"}}, makes);
  d.flag("keep_others", keep);
}

Result<Model> Boolean::build(const Site& site) const {
  const Model& before = site.before;
  const auto changed = find_bodies(target, before, "change");
  if (!changed) return changed.error();
  if (changed->size() > 1)
    return Error{ErrorCode::InvalidInput,
                 "One body is changed by the others. Pick one to change and the others beside it."};
  const std::size_t body = changed->front();
  auto others = find_bodies(tools, before, "combine it with");
  if (!others) return others.error();
  Gathered gathered;
  for (const std::size_t other : *others) {
    if (other == body)
      return Error{ErrorCode::InvalidInput, "A body cannot be combined with itself."};
    for (const std::size_t i : {body, other}) {
      if (before.body(i).kind != BodyKind::Solid)
        return Error{ErrorCode::InvalidInput,
                     std::string("Solids are combined; one of these is a ") +
                         kind_name(before.body(i).kind) +
                         " body. Sew surfaces into a solid first, or split by them."};
    }
    // A tool that stays shares nothing with the result.
    const Named tool = keep ? copied(named_body(before, other)) : named_body(before, other);
    gathered.add(tool.shape, tool.names);
  }
  const Operation operation = makes == Kind::Join  ? Operation::Add
                              : makes == Kind::Cut ? Operation::Cut
                                                   : Operation::Common;
  const auto made =
      boolean_of(named_body(before, body), gathered.take(), operation, site.setting.task);
  if (!made) return made.error();
  Body now = before.body(body);
  if (makes == Kind::Join && !keep) {
    for (const std::size_t other : *others) {
      const Body& joined = before.body(other);
      now.merged.push_back(joined.key);
      now.merged.insert(now.merged.end(), joined.merged.begin(), joined.merged.end());
    }
  }
  const std::string prefix = prefix_of(site.step);
  Model result =
      replaced(before, body, make_model({{now, made->shape}}, made->names, prefix), prefix);
  if (keep) return result;
  for (std::size_t k = others->size(); k-- > 0;)
    result = replaced(result, (*others)[k], {}, prefix);
  return result;
}

}  // namespace lostline::model
