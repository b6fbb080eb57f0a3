#include "bench/point_batch.h"

#include <numeric>

namespace lostline::app {

std::shared_ptr<const PointBatch> point_batch(const std::vector<Vec3>& points,
                                              const std::vector<Vec3>& normals,
                                              const QColor& colour, float size) {
  auto batch = std::make_shared<PointBatch>();
  batch->colour = colour;
  batch->size = size;
  const std::size_t count = points.size();
  Box3 box;
  for (const Vec3& p : points) box.extend(p);
  if (count > 0) batch->origin = box.center();
  // Steps of about the golden section of the count that visit each one.
  std::size_t step = static_cast<std::size_t>(0.6180339887 * static_cast<double>(count)) | 1U;
  while (count > 1 && std::gcd(step, count) != 1) step += 2;
  batch->numbers.reserve(6 * count);
  for (std::size_t k = 0, i = 0; k < count; ++k, i = (i + step) % count) {
    const Vec3 p = points[i] - batch->origin;
    for (int c = 0; c < 3; ++c) batch->numbers.push_back(static_cast<float>(p[c]));
    for (int c = 0; c < 3; ++c) batch->numbers.push_back(static_cast<float>(normals[i][c]));
  }
  return batch;
}

}  // namespace lostline::app
