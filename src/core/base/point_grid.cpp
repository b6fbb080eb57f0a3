#include "base/point_grid.h"

#include <Eigen/Core>

namespace lostline {

PointGrid::PointGrid(const double* points, std::size_t count, double edge) : edge_(edge) {
  const Eigen::Map<const Eigen::Matrix3Xd> all(points, 3, static_cast<Eigen::Index>(count));
  if (count > 0) low_ = all.rowwise().minCoeff();
  // On a surface a block holds about twenty cubes, each with some points.
  while ((std::size_t{1} << bits_) < count / 48) ++bits_;
  std::vector<std::uint64_t> key_of(count);
  starts_.assign((std::size_t{64} << bits_) + 1, 0);
  for (std::size_t i = 0; i < count; ++i) {
    key_of[i] = key(cube_of(all.col(static_cast<Eigen::Index>(i))));
    ++starts_[bucket(key_of[i]) + 1];
  }
  for (std::size_t b = 1; b < starts_.size(); ++b) starts_[b] += starts_[b - 1];
  keys_.resize(count);
  order_.resize(count);
  points_.resize(count);
  std::vector<std::uint32_t> next(starts_.begin(), starts_.end() - 1);
  for (std::size_t i = 0; i < count; ++i) {
    const std::uint32_t k = next[bucket(key_of[i])]++;
    keys_[k] = key_of[i];
    order_[k] = static_cast<std::uint32_t>(i);
    points_[k] = all.col(static_cast<Eigen::Index>(i));
  }
}

}  // namespace lostline
