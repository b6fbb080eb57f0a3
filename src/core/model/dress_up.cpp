#include <BRepFilletAPI_MakeChamfer.hxx>
#include <BRepFilletAPI_MakeFillet.hxx>
#include <Standard_Failure.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <algorithm>
#include <cmath>
#include <functional>

#include "base/text.h"
#include "model/tool_body.h"

namespace lostline::model {
namespace {

/// Edges of the part that references mean, without repeats.
struct FoundEdge {
  std::size_t edge;
  std::string face;  ///< the first of its two faces
};
Result<std::vector<FoundEdge>> find_edges(const std::vector<EdgeRef>& refs, const Solid& before,
                                          const char* what) {
  if (before.empty())
    return Error{ErrorCode::InvalidInput, std::string("There is no edge to ") + what + " yet."};
  if (refs.empty())
    return Error{ErrorCode::InvalidInput, std::string("Pick at least one edge to ") + what + "."};
  std::vector<FoundEdge> edges;
  for (const EdgeRef& ref : refs) {
    const std::optional<std::size_t> edge = before.find_edge(ref);
    if (!edge)
      return Error{ErrorCode::NotFound, "The edge between " + ref.face_a + " and " + ref.face_b +
                                            " is gone. Pick another edge."};
    if (std::none_of(edges.begin(), edges.end(), [&](const auto& e) { return e.edge == *edge; }))
      edges.push_back({*edge, ref.face_a});
  }
  return edges;
}

const TopoDS_Edge& edge_of(const Solid& solid, std::size_t edge) {
  return TopoDS::Edge(solid.impl().edges(static_cast<int>(edge) + 1));
}

/// Builds with one size; names are filled when given. Empty when the size does not work.
using Attempt = std::function<std::optional<TopoDS_Shape>(double size, FaceNames* names)>;

template <class Maker>
std::optional<TopoDS_Shape> finish(Maker& make, const Solid& before,
                                   const std::vector<FoundEdge>& edges, FaceNames* names,
                                   const std::string& prefix, const char* role) {
  make.Build();
  if (!make.IsDone()) return std::nullopt;
  const Solid trial = make_solid(make.Shape(), {}, prefix);
  if (!trial.valid()) return std::nullopt;
  if (names != nullptr) {
    carry(names_of(before), make, *names);
    for (std::size_t k = 0; k < edges.size(); ++k) {
      for (const TopoDS_Shape& face : make.Generated(edge_of(before, edges[k].edge)))
        names->emplace_back(face, std::vector{prefix + ":" + role + ":" + std::to_string(k)});
    }
  }
  return make.Shape();
}

/// Tries the size wanted; when it fails says the largest that works, by halving.
Result<Solid> attempt_or_explain(const Attempt& attempt, double size, const std::string& label,
                                 std::size_t edges, const std::string& prefix) {
  FaceNames names;
  if (const std::optional<TopoDS_Shape> shape = attempt(size, &names))
    return make_solid(*shape, names, prefix);
  double low = 0;
  double high = size;
  for (int i = 0; i < 7; ++i) {
    const double middle = 0.5 * (low + high);
    (attempt(middle, nullptr) ? low : high) = middle;
  }
  return Error{
      ErrorCode::Failed,
      label + " is too large for the edge" + (edges > 1 ? "s" : "") +
          (low > 0 ? "; up to about " + format_trimmed(std::floor(low * 10) / 10, 1) + " works."
                   : "; no size works there.")};
}

}  // namespace

Result<Solid> fillet(const Step& step, const Fillet& feature, const Solid& before) {
  const double radius = feature.radius.value;
  if (!(radius > 0) || !std::isfinite(radius))
    return Error{ErrorCode::InvalidInput, "A fillet needs a radius greater than zero."};
  const auto edges = find_edges(feature.edges, before, "fillet");
  if (!edges) return edges.error();
  const std::string prefix = prefix_of(step);
  const Attempt attempt = [&](double size, FaceNames* names) -> std::optional<TopoDS_Shape> {
    try {
      BRepFilletAPI_MakeFillet make(before.impl().shape);
      for (const FoundEdge& e : *edges) make.Add(size, edge_of(before, e.edge));
      return finish(make, before, *edges, names, prefix, "fillet");
    } catch (const Standard_Failure&) {
      return std::nullopt;
    }
  };
  return attempt_or_explain(attempt, radius, "R " + format_trimmed(radius, 3), edges->size(),
                            prefix);
}

Result<Solid> chamfer(const Step& step, const Chamfer& feature, const Solid& before) {
  const double distance = feature.distance.value;
  const double angle = feature.angle.value;
  if (!(distance > 0) || !std::isfinite(distance))
    return Error{ErrorCode::InvalidInput, "A chamfer needs a leg greater than zero."};
  if (!(angle > 0.01) || !(angle < 1.56))
    return Error{ErrorCode::InvalidInput, "A chamfer's angle lies between 1\u00b0 and 89\u00b0."};
  const auto edges = find_edges(feature.edges, before, "chamfer");
  if (!edges) return edges.error();
  const std::string prefix = prefix_of(step);
  const double ratio = std::tan(angle);
  const Attempt attempt = [&](double size, FaceNames* names) -> std::optional<TopoDS_Shape> {
    try {
      BRepFilletAPI_MakeChamfer make(before.impl().shape);
      for (const FoundEdge& e : *edges) {
        const auto face = before.find_face(e.face);
        if (!face) return std::nullopt;
        make.Add(size, size * ratio, edge_of(before, e.edge),
                 TopoDS::Face(before.impl().faces(static_cast<int>(*face) + 1)));
      }
      return finish(make, before, *edges, names, prefix, "chamfer");
    } catch (const Standard_Failure&) {
      return std::nullopt;
    }
  };
  return attempt_or_explain(attempt, distance, "A leg of " + format_trimmed(distance, 3),
                            edges->size(), prefix);
}

}  // namespace lostline::model
