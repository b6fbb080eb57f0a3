#include "model/screw_motion.h"

#include <BRep_Tool.hxx>
#include <GeomAPI_Interpolate.hxx>
#include <GeomConvert.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_BSplineSurface.hxx>
#include <Geom_TrimmedCurve.hxx>
#include <TColStd_Array1OfInteger.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <TColStd_Array2OfReal.hxx>
#include <TColStd_HArray1OfReal.hxx>
#include <TColgp_Array2OfPnt.hxx>
#include <TColgp_HArray1OfPnt.hxx>
#include <algorithm>
#include <cmath>

#include "model/model_impl.h"

namespace lostline::model {
namespace {

/// Cosine, sine and share of the motion as a cubic spline of the share. With its ends' slopes held
/// a cubic spline departs by 5/384 of the fourth power of a span's turn.
Handle(Geom_BSplineCurve) course_of(const ScrewMotion& motion) {
  const int spans = std::max(4, static_cast<int>(std::ceil(std::abs(motion.angle) / motion.span)));
  const Handle(TColgp_HArray1OfPnt) places = new TColgp_HArray1OfPnt(1, spans + 1);
  const Handle(TColStd_HArray1OfReal) shares = new TColStd_HArray1OfReal(1, spans + 1);
  const auto slope = [&](double share) {
    const double turn = motion.angle * share;
    return gp_Vec(-motion.angle * std::sin(turn), motion.angle * std::cos(turn), 1);
  };
  for (int k = 0; k <= spans; ++k) {
    const double share = motion.from + static_cast<double>(k) / spans;
    const double turn = motion.angle * share;
    places->SetValue(k + 1, gp_Pnt(std::cos(turn), std::sin(turn), share));
    shares->SetValue(k + 1, static_cast<double>(k) / spans);
  }
  GeomAPI_Interpolate through(places, shares, false, 1e-12);
  through.Load(slope(motion.from), slope(motion.from + 1), false);
  through.Perform();
  return through.Curve();
}

}  // namespace

gp_Trsf ScrewMotion::at(double share) const {
  gp_Trsf turn;
  turn.SetRotation(gp_Ax1(pnt(point), dir(axis)), angle * share);
  gp_Trsf shift;
  shift.SetTranslation(vec(Vec3(advance * share * axis)));
  return shift * turn;
}

Handle(Geom_Surface) swept_by(const TopoDS_Edge& edge, const ScrewMotion& motion) {
  double first = 0;
  double last = 0;
  const Handle(Geom_Curve) curve = BRep_Tool::Curve(edge, first, last);
  const Handle(Geom_BSplineCurve) line =
      GeomConvert::CurveToBSplineCurve(new Geom_TrimmedCurve(curve, first, last));
  if (line->IsPeriodic()) line->SetNotPeriodic();
  const Handle(Geom_BSplineCurve) course = course_of(motion);
  // Every pole is moved as the points are: turning and shifting are linear.
  TColgp_Array2OfPnt poles(1, line->NbPoles(), 1, course->NbPoles());
  TColStd_Array2OfReal weights(1, line->NbPoles(), 1, course->NbPoles());
  for (int i = 1; i <= line->NbPoles(); ++i) {
    const Vec3 p = vec(line->Pole(i)) - motion.point;
    const double height = p.dot(motion.axis);
    const Vec3 out = p - height * motion.axis;
    const Vec3 across = motion.axis.cross(out);
    for (int j = 1; j <= course->NbPoles(); ++j) {
      const gp_Pnt at = course->Pole(j);
      const Vec3 moved = motion.point + at.X() * out + at.Y() * across +
                         (height + motion.advance * at.Z()) * motion.axis;
      poles.SetValue(i, j, pnt(moved));
      weights.SetValue(i, j, line->Weight(i));
    }
  }
  const auto knots = [](const Handle(Geom_BSplineCurve) & c, TColStd_Array1OfReal & values,
                        TColStd_Array1OfInteger & times) {
    for (int k = 1; k <= c->NbKnots(); ++k) {
      values.SetValue(k, c->Knot(k));
      times.SetValue(k, c->Multiplicity(k));
    }
  };
  TColStd_Array1OfReal u(1, line->NbKnots());
  TColStd_Array1OfReal v(1, course->NbKnots());
  TColStd_Array1OfInteger u_times(1, line->NbKnots());
  TColStd_Array1OfInteger v_times(1, course->NbKnots());
  knots(line, u, u_times);
  knots(course, v, v_times);
  return new Geom_BSplineSurface(poles, weights, u, v, u_times, v_times, line->Degree(),
                                 course->Degree());
}

}  // namespace lostline::model
