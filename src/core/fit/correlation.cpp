#include <Eigen/Dense>
#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>
#include <unordered_map>
#include <vector>

#include "base/linear.h"
#include "fit/estimate.h"

namespace lostline::fit {
namespace {

constexpr Eigen::Index kFewest = 50;
constexpr Eigen::Index kQueries = 1000;
constexpr std::size_t kRings = 8;  // spacings looked at: roughness of a casting reaches this far

std::uint64_t cell_key(std::int64_t x, std::int64_t y, std::int64_t z) {
  const auto wrap = [](std::int64_t v) {
    return static_cast<std::uint64_t>(v + (1 << 20)) & 0x1fffffU;
  };
  return wrap(x) | (wrap(y) << 21U) | (wrap(z) << 42U);
}

double typical_spacing(const Eigen::Ref<const Eigen::Matrix3Xd>& points) {
  const Eigen::Index kSamples = points.cols() > 20000 ? 9 : 25;
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

Eigen::MatrixXd shared_noise(const Eigen::Ref<const Eigen::Matrix3Xd>& points,
                             const Eigen::Ref<const Eigen::VectorXd>& residuals,
                             const Eigen::MatrixXd& leverage) {
  const Eigen::Index n = points.cols();
  const Eigen::Index p = leverage.cols();
  Eigen::MatrixXd inflation = Eigen::MatrixXd::Identity(p, p);
  if (n < kFewest) return inflation;
  const double variance = residuals.squaredNorm() / static_cast<double>(n);
  const double spacing = typical_spacing(points);
  if (!(variance > 0) || !(spacing > 0)) return inflation;
  const double reach = (static_cast<double>(kRings) + 0.5) * spacing;

  const Vec3 low = points.rowwise().minCoeff();
  std::unordered_map<std::uint64_t, std::vector<std::int32_t>> cells;
  cells.reserve(static_cast<std::size_t>(n) / 8 + 16);
  const auto cell_of = [&](const Vec3& at) -> std::array<std::int64_t, 3> {
    const Vec3 c = (at - low) / reach;
    return {static_cast<std::int64_t>(c.x()), static_cast<std::int64_t>(c.y()),
            static_cast<std::int64_t>(c.z())};
  };
  for (Eigen::Index i = 0; i < n; ++i) {
    const auto c = cell_of(points.col(i));
    cells[cell_key(c[0], c[1], c[2])].push_back(static_cast<std::int32_t>(i));
  }
  struct Ring {
    double products = 0;  // of residuals
    double pairs = 0;
    Eigen::MatrixXd leverage;  // sum over the pairs of the outer product of their leverages
  };
  std::array<Ring, kRings + 1> rings;
  for (Ring& ring : rings) ring.leverage.setZero(p, p);
  // A point's leverages side by side: they are added up for many neighbours.
  const Eigen::MatrixXd by_point = leverage.transpose();
  Eigen::Index queries = 0;
  const Eigen::Index stride = std::max<Eigen::Index>(1, n / kQueries);
  std::array<Eigen::VectorXd, kRings + 1> around;  // of the neighbours' leverages
  for (Eigen::Index i = 0; i < n; i += stride, ++queries) {
    const auto c = cell_of(points.col(i));
    for (auto& sum : around) sum.setZero(p);
    for (int k = 0; k < 27; ++k) {
      const auto found =
          cells.find(cell_key(c[0] + k % 3 - 1, c[1] + k / 3 % 3 - 1, c[2] + k / 9 - 1));
      if (found == cells.end()) continue;
      for (const std::int32_t j : found->second) {
        const double squared = (points.col(j) - points.col(i)).squaredNorm();
        if (j == i || squared >= reach * reach) continue;
        const auto at =
            std::min(kRings, static_cast<std::size_t>(std::sqrt(squared) / spacing + 0.5));
        rings[at].products += residuals[i] * residuals[j];
        rings[at].pairs += 1;
        around[at] += by_point.col(j);
      }
    }
    for (std::size_t at = 0; at < rings.size(); ++at)
      rings[at].leverage += by_point.col(i) * around[at].transpose();
  }
  // Ring after ring until nothing more than chance is left. Residuals agree less than the noise
  // did, by what the fit absorbed, which the inflation itself tells: a few rounds settle that.
  const double share = static_cast<double>(n) / static_cast<double>(queries);
  for (int round = 0; round < 5; ++round) {
    const double true_variance =
        variance / std::max(0.2, 1 - inflation.trace() / static_cast<double>(n));
    Eigen::MatrixXd next = Eigen::MatrixXd::Identity(p, p);
    double nearer = 1;  // neighbours agree fully at most, and the less the further they are
    for (const Ring& ring : rings) {
      if (!(ring.pairs > 0)) continue;
      const double agreement = std::min(
          nearer, (ring.products / true_variance + inflation.cwiseProduct(ring.leverage).sum()) /
                      ring.pairs);
      nearer = agreement;
      if (agreement < 2 / std::sqrt(ring.pairs)) break;
      next += 0.5 * share * agreement * (ring.leverage + ring.leverage.transpose());
    }
    // Sharing noise never makes a fit better than independent noise would.
    const auto eigen = symmetric_eigen<Eigen::Dynamic>(next);
    inflation = product_nt(eigen.vectors * eigen.values.cwiseMax(1.0).asDiagonal(), eigen.vectors);
  }
  return inflation;
}

}  // namespace lostline::fit
