#include "model/steps/loft/skin.h"

#include <BSplCLib.hxx>
#include <GeomAPI_Interpolate.hxx>
#include <Geom_BSplineCurve.hxx>
#include <TColStd_Array1OfInteger.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <TColStd_HArray1OfReal.hxx>
#include <TColgp_Array2OfPnt.hxx>
#include <TColgp_HArray1OfPnt.hxx>
#include <algorithm>
#include <array>
#include <cmath>

#include "model/model_impl.h"

namespace lostline::model {
namespace {

using Curve = Handle(Geom_BSplineCurve);
/// A row's places along one curve, by shares of its length.
using Course = std::function<Vec3(double share)>;

// Spans tried along a curve, until all sections are met.
constexpr std::array<int, 14> kSpans{1, 2, 3, 4, 6, 8, 12, 16, 24, 32, 48, 64, 96, 128};
constexpr int kRing = 6;          // spans of a ring at least: fewer do not turn round
constexpr double kWithin = 1e-6;  // of the size: a tenth of a micrometre on 100 mm
constexpr double kMost = 1e-4;    // mm, of large ones: below any measurement
constexpr double kCorner = 20;    // times that with all spans: no smooth curve does it

/// Where a course leaves its end: differences of second order, over a stretch so short that what
/// they leave out is far below kWithin.
Vec3 slope_at_end(const Course& course, bool last) {
  constexpr double kStep = 1e-4;
  const double from = last ? 1 : 0;
  const double step = last ? -kStep : kStep;
  return (-3 * course(from) + 4 * course(from + step) - course(from + 2 * step)) / (2 * step);
}

/// Cubic, with knots at even shares, through the course there.
Curve spline_through(const Course& course, int spans, bool ring) {
  const int count = ring ? spans : spans + 1;
  const Handle(TColgp_HArray1OfPnt) places = new TColgp_HArray1OfPnt(1, count);
  const Handle(TColStd_HArray1OfReal) shares = new TColStd_HArray1OfReal(1, spans + 1);
  for (int k = 0; k <= spans; ++k) {
    const double share = static_cast<double>(k) / spans;
    shares->SetValue(k + 1, share);
    if (k < count) places->SetValue(k + 1, pnt(course(share)));
  }
  GeomAPI_Interpolate through(places, shares, ring, 1e-12);
  if (!ring)
    through.Load(gp_Vec(pnt(Vec3::Zero()), pnt(slope_at_end(course, false))),
                 gp_Vec(pnt(Vec3::Zero()), pnt(slope_at_end(course, true))), false);
  through.Perform();
  return through.IsDone() ? through.Curve() : Curve();
}

/// Greatest distance between a course and its spline, at places between the knots.
double miss_of(const Course& course, const Curve& spline, int spans) {
  double worst = 0;
  for (int k = 0; k < spans; ++k) {
    for (const double between : {0.25, 0.5, 0.75}) {
      const double share = (k + between) / spans;
      worst = std::max(worst, (vec(spline->Value(share)) - course(share)).norm());
    }
  }
  return worst;
}

/// Weights of the rows in the slope at an end: that of the polynomial through the four nearest.
std::vector<double> end_weights(const std::vector<LoftRow>& rows, bool last) {
  const std::size_t count = std::min<std::size_t>(4, rows.size());
  std::vector<double> weights(rows.size(), 0.0);
  const auto at = [&](std::size_t k) { return last ? rows.size() - 1 - k : k; };
  const double here = rows[at(0)].along;
  for (std::size_t k = 1; k < count; ++k) {
    double weight = 1 / (rows[at(k)].along - here);
    for (std::size_t j = 1; j < count; ++j)
      if (j != k) weight *= (here - rows[at(j)].along) / (rows[at(k)].along - rows[at(j)].along);
    weights[at(k)] = weight;
    weights[at(0)] -= weight;
  }
  return weights;
}

std::vector<gp_Pnt> poles_of(const Curve& curve) {
  std::vector<gp_Pnt> poles;
  for (int k = 1; k <= curve->NbPoles(); ++k) poles.push_back(curve->Pole(k));
  return poles;
}

/// One end of the strip of one curve.
struct Tail {
  const LoftEnd& end;
  bool last;
  std::vector<double> weights;

