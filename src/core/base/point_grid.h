#pragma once

#include <array>
#include <cmath>
#include <cstdint>
#include <vector>

#include "base/geometry.h"

namespace lostline {

/// Points sorted into cubes, blocks of cubes by a hash, for what lies near a place: two passes over
/// the points whatever their extent. Thread-safe after construction.
class PointGrid {
 public:
  /// @param points  3 x count numbers, point after point, mm; copied.
  /// @param edge    of the cubes, mm, above 0; best about the reach that is asked for.
  PointGrid(const double* points, std::size_t count, double edge);
  PointGrid(const std::vector<Vec3>& points, double edge)
      : PointGrid(points.empty() ? nullptr : points.front().data(), points.size(), edge) {}

  /// Calls `take(index, squared distance)` for every point within `reach` of a place.
  template <class Take>
  void near(const Vec3& p, double reach, const Take& take) const {
    const Cube low = cube_of(p - Vec3::Constant(reach));
    const Cube high = cube_of(p + Vec3::Constant(reach));
    const double limit = reach * reach;
    for (std::int64_t x = low[0]; x <= high[0]; ++x) {
      for (std::int64_t y = low[1]; y <= high[1]; ++y) {
        for (std::int64_t z = low[2]; z <= high[2]; ++z) {
          const std::uint64_t wanted = key({x, y, z});
          const std::size_t b = bucket(wanted);
          for (std::uint32_t k = starts_[b]; k < starts_[b + 1]; ++k) {
            if (keys_[k] != wanted) continue;
            const double squared = (points_[k] - p).squaredNorm();
            if (squared <= limit) take(static_cast<std::size_t>(order_[k]), squared);
          }
        }
      }
    }
  }
  [[nodiscard]] std::size_t size() const { return order_.size(); }
  /// The points in an order in which neighbours mostly stand near each other.
  [[nodiscard]] const std::vector<std::uint32_t>& order() const { return order_; }

 private:
  using Cube = std::array<std::int64_t, 3>;
  [[nodiscard]] Cube cube_of(const Vec3& at) const {
    const Vec3 c = (at - low_) / edge_;
    return {floor(c.x()), floor(c.y()), floor(c.z())};
  }
  static std::int64_t floor(double v) {  // without a call into the library
    const auto whole = static_cast<std::int64_t>(v);
    return whole - (v < static_cast<double>(whole) ? 1 : 0);
  }
  static std::uint64_t key(const Cube& c) {
    const auto wrap = [](std::int64_t v) {
      return static_cast<std::uint64_t>(v + (1 << 20)) & 0x1fffffU;
    };
    return wrap(c[0]) | (wrap(c[1]) << 21U) | (wrap(c[2]) << 42U);
  }
  /// Cubes of a block of 4 x 4 x 4 stand beside each other; the block's place is a hash of it.
  [[nodiscard]] std::size_t bucket(std::uint64_t key) const {
    constexpr std::uint64_t kLow = 3ULL | (3ULL << 21U) | (3ULL << 42U);
    const std::uint64_t inner = key & kLow;
    const std::uint64_t local = (inner | (inner >> 19U) | (inner >> 38U)) & 63U;
    const std::uint64_t hash =
        ((key & ~kLow) * 0x9E3779B97F4A7C15ULL) >> (64U - bits_);  // Knuth, TAOCP 3 (1998), 6.4
    return (hash << 6U) | local;
  }

  Vec3 low_ = Vec3::Zero();
  double edge_;
  unsigned bits_ = 2;                  ///< of the number of blocks
  std::vector<std::uint32_t> starts_;  ///< of each bucket in what follows
  std::vector<std::uint64_t> keys_;
  std::vector<std::uint32_t> order_;
  std::vector<Vec3> points_;
};

}  // namespace lostline
