#include "base/point_grid.h"

#include <Eigen/Core>

#include "base/parallel.h"

namespace lostline {

PointGrid::PointGrid(const double* points, std::size_t count, double edge) : edge_(edge) {
  const Eigen::Map<const Eigen::Matrix3Xd> all(points, 3, static_cast<Eigen::Index>(count));
  if (count > 0) low_ = all.rowwise().minCoeff();
  // On a surface a block holds about twenty cubes, each with some points.
  while ((std::size_t{1} << bits_) < count / 48) ++bits_;
  std::vector<std::uint64_t> key_of(count);
  starts_.assign((std::size_t{64} << bits_) + 1, 0);
  constexpr std::size_t kPart = 1U << 14U;
  parallel_for(count, kPart, [&](std::size_t begin, std::size_t end) {
    for (std::size_t i = begin; i < end; ++i)
      key_of[i] = key(cube_of(all.col(static_cast<Eigen::Index>(i))));
  });
  for (std::size_t i = 0; i < count; ++i) ++starts_[bucket(key_of[i]) + 1];
  for (std::size_t b = 1; b < starts_.size(); ++b) starts_[b] += starts_[b - 1];
  order_.resize(count);
  std::vector<std::uint32_t> next(starts_.begin(), starts_.end() - 1);
  for (std::size_t i = 0; i < count; ++i)
    order_[next[bucket(key_of[i])]++] = static_cast<std::uint32_t>(i);
  keys_.resize(count);
  points_.resize(count);
  parallel_for(count, kPart, [&](std::size_t begin, std::size_t end) {
    for (std::size_t k = begin; k < end; ++k) {
      keys_[k] = key_of[order_[k]];
      points_[k] = all.col(static_cast<Eigen::Index>(order_[k]));
    }
  });
}

}  // namespace lostline
