#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>
#include <unordered_map>
#include <vector>

#include "fit/surface_fit.h"

namespace lostline::fit {
namespace {

constexpr Eigen::Index kFewest = 50;
constexpr Eigen::Index kQueries = 1500;
constexpr double kReach =
    5.0;  // spacings: beyond it a scanner's noise is independent (common practice, no source)

std::uint64_t cell_key(std::int64_t x, std::int64_t y, std::int64_t z) {
  const auto wrap = [](std::int64_t v) {
    return static_cast<std::uint64_t>(v + (1 << 20)) & 0x1fffffU;
  };
  return wrap(x) | (wrap(y) << 21U) | (wrap(z) << 42U);
}

double typical_spacing(const Eigen::Ref<const Eigen::Matrix3Xd>& points) {
  constexpr Eigen::Index kSamples = 32;
  std::vector<double> nearest;
  const Eigen::Index stride = std::max<Eigen::Index>(1, points.cols() / kSamples);
  for (Eigen::Index i = 0; i < points.cols(); i += stride) {
    double best = 1e300;
    for (Eigen::Index j = 0; j < points.cols(); ++j) {
      if (j != i) best = std::min(best, (points.col(j) - points.col(i)).squaredNorm());
    }
    nearest.push_back(best);
  }
  std::nth_element(nearest.begin(),
                   nearest.begin() + static_cast<std::ptrdiff_t>(nearest.size() / 2),
                   nearest.end());
  return std::sqrt(nearest[nearest.size() / 2]);
}

}  // namespace

double correlation_inflation(const Eigen::Ref<const Eigen::Matrix3Xd>& points,
                             const Eigen::Ref<const Eigen::VectorXd>& residuals) {
  const Eigen::Index n = points.cols();
  if (n < kFewest) return 1.0;
  const double variance = residuals.squaredNorm() / static_cast<double>(n);
  const double reach = kReach * typical_spacing(points);
  if (!(variance > 0) || !(reach > 0)) return 1.0;

  const Vec3 low = points.rowwise().minCoeff();
  std::unordered_map<std::uint64_t, std::vector<std::int32_t>> cells;
  cells.reserve(static_cast<std::size_t>(n) / 8 + 16);
  const auto cell_of = [&](const Vec3& p) -> std::array<std::int64_t, 3> {
    const Vec3 c = (p - low) / reach;
    return {static_cast<std::int64_t>(c.x()), static_cast<std::int64_t>(c.y()),
            static_cast<std::int64_t>(c.z())};
  };
  for (Eigen::Index i = 0; i < n; ++i) {
    const auto c = cell_of(points.col(i));
    cells[cell_key(c[0], c[1], c[2])].push_back(static_cast<std::int32_t>(i));
  }
  double sum = 0;
  Eigen::Index queries = 0;
  const Eigen::Index stride = std::max<Eigen::Index>(1, n / kQueries);
  for (Eigen::Index i = 0; i < n; i += stride, ++queries) {
    const auto c = cell_of(points.col(i));
    for (int k = 0; k < 27; ++k) {
      const auto found =
          cells.find(cell_key(c[0] + k % 3 - 1, c[1] + k / 3 % 3 - 1, c[2] + k / 9 - 1));
      if (found == cells.end()) continue;
      for (const std::int32_t j : found->second) {
        if (j == i || (points.col(j) - points.col(i)).squaredNorm() > reach * reach) continue;
        sum += residuals[i] * residuals[j];
      }
    }
  }
  return std::max(1.0, 1.0 + sum / (static_cast<double>(queries) * variance));
}

}  // namespace lostline::fit
