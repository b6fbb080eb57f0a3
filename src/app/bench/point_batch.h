#pragma once

#include <QColor>
#include <memory>
#include <vector>

#include "base/geometry.h"

namespace lostline::app {

/// Points that nothing joins, as an instrument delivers them, the way the graphics card takes them.
struct PointBatch {
  Vec3 origin = Vec3::Zero();  ///< part coordinates, mm
  /// Place from the origin and normal of each point, six numbers; in an order of which every
  /// beginning is spread over the whole.
  std::vector<float> numbers;
  QColor colour;
  float size = 2;  ///< pixels

  [[nodiscard]] std::size_t count() const { return numbers.size() / 6; }
  [[nodiscard]] Vec3 point(std::size_t i) const {
    return origin + Vec3(numbers[6 * i], numbers[6 * i + 1], numbers[6 * i + 2]);
  }
};

/// May take a while for many points: on any thread.
/// @param points   part coordinates, mm.
/// @param normals  one each, out of the material: those that look away are not drawn.
std::shared_ptr<const PointBatch> point_batch(const std::vector<Vec3>& points,
                                              const std::vector<Vec3>& normals,
                                              const QColor& colour, float size = 2);

}  // namespace lostline::app
