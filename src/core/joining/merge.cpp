#include "joining/merge.h"

#include <algorithm>
#include <cmath>

#include "scan/noise.h"

namespace lostline::joining {

double even_spacing(const scan::Mesh& mesh) {
  if (mesh.triangles.empty()) return 0;
  double area = 0;
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) area += 0.5 * mesh.area_vector(t).norm();
  return std::sqrt(area / static_cast<double>(mesh.triangles.size()) * 4 / std::sqrt(3.0));
}

Result<cloud::Meshed> merge_scans(const std::vector<Lying>& scans,
                                  const cloud::MeshingOptions& options, const Task& task) {
  scan::PointCloud all;
  double finest = 1e300;
  for (const Lying& scan : scans) {
    if (!(scan.weight > 0)) continue;
    const scan::Mesh& mesh = *scan.mesh;
    const scan::Topology topology = scan::build_topology(mesh);
    const double spacing = even_spacing(mesh);
    if (!(spacing > 0)) continue;
    finest = std::min(finest, spacing);
    // A scan without noise outweighs the others, but not without bound.
    const double noise = std::max(scan::measure_noise(mesh, topology).sigma, 1e-3 * spacing) /
                         std::sqrt(scan.weight);
    const std::vector<Vec3> normals = scan::vertex_normals(mesh);
    for (std::size_t v = 0; v < mesh.vertices.size(); ++v) {
      if (!(normals[v].squaredNorm() > 0.5)) continue;
      all.points.emplace_back(scan.pose * mesh.vertices[v]);
      all.normals.emplace_back(scan.pose.linear() * (scan.inside_out ? -normals[v] : normals[v]));
      all.noise.push_back(static_cast<float>(noise));
    }
    if (task.stopped()) return cancelled();
  }
  cloud::MeshingOptions meshing = options;
  if (!(meshing.spacing > 0) && finest < 1e300) meshing.spacing = finest;
  return cloud::mesh_cloud(all, meshing, task);
}

}  // namespace lostline::joining
