#include "model/steps/pattern/pattern.h"

#include <cmath>
#include <gp_Ax1.hxx>
#include <gp_Trsf.hxx>

#include "base/text.h"
#include "model/copies.h"
#include "model/steps/kind_of.h"

namespace lostline::model {

constinit const FeatureKind Pattern::kind = kind_of<Pattern>(
    "pattern", "Pattern", "repeat a step in a row or round an axis", "layout-grid", 'p');

void Pattern::describe(Description& d) {
  using Unit = NumberInfo::Unit;
  d.step("source", source);
  d.choice({"kind", {"linear", "circular"}}, arranged);
  d.reference({"direction", ReferenceInfo::Wants::Axis}, direction);
  d.count({"count", 2, 2000}, count);
  d.number({"spacing", arranged == Kind::Circular ? Unit::Angle : Unit::Length,
            NumberInfo::Sign::NotZero},
           spacing);
}

Result<Model> Pattern::build(const Site& site) const {
  if (count < 2 || count > 2000)
    return Error{ErrorCode::InvalidInput, "A pattern has from 2 to 2000 members."};
  if (!std::isfinite(spacing.value) || std::abs(spacing.value) < 1e-6)
    return Error{ErrorCode::InvalidInput, "A pattern needs a spacing other than zero."};
  const bool circular = arranged == Kind::Circular;
  if (circular && std::abs(spacing.value) * (count - 1) > 2 * std::numbers::pi + 1e-9)
    return Error{ErrorCode::InvalidInput, format_trimmed(count, 0) + " members " +
                                              format_trimmed(spacing.value * 57.29577951308232, 3) +
                                              "\u00b0 apart reach more than once round."};
  const auto axis = resolve(direction, site.before);
  if (!axis) return axis.error();
  const auto tool = source_tool(site, source);
  if (!tool) return tool.error();
  const std::string prefix = prefix_of(site.step);
  std::vector<Named> copies;
  for (int k = 1; k < count; ++k) {
    gp_Trsf motion;
    if (circular)
      motion.SetRotation(gp_Ax1(pnt(axis->point), dir(axis->axis)), k * spacing.value);
    else
      motion.SetTranslation(vec(axis->axis * (k * spacing.value)));
    copies.push_back(moved(tool->body, motion, prefix, std::to_string(k)));
  }
  ToolBody repeated = *tool;
  if (tool->operation == Operation::NewBody || tool->kind != BodyKind::Solid) {
    // Each copy of a body is one.
    Model model = site.before;
    for (const Named& copy : copies) {
      repeated.body = copy;
      const auto with = combine(model, repeated, prefix);
      if (!with) return with.error();
      model = *with;
    }
    return model;
  }
  Gathered all;
  for (const Named& copy : copies) all.add(copy.shape, copy.names);
  repeated.body = all.take();
  return combine(site.before, repeated, prefix);
}

}  // namespace lostline::model
