#include "model/steps/hole/hole.h"

#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRepPrim_Cylinder.hxx>
#include <algorithm>

#include "model/steps/kind_of.h"
#include "sketch/curve_kind.h"

namespace lostline::model {
constinit const FeatureKind Hole::kind = kind_of<Hole>(
    "hole", "Hole", "bore holes of one diameter about circles of a sketch", "circle-dot", 'h');

void Hole::describe(Description& d) {
  d.sketch("sketch", sketch);
  d.curves("circles", circles);
  d.number({"diameter", NumberInfo::Unit::Diameter, NumberInfo::Sign::Positive}, diameter);
  d.extent(extent);
  d.bodies({"bodies", false}, bodies);
}

Result<ToolBody> Hole::tool(const Site& site) const {
  const PlacedSketch* placed = find_sketch(site.setting, sketch);
  if (placed == nullptr) return sketch_gone();
  if (!(diameter.value > 0))
    return Error{ErrorCode::InvalidInput, "A hole needs a diameter greater than zero."};
  const Result<Levels> levels = levels_of(extent, placed->base, site.before);
  if (!levels) return levels.error();
  if (circles.empty())
    return Error{ErrorCode::InvalidInput, "Pick at least one circle for the hole."};
  const std::string prefix = prefix_of(site.step);
  Gathered gathered;
  const double low = std::min(levels->from, levels->to);
  const double high = std::max(levels->from, levels->to);
  for (const sketch::Id id : circles) {
    const sketch::Entity* circle = placed->sketch.find_entity(id);
    if (!sketch::has_radius(circle)) {
      return Error{ErrorCode::NotFound, "Circle " + std::to_string(id) +
                                            " is no longer in the sketch. Pick the circles again."};
    }
    const Vec3 centre = placed->base.to_space(placed->sketch.position(circle->centre), low);
    BRepPrimAPI_MakeCylinder make(
        gp_Ax2(pnt(centre), dir(placed->base.normal), dir(placed->base.x)), diameter.value / 2,
        high - low);
    const TopoDS_Shape solid = make.Solid();
    const std::string suffix = ":" + std::to_string(id);
    gathered.add(solid, {{make.Cylinder().LateralFace(), {prefix + ":wall" + suffix}},
                         {make.Cylinder().BottomFace(), {prefix + ":low" + suffix}},
                         {make.Cylinder().TopFace(), {prefix + ":high" + suffix}}});
  }
  return ToolBody{gathered.take(), Operation::Cut, bodies, BodyKind::Solid};
}

}  // namespace lostline::model
