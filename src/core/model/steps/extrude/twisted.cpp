#include "model/steps/extrude/twisted.h"

#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeSolid.hxx>
#include <BRepBuilderAPI_Sewing.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepLib.hxx>
#include <BRep_Tool.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>

namespace lostline::model {

Result<Named> twisted(const TopoDS_Shape& part, const Profile& profile, const ScrewMotion& motion,
                      const std::string& prefix) {
  const Error failed{ErrorCode::Failed,
                     "The profile crosses itself when it is twisted. Use a smaller twist."};
  constexpr double kGap = 1e-4;  // mm: sides share their edges but for rounding
  BRepBuilderAPI_Sewing sewing(kGap);
  FaceNames made;
  const auto add = [&](const TopoDS_Shape& face, const std::string& name) {
    sewing.Add(face);
    made.emplace_back(face, std::vector{prefix + name});
  };
  for (const auto& [edge, entity] : profile.edges) {
    bool own = false;
    for (TopExp_Explorer edges(part, TopAbs_EDGE); edges.More() && !own; edges.Next())
      own = edges.Current().IsSame(edge);
    if (!own) continue;
    add(BRepBuilderAPI_MakeFace(swept_by(TopoDS::Edge(edge), motion), 1e-7).Face(),
        ":side:" + std::to_string(entity));
  }
  const bool solid = part.ShapeType() == TopAbs_FACE;
  if (solid) {
    add(BRepBuilderAPI_Transform(part, motion.at(motion.from), true).Shape(), ":start");
    add(BRepBuilderAPI_Transform(part, motion.at(motion.from + 1), true).Shape(), ":end");
  }
  sewing.Perform();
  Named body{sewing.SewedShape(), {}};
  if (body.shape.IsNull()) return failed;
  if (solid) {
    TopExp_Explorer shells(body.shape, TopAbs_SHELL);
    if (!shells.More() || !BRep_Tool::IsClosed(shells.Current())) return failed;
    TopoDS_Solid closed = BRepBuilderAPI_MakeSolid(TopoDS::Shell(shells.Current())).Solid();
    if (!BRepLib::OrientClosedSolid(closed)) return failed;
    body.shape = closed;
  }
  if (!BRepCheck_Analyzer(body.shape).IsValid()) return failed;
  for (const auto& [face, names] : made)
    body.names.emplace_back(sewing.IsModifiedSubShape(face) ? sewing.ModifiedSubShape(face) : face,
                            names);
  return body;
}

}  // namespace lostline::model
