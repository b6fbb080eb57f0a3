#include "model/steps/fill/fill.h"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepOffsetAPI_MakeFilling.hxx>
#include <BRep_Tool.hxx>
#include <Geom_Curve.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_ListOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Vertex.hxx>

#include "model/dress_up.h"
#include "model/steps/kind_of.h"

namespace lostline::model {

namespace {

/// An edge that comes back to its beginning in four parts: the kernel fills between sides.
std::vector<TopoDS_Edge> quarters_of(const TopoDS_Edge& edge) {
  double first = 0;
  double last = 0;
  const Handle(Geom_Curve) curve = BRep_Tool::Curve(edge, first, last);
  if (curve.IsNull() || curve->Value(first).Distance(curve->Value(last)) > 1e-7 * (last - first))
    return {edge};
  std::vector<TopoDS_Edge> parts;
  std::vector<TopoDS_Vertex> ends;
  constexpr int kParts = 4;
  ends.reserve(kParts);
  for (int k = 0; k < kParts; ++k)
    ends.push_back(
        BRepBuilderAPI_MakeVertex(curve->Value(first + (last - first) * k / kParts)).Vertex());
  for (std::size_t k = 0; k < kParts; ++k) {
    const double from = first + (last - first) * static_cast<double>(k) / kParts;
    parts.push_back(BRepBuilderAPI_MakeEdge(curve, ends[k], ends[(k + 1) % kParts], from,
                                            from + (last - first) / kParts)
                        .Edge());
  }
  return parts;
}

}  // namespace

constinit const FeatureKind Fill::kind = kind_of<Fill>(
    "fill", "Fill", "a smooth surface inside curves and edges that close", "diamond", '6');

void Fill::describe(Description& d) {
  d.bodies({"curves", false}, curves);
  d.edges("edges", edges);
  d.flag("tangent", tangent);
}

Result<ToolBody> Fill::tool(const Site& site) const {
  if (curves.empty() && edges.empty())
    return Error{ErrorCode::InvalidInput, "Choose the curves and edges that bound the surface."};
  const Model& whole = site.whole;
  BRepOffsetAPI_MakeFilling filling;
  TopTools_ListOfShape border;
  for (const std::string& key : curves) {
    const auto wire = curve_body(whole, key);
    if (!wire) return wire.error();
    for (TopExp_Explorer edge(*wire, TopAbs_EDGE); edge.More(); edge.Next()) {
      for (const TopoDS_Edge& part : quarters_of(TopoDS::Edge(edge.Current()))) {
        filling.Add(part, GeomAbs_C0);
        border.Append(part);
      }
    }
  }
  if (!edges.empty()) {
    const auto found = find_edges(edges, whole, "fill to");
    if (!found) return found.error();
    for (const FoundEdge& at : *found) {
      const TopoDS_Edge& edge = edge_of(whole, at.edge);
      const auto face = whole.find_face(at.face);
      if (tangent && face)
        filling.Add(edge, TopoDS::Face(whole.impl().faces(static_cast<int>(*face) + 1)),
                    GeomAbs_G1);
      else
        filling.Add(edge, GeomAbs_C0);
      border.Append(edge);
    }
  }
  // Ends that are apart by less than this are taken for one.
  BRepBuilderAPI_MakeWire chain;
  chain.Add(border);
  if (!chain.IsDone() || !chain.Wire().Closed())
    return Error{ErrorCode::InvalidInput,
                 "The curves and edges do not close: each must begin where another one ends."};
  Named body;
  // What lies in one plane is filled flat.
  if (BRepBuilderAPI_MakeFace flat(chain.Wire(), true); !tangent && flat.IsDone()) {
    body.shape = flat.Face();
  } else {
    filling.Build();
    if (!filling.IsDone())
      return Error{ErrorCode::Failed, "No smooth surface lies inside these curves."};
    body.shape = filling.Shape();
  }
  const std::string prefix = prefix_of(site.step);
  for (TopExp_Explorer face(body.shape, TopAbs_FACE); face.More(); face.Next())
    body.names.emplace_back(face.Current(), std::vector{prefix + ":face"});
  return ToolBody{body, Operation::NewBody, {}, BodyKind::Surface};
}

}  // namespace lostline::model
