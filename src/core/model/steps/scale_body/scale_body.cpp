#include "model/steps/scale_body/scale_body.h"

#include <BRepBuilderAPI_Transform.hxx>
#include <cmath>
#include <gp_Trsf.hxx>

#include "base/text.h"
#include "model/steps/kind_of.h"

namespace lostline::model {

constinit const FeatureKind ScaleBody::kind = kind_of<ScaleBody>(
    "scale_body", "Scale body", "make bodies larger or smaller: one length becomes another",
    "maximize", '3');

void ScaleBody::describe(Description& d) {
  using Unit = NumberInfo::Unit;
  d.bodies({"bodies"}, bodies);
  d.number({"from", Unit::Length, NumberInfo::Sign::Positive}, from);
  d.number({"to", Unit::Length, NumberInfo::Sign::Positive}, to);
  d.place("frame", frame);
}

Result<Model> ScaleBody::build(const Site& site) const {
  const auto found = find_bodies(bodies, site.before, "scale");
  if (!found) return found.error();
  if (!(from.value > 0) || !(to.value > 0) || !std::isfinite(from.value) ||
      !std::isfinite(to.value))
    return Error{ErrorCode::InvalidInput, "Give two lengths greater than zero."};
  const double ratio = to.value / from.value;
  constexpr double kMost = 1000;  // a metre for a millimetre: what else is a unit mistaken
  if (ratio > kMost || ratio < 1 / kMost)
    return Error{ErrorCode::InvalidInput,
                 "Bodies are made up to 1000 times as large or as small, not " +
                     format_trimmed(ratio, 6) + " times."};
  gp_Trsf scaling;
  scaling.SetScale(pnt(frame.translation()), ratio);
  const std::string prefix = prefix_of(site.step);
  std::vector<BodyShape> all = site.before.impl().bodies;
  FaceNames names = names_of(site.before);
  for (const std::size_t body : *found) {
    const Named original = named_body(site.before, body);
    BRepBuilderAPI_Transform transform(original.shape, scaling, true);
    all[body].shape = transform.Shape();
    for (const auto& [face, list] : original.names)
      names.emplace_back(transform.ModifiedShape(face), list);
  }
  return make_model(std::move(all), names, prefix);
}

}  // namespace lostline::model
