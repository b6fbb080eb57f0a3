#include "model/border.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRep_Tool.hxx>
#include <GCPnts_UniformAbscissa.hxx>
#include <Geom2d_Curve.hxx>
#include <GeomLProp_SLProps.hxx>
#include <Geom_Surface.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Face.hxx>
#include <algorithm>

#include "base/text.h"
#include "model/dress_up.h"

namespace lostline::model {
namespace {

constexpr int kAlongCurve = 49;  // along each curve: as many as follow a spline of a dozen spans

/// @param face  whose normal the places carry; null: none.
Result<BorderStretch> stretch_of(const TopoDS_Edge& edge, const TopoDS_Face& face) {
  const BRepAdaptor_Curve curve(edge);
  const GCPnts_UniformAbscissa even(curve, kAlongCurve, 1e-7);
  if (!even.IsDone() || even.NbPoints() != kAlongCurve)
    return Error{ErrorCode::Degenerate, "A curve of the border has no length."};
  BorderStretch stretch;
  double first = 0;
  double last = 0;
  Handle(Geom2d_Curve) on_face;
  if (!face.IsNull()) on_face = BRep_Tool::CurveOnSurface(edge, face, first, last);
  for (int k = 1; k <= kAlongCurve; ++k) {
    patch::HeldPlace place{vec(curve.Value(even.Parameter(k))), std::nullopt};
    if (!on_face.IsNull()) {
      const gp_Pnt2d at = on_face->Value(even.Parameter(k));
      GeomLProp_SLProps shape(BRep_Tool::Surface(face), at.X(), at.Y(), 1, 1e-9);
      if (shape.IsNormalDefined()) {
        const gp_Dir n = shape.Normal();
        place.normal = Vec3(n.X(), n.Y(), n.Z());
      }
    }
    stretch.push_back(place);
  }
  return stretch;
}

double length_of(const BorderStretch& stretch) {
  double length = 0;
  for (std::size_t k = 1; k < stretch.size(); ++k)
    length += (stretch[k].at - stretch[k - 1].at).norm();
  return length;
}

/// The stretches one behind the other.
Result<std::vector<BorderStretch>> chained(std::vector<BorderStretch> loose) {
  double length = 0;
  for (const BorderStretch& s : loose) length += length_of(s);
  constexpr double kGap = 1e-3;  // of the border's length
  const double gap = kGap * length;
  std::vector<BorderStretch> chain{loose.front()};
  loose.erase(loose.begin());
  while (!loose.empty()) {
    const Vec3 end = chain.back().back().at;
    std::size_t next = 0;
    bool turned = false;
    double least = 1e300;
    for (std::size_t k = 0; k < loose.size(); ++k) {
      for (const bool backwards : {false, true}) {
        const double d = ((backwards ? loose[k].back() : loose[k].front()).at - end).norm();
        if (d >= least) continue;
        least = d;
        next = k;
        turned = backwards;
      }
    }
    if (least > gap) break;
    if (turned) std::reverse(loose[next].begin(), loose[next].end());
    chain.push_back(loose[next]);
    loose.erase(loose.begin() + static_cast<std::ptrdiff_t>(next));
  }
  const double open = (chain.back().back().at - chain.front().front().at).norm();
  if (!loose.empty() || open > gap)
    return Error{ErrorCode::InvalidInput,
                 "The curves and edges of the border do not close: " +
                     (loose.empty() ? "its ends are " + format_trimmed(open, 3) + " mm apart."
                                    : "each must begin where another one ends.")};
  // Where two meet nearly they meet.
  for (std::size_t k = 0; k < chain.size(); ++k) {
    Vec3& end = chain[k].back().at;
    Vec3& begin = chain[(k + 1) % chain.size()].front().at;
    const Vec3 middle = 0.5 * (end + begin);
    end = middle;
    begin = middle;
  }
  return chain;
}

}  // namespace

Result<std::vector<BorderStretch>> border_of(const Model& model,
                                             const std::vector<std::string>& curves,
                                             const std::vector<EdgeRef>& edges, bool tangent) {
  std::vector<BorderStretch> loose;
  const auto add = [&](const TopoDS_Edge& edge, const TopoDS_Face& face) -> Status {
    auto stretch = stretch_of(edge, face);
    if (!stretch) return stretch.error();
    loose.push_back(*std::move(stretch));
    return Done{};
  };
  for (const std::string& key : curves) {
    const auto wire = curve_body(model, key);
    if (!wire) return wire.error();
    for (TopExp_Explorer edge(*wire, TopAbs_EDGE); edge.More(); edge.Next())
      if (const Status added = add(TopoDS::Edge(edge.Current()), {}); !added) return added.error();
  }
  if (!edges.empty()) {
    const auto found = find_edges(edges, model, "hold");
    if (!found) return found.error();
    for (const FoundEdge& at : *found) {
      const auto face = tangent ? model.find_face(at.face) : std::nullopt;
      const TopoDS_Face bounded =
          face ? TopoDS::Face(model.impl().faces(static_cast<int>(*face) + 1)) : TopoDS_Face();
      if (const Status added = add(edge_of(model, at.edge), bounded); !added) return added.error();
    }
  }
  if (loose.empty())
    return Error{ErrorCode::InvalidInput, "Choose the curves and edges that bound the patch."};
  return chained(std::move(loose));
}

std::vector<patch::HeldPlace> places_of(const std::vector<BorderStretch>& border) {
  std::vector<patch::HeldPlace> all;
  for (const BorderStretch& stretch : border)
    all.insert(all.end(), stretch.begin(), stretch.end() - 1);
  return all;
}

}  // namespace lostline::model
