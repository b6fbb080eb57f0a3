#include "cloud/neighbours.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <numeric>

#include "base/linear.h"
#include "base/parallel.h"

namespace lostline::cloud {
namespace {

/// The six that are nearest of those within reach.
struct Few {
  std::array<std::uint32_t, 6> index{};
  std::array<double, 6> squared{};
  std::size_t count = 0;

  void add(std::uint32_t i, double d) {
    if (count == index.size() && d >= squared[count - 1]) return;
    std::size_t at = count < index.size() ? count++ : count - 1;
    for (; at > 0 && squared[at - 1] > d; --at) {
      index[at] = index[at - 1];
      squared[at] = squared[at - 1];
    }
    index[at] = i;
    squared[at] = d;
  }
};

/// Distance that six other places lie within, looked for further and further; 0 where there are
/// none.
double reach_of_six(const PointGrid& grid, const std::vector<Vec3>& points, std::size_t self,
                    double reach, double most) {
  for (; reach <= most; reach *= 2) {
    Few few;
    grid.near(points[self], reach, [&](std::size_t i, double squared) {
      // Doubles of one place are one.
      if (squared == 0) return;
      for (std::size_t k = 0; k < few.count; ++k) {
        if (few.squared[k] == squared && points[few.index[k]] == points[i]) return;
      }
      few.add(static_cast<std::uint32_t>(i), squared);
    });
    if (few.count == few.squared.size() || 2 * reach > most)
      return few.count > 0 ? std::sqrt(few.squared[few.count - 1]) : 0;
  }
  return 0;
}

/// Sets of points with the sense of each against the first of its set.
class Senses {
 public:
  explicit Senses(std::size_t count) : parent_(count), flipped_(count, 0), size_(count, 1) {
    std::iota(parent_.begin(), parent_.end(), 0U);
  }
  struct Root {
    std::uint32_t set;
    bool flipped;
  };
  Root find(std::uint32_t i) {
    bool flipped = false;
    std::uint32_t root = i;
    while (parent_[root] != root) {
      flipped ^= flipped_[root] != 0;
      root = parent_[root];
    }
    bool rest = flipped;  // the way is shortened for the next one
    while (parent_[i] != root && i != root) {
      const std::uint32_t up = parent_[i];
      const bool own = flipped_[i] != 0;
      parent_[i] = root;
      flipped_[i] = rest ? 1 : 0;
      rest ^= own;
      i = up;
    }
    return {root, flipped};
  }
  /// @param against  the two look against each other.
  void join(std::uint32_t a, std::uint32_t b, bool against) {
    Root ra = find(a);
    Root rb = find(b);
    if (ra.set == rb.set) return;
    if (size_[ra.set] < size_[rb.set]) std::swap(ra, rb);
    parent_[rb.set] = ra.set;
    flipped_[rb.set] = (ra.flipped ^ rb.flipped ^ against) ? 1 : 0;
    size_[ra.set] += size_[rb.set];
  }

