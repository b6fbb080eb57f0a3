#include <BRepBuilderAPI_Transform.hxx>
#include <BRep_Builder.hxx>
#include <TopoDS_Compound.hxx>
#include <algorithm>
#include <cmath>
#include <gp_Ax1.hxx>
#include <gp_Ax2.hxx>
#include <gp_Trsf.hxx>

#include "base/text.h"
#include "model/tool_body.h"

namespace lostline::model {
namespace {

gp_Vec vec(const Vec3& v) { return {v.x(), v.y(), v.z()}; }
gp_Pnt pnt(const Vec3& p) { return {p.x(), p.y(), p.z()}; }
gp_Dir dir(const Vec3& d) { return {d.x(), d.y(), d.z()}; }

/// A copy of a named shape; its names tell which copy they are of.
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

const Step* find_source(const Step& step, Id source, const Setting& setting) {
  for (const Step& s : setting.steps) {
    if (s.id == step.id) return nullptr;  // only what comes before
    if (s.id == source) return &s;
  }
  return nullptr;
}

Result<ToolBody> source_tool(const Step& step, Id source, const Setting& setting,
                             const Solid& before) {
  const Step* original = find_source(step, source, setting);
  if (original == nullptr)
    return Error{ErrorCode::NotFound,
                 "The step it repeats is gone or comes later. Pick a step before this one."};
  return make_tool(*original, setting, before);
}

}  // namespace

Result<Solid> pattern(const Step& step, const Pattern& feature, const Setting& setting,
                      const Solid& before) {
  if (feature.count < 2 || feature.count > 2000)
    return Error{ErrorCode::InvalidInput, "A pattern has from 2 to 2000 members."};
  if (!std::isfinite(feature.spacing.value) || std::abs(feature.spacing.value) < 1e-6)
    return Error{ErrorCode::InvalidInput, "A pattern needs a spacing other than zero."};
  const bool circular = feature.kind == Pattern::Kind::Circular;
  if (circular &&
      std::abs(feature.spacing.value) * (feature.count - 1) > 2 * std::numbers::pi + 1e-9)
    return Error{ErrorCode::InvalidInput,
                 format_trimmed(feature.count, 0) + " members " +
                     format_trimmed(feature.spacing.value * 57.29577951308232, 3) +
                     "\u00b0 apart reach more than once round."};
  const auto axis = resolve(feature.direction, before);
  if (!axis) return axis.error();
  const auto tool = source_tool(step, feature.source, setting, before);
  if (!tool) return tool.error();
  const std::string prefix = prefix_of(step);
  Named all;
  BRep_Builder builder;
  TopoDS_Compound compound;
  builder.MakeCompound(compound);
  for (int k = 1; k < feature.count; ++k) {
    gp_Trsf motion;
    if (circular)
      motion.SetRotation(gp_Ax1(pnt(axis->point), dir(axis->axis)), k * feature.spacing.value);
    else
      motion.SetTranslation(vec(axis->axis * (k * feature.spacing.value)));
    const Named copy = moved(tool->body, motion, prefix, std::to_string(k));
    builder.Add(compound, copy.shape);
    all.names.insert(all.names.end(), copy.names.begin(), copy.names.end());
  }
  all.shape = compound;
  return combine(before, all, tool->operation, prefix);
}

Result<Solid> mirror(const Step& step, const Mirror& feature, const Setting& setting,
                     const Solid& before) {
  if (before.empty()) return Error{ErrorCode::InvalidInput, "There is nothing to mirror yet."};
  const auto plane = resolve(feature.plane, before);
  if (!plane) return plane.error();
  if (plane->kind != fit::Kind::Plane)
    return Error{ErrorCode::InvalidInput,
                 "A mirror is a plane. Pick a datum plane or a flat face."};
  gp_Trsf motion;
  motion.SetMirror(gp_Ax2(pnt(plane->point), dir(plane->axis)));
  ToolBody tool;
  if (feature.source == 0) {
    tool.body = Named{before.impl().shape, names_of(before)};
  } else {
    auto made = source_tool(step, feature.source, setting, before);
    if (!made) return made.error();
    tool = *std::move(made);
  }
  const std::string prefix = prefix_of(step);
  return combine(before, moved(tool.body, motion, prefix, "m"), tool.operation, prefix);
}

}  // namespace lostline::model
