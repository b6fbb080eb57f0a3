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
#include "model/path_pieces.h"
#include "model/steps/kind_of.h"

namespace lostline::model {
namespace {

/// The pieces of a centre line as a chain of edges.
Result<TopoDS_Wire> wire_of(const std::vector<pipe::Piece>& pieces) {
  BRepBuilderAPI_MakeWire wire;
  for (const pipe::Piece& piece : pieces) {
    if (piece.straight) {
      wire.Add(BRepBuilderAPI_MakeEdge(pnt(piece.a), pnt(piece.b)));
      continue;
    }
    const gp_Circ circle(gp_Ax2(pnt(piece.centre), dir(piece.axis), dir(piece.a - piece.centre)),
                         piece.radius);
    wire.Add(BRepBuilderAPI_MakeEdge(circle, pnt(piece.a), pnt(piece.b)));
  }
  if (!wire.IsDone())
    return Error{ErrorCode::Failed, "The path of the pipe does not hold together."};
  return wire.Wire();
}

/// @errors InvalidInput  bends tighter than the pipe is thick.
Result<TopoDS_Wire> spine_of(const PipeRun& run) {
  auto pieces = pieces_of(run.path, run.bend.value);
  if (!pieces) return pieces.error();
  if (run.in_part) {
    if (!std::isfinite(run.from.value) || !std::isfinite(run.to.value) ||
        !(run.to.value - run.from.value > 1e-6))
      return Error{ErrorCode::InvalidInput,
                   "The stretch ends at " + format_trimmed(run.to.value, 3) +
                       " mm along the pipe and begins at " + format_trimmed(run.from.value, 3) +
                       " mm. Let it end behind where it begins."};
    pieces = stretch_of(*pieces, run.from.value, run.to.value);
  }
  for (const pipe::Piece& piece : *pieces) {
    if (!piece.straight && piece.radius <= run.radius.value)
      return Error{ErrorCode::InvalidInput, "A bend of " + format_trimmed(piece.radius, 2) +
                                                " mm is tighter than the pipe's radius of " +
                                                format_trimmed(run.radius.value, 2) + " mm."};
  }
  return wire_of(*pieces);
}

}  // namespace

constinit const FeatureKind PipeRun::kind =
    kind_of<PipeRun>("pipe", "Pipe", "a bent pipe or bar along its centre line", "cable", 'u');

std::string PipeRun::words() const {
  if (in_part) return "pipe in part";
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
  d.flag("in_part", in_part);
  d.number({"from", NumberInfo::Unit::Length, NumberInfo::Sign::Any, in_part}, from);
  d.number({"to", NumberInfo::Unit::Length, NumberInfo::Sign::Any, in_part}, to);
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
  if (in_part && !along.empty())
    return Error{ErrorCode::InvalidInput,
                 "Along a curve the pipe takes all of it. Break the curve for a stretch."};
  const auto spine = along.empty() ? spine_of(*this) : curve_body(site.whole, along.front());
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
