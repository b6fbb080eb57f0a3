#include <algorithm>
#include <cmath>

#include "base/parallel.h"
#include "survey/survey.h"

namespace lostline::survey {

std::vector<Vec3> smoothed_normals(const scan::Mesh& mesh, const scan::Topology& topology,
                                   int passes, double agree) {
  std::vector<Vec3> normals = scan::vertex_normals(mesh);
  std::vector<Vec3> next(normals.size());
  const double sharpness = 1.0 / (2 * agree * agree);
  for (int pass = 0; pass < passes; ++pass) {
    parallel_for(normals.size(), 4096, [&](std::size_t begin, std::size_t end) {
      for (std::size_t v = begin; v < end; ++v) {
        Vec3 sum = normals[v];
        for (const std::uint32_t other : topology.vertex_neighbours[v]) {
          const double squared_angle = (normals[other] - normals[v]).squaredNorm();
          sum += std::exp(-squared_angle * sharpness) * normals[other];
        }
        const double length = sum.norm();
        next[v] = length > 0 ? Vec3(sum / length) : normals[v];
      }
    });
    normals.swap(next);
  }
  return normals;
}

std::vector<std::uint32_t> grow_by_normal(const scan::Mesh& mesh, const scan::Topology& topology,
                                          std::uint32_t seed, double angle) {
  if (seed >= mesh.triangles.size()) return {};
  // Only the surroundings that are reached need smoothed normals: triangle normals averaged over
  // the vertex ring.
  const auto normal_of = [&](std::uint32_t t) {
    Vec3 sum = Vec3::Zero();
    for (const std::uint32_t v : mesh.triangles[t]) {
      for (const std::uint32_t other : topology.vertex_triangles[v]) sum += mesh.area_vector(other);
    }
    return Vec3(sum.normalized());
  };
  const double step = std::cos(angle);
  const double whole = std::cos(std::min(2 * angle, 3.1));
  std::vector<char> seen(mesh.triangles.size(), 0);
  std::vector<std::pair<std::uint32_t, Vec3>> queue{{seed, normal_of(seed)}};
  const Vec3 reference = queue.front().second;
  seen[seed] = 1;
  for (std::size_t i = 0; i < queue.size(); ++i) {
    const auto [t, normal] = queue[i];
    for (std::size_t k = 0; k < 3; ++k) {
      const std::uint32_t other = topology.across[3 * t + k];
      if (other == scan::kNone || seen[other] != 0) continue;
      const Vec3 n = normal_of(other);
      if (n.dot(normal) < step || n.dot(reference) < whole) continue;
      seen[other] = 1;
      queue.emplace_back(other, n);
    }
  }
  std::vector<std::uint32_t> result;
  result.reserve(queue.size());
  for (const auto& [t, n] : queue) result.push_back(t);
  std::sort(result.begin(), result.end());
  return result;
}

std::vector<std::uint32_t> triangles_of(const Survey& survey, std::uint32_t region) {
  std::vector<std::uint32_t> result;
  for (std::size_t t = 0; t < survey.triangle_region.size(); ++t) {
    if (survey.triangle_region[t] == region) result.push_back(static_cast<std::uint32_t>(t));
  }
  return result;
}

}  // namespace lostline::survey