  [[nodiscard]] Vec3 slope(const std::vector<Course>& courses, double share) const {
    if (end.way) return *end.way;
    Vec3 sum = Vec3::Zero();
    for (std::size_t k = 0; k < weights.size(); ++k)
      if (weights[k] != 0) sum += weights[k] * courses[k](share);
    return sum;
  }
  /// The same of lines of poles, one for each row.
  [[nodiscard]] std::vector<gp_Pnt> slopes(const std::vector<std::vector<gp_Pnt>>& poles) const {
    std::vector<gp_Pnt> slopes;
    for (std::size_t i = 0; i < poles.front().size(); ++i) {
      gp_XYZ sum(0, 0, 0);
      for (std::size_t k = 0; k < poles.size(); ++k) sum += weights[k] * poles[k][i].XYZ();
      slopes.emplace_back(end.way ? pnt(*end.way).XYZ() : sum);
    }
    return slopes;
  }
  /// Where it ends that goes straight on; in `flat` whether it never gets there.
  [[nodiscard]] Vec3 beyond(const std::vector<Course>& courses, double share, bool& flat) const {
    constexpr double kFlat = 0.05;  // sine: flatter than 3 degrees
    const Vec3 way = slope(courses, share);
    const double rise = way.dot(end.normal);
    if (!(rise > kFlat * way.norm())) {
      flat = true;
      return way;
    }
    return (last ? courses.back() : courses.front())(share) +
           (last ? end.reach : -end.reach) / rise * way;
  }
};

/// Lines of poles from row to row, of one strip.
struct Strip {
  Curve like;  ///< the knots along the curve
  std::vector<std::vector<gp_Pnt>> lines;
  std::vector<double> knots;
  std::vector<int> times;

  [[nodiscard]] Handle(Geom_BSplineSurface) surface() const {
    const int nu = like->NbPoles();
    const int nv = static_cast<int>(lines.size());
    TColgp_Array2OfPnt poles(1, nu, 1, nv);
    for (int i = 1; i <= nu; ++i)
      for (int j = 1; j <= nv; ++j)
        poles.SetValue(i, j,
                       lines[static_cast<std::size_t>(j) - 1][static_cast<std::size_t>(i) - 1]);
    TColStd_Array1OfReal u(1, like->NbKnots());
    TColStd_Array1OfInteger u_times(1, like->NbKnots());
    like->Knots(u);
    like->Multiplicities(u_times);
    const int count = static_cast<int>(knots.size());
    TColStd_Array1OfReal v(1, count);
    TColStd_Array1OfInteger v_times(1, count);
    for (int k = 1; k <= count; ++k) {
      v.SetValue(k, knots[static_cast<std::size_t>(k) - 1]);
      v_times.SetValue(k, times[static_cast<std::size_t>(k) - 1]);
    }
    return new Geom_BSplineSurface(poles, u, v, u_times, v_times, 3, 3, like->IsPeriodic(), false);
  }

  /// Goes straight on to a line of poles; the slope there stays.
  void go_on(const std::vector<gp_Pnt>& to, bool last) {
    if (!last) reverse();
    const std::vector<gp_Pnt>& here = lines.back();
    const std::vector<gp_Pnt>& inner = lines[lines.size() - 2];
    const double span = knots.back() - knots[knots.size() - 2];
    double share = 0;  // of the way to the end in a third of the last span, on the whole
    for (std::size_t i = 0; i < to.size(); ++i)
      share += inner[i].Distance(here[i]) / std::max(here[i].Distance(to[i]), 1e-300) /
               static_cast<double>(to.size());
    const double reach = span / (3 * std::max(share, 1e-6));
    std::vector<gp_Pnt> near = to;
    std::vector<gp_Pnt> half = to;
    for (std::size_t i = 0; i < to.size(); ++i) {
      near[i] = here[i].Translated(gp_Vec(inner[i], here[i]) * (reach / span));
      half[i] = near[i].Translated(0.5 * gp_Vec(near[i], to[i]));
    }
    lines.back() = near;  // with two knots at the joint the pole between them goes
    lines.push_back(half);
    lines.push_back(to);
    times.back() = 2;
    knots.push_back(knots.back() + reach);
    times.push_back(4);
    if (!last) reverse();
  }

