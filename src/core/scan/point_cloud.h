#pragma once

#include <cstdint>
#include <vector>

#include "base/geometry.h"

namespace lostline::scan {

/// Points of a scanner or probe that nothing joins yet, mm.
struct PointCloud {
  std::vector<Vec3> points;
  std::vector<Vec3> normals;  ///< one a point, unit, out of the material; or none
  /// mm, one standard deviation, one a point; or none. Points of a scanner that is twice as good
  /// count four times as much.
  std::vector<float> noise;
  std::vector<Vec3> eyes;           ///< where the scanner stood, mm; or none
  std::vector<std::uint16_t> seen;  ///< of each point, from which of them; or none

  [[nodiscard]] bool has_normals() const { return !normals.empty(); }
};

}  // namespace lostline::scan
