#include "cloud/smooth.h"

#include <Eigen/Dense>
#include <algorithm>
#include <atomic>
#include <cmath>

#include "base/parallel.h"

namespace lostline::cloud {
namespace {

using Vector6 = Eigen::Matrix<double, 6, 1>;
using Matrix6 = Eigen::Matrix<double, 6, 6>;

/// One point as the place sees it, in units of the reach.
struct Seen {
  double x, y, z;
  double weight;
};

/// Coefficients of z over 1, x, y, x2, xy, y2 (or the first three where points are few).
struct Local {
  Vector6 c = Vector6::Zero();
  double own = 1;  ///< weight that the place itself has in its value: sum of squares of the weights
  bool held = false;
};

Local fit_local(const std::vector<Seen>& seen, bool bent) {
  Matrix6 normal = Matrix6::Zero();
  Vector6 right = Vector6::Zero();
  for (const Seen& s : seen) {
    Vector6 row;
    row << 1, s.x, s.y, s.x * s.x, s.x * s.y, s.y * s.y;
    normal.selfadjointView<Eigen::Lower>().rankUpdate(row, s.weight);
    right += s.weight * s.z * row;
  }
  Local local;
  const auto solve = [&]<int kSize>() {
    const Eigen::Matrix<double, kSize, kSize> a = normal.topLeftCorner<kSize, kSize>();
    const Eigen::LDLT<Eigen::Matrix<double, kSize, kSize>> ldlt(a);
    if (ldlt.info() != Eigen::Success ||
        !(ldlt.vectorD().minCoeff() > 1e-6 * ldlt.vectorD().maxCoeff()))
      return false;
    local.c.head<kSize>() = ldlt.solve(right.head<kSize>());
    // How much of a point's noise is left in the value at the place.
    Eigen::Matrix<double, kSize, 1> first = Eigen::Matrix<double, kSize, 1>::Zero();
    first[0] = 1;
    const Eigen::Matrix<double, kSize, 1> rows = ldlt.solve(first);
    double squares = 0;
    for (const Seen& s : seen) {
      Vector6 row;
      row << 1, s.x, s.y, s.x * s.x, s.x * s.y, s.y * s.y;
      const double w = s.weight * rows.dot(row.head<kSize>());
      squares += w * w;
    }
    local.own = std::sqrt(squares);
    local.held = true;
    return true;
  };
  constexpr std::size_t kFewForBend = 10;  // six unknowns and some over
  if (bent && seen.size() >= kFewForBend && solve.operator()<6>()) return local;
  if (seen.size() >= 5) solve.operator()<3>();
  return local;
}

Settled settle(const Vec3& place, const Vec3& normal, const scan::PointCloud& cloud,
               const PointGrid& grid, double reach, std::vector<Seen>& seen) {
  Settled settled{place, normal, 0, 1, 0};
  if (!(normal.squaredNorm() > 0.5)) return settled;
  const Vec3 u = any_perpendicular(normal);
  const Vec3 v = normal.cross(u);
  seen.clear();
  grid.near(place, reach, [&](std::size_t j, double squared) {
    double weight = 1 - squared / (reach * reach);
    if (cloud.has_normals()) {
      // Another side of an edge looks elsewhere: nothing is left at about 60 degrees.
      const double cosine = normal.dot(cloud.normals[j]);
      if (cosine < 0.5) return;
      weight *= std::exp(-(1 - cosine) / 0.12);
    }
    if (!cloud.noise.empty() && cloud.noise[j] > 0)
      weight /= static_cast<double>(cloud.noise[j]) * static_cast<double>(cloud.noise[j]);
    const Vec3 d = (cloud.points[j] - place) / reach;
    seen.push_back({d.dot(u), d.dot(v), d.dot(normal), weight});
  });
  // With even weights in scale: only their ratios count.
  double most = 0;
  for (const Seen& s : seen) most = std::max(most, s.weight);
  if (!(most > 0)) return settled;
  for (Seen& s : seen) s.weight /= most;
  Local local = fit_local(seen, true);
  if (!local.held) return settled;
  const auto rest_of = [&](const Seen& s) {
    Vector6 row;
    row << 1, s.x, s.y, s.x * s.x, s.x * s.y, s.y * s.y;
    return s.z - local.c.dot(row);
  };
  // Once more without what stands off: strays, the other side of a step.
  double squares = 0;
  double sum = 0;
  for (const Seen& s : seen) {
    const double r = rest_of(s);
    squares += s.weight * r * r;
    sum += s.weight;
  }
  const double limit = 3 * std::sqrt(squares / sum);
  std::size_t off = 0;
  for (Seen& s : seen) {
    const double r = std::abs(rest_of(s));
    if (!(limit > 0) || r < 0.7 * limit) continue;
    const double share = r < 1.5 * limit ? 1 - (r / (1.5 * limit)) * (r / (1.5 * limit)) : 0;
    s.weight *= share * share;
    ++off;
  }
  if (off > 0) {
    const Local again = fit_local(seen, true);
    if (again.held) local = again;
  }
  squares = 0;
  sum = 0;
  double weights = 0;
  for (const Seen& s : seen) {
    const double r = rest_of(s);
    squares += s.weight * r * r;
    sum += s.weight;
    weights += s.weight * s.weight;
  }
  if (weights > 0) settled.points = sum * sum / weights;
  settled.rest = reach * std::sqrt(squares / std::max(sum, 1e-300));
  settled.share = std::min(local.own, 1.0);
  // A place is never moved further than the points about it lie apart from each other.
  const double move = std::clamp(local.c[0], -0.5, 0.5) * reach;
  settled.at = place + move * normal;
  settled.normal = (normal - local.c[1] * u - local.c[2] * v).normalized();
  return settled;
}

}  // namespace

std::vector<Settled> settle_on_surface(const std::vector<Vec3>& places,
                                       const std::vector<Vec3>& normals,
                                       const scan::PointCloud& cloud, const PointGrid& grid,
                                       double reach, const Task& task) {
  std::vector<Settled> settled(places.size());
  std::atomic<std::size_t> done{0};
  parallel_for(places.size(), 2048, [&](std::size_t begin, std::size_t end) {
    if (task.stopped()) return;
    std::vector<Seen> seen;
    for (std::size_t i = begin; i < end; ++i)
      settled[i] = settle(places[i], normals[i], cloud, grid, reach, seen);
    task.report(static_cast<double>(done += end - begin) / static_cast<double>(places.size()));
  });
  return settled;
}

}  // namespace lostline::cloud
