#include "model/steps/extrude/extrude.h"

#include <BRepOffsetAPI_DraftAngle.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <TopoDS.hxx>
#include <gp_Pln.hxx>

#include "base/text.h"
#include "model/profile.h"
#include "model/steps/extrude/twisted.h"
#include "model/steps/kind_of.h"
#include "model/trim.h"

namespace lostline::model {
namespace {

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
    return Error{ErrorCode::Failed, "The draft of " + format_trimmed(angle / kDegree, 2) +
                                        "\u00b0 closes the profile before its end. Try a smaller "
                                        "angle."};
  for (auto& [face, list] : names) face = draft.ModifiedShape(face);
  shape = draft.Shape();
  return Done{};
}

/// The motion of a profile that turns on its way between two levels.
Result<ScrewMotion> motion_of(const Extrude& extrude, const PlacedSketch& placed,
                              const Levels& levels, const Model& before) {
  constexpr double kMost = 40 * std::numbers::pi;  // rad: more is a thread
  constexpr double kAlong = 1e-3;                  // rad
  if (std::abs(extrude.draft.value) > 1e-9 || extrude.extent.reach == Reach::UpTo)
    return Error{ErrorCode::Unsupported,
                 "A profile that twists has no draft and ends at a level. Leave one of the two "
                 "out."};
  if (!(std::abs(extrude.twist.value) < kMost))
    return Error{ErrorCode::InvalidInput, "A twist is at most 20 turns either way."};
  ScrewMotion motion;
  motion.axis = placed.base.normal;
  motion.point = placed.base.origin;
  if (!extrude.about.empty()) {
    const Result<fit::Surface> axis = resolve(extrude.about, before);
    if (!axis) return axis.error();
    if (fit::angle_between(axis->axis, motion.axis) > kAlong)
      return Error{ErrorCode::InvalidInput,
                   "The axis that the profile turns about runs along the sketch's normal; this one "
                   "leans " +
                       format_trimmed(fit::angle_between(axis->axis, motion.axis) / kDegree, 2) +
                       "\u00b0."};
    motion.point = axis->point;
  }
  const double height = levels.to - levels.from;
  motion.angle = extrude.twist.value;
  motion.advance = height;
  motion.from = (levels.from - placed.section_level) / height;
  return motion;
}

}  // namespace

constinit const FeatureKind Extrude::kind = kind_of<Extrude>(
    "extrude", "Extrude", "move closed areas of a sketch along its normal", "box", 'e');

std::string Extrude::words() const {
  return operation == Operation::Add ? "extrude" : operation == Operation::Cut ? "cut" : "common";
}

void Extrude::describe(Description& d) {
  d.sketch("sketch", sketch);
  d.curves("loops", loops);
  d.operation(operation, bodies);
  d.extent(extent);
  d.number({"draft", NumberInfo::Unit::Angle}, draft);
  d.areas("areas", areas);
  d.flag("surface", surface);
  const bool twists = std::abs(twist.value) > 0;
  d.number({"twist", NumberInfo::Unit::Angle, NumberInfo::Sign::Any}, twist);
  d.reference({"about", ReferenceInfo::Wants::Axis, twists}, about);
}

Result<ToolBody> Extrude::tool(const Site& site) const {
  const PlacedSketch* placed = find_sketch(site.setting, sketch);
  if (placed == nullptr) return sketch_gone();
  Result<Levels> span = levels_of(extent, placed->base, site.before);
  if (!span) return span.error();
  Levels levels = *span;
  if (surface && (extent.reach == Reach::UpTo || std::abs(draft.value) > 1e-9))
    return Error{ErrorCode::Unsupported,
                 "A surface body is extruded between levels and without draft. Give levels, or "
                 "trim and draft the body afterwards."};
  std::optional<fit::Surface> target;
  if (extent.reach == Reach::UpTo) {
    const Result<fit::Surface> surface = resolve(extent.target, site.before);
    if (!surface) return surface.error();
    const Result<double> reach = level_beyond(*placed, {loops, areas}, levels.from, *surface);
    if (!reach) return reach.error();
    levels.to = *reach;
    target = *surface;
  }
  const std::string prefix = prefix_of(site.step);
  Gathered gathered;
  if (std::abs(twist.value) > 1e-9) {
    const Result<ScrewMotion> motion = motion_of(*this, *placed, levels, site.before);
    if (!motion) return motion.error();
    const Result<Profile> drawn =
        make_profile(*placed, {loops, areas, surface}, placed->section_level);
    if (!drawn) return drawn.error();
    for (const TopoDS_Shape& part : drawn->shapes) {
      const Result<Named> made = twisted(part, *drawn, *motion, prefix);
      if (!made) return made.error();
      gathered.add(made->shape, made->names);
    }
    return ToolBody{gathered.take(), operation, bodies,
                    surface ? BodyKind::Surface : BodyKind::Solid};
  }
  Result<Profile> profile = make_profile(*placed, {loops, areas, surface}, levels.from);
  if (!profile) return profile.error();
  const double height = levels.to - levels.from;
  const Vec3 pull = height > 0 ? placed->base.normal : Vec3(-placed->base.normal);
  for (const TopoDS_Shape& profile_part : profile->shapes) {
    BRepPrimAPI_MakePrism prism(profile_part, vec(placed->base.normal * height));
    if (!prism.IsDone()) return Error{ErrorCode::Failed, "The profile cannot be extruded."};
    FaceNames names = names_of_sweep(prism, *profile, prefix, true);
    TopoDS_Shape shape = prism.Shape();
    if (std::abs(draft.value) > 1e-9) {
      const Placement neutral = placed->base.shifted(placed->section_level);
      if (Status done = add_draft(shape, names, neutral, pull, draft.value); !done)
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
  return ToolBody{gathered.take(), operation, bodies,
                  surface ? BodyKind::Surface : BodyKind::Solid};
}

}  // namespace lostline::model
