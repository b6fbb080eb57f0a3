#include "model/edge_form.h"

#include <Eigen/SVD>
#include <GeomAbs_CurveType.hxx>
#include <GeomConvert.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_TrimmedCurve.hxx>
#include <algorithm>
#include <cmath>
#include <gp_Circ.hxx>
#include <gp_Elips.hxx>
#include <numbers>

#include "model/kernel_spline.h"
#include "model/model_impl.h"

namespace lostline::model {
namespace {

constexpr double kSamePlace = 1e-7;  // mm, of which the kernel takes two points for one
constexpr double kFlat = 1e-9;       // share of its length that an edge seen edge on is wide

Vec3 unit(const gp_Dir& d) { return {d.X(), d.Y(), d.Z()}; }

/// How far t * cosine of it reaches while t runs from `start` over `sweep`.
std::pair<double, double> cosine_range(double start, double sweep) {
  double low = std::min(std::cos(start), std::cos(start + sweep));
  double high = std::max(std::cos(start), std::cos(start + sweep));
  // Its turning points are the multiples of a half turn.
  for (double k = std::ceil(start / std::numbers::pi); k * std::numbers::pi <= start + sweep; ++k) {
    const double c = std::cos(k * std::numbers::pi);
    low = std::min(low, c);
    high = std::max(high, c);
  }
  return {low, high};
}

/// centre + cos(t) u + sin(t) v for t from `start` over `sweep`, where u and v are half axes in
/// space: projected, two conjugate half diameters of the ellipse that is seen.
std::optional<sketch::Form> round_seen(const Placement& plane, const Vec3& centre, const Vec3& u,
                                       const Vec3& v, double start, double sweep) {
  Eigen::Matrix2d half;
  half << u.dot(plane.x), v.dot(plane.x), u.dot(plane.y), v.dot(plane.y);
  const Eigen::JacobiSVD<Eigen::Matrix2d> svd(half, Eigen::ComputeFullU | Eigen::ComputeFullV);
  const Eigen::Matrix2d turn = svd.matrixV();
  Eigen::Matrix2d axes = svd.matrixU();
  const double major = svd.singularValues()[0];
  const double minor = svd.singularValues()[1];
  // t is counted from the major axis, and against the turn where the curve is seen from behind.
  if (turn.determinant() < 0) axes.col(1) = -axes.col(1);
  double from = start - std::atan2(turn(1, 0), turn(0, 0));
  if (axes.determinant() < 0) from = -(from + sweep);
  const Vec2 middle = plane.to_plane(centre);
  const Vec2 axis = axes.col(0);
  if (minor <= kFlat * major) {
    const auto [low, high] = cosine_range(from, sweep);
    if (major * (high - low) < kSamePlace) return std::nullopt;
    return sketch::StraightForm{middle + low * major * axis, middle + high * major * axis};
  }
  if (major - minor <= kFlat * major)
    return sketch::RoundForm{middle, major, std::atan2(axis.y(), axis.x()) + from, sweep};
  return sketch::EllipticForm{middle, axis, major, minor, from, sweep};
}

/// A spline that lies on a line is that line.
std::optional<sketch::Form> straightened(const KernelSpline& s) {
  const Vec2 a = s.poles.front();
  Vec2 far = a;
  for (const Vec2& p : s.poles) {
    if ((p - a).norm() > (far - a).norm()) far = p;
  }
  const double length = (far - a).norm();
  if (length < kSamePlace) return std::nullopt;
  const Vec2 along = (far - a) / length;
  double low = 0;
  double high = length;
  for (const Vec2& p : s.poles) {
    const Vec2 d = p - a;
    if (std::abs(along.x() * d.y() - along.y() * d.x()) > std::max(kSamePlace, kFlat * length))
      return std::nullopt;
    low = std::min(low, along.dot(d));
    high = std::max(high, along.dot(d));
  }
  return sketch::StraightForm{a + low * along, a + high * along};
}

}  // namespace

std::optional<sketch::Form> plane_form(const BRepAdaptor_Curve& curve, const Placement& plane) {
  const double from = curve.FirstParameter();
  const double sweep = curve.LastParameter() - from;
  switch (curve.GetType()) {
    case GeomAbs_Line: {
      const Vec2 a = plane.to_plane(vec(curve.Value(from)));
      const Vec2 b = plane.to_plane(vec(curve.Value(from + sweep)));
      if (!((a - b).norm() > kSamePlace)) return std::nullopt;
      return sketch::StraightForm{a, b};
    }
    case GeomAbs_Circle: {
      const gp_Circ c = curve.Circle();
      return round_seen(plane, vec(c.Location()), c.Radius() * unit(c.XAxis().Direction()),
                        c.Radius() * unit(c.YAxis().Direction()), from, sweep);
    }
    case GeomAbs_Ellipse: {
      const gp_Elips e = curve.Ellipse();
      return round_seen(plane, vec(e.Location()), e.MajorRadius() * unit(e.XAxis().Direction()),
                        e.MinorRadius() * unit(e.YAxis().Direction()), from, sweep);
    }
    default:
      break;
  }
  const Handle(Geom_TrimmedCurve) piece = new Geom_TrimmedCurve(
      Handle(Geom_Curve)::DownCast(curve.Curve().Curve()->Transformed(curve.Trsf())), from,
      from + sweep);
  const Handle(Geom_BSplineCurve) spline = GeomConvert::CurveToBSplineCurve(piece);
  if (spline.IsNull()) return std::nullopt;
  if (spline->IsPeriodic()) spline->SetNotPeriodic();
  // Seen square to a plane, the poles of a spline are those of what is seen.
  KernelSpline s;
  s.degree = spline->Degree();
  for (int k = 1; k <= spline->NbPoles(); ++k) {
    s.poles.push_back(plane.to_plane(vec(spline->Pole(k))));
    s.weights.push_back(spline->Weight(k));
  }
  for (int k = 1; k <= spline->NbKnots(); ++k)
    s.knots.insert(s.knots.end(), static_cast<std::size_t>(spline->Multiplicity(k)),
                   spline->Knot(k));
  if (auto line = straightened(s)) return line;
  auto form = sketch_spline(s);
  if (!form) return std::nullopt;
  return *std::move(form);
}

}  // namespace lostline::model
