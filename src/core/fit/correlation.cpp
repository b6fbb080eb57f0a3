#include <Eigen/Dense>
#include <algorithm>
#include <array>
#include <cmath>
#include <memory>
#include <vector>

#include "base/linear.h"
#include "base/parallel.h"
#include "base/point_grid.h"
#include "fit/estimate.h"

namespace lostline::fit {
namespace {

constexpr Eigen::Index kFewest = 50;
constexpr Eigen::Index kQueries = 1000;
constexpr int kMostColumns = 32;   // of a surface, or of an expansion of its form
constexpr std::size_t kRings = 8;  // spacings looked at: roughness of a casting reaches this far
constexpr double kReach = static_cast<double>(kRings) + 0.5;

/// Points sorted for neighbours, and how far apart these typically are, mm.
struct Sorted {
  std::unique_ptr<PointGrid> grid;
  double spacing = 0;
};

/// Median distance of 49 points to their nearest.
double typical_spacing(const PointGrid& grid, const Eigen::Ref<const Eigen::Matrix3Xd>& points,
                       double first_reach) {
  constexpr Eigen::Index kSamples = 49;
  const Eigen::Index stride = std::max<Eigen::Index>(1, points.cols() / kSamples);
  std::vector<double> nearest;
  for (Eigen::Index i = 0; i < points.cols(); i += stride) {
    double best = 1e300;
    for (double reach = first_reach; best > reach * reach && reach < 1e6 * first_reach; reach *= 3)
      grid.near(points.col(i), reach, [&](std::size_t j, double squared) {
        if (static_cast<Eigen::Index>(j) != i) best = std::min(best, squared);
      });
    nearest.push_back(best);
  }
  const auto middle = nearest.begin() + static_cast<std::ptrdiff_t>(nearest.size() / 2);
  std::nth_element(nearest.begin(), middle, nearest.end());
  return *middle < 1e300 ? std::sqrt(*middle) : 0;
}

/// The cubes suit points spread over a surface; where these stand far closer, they are made anew.
Sorted sorted(const Eigen::Ref<const Eigen::Matrix3Xd>& points) {
  Eigen::Matrix3Xd own;
  if (points.outerStride() != 3) own = points;
  const double* numbers = points.outerStride() == 3 ? points.data() : own.data();
  const auto n = static_cast<std::size_t>(points.cols());
  const double extent = extent_of(points);
  const double guess = extent / std::sqrt(static_cast<double>(n));
  if (!(guess > 0)) return {};
  Sorted result{std::make_unique<PointGrid>(numbers, n, kReach * guess), 0};
  result.spacing = typical_spacing(*result.grid, points, guess);
  if (result.spacing > 0 && result.spacing < guess / 10)
    result.grid = std::make_unique<PointGrid>(numbers, n, kReach * result.spacing);
  return result;
}

}  // namespace

double extent_of(const Eigen::Ref<const Eigen::Matrix3Xd>& points) {
  // Point by point: Eigen's row-wise extremes go through the points six times.
  Box3 box;
  for (Eigen::Index i = 0; i < points.cols(); ++i) box.extend(Vec3(points.col(i)));
  return box.isEmpty() ? 0 : box.diagonal().norm();
}

Eigen::MatrixXd shared_noise(const Eigen::Ref<const Eigen::Matrix3Xd>& points,
                             const Eigen::Ref<const Eigen::VectorXd>& residuals,
                             const Eigen::MatrixXd& slopes, const Eigen::MatrixXd& root) {
  const Eigen::Index n = points.cols();
  const Eigen::Index p = slopes.cols();
  Eigen::MatrixXd inflation = Eigen::MatrixXd::Identity(p, p);
  if (n < kFewest) return inflation;
  const double variance = residuals.squaredNorm() / static_cast<double>(n);
  if (!(variance > 0)) return inflation;
  const Sorted found = sorted(points);
  const double spacing = found.spacing;
  if (!(spacing > 0)) return inflation;
  const double reach = kReach * spacing;

  using Few = Eigen::Matrix<double, Eigen::Dynamic, 1, 0, kMostColumns, 1>;
  using Square =
      Eigen::Matrix<double, Eigen::Dynamic, Eigen::Dynamic, 0, kMostColumns, kMostColumns>;
  struct Ring {
    double products = 0;  // of residuals
    double pairs = 0;
    Square leverage;  // sum over the pairs of the outer product of their leverages
  };
  using Rings = std::array<Ring, kRings + 1>;
  // A point's slopes side by side: they are added up for many neighbours. Only the sums are taken
  // to leverages.
  Eigen::MatrixXd by_point(p, n);
  parallel_for(static_cast<std::size_t>(n), 1U << 13U, [&](std::size_t begin, std::size_t end) {
    const auto first = static_cast<Eigen::Index>(begin);
    const auto count = static_cast<Eigen::Index>(end - begin);
    by_point.middleCols(first, count) = slopes.middleRows(first, count).transpose();
  });
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
        found.grid->near(at, reach, [&](std::size_t index, double squared) {
          const auto j = static_cast<Eigen::Index>(index);
          if (j == i || squared >= reach * reach) return;
          // What lies nearer than half a spacing is too seldom to be a ring of its own: its chance
          // would hide what the others share.
          const auto ring = std::clamp<std::size_t>(
              static_cast<std::size_t>(std::sqrt(squared) / spacing + 0.5), 1, kRings);
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
  for (Ring& ring : rings) ring.leverage = root.transpose() * ring.leverage * root;
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
