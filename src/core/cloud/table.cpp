#include "cloud/table.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <numbers>
#include <random>

#include "base/parallel.h"
#include "cloud/neighbours.h"

namespace lostline::cloud {
namespace {

constexpr int kTries = 300;             // planes looked at: a table of a sixth of the points is
                                        // among the starts with more than 0.999999
constexpr std::size_t kLooked = 20000;  // points that a try is judged by
constexpr double kAligned = 0.9;        // cosine of how far a point's normal may lean
constexpr double kBelow = 0.005;        // share of points that may lie under the table: strays
constexpr int kWays = 24;               // directions in which it must reach further than the rest
constexpr double kReaches = 0.9;        // share of them
constexpr double kLeast = 0.03;         // share of the points that a table has

/// How a plane divides the points looked at.
struct Count {
  std::size_t on = 0, below = 0;
};

Count counted(const scan::PointCloud& cloud, const std::vector<std::size_t>& looked,
              const Vec3& point, const Vec3& normal, double near) {
  Count count;
  for (const std::size_t i : looked) {
    const double height = normal.dot(cloud.points[i] - point);
    if (height < -near)
      ++count.below;
    else if (height < near && normal.dot(cloud.normals[i]) > kAligned)
      ++count.on;
  }
  return count;
}

/// Plane of least squares through the points within `near` of a plane, again and again: a start
/// that leans has points of the table near itself only, and each round reaches further. Never wider
/// than `near`, or a face parallel to the table would join it.
void refine(const scan::PointCloud& cloud, Table& table, double near) {
  constexpr int kRounds = 8;
  for (int round = 0; round < kRounds; ++round) {
    Vec3 sum = Vec3::Zero();
    Eigen::Matrix3d squares = Eigen::Matrix3d::Zero();
    std::size_t count = 0;
    for (std::size_t i = 0; i < cloud.points.size(); ++i) {
      const Vec3 d = cloud.points[i] - table.point;
      if (std::abs(table.normal.dot(d)) > near || table.normal.dot(cloud.normals[i]) < kAligned)
        continue;
      sum += d;
      squares += d * d.transpose();
      ++count;
    }
    if (count < 3) return;
    const auto n = static_cast<double>(count);
    const Vec3 mean = sum / n;
    const Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d> spread(squares / n -
                                                                mean * mean.transpose());
    const Vec3 normal = spread.eigenvectors().col(0);
    table.point += mean;
    table.normal = normal.dot(table.normal) < 0 ? Vec3(-normal) : normal;
    table.noise = std::sqrt(std::max(0.0, spread.eigenvalues()[0]));
    table.points = count;
    if (round + 2 >= kRounds) near = std::min(near, std::max(4 * table.noise, 0.25 * near));
  }
}

/// Whether the plane's points go further than what stands on it, all round.
bool reaches_beyond(const scan::PointCloud& cloud, const Table& table, double spacing) {
  const Vec3 u = any_perpendicular(table.normal);
  const Vec3 v = table.normal.cross(u);
  const double near = std::max(4 * table.noise, 0.5 * spacing);
  int beyond = 0;
  for (int k = 0; k < kWays; ++k) {
    const double angle = 2 * std::numbers::pi * k / kWays;
    const Vec3 way = std::cos(angle) * u + std::sin(angle) * v;
    double own = -std::numeric_limits<double>::infinity();
    double rest = own;
    for (const Vec3& p : cloud.points) {
      double& farthest = std::abs(table.normal.dot(p - table.point)) < near ? own : rest;
      farthest = std::max(farthest, way.dot(p));
    }
    if (own > rest + spacing) ++beyond;
  }
  return beyond >= kReaches * kWays;
}

}  // namespace

std::optional<Table> find_table(const scan::PointCloud& cloud, double spacing, const Task& task) {
  const std::size_t all = cloud.points.size();
  if (all < 100 || !cloud.has_normals() || !(spacing > 0)) return std::nullopt;
  const std::size_t stride = std::max<std::size_t>(1, all / kLooked);
  std::vector<std::size_t> looked;
  for (std::size_t i = 0; i < all; i += stride) looked.push_back(i);
  std::mt19937 chance(7);  // the same table every time
  std::uniform_int_distribution<std::size_t> any(0, looked.size() - 1);
  std::vector<std::size_t> starts(kTries);
  for (std::size_t& start : starts) start = looked[any(chance)];
  const double near = spacing;
  std::vector<Count> counts(starts.size());
  parallel_for(starts.size(), 4, [&](std::size_t begin, std::size_t end) {
    for (std::size_t k = begin; k < end && !task.stopped(); ++k) {
      counts[k] = counted(cloud, looked, cloud.points[starts[k]], cloud.normals[starts[k]], near);
    }
  });
  std::vector<std::size_t> order(starts.size());
  for (std::size_t k = 0; k < order.size(); ++k) order[k] = k;
  std::sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
    return counts[a].on != counts[b].on ? counts[a].on > counts[b].on : a < b;
  });
  constexpr std::size_t kRefined = 24;  // starts of most points
  std::optional<Table> best;
  for (std::size_t k = 0; k < std::min(kRefined, order.size()); ++k) {
    if (task.stopped()) return std::nullopt;
    Table table{cloud.points[starts[order[k]]], cloud.normals[starts[order[k]]], 0, 0};
    refine(cloud, table, near);
    const double on = std::max(4 * table.noise, 0.5 * near);
    const Count count = counted(cloud, looked, table.point, table.normal, on);
    const auto share = [&](std::size_t n) {
      return static_cast<double>(n) / static_cast<double>(looked.size());
    };
    if (share(count.below) > kBelow || share(count.on) < kLeast) continue;
    if (best && best->points >= table.points) continue;
    if (reaches_beyond(cloud, table, spacing)) best = table;
  }
  return best;
}

std::vector<bool> above(const Table& table, const std::vector<Vec3>& points, double spacing) {
  const double near = std::max(4 * table.noise, 0.5 * spacing);
  std::vector<bool> keep(points.size());
  for (std::size_t i = 0; i < points.size(); ++i)
    keep[i] = table.normal.dot(points[i] - table.point) > near;
  return keep;
}

std::optional<TableCut> without_table(const scan::Mesh& mesh, const Task& task) {
  scan::PointCloud cloud;
  cloud.points = mesh.vertices;
  cloud.normals = scan::vertex_normals(mesh);
  const double spacing = spacing_of(cloud.points);
  const auto table = find_table(cloud, spacing, task);
  if (!table) return std::nullopt;
  const std::vector<bool> keep = above(*table, cloud.points, spacing);
  std::vector<char> stays(mesh.triangles.size(), 0);
  TableCut cut;
  cut.table = *table;
  for (std::size_t t = 0; t < stays.size(); ++t) {
    const scan::Triangle& c = mesh.triangles[t];
    stays[t] = keep[c[0]] && keep[c[1]] && keep[c[2]] ? 1 : 0;
    cut.triangles += stays[t] == 0 ? 1 : 0;
  }
  cut.mesh = scan::extract(mesh, stays);
  return cut;
}

}  // namespace lostline::cloud
