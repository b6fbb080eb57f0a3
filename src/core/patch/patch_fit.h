#pragma once

#include <vector>

#include "base/task.h"
#include "patch/patch.h"

// Inside of fit_patch: a surface of so many spans fitted to the points of an area.

namespace lostline::patch {

/// The area by itself.
struct Area {
  std::vector<Vec3> points;
  std::vector<std::uint32_t> vertices;
  std::vector<scan::Triangle> triangles;
};

/// The flat layout turned into its narrowest box, its longer side along u, in [0, 1] with a margin.
struct Domain {
  double length, width;      ///< mm, with the margin
  std::vector<Vec2> at;      ///< of each point
  std::vector<Vec2> border;  ///< near the feet of the places that are held
};

class PoleMatrix;

/// Least squares of distance with a thin-plate term, the points' parameters corrected to their feet
/// in turns. Where a border is held the face is drawn on to it, and only what lies inside counts.
class PatchFit {
 public:
  PatchFit(const Area& area, Domain domain, const PatchOptions& options);

  /// Begins with a surface that is known already, instead of the flat layout.
  void begin_at(const SplineSurface& surface);
  /// Fits with so many spans along the longer side, from the feet known so far. False when the
  /// equations cannot be solved.
  bool fit(std::size_t spans, const Task& task);
  [[nodiscard]] double rms() const { return rms_; }
  [[nodiscard]] double p95() const { return p95_; }
  [[nodiscard]] double greatest() const { return greatest_; }
  /// Of the places that are held: greatest distance, mm, and turn, rad.
  [[nodiscard]] double border_off() const { return border_off_; }
  [[nodiscard]] double border_turn() const { return border_turn_; }
  [[nodiscard]] const SplineSurface& surface() const { return surface_; }
  [[nodiscard]] const std::vector<Vec2>& feet() const { return feet_; }
  [[nodiscard]] const std::vector<Vec2>& border() const { return border_; }

 private:
  /// Feet and slopes of the border on the surface as it is, and what lies inside it now.
  void hold_border(int rounds);
  void leave_out_what_lies_outside();
  bool solve(const PoleMatrix& stiff, double stiffness);
  void find_feet(int rounds);
  void measure();

  const Area& area_;
  Domain domain_;
  const PatchOptions& options_;
  SplineSurface surface_;
  std::vector<Vec2> feet_;
  std::vector<double> weights_, off_;
  std::vector<char> inside_;  ///< of the border that is held
  std::vector<Vec2> border_;  ///< feet of the places that are held
  std::vector<std::pair<Vec3, Vec3>> border_slopes_;
  double rms_ = 0, p95_ = 0, greatest_ = 0, border_off_ = 0, border_turn_ = 0;
};

}  // namespace lostline::patch
