#include "model/steps/space_curve/space_curve.h"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <Geom_BSplineCurve.hxx>
#include <TColStd_Array1OfInteger.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <TColgp_Array1OfPnt.hxx>
#include <TopoDS_Wire.hxx>

#include "curve/space_spline.h"
#include "model/steps/kind_of.h"

namespace lostline::model {
namespace {

TopoDS_Wire smooth_wire(const curve::SpaceSpline& spline) {
  const auto [knots, poles] = spline.poles();
  TColgp_Array1OfPnt points(1, static_cast<int>(poles.size()));
  for (std::size_t i = 0; i < poles.size(); ++i)
    points.SetValue(static_cast<int>(i) + 1, pnt(poles[i]));
  TColStd_Array1OfReal at(1, static_cast<int>(knots.size()));
  TColStd_Array1OfInteger times(1, static_cast<int>(knots.size()));
  for (std::size_t i = 0; i < knots.size(); ++i) {
    at.SetValue(static_cast<int>(i) + 1, knots[i]);
    times.SetValue(static_cast<int>(i) + 1, i == 0 || i + 1 == knots.size() ? 4 : 1);
  }
  const Handle(Geom_BSplineCurve) curve = new Geom_BSplineCurve(points, at, times, 3);
  return BRepBuilderAPI_MakeWire(BRepBuilderAPI_MakeEdge(curve).Edge()).Wire();
}

}  // namespace

constinit const FeatureKind SpaceCurve::kind = kind_of<SpaceCurve>(
    "curve", "Curve", "a curve in space through places, for sweeps, pipes and lofts",
    "line-squiggle", '4');

void SpaceCurve::describe(Description& d) {
  d.path("path", path);
  d.choice({"runs", {"smooth", "straight"}}, runs);
  d.flag("closed", closed);
}

Result<ToolBody> SpaceCurve::tool(const Site&) const {
  const auto spline = curve::SpaceSpline::through(path.corners, closed);
  if (!spline) return spline.error();
  Named body;
  if (runs == Runs::Smooth) {
    body.shape = smooth_wire(*spline);
  } else {
    BRepBuilderAPI_MakePolygon polygon;
    for (const Vec3& corner : path.corners) polygon.Add(pnt(corner));
    if (closed) polygon.Close();
    body.shape = polygon.Wire();
  }
  return ToolBody{body, Operation::NewBody, {}, BodyKind::Curve};
}

}  // namespace lostline::model
