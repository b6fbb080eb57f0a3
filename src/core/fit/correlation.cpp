#include <Eigen/Dense>
#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>
#include <vector>

#include "base/linear.h"
#include "base/parallel.h"
#include "base/point_grid.h"
#include "fit/estimate.h"

namespace lostline::fit {
namespace {

constexpr Eigen::Index kFewest = 50;
constexpr Eigen::Index kQueries = 1000;
constexpr int kMostFreedoms = 32;  // of a surface, or of an expansion of its form
constexpr std::size_t kRings = 8;  // spacings looked at: roughness of a casting reaches this far

double typical_spacing(const Eigen::Ref<const Eigen::Matrix3Xd>& points) {
  const Eigen::Index kSamples = points.cols() > 20000 ? 9 : 25;
  const Eigen::Index stride = std::max<Eigen::Index>(1, points.cols() / kSamples);
  std::vector<double> nearest(static_cast<std::size_t>((points.cols() + stride - 1) / stride));
  parallel_for(nearest.size(), 1, [&](std::size_t begin, std::size_t end) {
    for (std::size_t k = begin; k < end; ++k) {
      const Eigen::Index i = static_cast<Eigen::Index>(k) * stride;
      const Vec3 at = points.col(i);
      double best = 1e300;
      for (Eigen::Index j = 0; j < points.cols(); ++j) {
        if (j != i) best = std::min(best, (points.col(j) - at).squaredNorm());
      }
      nearest[k] = best;
    }
  });
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

  const Eigen::Matrix3Xd own = points;
  const PointGrid grid(own.data(), static_cast<std::size_t>(n), reach);
  using Few = Eigen::Matrix<double, Eigen::Dynamic, 1, 0, kMostFreedoms, 1>;
  using Square =
      Eigen::Matrix<double, Eigen::Dynamic, Eigen::Dynamic, 0, kMostFreedoms, kMostFreedoms>;
  struct Ring {
    double products = 0;  // of residuals
    double pairs = 0;
    Square leverage;  // sum over the pairs of the outer product of their leverages
  };
  using Rings = std::array<Ring, kRings + 1>;
  // A point's leverages side by side: they are added up for many neighbours.
  const Eigen::MatrixXd by_point = leverage.transpose();
  const Eigen::Index stride = std::max<Eigen::Index>(1, n / kQueries);
  const Eigen::Index queries = (n + stride - 1) / stride;
  // Blocks of queries are added in their order: the same on any number of cores.
  constexpr Eigen::Index kBlock = 64;
  std::vector<Rings> parts(static_cast<std::size_t>((queries + kBlock - 1) / kBlock));
  parallel_for(parts.size(), 1, [&](std::size_t begin, std::size_t end) {
    for (std::size_t b = begin; b < end; ++b) {
      Rings& rings = parts[b];
      for (Ring& ring : rings) ring.leverage.setZero(p, p);
      std::array<Few, kRings + 1> around;  // of the neighbours' leverages
      const auto first = static_cast<Eigen::Index>(b) * kBlock;
      for (Eigen::Index q = first; q < std::min(first + kBlock, queries); ++q) {
        const Eigen::Index i = q * stride;
        const Vec3 at = points.col(i);
        for (Few& sum : around) sum.setZero(p);
        grid.near(at, reach, [&](std::size_t index, double squared) {
          const auto j = static_cast<Eigen::Index>(index);
          if (j == i || squared >= reach * reach) return;
          const auto ring =
              std::min(kRings, static_cast<std::size_t>(std::sqrt(squared) / spacing + 0.5));
          rings[ring].products += residuals[i] * residuals[j];
          rings[ring].pairs += 1;
          around[ring] += by_point.col(j);
        });
        for (std::size_t k = 0; k < rings.size(); ++k)
          rings[k].leverage += by_point.col(i) * around[k].transpose();
      }
    }
  });
  Rings rings;
  for (Ring& ring : rings) ring.leverage.setZero(p, p);
  for (const Rings& part : parts) {
    for (std::size_t k = 0; k < rings.size(); ++k) {
      rings[k].products += part[k].products;
      rings[k].pairs += part[k].pairs;
      rings[k].leverage += part[k].leverage;
    }
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
