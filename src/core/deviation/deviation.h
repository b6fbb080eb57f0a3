#pragma once

#include <memory>
#include <vector>

#include "base/task.h"
#include "model/model.h"
#include "scan/mesh.h"

namespace lostline::deviation {

/// Signed distances of points from a solid: positive where the scan stands proud of the model,
/// negative where it falls short.
struct Map {
  std::vector<float> value;  ///< mm per point; NaN where no model lies within the search limit
  std::vector<std::uint32_t> face;  ///< index of the nearest face; scan::kNone with NaN
};

struct Statistics {
  std::size_t n = 0;          ///< points with a value
  std::size_t unmatched = 0;  ///< points beyond the search limit
  double rms = 0, mean = 0, sd = 0, p95_abs = 0;
  double max = 0, min = 0;
  std::size_t max_at = 0, min_at = 0;  ///< point indices
  double within_fraction = 0;          ///< of the points with a value, |d| <= tolerance
};

struct Histogram {
  double low = 0, high = 0;
  std::vector<std::size_t>
      counts;  ///< equal bins from low to high; values outside are in the end bins
};

/// Exact signed distance from a boundary representation. Each point finds its nearest triangle of a
/// fine tessellation, then the distance in closed form on that triangle's face (plane, cylinder,
/// cone, sphere, torus) or by Newton's method on a free-form one. Where the nearest place lies on
/// the border of the bounded face, the foot on the neighbour, the crossing of both surfaces or the
/// corner stands, with its side told by the directions of all faces that meet there.
class Comparator {
 public:
  /// @errors InvalidInput  an empty solid;  Failed  a face cannot be triangulated.
  static Result<Comparator> build(const model::Model& solid);
  ~Comparator();
  Comparator(Comparator&&) noexcept;
  Comparator& operator=(Comparator&&) noexcept;

  struct Value {
    double distance = 0;
    std::uint32_t face = scan::kNone;
    Vec3 foot = Vec3::Zero();
  };
  /// What is further from the model belongs to no surface of it, unless another limit is given: a
  /// tenth of the model's diagonal, mm.
  [[nodiscard]] double default_limit() const;
  /// Distance of one point; face is kNone beyond `limit` mm (0: the default).
  [[nodiscard]] Value at(const Vec3& point, double limit = 0) const;
  /// @param limit  mm, search limit; 0: the default.
  /// @errors Cancelled.
  /// About 1 M points per second on two cores.
  [[nodiscard]] Result<Map> compare(const std::vector<Vec3>& points, double limit = 0,
                                    const Task& task = {}) const;

 private:
  struct Impl;
  explicit Comparator(std::unique_ptr<Impl> impl);
  std::unique_ptr<Impl> impl_;
};

Statistics statistics(const Map& map, double tolerance);
Histogram histogram(const Map& map, double low, double high, std::size_t bins);

}  // namespace lostline::deviation
