#pragma once

#include <optional>
#include <vector>

#include "section/section.h"

namespace lostline::section {

enum class CurveType { Line, Arc, Circle };

/// A curve resolved from a stretch of section points. Lines and arcs run from `start` to `end` in
/// the order of the points.
struct Curve {
  CurveType type = CurveType::Line;
  Vec2 start = Vec2::Zero();
  Vec2 end = Vec2::Zero();
  Vec2 centre = Vec2::Zero();
  double radius = 0;
  bool counter_clockwise = true;  ///< of an arc from start to end
  std::size_t first =
      0;  ///< range of points [first, last] in the polyline; wraps round in closed ones
  std::size_t last = 0;
  double rms = 0;        ///< mm
  double max_drift = 0;  ///< greatest distance of a point of the range, mm
  bool joined = false;   ///< its end is the start of the next curve
};

struct ResolveOptions {
  double tolerance =
      0.1;  ///< mm: points lie within it of their curve, but for 2 % strays within three times it
  double corner_reach = 3.0;     ///< stretches shorter than this many tolerances plus two point
                                 ///< spacings are noise at corners and dropped
  double largest_radius = 0;  ///< mm: flatter arcs are taken as lines; 0: twenty times the extent
};

/// Splits a polyline into lines, arcs and full circles within the tolerance: each curve reaches as
/// far as it can, then the borders between neighbours move to where the summed squares are least,
/// and neighbours are joined at their intersection.
/// @errors InvalidInput  fewer than four points or a tolerance that is not positive.
/// O(n log n).
Result<std::vector<Curve>> resolve(const Polyline& polyline, const ResolveOptions& options = {});

/// Least-squares circle by geometric distance. Source: W. Gander et al., Least-squares fitting of
/// circles and ellipses, BIT 34 (1994).
struct CircleFit {
  Vec2 centre;
  double radius;
  double rms;
};
std::optional<CircleFit> fit_circle(const std::vector<Vec2>& points);

}  // namespace lostline::section
