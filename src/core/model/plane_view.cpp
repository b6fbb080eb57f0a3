#include "model/plane_view.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAlgoAPI_Section.hxx>
#include <BRep_Tool.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <algorithm>
#include <functional>
#include <gp_Ax3.hxx>
#include <gp_Pln.hxx>

#include "model/apart/kernel_process.h"
#include "model/apart/steps_apart.h"
#include "model/edge_form.h"
#include "model/model_impl.h"
#include "model/profile.h"

namespace lostline::model {
namespace {

constexpr double kSeenAlike = 1e-6;  // mm: two curves this near all along are seen as one

/// Puts together what is seen, each curve and place once.
class Viewer {
 public:
  explicit Viewer(const Placement& plane) : plane_(plane) {}

  void add(const TopoDS_Edge& edge) {
    if (BRep_Tool::Degenerated(edge)) return;
    const BRepAdaptor_Curve curve(edge);
    if (auto form = plane_form(curve, plane_)) {
      if (std::none_of(view_.curves.begin(), view_.curves.end(), [&](const sketch::Form& known) {
            return sketch::fall_together(known, *form, kSeenAlike);
          }))
        view_.curves.push_back(*std::move(form));
      return;
    }
    const Vec2 a = plane_.to_plane(vec(curve.Value(curve.FirstParameter())));
    const Vec2 b = plane_.to_plane(vec(curve.Value(curve.LastParameter())));
    if ((a - b).norm() > kSeenAlike) {
      unread_ = true;
      return;
    }
    if (std::none_of(view_.points.begin(), view_.points.end(),
                     [&](const Vec2& p) { return (p - a).norm() <= kSeenAlike; }))
      view_.points.push_back(a);
  }
  [[nodiscard]] Result<PlaneView> seen() const {
    if (view_.empty() && unread_)
      return Error{ErrorCode::Degenerate, "This curve cannot be drawn in the plane of the sketch."};
    return view_;
  }

 private:
  Placement plane_;
  PlaneView view_;
  bool unread_ = false;
};

Result<PlaneView> kernel_said(const std::function<Result<PlaneView>()>& work) {
  try {
    return work();
  } catch (const Standard_Failure&) {
    return Error{ErrorCode::Failed,
                 "What is seen in the plane of the sketch could not be computed."};
  }
}

}  // namespace

Result<PlaneView> edge_seen(const Model& model, std::size_t edge, const Placement& plane) {
  return kernel_said([&]() -> Result<PlaneView> {
    Viewer viewer(plane);
    viewer.add(TopoDS::Edge(model.impl().edges(static_cast<int>(edge) + 1)));
    return viewer.seen();
  });
}

Result<PlaneView> face_seen(const Model& model, std::size_t face, const Placement& plane) {
  return kernel_said([&]() -> Result<PlaneView> {
    const TopoDS_Face& shape = TopoDS::Face(model.impl().faces(static_cast<int>(face) + 1));
    Viewer viewer(plane);
    for (TopExp_Explorer e(shape, TopAbs_EDGE); e.More(); e.Next()) {
      const TopoDS_Edge& edge = TopoDS::Edge(e.Current());
      if (!BRep_Tool::IsClosed(edge, shape)) viewer.add(edge);
    }
    return viewer.seen();
  });
}

Result<PlaneView> cut_by_plane(const Model& model, const Placement& plane,
                               std::optional<std::size_t> body) {
  return has_kernel_process() ? cut_apart(model, plane, body)
                              : cut_by_plane_here(model, plane, body);
}

Result<PlaneView> cut_by_plane_here(const Model& model, const Placement& plane,
                                    std::optional<std::size_t> body) {
  const auto missed = [] {
    return Error{ErrorCode::InvalidInput, "The plane of the sketch does not cut the model."};
  };
  if (model.empty()) return missed();
  return kernel_said([&]() -> Result<PlaneView> {
    const Model own = private_copy(body ? model.only(*body) : model);
    const gp_Pln cut(gp_Ax3(pnt(plane.origin), dir(plane.normal), dir(plane.x)));
    BRepAlgoAPI_Section section(own.impl().shape, cut, false);
    section.Approximation(true);
    section.Build();
    if (!section.IsDone())
      return Error{ErrorCode::Failed, "The model cannot be cut by the plane of the sketch."};
    TopTools_IndexedMapOfShape edges;
    TopExp::MapShapes(section.Shape(), TopAbs_EDGE, edges);
    Viewer viewer(plane);
    for (int k = 1; k <= edges.Extent(); ++k) viewer.add(TopoDS::Edge(edges(k)));
    auto view = viewer.seen();
    if (view && view->curves.empty()) return missed();
    return view;
  });
}

Result<PlaneView> sketch_seen(const sketch::Sketch& sketch, const Placement& its_plane,
                              const Placement& plane) {
  return kernel_said([&]() -> Result<PlaneView> {
    const auto edges = sketch_edges(sketch, its_plane);
    if (!edges) return edges.error();
    Viewer viewer(plane);
    for (const auto& [edge, id] : *edges) viewer.add(TopoDS::Edge(edge));
    return viewer.seen();
  });
}

}  // namespace lostline::model
