#pragma once

#include <optional>
#include <vector>

#include "section/plane_spline.h"
#include "section/section.h"

namespace lostline::section {

enum class CurveType { Line, Arc, Circle, Ellipse, Spline };

/// A curve resolved from a stretch of section points. Bounded ones run from `start` to `end` in the
/// order of the points.
struct Curve {
  CurveType type = CurveType::Line;
  Vec2 start = Vec2::Zero();
  Vec2 end = Vec2::Zero();
  Vec2 centre = Vec2::Zero();
  double radius = 0;                ///< of an ellipse the major one
  Vec2 major_axis = Vec2::UnitX();  ///< unit vector, of an ellipse
  double minor_radius = 0;          ///< of an ellipse
  PlaneSpline spline;               ///< from start to end
  bool whole = false;               ///< closes on itself: a circle, an ellipse, a closed spline
  bool counter_clockwise = true;    ///< of an arc from start to end, round the centre
  std::size_t first =
      0;  ///< range of points [first, last] in the polyline; wraps round in closed ones
  std::size_t last = 0;
  double rms = 0;                  ///< mm
  double max_drift = 0;            ///< greatest distance of a point of the range, mm
  std::optional<double> u_radius;  ///< expanded (k = 2), mm, of the radius of an arc or circle
  bool joined = false;             ///< its end is the start of the next curve
  bool tangent = false;  ///< and it goes over into the next one smoothly, as far as the points tell
};

struct ResolveOptions {
  /// mm: departures below this are nobody's intent, whatever the noise; 0: the noise of the points
  /// alone decides.
  double tolerance = 0;
  double noise = 0;    ///< mm: standard deviation of one point across the curve; 0: from the points
  double spacing = 0;  ///< mm: of the points of the scan; 0: from those of the section
  /// mm: up to so much is left out between two curves, where a scanner rounds the corner; 0: 2.2
  /// spacings.
  double corner = 0;
  double largest_radius = 0;  ///< mm: flatter arcs are taken as lines; 0: twenty times the extent
  /// An open run that is one arc of more than 200 degrees is a circle (or an ellipse) of which the
  /// scan lacks the rest: what was made to end there would show how it ends.
  bool close_rounds = false;
};

/// Explains a run of section points by the fewest lines, arcs, circles, ellipses and splines: each
/// must pay for itself against the noise, which neighbours share. Where two go over into each other
/// smoothly, as far as the points tell, they are tangent; else they meet in a corner. A closed run
/// may be one circle, one ellipse or one closed spline.
/// @errors InvalidInput  fewer than four points, or a tolerance, noise or spacing below zero.
/// About 10 ms for 1 000 points. Source: see section/resolving/segment.h.
Result<std::vector<Curve>> resolve(const Polyline& polyline, const ResolveOptions& options = {});

/// One curve of a given kind through a whole run of points; a closed run may be a circle, an
/// ellipse or a closed spline. A spline has as many poles as pay for themselves against the noise.
/// @errors InvalidInput  fewer than four points, or a kind that does not close;  Degenerate  the
/// points do not determine one.
Result<Curve> fit_curve(const Polyline& polyline, CurveType type,
                        const ResolveOptions& options = {});

/// Standard deviation (mm) of one point across the curves that explain a section, over its longest
/// runs; 0 without enough points.
double noise_of(const Section& section);

/// Least-squares circle by geometric distance. Source: W. Gander et al., Least-squares fitting of
/// circles and ellipses, BIT 34 (1994).
struct CircleFit {
  Vec2 centre;
  double radius;
  double rms;
};
std::optional<CircleFit> fit_circle(const std::vector<Vec2>& points);

}  // namespace lostline::section
