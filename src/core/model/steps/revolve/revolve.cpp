#include "model/steps/revolve/revolve.h"

#include <BRepBuilderAPI_Transform.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <algorithm>
#include <cmath>

#include "model/profile.h"
#include "model/steps/kind_of.h"
#include "sketch/curve_kind.h"

namespace lostline::model {

constinit const FeatureKind Revolve::kind = kind_of<Revolve>(
    "revolve", "Revolve", "turn closed areas about a line of their sketch", "rotate-3d", 'r');

std::string Revolve::words() const {
  return operation == Operation::Add   ? "revolve"
         : operation == Operation::Cut ? "turned cut"
                                       : "turned common";
}

void Revolve::describe(Description& d) {
  d.sketch("sketch", sketch);
  d.curves("loops", loops);
  d.curve("axis", axis);
  d.operation(operation, bodies);
  d.number({"angle", NumberInfo::Unit::Angle, NumberInfo::Sign::Positive}, angle);
  d.flag("both_ways", both_ways);
  d.areas("areas", areas);
  d.flag("surface", surface);
}

Result<ToolBody> Revolve::tool(const Site& site) const {
  const PlacedSketch* placed = find_sketch(site.setting, sketch);
  if (placed == nullptr) return sketch_gone();
  const sketch::Sketch& s = placed->sketch;
  Vec2 foot = Vec2::Zero();
  Vec2 along = axis == sketch::kXAxis ? Vec2::UnitX() : Vec2::UnitY();
  if (axis != sketch::kXAxis && axis != sketch::kYAxis) {
    const sketch::Entity* line = s.find_entity(axis);
    if (!sketch::is_straight(line))
      return Error{ErrorCode::NotFound,
                   "The axis is no longer a line of the sketch. Pick the axis again."};
    foot = s.position(line->a);
    along = s.position(line->b) - foot;
    if (!(along.norm() > 1e-9))
      return Error{ErrorCode::Degenerate, "The line picked as axis has no length."};
    along.normalize();
  }
  const double turned = angle.value;
  if (!std::isfinite(turned) || !(turned > 1e-6) || turned > 2 * std::numbers::pi + 1e-9)
    return Error{ErrorCode::InvalidInput,
                 "A turn must be more than 0\u00b0 and at most 360\u00b0."};
  // A profile on both sides of its axis would run into itself.
  double left = 0;
  double right = 0;
  const auto outline = make_outline(s, {loops, areas, surface});
  if (!outline) return outline.error();
  for (const sketch::Loop& loop : outline->loops) {
    for (const sketch::Loop::Use& use : loop.uses) {
      const sketch::Entity& e = *outline->sketch.find_entity(use.entity);
      for (const Vec2& p : sketch::placed(outline->sketch, e)->chords()) {
        const Vec2 d = p - foot;
        const double side = along.x() * d.y() - along.y() * d.x();
        left = std::max(left, side);
        right = std::min(right, side);
      }
    }
  }
  if (left > 1e-6 && right < -1e-6)
    return Error{ErrorCode::Degenerate,
                 "The profile lies on both sides of its axis. Trim it to one side."};
  const Vec2 outward = left > 1e-6 ? Vec2(-along.y(), along.x()) : Vec2(along.y(), -along.x());
  Result<Profile> profile =
      make_profile(*placed, {loops, areas, surface}, placed->section_level, outward);
  if (!profile) return profile.error();
  const Vec3 origin = placed->base.to_space(foot, placed->section_level);
  const Vec3 direction = along.x() * placed->base.x + along.y() * placed->base.y;
  const gp_Ax1 axis(pnt(origin), dir(direction));
  const bool whole = turned > 2 * std::numbers::pi - 1e-9;
  const std::string prefix = prefix_of(site.step);
  Gathered gathered;
  for (const TopoDS_Shape& profile_part : profile->shapes) {
    BRepPrimAPI_MakeRevol turn(profile_part, axis, std::min(turned, 2 * std::numbers::pi));
    if (!turn.IsDone()) return Error{ErrorCode::Failed, "The profile cannot be turned."};
    FaceNames names = names_of_sweep(turn, *profile, prefix, !whole);
    TopoDS_Shape shape = turn.Shape();
    if (both_ways && !whole) {
      gp_Trsf back;
      back.SetRotation(axis, -turned / 2);
      BRepBuilderAPI_Transform moved(shape, back, true);
      for (auto& [f, list] : names) f = moved.ModifiedShape(f);
      shape = moved.Shape();
    }
    gathered.add(shape, names);
  }
  return ToolBody{gathered.take(), operation, bodies,
                  surface ? BodyKind::Surface : BodyKind::Solid};
}

}  // namespace lostline::model
