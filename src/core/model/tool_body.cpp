#include "model/tool_body.h"

#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepOffsetAPI_DraftAngle.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <BRepPrim_Cylinder.hxx>
#include <BRepTools_History.hxx>
#include <BRep_Builder.hxx>
#include <ShapeUpgrade_UnifySameDomain.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <algorithm>
#include <cmath>
#include <gp_Pln.hxx>

#include "base/text.h"
#include "model/profile.h"
#include "model/trim.h"

namespace lostline::model {
namespace {

gp_Vec vec(const Vec3& v) { return {v.x(), v.y(), v.z()}; }
gp_Pnt pnt(const Vec3& p) { return {p.x(), p.y(), p.z()}; }
gp_Dir dir(const Vec3& d) { return {d.x(), d.y(), d.z()}; }

const PlacedSketch* find_sketch(const Setting& setting, Id id) {
  const auto it = setting.sketches.find(id);
  return it == setting.sketches.end() ? nullptr : &it->second;
}
Error sketch_gone() {
  return {ErrorCode::NotFound,
          "Its sketch has been deleted. Pick another sketch or remove the step."};
}

/// The span of levels a feature runs over; through means past everything that is there.
struct Levels {
  double from, to;
};
Result<Levels> levels_of(const Extent& extent, const Placement& base, const Solid& before) {
  if (extent.reach == Reach::Through) {
    if (before.empty())
      return Error{ErrorCode::InvalidInput, "There is nothing to go through yet. Give a distance."};
    const Box3 box = before.box();
    double low = 1e300;
    double high = -1e300;
    for (int corner = 0; corner < 8; ++corner) {
      const double level = base.level_of(box.corner(static_cast<Box3::CornerType>(corner)));
      low = std::min(low, level);
      high = std::max(high, level);
    }
    return Levels{low - 1, high + 1};
  }
  if (extent.reach == Reach::Symmetric) {
    const double half = extent.thickness.value / 2;
    if (!std::isfinite(half) || !(half > 5e-7) || !std::isfinite(extent.middle.value))
      return Error{ErrorCode::InvalidInput, "A thickness must be greater than zero."};
    return Levels{extent.middle.value - half, extent.middle.value + half};
  }
  const double to = extent.reach == Reach::UpTo ? extent.from.value + 1 : extent.to.value;
  if (!std::isfinite(extent.from.value) || !std::isfinite(to) ||
      std::abs(to - extent.from.value) < 1e-6) {
    return Error{ErrorCode::InvalidInput,
                 "From and to are the same level: the feature has no height."};
  }
  return Levels{extent.from.value, to};
}

/// Collects the bodies of a profile's faces into one.
struct Gathered {
  TopoDS_Compound compound;
  Named body;
  BRep_Builder builder;
  Gathered() { builder.MakeCompound(compound); }
  void add(const TopoDS_Shape& shape, const FaceNames& names) {
    builder.Add(compound, shape);
    body.names.insert(body.names.end(), names.begin(), names.end());
  }
  Named take() {
    body.shape = compound;
    return std::move(body);
  }
};

template <class Sweep>
FaceNames names_of_sweep(Sweep& sweep, const Profile& profile, const std::string& prefix,
                         bool has_ends) {
  FaceNames names;
  for (const auto& [edge, entity] : profile.edges) {
    for (const TopoDS_Shape& side : sweep.Generated(edge))
      names.emplace_back(side, std::vector{prefix + ":side:" + std::to_string(entity)});
  }
  if (has_ends) {
    names.emplace_back(sweep.FirstShape(), std::vector{prefix + ":start"});
    names.emplace_back(sweep.LastShape(), std::vector{prefix + ":end"});
  }
  return names;
}

Status add_draft(TopoDS_Shape& shape, FaceNames& names, const Placement& neutral_plane,
                 const Vec3& pull, double angle) {
  if (std::abs(angle) > 1.0)
    return Error{ErrorCode::InvalidInput, "A draft of more than 57 degrees is not a draft."};
  const gp_Pln neutral(pnt(neutral_plane.origin), dir(neutral_plane.normal));
  BRepOffsetAPI_DraftAngle draft(shape);
  for (const auto& [side, list] : names) {
    if (list.front().find(":side:") == std::string::npos) continue;
    draft.Add(TopoDS::Face(side), dir(pull), angle, neutral);
    if (!draft.AddDone())
      return Error{ErrorCode::Failed,
                   "The draft does not work on " + list.front() + ". Try a smaller angle or none."};
  }
  draft.Build();
  if (!draft.IsDone())
    return Error{ErrorCode::Failed, "The draft of " + format_trimmed(angle * 57.29577951308232, 2) +
                                        "\u00b0 closes the profile before its end. Try a smaller "
                                        "angle."};
  FaceNames drafted;
  carry(names, draft, drafted);
  names = std::move(drafted);
  shape = draft.Shape();
  return Done{};
}

Result<Named> extrude_body(const Step& step, const Extrude& feature, const Setting& setting,
                           const Solid& before) {
  const PlacedSketch* placed = find_sketch(setting, feature.sketch);
  if (placed == nullptr) return sketch_gone();
  Result<Levels> span = levels_of(feature.extent, placed->base, before);
  if (!span) return span.error();
  Levels levels = *span;
  std::optional<fit::Surface> target;
  if (feature.extent.reach == Reach::UpTo) {
    const Result<fit::Surface> surface = resolve(feature.extent.target, before);
    if (!surface) return surface.error();
    const Result<double> reach =
        level_beyond(*placed, {feature.loops, feature.areas}, levels.from, *surface);
    if (!reach) return reach.error();
    levels.to = *reach;
    target = *surface;
  }
  Result<Profile> profile = make_profile(*placed, {feature.loops, feature.areas}, levels.from);
  if (!profile) return profile.error();
  const std::string prefix = prefix_of(step);
  const double height = levels.to - levels.from;
  const Vec3 pull = height > 0 ? placed->base.normal : Vec3(-placed->base.normal);
  Gathered gathered;
  for (const TopoDS_Face& face : profile->faces) {
    BRepPrimAPI_MakePrism prism(face, vec(placed->base.normal * height));
    if (!prism.IsDone()) return Error{ErrorCode::Failed, "The profile cannot be extruded."};
    FaceNames names = names_of_sweep(prism, *profile, prefix, true);
    TopoDS_Shape shape = prism.Shape();
    if (std::abs(feature.draft.value) > 1e-9) {
      const Placement neutral =
          placed->base.shifted(feature.extent.reach == Reach::Through ? 0 : placed->section_level);
      if (Status done = add_draft(shape, names, neutral, pull, feature.draft.value); !done)
        return done.error();
    }
    if (target) {
      Result<Named> trimmed = trim_at({shape, names}, *target, prefix);
      if (!trimmed) return trimmed.error();
      gathered.add(trimmed->shape, trimmed->names);
    } else {
      gathered.add(shape, names);
    }
  }
  return gathered.take();
}

Result<Named> revolve_body(const Step& step, const Revolve& feature, const Setting& setting) {
  const PlacedSketch* placed = find_sketch(setting, feature.sketch);
  if (placed == nullptr) return sketch_gone();
  const sketch::Sketch& s = placed->sketch;
  Vec2 foot = Vec2::Zero();
  Vec2 along = feature.axis == sketch::kXAxis ? Vec2::UnitX() : Vec2::UnitY();
  if (feature.axis != sketch::kXAxis && feature.axis != sketch::kYAxis) {
    const sketch::Entity* line = s.find_entity(feature.axis);
    if (line == nullptr || line->type != sketch::EntityType::Line)
      return Error{ErrorCode::NotFound,
                   "The axis is no longer a line of the sketch. Pick the axis again."};
    foot = s.position(line->a);
    along = s.position(line->b) - foot;
    if (!(along.norm() > 1e-9))
      return Error{ErrorCode::Degenerate, "The line picked as axis has no length."};
    along.normalize();
  }
  const double angle = feature.angle.value;
  if (!std::isfinite(angle) || !(angle > 1e-6) || angle > 2 * std::numbers::pi + 1e-9)
    return Error{ErrorCode::InvalidInput,
                 "A turn must be more than 0\u00b0 and at most 360\u00b0."};
  // A profile on both sides of its axis would run into itself.
  double left = 0;
  double right = 0;
  const auto outline = make_outline(s, {feature.loops, feature.areas});
  if (!outline) return outline.error();
  for (const sketch::Loop& loop : outline->loops) {
    for (const Vec2& p : sketch::polygon_of(outline->sketch, loop)) {
      const Vec2 d = p - foot;
      const double side = along.x() * d.y() - along.y() * d.x();
      left = std::max(left, side);
      right = std::min(right, side);
    }
  }
  if (left > 1e-6 && right < -1e-6)
    return Error{ErrorCode::Degenerate,
                 "The profile lies on both sides of its axis. Trim it to one side."};
  Result<Profile> profile =
      make_profile(*placed, {feature.loops, feature.areas}, placed->section_level);
  if (!profile) return profile.error();
  const Vec3 origin = placed->base.to_space(foot, placed->section_level);
  const Vec3 direction = along.x() * placed->base.x + along.y() * placed->base.y;
  const gp_Ax1 axis(pnt(origin), dir(direction));
  const bool whole = angle > 2 * std::numbers::pi - 1e-9;
  const std::string prefix = prefix_of(step);
  Gathered gathered;
  for (const TopoDS_Face& face : profile->faces) {
    BRepPrimAPI_MakeRevol turn(face, axis, std::min(angle, 2 * std::numbers::pi));
    if (!turn.IsDone()) return Error{ErrorCode::Failed, "The profile cannot be turned."};
    FaceNames names = names_of_sweep(turn, *profile, prefix, !whole);
    TopoDS_Shape shape = turn.Shape();
    if (feature.both_ways && !whole) {
      gp_Trsf back;
      back.SetRotation(axis, -angle / 2);
      BRepBuilderAPI_Transform moved(shape, back, true);
      for (auto& [f, list] : names) f = moved.ModifiedShape(f);
      shape = moved.Shape();
    }
    gathered.add(shape, names);
  }
  return gathered.take();
}

Result<Named> hole_body(const Step& step, const Hole& feature, const Setting& setting,
                        const Solid& before) {
  const PlacedSketch* placed = find_sketch(setting, feature.sketch);
  if (placed == nullptr) return sketch_gone();
  if (!(feature.diameter.value > 0))
    return Error{ErrorCode::InvalidInput, "A hole needs a diameter greater than zero."};
  const Result<Levels> levels = levels_of(feature.extent, placed->base, before);
  if (!levels) return levels.error();
  if (feature.circles.empty())
    return Error{ErrorCode::InvalidInput, "Pick at least one circle for the hole."};
  const std::string prefix = prefix_of(step);
  Gathered gathered;
  const double low = std::min(levels->from, levels->to);
  const double high = std::max(levels->from, levels->to);
  for (const sketch::Id id : feature.circles) {
    const sketch::Entity* circle = placed->sketch.find_entity(id);
    if (circle == nullptr || circle->type == sketch::EntityType::Line) {
      return Error{ErrorCode::NotFound, "Circle " + std::to_string(id) +
                                            " is no longer in the sketch. Pick the circles again."};
    }
    const Vec3 centre = placed->base.to_space(placed->sketch.position(circle->centre), low);
    BRepPrimAPI_MakeCylinder make(
        gp_Ax2(pnt(centre), dir(placed->base.normal), dir(placed->base.x)),
        feature.diameter.value / 2, high - low);
    const TopoDS_Shape solid = make.Solid();
    const std::string suffix = ":" + std::to_string(id);
    gathered.add(solid, {{make.Cylinder().LateralFace(), {prefix + ":wall" + suffix}},
                         {make.Cylinder().BottomFace(), {prefix + ":low" + suffix}},
                         {make.Cylinder().TopFace(), {prefix + ":high" + suffix}}});
  }
  return gathered.take();
}

}  // namespace

std::string prefix_of(const Step& step) { return "s" + std::to_string(step.id); }

FaceNames names_of(const Solid& solid) {
  FaceNames names;
  if (solid.empty()) return names;
  const Solid::Impl& impl = solid.impl();
  for (int i = 1; i <= impl.faces.Extent(); ++i)
    names.emplace_back(impl.faces(i), impl.names[static_cast<std::size_t>(i - 1)]);
  return names;
}

Result<ToolBody> make_tool(const Step& step, const Setting& setting, const Solid& before) {
  ToolBody tool;
  Result<Named> body =
      Error{ErrorCode::Unsupported, "Only what an extrude, revolve or hole makes can be repeated."};
  if (const auto* e = std::get_if<Extrude>(&step.feature)) {
    body = extrude_body(step, *e, setting, before);
    tool.operation = e->operation;
  } else if (const auto* r = std::get_if<Revolve>(&step.feature)) {
    body = revolve_body(step, *r, setting);
    tool.operation = r->operation;
  } else if (const auto* h = std::get_if<Hole>(&step.feature)) {
    body = hole_body(step, *h, setting, before);
    tool.operation = Operation::Cut;
  }
  if (!body) return body.error();
  tool.body = *std::move(body);
  return tool;
}

Result<Solid> combine(const Solid& before, const Named& tool, Operation operation,
                      const std::string& prefix) {
  TopTools_ListOfShape tools;
  for (TopExp_Explorer it(tool.shape, TopAbs_SOLID); it.More(); it.Next())
    tools.Append(it.Current());
  if (before.empty()) {
    if (operation != Operation::Add)
      return Error{ErrorCode::InvalidInput,
                   operation == Operation::Cut
                       ? "There is nothing to cut yet. Add material first."
                       : "There is nothing to have in common with yet. Add material first."};
    return make_solid(tools.Extent() == 1 ? tools.First() : tool.shape, tool.names, prefix);
  }
  TopTools_ListOfShape arguments;
  arguments.Append(before.impl().shape);
  BRepAlgoAPI_Fuse fuse;
  BRepAlgoAPI_Cut cut;
  BRepAlgoAPI_Common common;
  BRepAlgoAPI_BooleanOperation& boolean =
      operation == Operation::Add   ? static_cast<BRepAlgoAPI_BooleanOperation&>(fuse)
      : operation == Operation::Cut ? static_cast<BRepAlgoAPI_BooleanOperation&>(cut)
                                    : common;
  boolean.SetArguments(arguments);
  boolean.SetTools(tools);
  boolean.SetNonDestructive(true);
  boolean.SetRunParallel(true);
  boolean.Build();
  if (!boolean.IsDone() || boolean.HasErrors()) {
    return Error{ErrorCode::Failed, operation == Operation::Add
                                        ? "The new material cannot be joined to the part."
                                        : "The cut cannot be made."};
  }
  FaceNames carried;
  carry(names_of(before), boolean, carried);
  carry(tool.names, boolean, carried);
  ShapeUpgrade_UnifySameDomain unify(boolean.Shape(), true, true, false);
  unify.Build();
  FaceNames unified;
  const Handle(BRepTools_History) history = unify.History();
  carry(carried, *history, unified);
  const TopoDS_Shape shape = unify.Shape();
  if (!TopExp_Explorer(shape, TopAbs_SOLID).More())
    return Error{ErrorCode::Failed, operation == Operation::Common
                                        ? "The profile and the part have nothing in common."
                                        : "The cut leaves nothing of the part."};
  Solid result = make_solid(shape, unified, prefix);
  const double change = std::abs(result.volume() - before.volume());
  if (change < 1e-6 * before.volume()) {
    return Error{
        ErrorCode::Failed,
        operation == Operation::Add
            ? "The profile lies wholly inside the part and adds nothing. Change its levels."
        : operation == Operation::Cut
            ? "The cut does not touch the part. Change its levels or its profile."
            : "The part lies wholly inside the profile: nothing changes."};
  }
  return result;
}

}  // namespace lostline::model
