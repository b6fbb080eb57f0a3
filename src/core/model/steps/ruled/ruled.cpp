#include "model/steps/ruled/ruled.h"

#include <BRepAdaptor_CompCurve.hxx>
#include <BRepOffsetAPI_ThruSections.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

#include "model/steps/kind_of.h"

namespace lostline::model {
namespace {

/// Both ends of a wire.
std::pair<gp_Pnt, gp_Pnt> ends_of(const TopoDS_Wire& wire) {
  const BRepAdaptor_CompCurve curve(wire);
  return {curve.Value(curve.FirstParameter()), curve.Value(curve.LastParameter())};
}

}  // namespace

constinit const FeatureKind Ruled::kind = kind_of<Ruled>(
    "ruled", "Ruled surface", "straight from one curve in space to another", "waypoints", '5');

void Ruled::describe(Description& d) {
  d.bodies({"curves"}, curves);
  d.flag("other way", other_way);
}

Result<ToolBody> Ruled::tool(const Site& site) const {
  if (curves.size() != 2)
    return Error{ErrorCode::InvalidInput, "Choose the two curves that the surface spans."};
  const auto first = curve_body(site.whole, curves[0]);
  if (!first) return first.error();
  const auto second = curve_body(site.whole, curves[1]);
  if (!second) return second.error();
  if (first->Closed() != second->Closed())
    return Error{ErrorCode::InvalidInput,
                 "One of the curves is closed and one is open. Choose two that are alike."};
  TopoDS_Wire other = *second;
  const auto [a, b] = ends_of(*first);
  const auto [c, e] = ends_of(other);
  // The lines between the ends do not cross.
  const bool crossed = a.Distance(c) + b.Distance(e) > a.Distance(e) + b.Distance(c);
  if (crossed != other_way) other.Reverse();
  BRepOffsetAPI_ThruSections through(false, true, 1e-6);
  through.CheckCompatibility(true);
  through.AddWire(*first);
  through.AddWire(other);
  through.Build();
  if (!through.IsDone()) return Error{ErrorCode::Failed, "No surface spans these two curves."};
  Named body{through.Shape(), {}};
  const std::string prefix = prefix_of(site.step);
  int number = 0;
  for (TopExp_Explorer face(body.shape, TopAbs_FACE); face.More(); face.Next())
    body.names.emplace_back(face.Current(),
                            std::vector{prefix + ":face:" + std::to_string(++number)});
  return ToolBody{body, Operation::NewBody, {}, BodyKind::Surface};
}

}  // namespace lostline::model
