#include "model/steps/extrude/twisted.h"

#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

#include "model/sewn.h"

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
    body.shape = sewn_solid(sewing);
    if (body.shape.IsNull()) return failed;
  }
  if (!BRepCheck_Analyzer(body.shape).IsValid()) return failed;
  body.names = sewn_names(sewing, made);
  return body;
}

}  // namespace lostline::model
