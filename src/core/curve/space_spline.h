#pragma once

#include <vector>

#include "base/geometry.h"
#include "base/result.h"

namespace lostline::curve {

/// A smooth curve in space through places in order: cubic from place to place, curvature without
/// jumps, parametrised by the lengths of the chords. Open ends carry on as the curve before them
/// does (not-a-knot). Source: C. de Boor, A Practical Guide to Splines (1978), IV.
class SpaceSpline {
 public:
  /// @param places  two or more (closed: three), mm; neighbours apart.
  /// @errors InvalidInput  too few, not finite, or two in the same place.
  static Result<SpaceSpline> through(const std::vector<Vec3>& places, bool closed);

  [[nodiscard]] double range() const { return times_.back(); }  ///< parameters 0 … range
  [[nodiscard]] bool closed() const { return closed_; }
  [[nodiscard]] Vec3 at(double t) const;
  [[nodiscard]] Vec3 slope(double t) const;  ///< derivative by the parameter
  struct Near {
    double t = 0;
    Vec3 point = Vec3::Zero();
    double distance = 0;
  };
  [[nodiscard]] Near nearest(const Vec3& p) const;
  [[nodiscard]] double length() const;  ///< mm
  /// Points about `apart` mm from each other, with both ends.
  [[nodiscard]] std::vector<Vec3> points(double apart) const;

  /// The same curve as a B-spline of degree 3 with simple inner knots; a closed one begins and ends
  /// in its first place.
  struct Poles {
    std::vector<double> knots;  ///< each once: the first and last count four times
    std::vector<Vec3> poles;
  };
  [[nodiscard]] Poles poles() const;

 private:
  friend class PlacesFit;
  SpaceSpline(std::vector<double> times, std::vector<Vec3> places, std::vector<Vec3> slopes,
              bool closed)
      : times_(std::move(times)),
        places_(std::move(places)),
        slopes_(std::move(slopes)),
        closed_(closed) {}
  [[nodiscard]] std::size_t piece(double t) const;

  std::vector<double> times_;  ///< of the places; of a closed curve with the first once more
  std::vector<Vec3> places_, slopes_;
  bool closed_;
};

/// Places whose spline follows a line of points.
struct Followed {
  std::vector<Vec3> places;
  double rms = 0;       ///< mm, of the points from the spline
  double p95 = 0;       ///< mm, which 95 % of them lie within
  double greatest = 0;  ///< mm
};
/// The fewest places, as far as adding them one by one where the curve is furthest off finds them,
/// whose spline has 95 % of the points within a tolerance; placed by least squares, so that noise
/// of the points is averaged.
/// @param points  in order, mm; of a closed line the first one is not repeated.
/// @errors InvalidInput  too few points, or a tolerance that is not above 0;  Degenerate  they all
/// lie in one place.
Result<Followed> follow(const std::vector<Vec3>& points, bool closed, double tolerance);

}  // namespace lostline::curve
