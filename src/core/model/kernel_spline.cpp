#include "model/kernel_spline.h"

#include <Geom2d_BSplineCurve.hxx>
#include <Standard_Failure.hxx>
#include <TColStd_Array1OfInteger.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <TColgp_Array1OfPnt2d.hxx>
#include <algorithm>
#include <cmath>

#include "sketch/drawing.h"

namespace lostline::model {
namespace {

constexpr double kNear = 1e-3;  // mm

sketch::SplineForm form_of(const Geom2d_BSplineCurve& curve) {
  sketch::SplineForm form;
  for (int k = 1; k <= curve.NbPoles(); ++k)
    form.spline.poles.emplace_back(curve.Pole(k).X(), curve.Pole(k).Y());
  for (int k = 1; k <= curve.NbKnots(); ++k)
    form.spline.knots.insert(form.spline.knots.end(),
                             static_cast<std::size_t>(curve.Multiplicity(k)), curve.Knot(k));
  return form;
}

/// Interpolated through ever more places until it is near between them as well.
std::optional<sketch::SplineForm> through(const Geom2d_BSplineCurve& curve) {
  const double from = curve.FirstParameter();
  const double to = curve.LastParameter();
  const auto at = [&](double share) {
    const gp_Pnt2d p = curve.Value(from + share * (to - from));
    return Vec2(p.X(), p.Y());
  };
  std::optional<sketch::SplineForm> form;
  constexpr int kMostPlaces = 1024;
  for (int places = 16; places <= kMostPlaces; places *= 2) {
    std::vector<Vec2> points;
    for (int k = 0; k <= places; ++k) points.push_back(at(static_cast<double>(k) / places));
    const auto spline = sketch::spline_through(points, false);
    if (!spline) return form;
    form = sketch::SplineForm{*spline};
    double off = 0;
    for (int k = 0; k < places; ++k) {
      const Vec2 p = at((k + 0.5) / places);
      off = std::max(off, (spline->at(spline->parameter(p)) - p).norm());
    }
    if (off < kNear) break;
  }
  return form;
}

}  // namespace

std::optional<sketch::SplineForm> sketch_spline(const KernelSpline& s) {
  const std::size_t degree = static_cast<std::size_t>(std::max(s.degree, 0));
  if (degree < 1 || degree > 25 || s.poles.size() < degree + 1 ||
      s.knots.size() != s.poles.size() + degree + 1 ||
      !std::is_sorted(s.knots.begin(), s.knots.end()))
    return std::nullopt;
  for (const Vec2& p : s.poles) {
    if (!p.allFinite()) return std::nullopt;
  }
  try {
    std::vector<double> values;
    std::vector<int> times;
    for (const double knot : s.knots) {
      if (!std::isfinite(knot)) return std::nullopt;
      if (values.empty() || knot > values.back() + 1e-12 * std::abs(values.back())) {
        values.push_back(knot);
        times.push_back(1);
      } else {
        ++times.back();
      }
    }
    if (values.size() < 2) return std::nullopt;
    const auto count = static_cast<int>(values.size());
    TColgp_Array1OfPnt2d poles(1, static_cast<int>(s.poles.size()));
    TColStd_Array1OfReal weights(1, static_cast<int>(s.poles.size()));
    for (std::size_t k = 0; k < s.poles.size(); ++k) {
      poles.SetValue(static_cast<int>(k) + 1, gp_Pnt2d(s.poles[k].x(), s.poles[k].y()));
      weights.SetValue(static_cast<int>(k) + 1, k < s.weights.size() ? s.weights[k] : 1.0);
    }
    TColStd_Array1OfReal knots(1, count);
    TColStd_Array1OfInteger multiplicities(1, count);
    for (int k = 0; k < count; ++k) {
      knots.SetValue(k + 1, values[static_cast<std::size_t>(k)]);
      multiplicities.SetValue(k + 1, times[static_cast<std::size_t>(k)]);
    }
    Handle(Geom2d_BSplineCurve) curve =
        new Geom2d_BSplineCurve(poles, weights, knots, multiplicities, static_cast<int>(degree));
    // Clamped, so that it begins and ends at its outer poles.
    curve->Segment(curve->FirstParameter(), curve->LastParameter());
    if (!curve->IsRational() && degree < 3) curve->IncreaseDegree(3);
    if (!curve->IsRational() && curve->Degree() == 3) return form_of(*curve);
    return through(*curve);
  } catch (const Standard_Failure&) {
    return std::nullopt;
  }
}

}  // namespace lostline::model
