#include "joining/drift.h"

#include <cmath>
#include <limits>

#include "base/parallel.h"
#include "scan/mesh_index.h"

namespace lostline::joining {

Result<std::vector<float>> drift_of(const Lying& one, const std::vector<Lying>& others,
                                    double search, const Task& task) {
  const scan::Mesh& mesh = *one.mesh;
  const std::vector<Vec3> normals = scan::vertex_normals(mesh);
  if (!(search > 0)) search = 3 * even_spacing(mesh);
  std::vector<double> sum(mesh.vertices.size(), 0);
  std::vector<int> counted(mesh.vertices.size(), 0);
  for (std::size_t k = 0; k < others.size(); ++k) {
    if (task.stopped()) return cancelled();
    task.report(static_cast<double>(k) / static_cast<double>(others.size()));
    const scan::Mesh& other = *others[k].mesh;
    const scan::MeshIndex index(other);
    const scan::Topology topology = scan::build_topology(other);
    std::vector<char> border(other.triangles.size(), 0);
    for (std::size_t e = 0; e < topology.across.size(); ++e) {
      if (topology.across[e] == scan::kNone) border[e / 3] = 1;
    }
    const Transform motion = others[k].pose.inverse() * one.pose;
    const double facing = one.inside_out != others[k].inside_out ? -1 : 1;
    const double outwards = others[k].inside_out ? -1 : 1;
    parallel_for(mesh.vertices.size(), 1024, [&](std::size_t begin, std::size_t end) {
      for (std::size_t v = begin; v < end; ++v) {
        const Vec3 p = motion * mesh.vertices[v];
        const auto near = index.nearest(p, search);
        if (!near || border[near->triangle] != 0) continue;
        const Vec3 normal = other.area_vector(near->triangle).normalized();
        constexpr double kSameWay = 0.7;  // cosine: within 45 degrees
        if (!(facing * normal.dot(motion.linear() * normals[v]) > kSameWay)) continue;
        const double side = outwards * normal.dot(p - near->point);
        sum[v] += std::copysign(near->distance, side);
        ++counted[v];
      }
    });
  }
  std::vector<float> drift(sum.size(), std::numeric_limits<float>::quiet_NaN());
  for (std::size_t v = 0; v < sum.size(); ++v) {
    if (counted[v] > 0) drift[v] = static_cast<float>(sum[v] / counted[v]);
  }
  task.report(1);
  return drift;
}

}  // namespace lostline::joining
