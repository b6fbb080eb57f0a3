#include "model/edge_refs.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <Standard_Failure.hxx>
#include <TopExp.hxx>
#include <TopTools_IndexedDataMapOfShapeListOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <algorithm>
#include <gp_Circ.hxx>
#include <gp_Lin.hxx>
#include <optional>

#include "model/face_refs.h"
#include "model/model_impl.h"

namespace lostline::model {
namespace {

struct Candidate {
  EdgeMeant meant;
  double away = 0;  ///< mm, from where it was picked
};

const TopoDS_Edge& edge_at(const Model& model, std::size_t edge) {
  return TopoDS::Edge(model.impl().edges(static_cast<int>(edge) + 1));
}

double distance_to(const Model& model, std::size_t edge, const Vec3& place) {
  constexpr double kFar = 1e200;  // mm: no place that is meant
  try {
    const TopoDS_Shape vertex = BRepBuilderAPI_MakeVertex(pnt(place));
    const BRepExtrema_DistShapeShape distance(vertex, edge_at(model, edge));
    return distance.IsDone() ? distance.Value() : kFar;
  } catch (const Standard_Failure&) {
    return kFar;
  }
}

/// All edges between two lots of faces, the nearest to a place first.
std::vector<Candidate> between(const Model& model, const std::vector<std::size_t>& a,
                               const std::vector<std::size_t>& b, const Vec3& near) {
  const Model::Impl& impl = model.impl();
  TopTools_IndexedDataMapOfShapeListOfShape map;
  TopExp::MapShapesAndAncestors(impl.shape, TopAbs_EDGE, TopAbs_FACE, map);
  std::vector<Candidate> found;
  for (int i = 1; i <= impl.edges.Extent(); ++i) {
    const int at = map.FindIndex(impl.edges(i));
    if (at == 0) continue;
    std::optional<std::size_t> on_a;
    bool on_b = false;
    for (const TopoDS_Shape& shape : map.FindFromIndex(at)) {
      const auto face = static_cast<std::size_t>(impl.faces.FindIndex(shape) - 1);
      if (std::binary_search(a.begin(), a.end(), face)) on_a = face;
      on_b = on_b || std::binary_search(b.begin(), b.end(), face);
    }
    if (!on_a || !on_b) continue;
    const auto edge = static_cast<std::size_t>(i - 1);
    found.push_back({{edge, *on_a}, distance_to(model, edge, near)});
  }
  std::sort(found.begin(), found.end(),
            [](const Candidate& x, const Candidate& y) { return x.away < y.away; });
  return found;
}

/// Whether two edges are stretches of one line or circle, up to rounding in a part of that size.
bool on_one_curve(const Model& model, std::size_t a, std::size_t b, double size) {
  const BRepAdaptor_Curve first(edge_at(model, a));
  const BRepAdaptor_Curve second(edge_at(model, b));
  if (first.GetType() != second.GetType()) return false;
  const double near = 1e-7 * size;
  constexpr double kSame = 1e-7;  // rad
  switch (first.GetType()) {
    case GeomAbs_Line:
      return first.Line().Direction().IsParallel(second.Line().Direction(), kSame) &&
             first.Line().Distance(second.Line().Location()) < near;
    case GeomAbs_Circle:
      return first.Circle().Axis().Direction().IsParallel(second.Circle().Axis().Direction(),
                                                          kSame) &&
             first.Circle().Location().Distance(second.Circle().Location()) < near &&
             std::abs(first.Circle().Radius() - second.Circle().Radius()) < near;
    default:
      return false;  // a free curve tells not whether it was one with another
  }
}

}  // namespace

Result<std::vector<EdgeMeant>> edges_meant(const Model& model, const EdgeRef& ref) {
  const FacesMeant a = faces_meant(model, ref.face_a);
  const FacesMeant b = faces_meant(model, ref.face_b);
  const std::vector<Candidate> found = a.faces.empty() || b.faces.empty()
                                           ? std::vector<Candidate>()
                                           : between(model, a.faces, b.faces, ref.near);
  if (found.empty())
    return Error{ErrorCode::NotFound, "The edge between " + ref.face_a + " and " + ref.face_b +
                                          " is gone. Pick another edge."};
  std::vector<EdgeMeant> meant{found.front().meant};
  const bool parted =
      a.answer == FacesMeant::Answer::Several || b.answer == FacesMeant::Answer::Several;
  const double size = model.box().diagonal().norm();
  for (std::size_t k = 1; k < found.size(); ++k) {
    if (parted && on_one_curve(model, found.front().meant.edge, found[k].meant.edge, size)) {
      meant.push_back(found[k].meant);
      continue;
    }
    // Another edge between the same faces: clearly further than the one that is meant.
    if (found.front().away > 0.5 * found[k].away)
      return Error{ErrorCode::InvalidInput, "The edge between " + ref.face_a + " and " +
                                                ref.face_b +
                                                " is ambiguous: " + std::to_string(found.size()) +
                                                " edges may be meant. Pick the one that is meant."};
  }
  return meant;
}

}  // namespace lostline::model
