#include "model/spline_face.h"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepLib.hxx>
#include <BRep_Builder.hxx>
#include <Geom2dAPI_Interpolate.hxx>
#include <Geom2d_BSplineCurve.hxx>
#include <Geom_BSplineSurface.hxx>
#include <TColStd_Array1OfInteger.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <TColgp_Array2OfPnt.hxx>
#include <TColgp_HArray1OfPnt2d.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Vertex.hxx>
#include <algorithm>

#include "model/apart/kernel_process.h"
#include "model/apart/steps_apart.h"
#include "model/sewn.h"
#include "model/spline_shell.h"

namespace lostline::model {
namespace {

/// Distinct knots with how often each comes.
void spread(const std::vector<double>& knots, std::vector<double>& values,
            std::vector<int>& times) {
  for (const double knot : knots) {
    if (values.empty() || knot > values.back()) {
      values.push_back(knot);
      times.push_back(1);
    } else {
      ++times.back();
    }
  }
}
TColStd_Array1OfReal reals(const std::vector<double>& values) {
  TColStd_Array1OfReal all(1, static_cast<int>(values.size()));
  for (std::size_t k = 0; k < values.size(); ++k) all.SetValue(static_cast<int>(k) + 1, values[k]);
  return all;
}
TColStd_Array1OfInteger integers(const std::vector<int>& values) {
  TColStd_Array1OfInteger all(1, static_cast<int>(values.size()));
  for (std::size_t k = 0; k < values.size(); ++k) all.SetValue(static_cast<int>(k) + 1, values[k]);
  return all;
}

}  // namespace

namespace {

Handle(Geom_BSplineSurface) kernel_surface(const patch::SplineSurface& s) {
  TColgp_Array2OfPnt poles(1, static_cast<int>(s.nu), 1, static_cast<int>(s.nv));
  for (std::size_t i = 0; i < s.nu; ++i) {
    for (std::size_t j = 0; j < s.nv; ++j)
      poles.SetValue(static_cast<int>(i) + 1, static_cast<int>(j) + 1, pnt(s.poles[i * s.nv + j]));
  }
  std::vector<double> u;
  std::vector<double> v;
  std::vector<int> u_times;
  std::vector<int> v_times;
  spread(s.u_knots, u, u_times);
  spread(s.v_knots, v, v_times);
  return new Geom_BSplineSurface(poles, reals(u), reals(v), integers(u_times), integers(v_times), 3,
                                 3);
}

}  // namespace

Result<Named> spline_shell(const patch::SplineSurface& s, const std::string& name) {
  const TopoDS_Shape face = BRepBuilderAPI_MakeFace(kernel_surface(s), 1e-7).Shape();
  BRep_Builder builder;
  TopoDS_Shell shell;
  builder.MakeShell(shell);
  builder.Add(shell, face);
  if (!BRepCheck_Analyzer(shell).IsValid())
    return Error{ErrorCode::Failed, "The face crosses itself. Use fewer spans or a smaller area."};
  return Named{shell, {{face, {name}}}};
}

namespace {

/// A curve of the parameters through places.
Handle(Geom2d_BSplineCurve) curve_through(const std::vector<Vec2>& places) {
  const Handle(TColgp_HArray1OfPnt2d) points =
      new TColgp_HArray1OfPnt2d(1, static_cast<int>(places.size()));
  for (std::size_t k = 0; k < places.size(); ++k)
    points->SetValue(static_cast<int>(k) + 1, gp_Pnt2d(places[k].x(), places[k].y()));
  Geom2dAPI_Interpolate through(points, false, 1e-12);
  through.Perform();
  return through.Curve();
}

}  // namespace

Result<Named> trimmed_shell(const patch::SplineSurface& s,
                            const std::vector<std::vector<Vec2>>& border, const std::string& name) {
  const Handle(Geom_BSplineSurface) surface = kernel_surface(s);
  double area = 0;  // counter-clockwise is positive
  for (const auto& stretch : border)
    for (std::size_t k = 1; k < stretch.size(); ++k)
      area += stretch[k - 1].x() * stretch[k].y() - stretch[k].x() * stretch[k - 1].y();
  std::vector<std::vector<Vec2>> way = border;
  if (area < 0) {
    std::reverse(way.begin(), way.end());
    for (auto& stretch : way) std::reverse(stretch.begin(), stretch.end());
  }
  std::vector<TopoDS_Vertex> corners;
  corners.reserve(way.size());
  for (const auto& stretch : way)
    corners.push_back(
        BRepBuilderAPI_MakeVertex(pnt(s.at(stretch.front().x(), stretch.front().y()))).Vertex());
  BRepBuilderAPI_MakeWire wire;
  for (std::size_t k = 0; k < way.size(); ++k) {
    const Handle(Geom2d_BSplineCurve) curve = curve_through(way[k]);
    const TopoDS_Edge edge =
        BRepBuilderAPI_MakeEdge(curve, surface, corners[k], corners[(k + 1) % way.size()],
                                curve->FirstParameter(), curve->LastParameter())
            .Edge();
    BRepLib::BuildCurve3d(edge, 1e-6);
    wire.Add(edge);
  }
  const Error failed{ErrorCode::Failed,
                     "The border crosses itself on the face. Choose other curves, or fewer spans."};
  if (!wire.IsDone()) return failed;
  const TopoDS_Face face = BRepBuilderAPI_MakeFace(surface, wire.Wire(), true).Face();
  BRepLib::SameParameter(face, 1e-6, true);
  BRep_Builder builder;
  TopoDS_Shell shell;
  builder.MakeShell(shell);
  builder.Add(shell, face);
  if (!BRepCheck_Analyzer(shell).IsValid()) return failed;
  return Named{shell, {{face, {name}}}};
}

Result<Named> spline_solid(const patch::SplineSurfaces& surfaces, const std::string& name) {
  constexpr double kGap = 1e-4;  // mm: sides share their poles, what is between them is rounding
  BRepBuilderAPI_Sewing sewing(kGap);
  FaceNames faces;
  for (const patch::SplineSurface& surface : surfaces) {
    faces.emplace_back(BRepBuilderAPI_MakeFace(kernel_surface(surface), 1e-7).Shape(),
                       std::vector{name + ":" + std::to_string(faces.size() + 1)});
    sewing.Add(faces.back().first);
  }
  sewing.Perform();
  const TopoDS_Solid solid = sewn_solid(sewing);
  if (solid.IsNull())
    return Error{ErrorCode::Failed, "The patches do not close. Use more of them, or fewer spans."};
  if (!BRepCheck_Analyzer(solid).IsValid())
    return Error{ErrorCode::Failed,
                 "The patches cross each other somewhere. Use more of them, or fewer spans."};
  return Named{solid, sewn_names(sewing, faces)};
}

Result<Model> free_body_model(const patch::SplineSurfaces& surfaces, const std::string& name) {
  return has_kernel_process() ? free_body_apart(surfaces, name) : free_body_here(surfaces, name);
}

Result<Model> free_body_here(const patch::SplineSurfaces& surfaces, const std::string& name) {
  return guarded("The free body", [&]() -> Result<Model> {
    const auto made = spline_solid(surfaces, "body:face");
    if (!made) return made.error();
    BodyShape body;
    body.body.key = "body";
    body.body.name = name;
    body.shape = made->shape;
    return make_model({body}, made->names, "body");
  });
}

Result<Model> face_model(const patch::SplineSurface& surface, const std::string& name) {
  return guarded("The face", [&]() -> Result<Model> {
    const auto made = spline_shell(surface, "patch:face");
    if (!made) return made.error();
    BodyShape body;
    body.body.key = "patch";
    body.body.name = name;
    body.body.kind = BodyKind::Surface;
    body.shape = made->shape;
    return make_model({body}, made->names, "patch");
  });
}

}  // namespace lostline::model
