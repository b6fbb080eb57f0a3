#pragma once

#include <functional>
#include <memory>
#include <span>
#include <vector>

#include "base/geometry.h"
#include "sketch/plane_curve.h"

namespace lostline::sketch {

struct Sketch;

/// Which curve of a sketch lies nearest to each of many points that follow one another, as those of
/// a section do. Construction is left out.
class NearestCurve {
 public:
  /// Places the curves; later changes of the sketch are not seen.
  explicit NearestCurve(const Sketch& sketch);

  struct Found {
    std::size_t entity;  ///< index into the sketch's entities
    double drift;        ///< as PlaneCurve::drift, mm
    Vec2 foot;           ///< on the bounded curve
  };
  using Receive = std::function<void(std::size_t point, const Found& found)>;
  /// Calls `receive` in the order of the points for each of them that has a curve nearer than
  /// `reach` (mm); of curves equally near, the first of the sketch. Curves whose box is too far are
  /// not asked.
  void along(std::span<const Vec2> points, double reach, const Receive& receive) const;

 private:
  struct Placed {
    std::size_t entity;
    std::unique_ptr<PlaneCurve> curve;
    Eigen::AlignedBox2d box;
  };
  std::vector<Placed> curves_;
};

}  // namespace lostline::sketch