 private:
  std::vector<std::uint32_t> parent_;
  std::vector<char> flipped_;
  std::vector<std::uint32_t> size_;
};

}  // namespace

double spacing_of(const std::vector<Vec3>& points) {
  if (points.size() < 2) return 0;
  Box3 box;
  for (const Vec3& p : points) box.extend(p);
  const double size = box.diagonal().norm();
  if (!(size > 0)) return 0;
  // About the spacing of as many points over the faces of the box.
  const double guess = std::max(size / std::sqrt(static_cast<double>(points.size())), 1e-9 * size);
  // A stretch of the points is enough, in full density: whole cubes about a few places.
  constexpr std::size_t kPlaces = 400;
  const PointGrid grid(points, 2 * guess);
  std::vector<double> nearest;
  const std::size_t stride = std::max<std::size_t>(1, points.size() / kPlaces);
  for (std::size_t i = 0; i < points.size(); i += stride) {
    const double d = reach_of_six(grid, points, i, guess, 2 * size);
    if (d > 0) nearest.push_back(d);
  }
  if (nearest.empty()) return 0;
  const auto middle = nearest.begin() + static_cast<std::ptrdiff_t>(nearest.size() / 2);
  std::nth_element(nearest.begin(), middle, nearest.end());
  // Of a square grid the sixth lies a diagonal away; of points scattered evenly at 1.38 of the root
  // of the area for each.
  return *middle / std::numbers::sqrt2;
}

std::vector<std::uint32_t> thinned(const std::vector<Vec3>& points, double distance,
                                   const Task& task) {
  std::vector<std::uint32_t> kept;
  if (points.empty()) return kept;
  // Doubles lie in one cube whatever its size.
  const double reach = distance > 0 ? distance : 0;
  const PointGrid grid(points, distance > 0 ? distance : std::max(spacing_of(points), 1e-12));
  std::vector<char> covered(points.size(), 0);
  for (std::size_t i = 0; i < points.size(); ++i) {
    if (i % 65536 == 0) {
      if (task.stopped()) return kept;
      task.report(static_cast<double>(i) / static_cast<double>(points.size()));
    }
    if (covered[i] != 0) continue;
    kept.push_back(static_cast<std::uint32_t>(i));
    grid.near(points[i], reach, [&](std::size_t j, double) { covered[j] = 1; });
  }
  return kept;
}

std::vector<Vec3> normals_of(const std::vector<Vec3>& places, const PointGrid& grid,
                             const std::vector<Vec3>& points, double reach, const Task& task) {
  std::vector<Vec3> normals(places.size(), Vec3::Zero());
  parallel_for(places.size(), 4096, [&](std::size_t begin, std::size_t end) {
    if (task.stopped()) return;
    for (std::size_t i = begin; i < end; ++i) {
      // About the place itself: coordinates far from the origin lose nothing.
      Eigen::Matrix3d scatter = Eigen::Matrix3d::Zero();
      Vec3 sum = Vec3::Zero();
      double count = 0;
      grid.near(places[i], reach, [&](std::size_t j, double) {
        const Vec3 d = points[j] - places[i];
        scatter.noalias() += d * d.transpose();
        sum += d;
        ++count;
      });
      if (count < 3) continue;
      scatter -= sum * sum.transpose() / count;
      const auto eigen = symmetric_eigen<3>(scatter);
      if (eigen.values[1] > 1e-12 * eigen.values[2]) normals[i] = eigen.vectors.col(0);
    }
  });
  return normals;
}

void orient(const std::vector<Vec3>& points, std::vector<Vec3>& normals, double reach,
            const std::vector<Vec3>& towards, const Task& task) {
  const std::size_t n = points.size();
  if (n == 0) return;
  const PointGrid grid(points, reach);
  std::vector<Few> near(n);
  parallel_for(n, 4096, [&](std::size_t begin, std::size_t end) {
    for (std::size_t i = begin; i < end; ++i) {
      grid.near(points[i], reach, [&](std::size_t j, double squared) {
        if (j != i) near[i].add(static_cast<std::uint32_t>(j), squared);
      });
    }
  });
  if (task.stopped()) return;
  // How sure the sense is that two neighbours tell each other, in classes: the surest first.
  constexpr std::size_t kClasses = 32;
  struct Link {
    std::uint32_t a, b;
    bool against;
  };
  std::array<std::vector<Link>, kClasses> links;
  for (std::uint32_t i = 0; i < n; ++i) {
    for (std::size_t k = 0; k < near[i].count; ++k) {
      const std::uint32_t j = near[i].index[k];
      const bool mutual =
          std::find(near[j].index.begin(),
                    near[j].index.begin() + static_cast<std::ptrdiff_t>(near[j].count),
                    i) != near[j].index.begin() + static_cast<std::ptrdiff_t>(near[j].count);
      if (mutual && j < i) continue;
      const Vec3 way = (points[j] - points[i]).normalized();
      const Vec3 mirrored = normals[j] - 2 * way.dot(normals[j]) * way;
      const double agreement = normals[i].dot(mirrored);
      const double sure = std::min(std::abs(agreement), 1.0);
      links[kClasses - 1 - static_cast<std::size_t>(sure * (kClasses - 1))].push_back(
          {i, j, agreement < 0});
    }
  }
  near.clear();
  Senses senses(n);
  for (const auto& list : links) {
    if (task.stopped()) return;
    for (const Link& link : list) senses.join(link.a, link.b, link.against);
  }
  // The outside of a set: what looks away from its middle outweighs what looks towards it, as for
  // any closed surface, whose flux of the place itself is three times the volume.
  std::vector<std::uint32_t> set(n);
  std::vector<Vec3> middle(n, Vec3::Zero());
  std::vector<double> count(n, 0);
  for (std::uint32_t i = 0; i < n; ++i) {
    const auto root = senses.find(i);
    set[i] = root.set;
    if (root.flipped) normals[i] = -normals[i];
    middle[root.set] += points[i] - points[root.set];
    ++count[root.set];
  }
  std::vector<double> flux(n, 0);
  for (std::uint32_t i = 0; i < n; ++i) {
    const Vec3 centre = points[set[i]] + middle[set[i]] / count[set[i]];
    flux[set[i]] += (points[i] - centre).dot(normals[i]);
  }
  // What a scanner saw looks to it. Where the points of a set do not agree on that the scanner
  // stood elsewhere than the file says, as where it was written in other coordinates.
  if (!towards.empty()) {
    std::vector<double> sum(n, 0);
    std::vector<double> sure(n, 0);
    for (std::uint32_t i = 0; i < n; ++i) {
      const double looks = normals[i].dot(towards[i]);
      if (!std::isfinite(looks)) continue;
      sum[set[i]] += looks;
      sure[set[i]] += std::abs(looks);
    }
    constexpr double kAgree = 0.8;
    for (std::uint32_t i = 0; i < n; ++i) {
      if (std::abs(sum[i]) > kAgree * sure[i]) flux[i] = sum[i];
    }
  }
  for (std::uint32_t i = 0; i < n; ++i) {
    if (flux[set[i]] < 0) normals[i] = -normals[i];
  }
}

}  // namespace lostline::cloud
