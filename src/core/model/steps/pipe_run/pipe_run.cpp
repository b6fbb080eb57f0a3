#include "model/steps/pipe_run/pipe_run.h"

#include <BRepAdaptor_CompCurve.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepOffsetAPI_MakePipe.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Wire.hxx>
#include <cmath>
#include <gp_Ax2.hxx>
#include <gp_Circ.hxx>

#include "base/text.h"
#include "model/steps/kind_of.h"

namespace lostline::model {
namespace {

/// The path as a chain of edges, straight and bent.
/// @errors InvalidInput  fewer than two corners, or bends that leave no room for each other.
Result<TopoDS_Wire> wire_of(const SpacePath& path, double bend_of_all) {
  const std::size_t n = path.corners.size();
  if (n < 2 || path.bends.size() + 2 != n)
    return Error{ErrorCode::InvalidInput, "Click the pipe on the scan: it has no centre line yet."};
  BRepBuilderAPI_MakeWire wire;
  Vec3 start = path.corners.front();
  double room = (path.corners[1] - path.corners[0]).norm();
  constexpr double kNothing = 1e-6;  // mm
  for (std::size_t k = 1; k < n; ++k) {
    const Vec3 before = (path.corners[k] - path.corners[k - 1]).normalized();
    if (k + 1 == n) {
      if ((path.corners[k] - start).norm() > kNothing && (path.corners[k] - start).dot(before) > 0)
        wire.Add(BRepBuilderAPI_MakeEdge(pnt(start), pnt(path.corners[k])));
      break;
    }
    const Vec3 after = (path.corners[k + 1] - path.corners[k]).normalized();
    const Vec3 cross = before.cross(after);
    const double angle = std::atan2(cross.norm(), before.dot(after));
    const double bend = bend_of_all > 0 ? bend_of_all : path.bends[k - 1];
    if (!(bend > 0) || angle < 1e-9)
      return Error{
          ErrorCode::InvalidInput,
          "Corner " + std::to_string(k) + " of the path has no bend. Give the pipe a bend radius."};
    const double reach = bend * std::tan(angle / 2);
    // A hair short of room is none: the numbers of the corners are rounded.
    if (reach > room + 1e-3 * bend)
      return Error{ErrorCode::InvalidInput,
                   "A bend of " + format_trimmed(bend, 2) + " mm does not fit at corner " +
                       std::to_string(k) + " of the path: up to " +
                       format_trimmed(room / std::tan(angle / 2), 2) + " mm works."};
    const Vec3 a = path.corners[k] - std::min(reach, room) * before;
    const Vec3 b = path.corners[k] + std::min(reach, room) * after;
    if ((a - start).norm() > kNothing) wire.Add(BRepBuilderAPI_MakeEdge(pnt(start), pnt(a)));
    const double radius = std::min(reach, room) / std::tan(angle / 2);
    const Vec3 axis = cross.normalized();
    const Vec3 centre = a + radius * axis.cross(before);
    const gp_Circ circle(gp_Ax2(pnt(centre), dir(axis), dir(a - centre)), radius);
    wire.Add(BRepBuilderAPI_MakeEdge(circle, pnt(a), pnt(b)));
    start = b;
    room = (path.corners[k + 1] - path.corners[k]).norm() - std::min(reach, room);
  }
  if (!wire.IsDone())
    return Error{ErrorCode::Failed, "The path of the pipe does not hold together."};
  return wire.Wire();
}

}  // namespace

constinit const FeatureKind PipeRun::kind =
    kind_of<PipeRun>("pipe", "Pipe", "a bent pipe or bar along its centre line", "cable", 'u');

std::string PipeRun::words() const {
  return operation == Operation::Cut      ? "pipe cut"
         : operation == Operation::Common ? "pipe common"
                                          : "pipe";
}

void PipeRun::describe(Description& d) {
  d.path("path", path);
  d.bodies({"along", false}, along);
  d.number({"radius", NumberInfo::Unit::Radius, NumberInfo::Sign::Positive}, radius);
  d.number({"wall", NumberInfo::Unit::Length, NumberInfo::Sign::Any}, wall);
  d.number({"bend", NumberInfo::Unit::Length, NumberInfo::Sign::Any, !path.bends.empty()}, bend);
  d.operation(operation, bodies);
}

Result<ToolBody> PipeRun::tool(const Site& site) const {
  if (!std::isfinite(radius.value) || !(radius.value > 0) || !std::isfinite(wall.value) ||
      wall.value < 0)
    return Error{ErrorCode::InvalidInput,
                 "A pipe needs a radius above zero and a wall of zero or more."};
  if (wall.value >= radius.value)
    return Error{ErrorCode::InvalidInput, "A wall of " + format_trimmed(wall.value, 3) +
                                              " mm leaves nothing inside a radius of " +
                                              format_trimmed(radius.value, 3) +
                                              " mm. Use 0 for a solid bar."};
  for (const double bend : path.bends) {
    const double all = this->bend.value > 0 ? this->bend.value : bend;
    if (all <= radius.value)
      return Error{ErrorCode::InvalidInput, "A bend of " + format_trimmed(all, 2) +
                                                " mm is tighter than the pipe's radius of " +
                                                format_trimmed(radius.value, 2) + " mm."};
  }
  const auto spine =
      along.empty() ? wire_of(path, bend.value) : curve_body(site.whole, along.front());
  if (!spine) return spine.error();
  const BRepAdaptor_CompCurve curve(*spine);
  gp_Pnt start;
  gp_Vec towards;
  curve.D1(curve.FirstParameter(), start, towards);
  const gp_Ax2 across(start, gp_Dir(towards));
  const auto ring = [&](double r) { return BRepBuilderAPI_MakeEdge(gp_Circ(across, r)).Edge(); };
  const TopoDS_Edge outside = ring(radius.value);
  BRepBuilderAPI_MakeFace face(BRepBuilderAPI_MakeWire(outside).Wire(), true);
  TopoDS_Edge inside;
  if (wall.value > 0) {
    inside = ring(radius.value - wall.value);
    TopoDS_Wire hole = BRepBuilderAPI_MakeWire(inside).Wire();
    hole.Reverse();
    face.Add(hole);
  }
  BRepOffsetAPI_MakePipe pipe(*spine, face.Face());
  pipe.Build();
  if (!pipe.IsDone()) return Error{ErrorCode::Failed, "The pipe cannot be made along this path."};
  const std::string prefix = prefix_of(site.step);
  Named body;
  body.shape = pipe.Shape();
  for (const TopoDS_Shape& side : pipe.Generated(outside))
    body.names.emplace_back(side, std::vector{prefix + ":outside"});
  if (!inside.IsNull()) {
    for (const TopoDS_Shape& side : pipe.Generated(inside))
      body.names.emplace_back(side, std::vector{prefix + ":inside"});
  }
  body.names.emplace_back(pipe.FirstShape(), std::vector{prefix + ":start"});
  body.names.emplace_back(pipe.LastShape(), std::vector{prefix + ":end"});
  return ToolBody{body, operation, bodies, BodyKind::Solid};
}

}  // namespace lostline::model
