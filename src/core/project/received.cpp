#include "project/received.h"

#include <map>

#include "cloud/neighbours.h"
#include "scan/mesh.h"

namespace lostline::project {
namespace {

/// The points that stay, with their normals.
scan::PointCloud chosen(const scan::PointCloud& cloud, const std::vector<bool>& keep) {
  scan::PointCloud some;
  for (std::size_t i = 0; i < cloud.points.size(); ++i) {
    if (!keep[i]) continue;
    some.points.push_back(cloud.points[i]);
    if (cloud.has_normals()) some.normals.push_back(cloud.normals[i]);
    if (!cloud.noise.empty()) some.noise.push_back(cloud.noise[i]);
  }
  return some;
}

/// Runs of open edges, and their edges.
void borders_of(const scan::Mesh& mesh, SoFar& seen) {
  const scan::Topology topology = scan::build_topology(mesh);
  std::multimap<std::uint32_t, std::uint32_t> next;
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    for (std::size_t k = 0; k < 3; ++k) {
      if (topology.across[3 * t + k] != scan::kNone) continue;
      const std::uint32_t a = mesh.triangles[t][k];
      const std::uint32_t b = mesh.triangles[t][(k + 1) % 3];
      next.emplace(a, b);
      seen.edges.emplace_back(mesh.vertices[a], mesh.vertices[b]);
      seen.border += (mesh.vertices[a] - mesh.vertices[b]).norm();
    }
  }
  while (!next.empty()) {
    ++seen.openings;
    for (auto at = next.begin(); at != next.end();) {
      const std::uint32_t to = at->second;
      next.erase(at);
      at = next.find(to);
    }
  }
}

}  // namespace

Result<SoFar> look_at(const scan::PointCloud& cloud, bool cut_table, const Task& task) {
  constexpr double kLooked = 30000;  // points that show where a surface ends
  const double spacing = cloud::spacing_of(cloud.points);
  const double apart =
      spacing * std::sqrt(std::max(1.0, static_cast<double>(cloud.points.size()) / kLooked));
  std::vector<bool> keep(cloud.points.size(), false);
  for (const std::uint32_t i : cloud::thinned(cloud.points, apart, task)) keep[i] = true;
  scan::PointCloud few = chosen(cloud, keep);
  SoFar seen;
  if (cut_table) {
    seen.table = cloud::find_table(few, apart, task);
    if (seen.table) few = chosen(few, cloud::above(*seen.table, few.points, spacing));
  }
  cloud::MeshingOptions options;
  options.smooth = 2;
  const auto meshed = cloud::mesh_cloud(few, options, task);
  if (!meshed) return meshed.error();
  for (std::size_t t = 0; t < meshed->mesh.triangles.size(); ++t)
    seen.area += 0.5 * meshed->mesh.area_vector(t).norm();
  borders_of(meshed->mesh, seen);
  return seen;
}

Result<Received> mesh_views(const scan::PointCloud& cloud, bool cut_table,
                            const cloud::MeshingOptions& options, const Task& task) {
  Received received;
  scan::PointCloud part = cloud;
  if (cut_table) {
    const double spacing = cloud::spacing_of(cloud.points);
    received.table = cloud::find_table(cloud, spacing, task.part(0, 0.1));
    if (received.table) {
      part = chosen(cloud, cloud::above(*received.table, cloud.points, spacing));
      received.cut = cloud.points.size() - part.points.size();
    }
  }
  auto meshed = cloud::mesh_cloud(part, options, task.part(0.1, 1));
  if (!meshed) return meshed.error();
  received.meshed = *std::move(meshed);
  return received;
}

}  // namespace lostline::project
