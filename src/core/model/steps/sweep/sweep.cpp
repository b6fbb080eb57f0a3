#include "model/steps/sweep/sweep.h"

#include <BRepBuilderAPI_MakeSolid.hxx>
#include <BRepBuilderAPI_TransitionMode.hxx>
#include <BRepClass3d_SolidClassifier.hxx>
#include <BRepLib.hxx>
#include <BRepOffsetAPI_MakePipeShell.hxx>
#include <BRepTools.hxx>
#include <BRepTools_WireExplorer.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Solid.hxx>
#include <TopoDS_Wire.hxx>
#include <gp_Ax2.hxx>

#include "model/profile.h"
#include "model/steps/kind_of.h"

namespace lostline::model {
namespace {

const PlacedSketch* only(const std::vector<Id>& ids, const Setting& setting) {
  return ids.size() == 1 ? find_sketch(setting, ids.front()) : nullptr;
}

/// The curves of a sketch as one wire.
Result<TopoDS_Wire> wire_of(const PlacedSketch& placed) {
  const std::vector<sketch::Id> no_loops;
  const std::vector<Vec2> no_areas;
  const auto chains = make_profile(placed, {no_loops, no_areas, true}, placed.section_level);
  if (!chains) return chains.error();
  if (chains->shapes.size() != 1 || chains->shapes.front().ShapeType() != TopAbs_WIRE)
    return Error{ErrorCode::InvalidInput,
                 "The curves of the path are " + std::to_string(chains->shapes.size()) +
                     " chains. A path is one chain of curves, end to end."};
  return TopoDS::Wire(chains->shapes.front());
}

}  // namespace

constinit const FeatureKind Sweep::kind =
    kind_of<Sweep>("sweep", "Sweep", "move closed areas of a sketch along a path", "route", 'g');

std::string Sweep::words() const {
  return operation == Operation::Cut      ? "swept cut"
         : operation == Operation::Common ? "swept common"
                                          : "sweep";
}

void Sweep::describe(Description& d) {
  d.sketches({"profile", 1, 1}, profile);
  d.sketches({"path", along.empty() ? 1U : 0U, 1}, path);
  d.bodies({"along", false}, along);
  d.choice({"hold", {"square to the path", "parallel to itself"}}, hold);
  d.operation(operation, bodies);
  d.flag("surface", surface);
}

Result<ToolBody> Sweep::tool(const Site& site) const {
  const PlacedSketch* placed = only(profile, site.setting);
  const PlacedSketch* drawn = only(path, site.setting);
  if (placed == nullptr || (drawn == nullptr && along.size() != 1))
    return Error{ErrorCode::InvalidInput,
                 "Choose the sketch of the profile, and a sketch or a curve as its path."};
  if (along.empty() && profile == path)
    return Error{ErrorCode::InvalidInput, "The path is another sketch than the profile."};
  const auto spine = along.empty() ? wire_of(*drawn) : curve_body(site.whole, along.front());
  if (!spine) return spine.error();
  const std::vector<sketch::Id> no_loops;
  const std::vector<Vec2> no_areas;
  auto made = make_profile(*placed, {no_loops, no_areas, surface}, placed->section_level);
  if (!made) return made.error();
  const std::string prefix = prefix_of(site.step);
  Gathered gathered;
  const auto sweep = [&](const TopoDS_Wire& wire, bool solid,
                         FaceNames& names) -> Result<TopoDS_Shape> {
    BRepOffsetAPI_MakePipeShell shell(*spine);
    if (hold == Hold::Parallel)
      shell.SetMode(
          gp_Ax2(pnt(placed->base.origin), dir(placed->base.normal), dir(placed->base.x)));
    shell.SetTransitionMode(BRepBuilderAPI_RightCorner);
    shell.Add(wire);
    if (!shell.IsReady())
      return Error{ErrorCode::Failed, "The profile cannot be moved along this path."};
    shell.Build();
    if (!shell.IsDone() || (solid && !shell.MakeSolid()))
      return Error{
          ErrorCode::Failed,
          "The profile cannot be moved along this path: a bend is sharper than the profile is "
          "wide, or the path does not begin near the profile."};
    for (const auto& [edge, entity] : made->edges) {
      for (const TopoDS_Shape& side : shell.Generated(edge))
        names.emplace_back(side, std::vector{prefix + ":side:" + std::to_string(entity)});
    }
    if (solid) {
      names.emplace_back(shell.FirstShape(), std::vector{prefix + ":start"});
      names.emplace_back(shell.LastShape(), std::vector{prefix + ":end"});
    }
    return shell.Shape();
  };
  for (const TopoDS_Shape& shape : made->shapes) {
    FaceNames names;
    if (surface) {
      const auto swept = sweep(TopoDS::Wire(shape), false, names);
      if (!swept) return swept.error();
      gathered.add(*swept, names);
      continue;
    }
    const TopoDS_Face& face = TopoDS::Face(shape);
    const TopoDS_Wire outer = BRepTools::OuterWire(face);
    const auto swept = sweep(outer, true, names);
    if (!swept) return swept.error();
    Named body{*swept, names};
    // Openings are swept by themselves and taken out.
    for (TopExp_Explorer wires(face, TopAbs_WIRE); wires.More(); wires.Next()) {
      if (wires.Current().IsSame(outer)) continue;
      FaceNames inner_names;
      const auto inner = sweep(TopoDS::Wire(wires.Current()), true, inner_names);
      if (!inner) return inner.error();
      const auto cut = boolean_of(body, {*inner, inner_names}, Operation::Cut);
      if (!cut) return cut.error();
      body = *cut;
    }
    gathered.add(body.shape, body.names);
  }
  return ToolBody{gathered.take(), operation, bodies,
                  surface ? BodyKind::Surface : BodyKind::Solid};
}

}  // namespace lostline::model