 private:
  void reverse() {
    std::reverse(lines.begin(), lines.end());
    std::reverse(knots.begin(), knots.end());
    std::reverse(times.begin(), times.end());
    for (double& knot : knots) knot = -knot;
  }
};

/// Cubic from row to row, with the slopes at both ends.
Strip strip_through(const std::vector<LoftRow>& rows, const std::vector<std::vector<gp_Pnt>>& poles,
                    const std::vector<gp_Pnt>& first_slope, const std::vector<gp_Pnt>& last_slope) {
  const int count = static_cast<int>(rows.size());
  const auto wide = static_cast<int>(poles.front().size());
  Strip strip;
  for (const LoftRow& row : rows) {
    strip.knots.push_back(row.along);
    strip.times.push_back(1);
  }
  strip.times.front() = strip.times.back() = 4;
  TColStd_Array1OfReal flat(1, count + 6);
  for (int k = 1; k <= count + 6; ++k)
    flat.SetValue(k, rows[static_cast<std::size_t>(std::clamp(k - 4, 0, count - 1))].along);
  TColStd_Array1OfReal parameters(1, count + 2);
  TColStd_Array1OfInteger contact(1, count + 2);
  std::vector<double> values;
  const auto put = [&](int at, double along, int order, const std::vector<gp_Pnt>& line) {
    parameters.SetValue(at, along);
    contact.SetValue(at, order);
    for (const gp_Pnt& p : line) values.insert(values.end(), {p.X(), p.Y(), p.Z()});
  };
  put(1, rows.front().along, 0, poles.front());
  put(2, rows.front().along, 1, first_slope);
  for (int k = 1; k + 1 < count; ++k)
    put(k + 2, rows[static_cast<std::size_t>(k)].along, 0, poles[static_cast<std::size_t>(k)]);
  put(count + 1, rows.back().along, 1, last_slope);
  put(count + 2, rows.back().along, 0, poles.back());
  int problem = 0;
  BSplCLib::Interpolate(3, flat, parameters, contact, 3 * wide, values.front(), problem);
  for (std::size_t k = 0; k < values.size();) {
    std::vector<gp_Pnt>& line = strip.lines.emplace_back();
    for (int i = 0; i < wide; ++i, k += 3)
      line.emplace_back(values[k], values[k + 1], values[k + 2]);
  }
  return strip;
}

/// The fewest spans along one curve with which all sections are met.
/// @errors Degenerate  a section has no length or a corner within.
Result<int> spans_for(const std::vector<LoftRow>& rows, const std::vector<Course>& courses,
                      bool ring, double within) {
  double miss = 0;
  for (const int spans : kSpans) {
    if (ring && spans < kRing) continue;
    miss = 0;
    for (std::size_t k = 0; k < rows.size() && miss <= within; ++k) {
      if (!rows[k].section) continue;
      const Curve spline = spline_through(courses[k], spans, ring);
      if (spline.IsNull())
        return Error{ErrorCode::Degenerate, "A curve of the loft folds upon itself."};
      miss = std::max(miss, miss_of(courses[k], spline, spans));
    }
    if (miss <= within) return spans;
  }
  if (miss > kCorner * within)
    return Error{ErrorCode::Degenerate,
                 "A curve of the loft's sections has a corner within. Divide it there."};
  return kSpans.back();
}

/// The surface of one curve of the rows.
Result<Handle(Geom_BSplineSurface)> surface_through(const std::vector<LoftRow>& rows,
                                                    const std::vector<Course>& courses, bool ring,
                                                    double within, const LoftEnd& start,
                                                    const LoftEnd& end) {
  const auto fewest = spans_for(rows, courses, ring, within);
  if (!fewest) return fewest.error();
  // What lies between the sections follows guides, which want places of their own.
  constexpr int kBetween = 24;
  const bool guided =
      std::any_of(rows.begin(), rows.end(), [](const LoftRow& row) { return !row.section; });
  const int spans = guided ? std::max(*fewest, kBetween) : *fewest;
  std::vector<std::vector<gp_Pnt>> poles;
  Curve like;
  for (const Course& course : courses) {
    like = spline_through(course, spans, ring);
    if (like.IsNull())
      return Error{ErrorCode::Degenerate, "A section between those given has no length."};
    poles.push_back(poles_of(like));
  }
  const Tail first{start, false, end_weights(rows, false)};
  const Tail last{end, true, end_weights(rows, true)};
  Strip strip = strip_through(rows, poles, first.slopes(poles), last.slopes(poles));
  strip.like = like;
  for (const Tail* tail : {&first, &last}) {
    if (!(tail->end.reach > 0)) continue;
    bool flat = false;
    const Curve far = spline_through(
        [&](double share) { return tail->beyond(courses, share, flat); }, spans, ring);
    if (flat || far.IsNull())
      return Error{ErrorCode::Degenerate,
                   "The loft leaves its end section nearly along that section's plane and cannot "
                   "go on beyond it."};
    strip.go_on(poles_of(far), tail->last);
  }
  return strip.surface();
}

}  // namespace

Result<std::vector<Handle(Geom_BSplineSurface)>> skin_through(const std::vector<LoftRow>& rows,
                                                              std::size_t curves, bool ring,
                                                              bool closed, const LoftEnd& start,
                                                              const LoftEnd& end) {
  double size = rows.back().along;
  for (const LoftRow& row : rows) size = std::max(size, (row.at(0, 0) - row.at(0, 0.5)).norm());
  std::vector<Handle(Geom_BSplineSurface)> surfaces;
  for (std::size_t c = 0; c < curves; ++c) {
    // Corners are shared with the next curve to the last digit.
    std::vector<Course> courses;
    for (const LoftRow& row : rows) {
      courses.emplace_back([&row, c, curves, closed](double share) {
        const bool at_corner = share >= 1 && (c + 1 < curves || closed);
        return at_corner ? row.at((c + 1) % curves, 0) : row.at(c, share);
      });
    }
    const auto side =
        surface_through(rows, courses, ring, std::min(kWithin * size, kMost), start, end);
    if (!side) return side.error();
    surfaces.push_back(*side);
  }
  return surfaces;
}

}  // namespace lostline::model
