#include "model/steps/sew/sew.h"

#include <BRepBuilderAPI_MakeSolid.hxx>
#include <BRepBuilderAPI_Sewing.hxx>
#include <BRepLib.hxx>
#include <BRep_Tool.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>
#include <cmath>

#include "model/sewn.h"
#include "model/steps/kind_of.h"

namespace lostline::model {

constinit const FeatureKind Sew::kind =
    kind_of<Sew>("sew", "Sew", "join surface bodies along their edges, to a solid when they close",
                 "spool", 'w');

void Sew::describe(Description& d) {
  d.bodies({"bodies"}, bodies);
  d.number({"gap", NumberInfo::Unit::Length, NumberInfo::Sign::Positive}, gap);
}

Result<Model> Sew::build(const Site& site) const {
  const Model& before = site.before;
  if (!std::isfinite(gap.value) || !(gap.value > 0))
    return Error{ErrorCode::InvalidInput, "Give the widest gap to close, greater than zero."};
  const auto found = find_bodies(bodies, before, "sew");
  if (!found) return found.error();
  BRepBuilderAPI_Sewing sewing(gap.value);
  FaceNames given;
  for (const std::size_t body : *found) {
    if (before.body(body).kind != BodyKind::Surface)
      return Error{ErrorCode::InvalidInput, std::string("Surface bodies are sewn; this is a ") +
                                                kind_name(before.body(body).kind) +
                                                " body. Pick surfaces only."};
    const Named surface = named_body(before, body);
    sewing.Add(surface.shape);
    given.insert(given.end(), surface.names.begin(), surface.names.end());
  }
  sewing.Perform();
  const TopoDS_Shape sewn = sewing.SewedShape();
  std::vector<TopoDS_Shell> shells;
  for (TopExp_Explorer it(sewn, TopAbs_SHELL); it.More(); it.Next())
    shells.push_back(TopoDS::Shell(it.Current()));
  if (shells.size() != 1)
    return Error{ErrorCode::Failed,
                 "The surfaces do not meet within the gap. Pick others or widen the gap."};
  Named made{shells.front(), sewn_names(sewing, given)};
  Body body = before.body(found->front());
  if (BRep_Tool::IsClosed(shells.front())) {
    TopoDS_Solid solid = BRepBuilderAPI_MakeSolid(shells.front()).Solid();
    if (!BRepLib::OrientClosedSolid(solid))
      return Error{ErrorCode::Failed, "The sewn surfaces enclose no space."};
    made.shape = solid;
    body.kind = BodyKind::Solid;
  }
  for (std::size_t k = 1; k < found->size(); ++k)
    body.merged.push_back(before.body((*found)[k]).key);
  const std::string prefix = prefix_of(site.step);
  Model result = replaced(before, found->front(),
                          make_model({{body, made.shape}}, made.names, prefix), prefix);
  for (std::size_t k = found->size(); k-- > 1;) result = replaced(result, (*found)[k], {}, prefix);
  return result;
}

}  // namespace lostline::model
