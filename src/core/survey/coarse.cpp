#include "survey/coarse.h"

namespace lostline::survey {

Coarse coarsen(const scan::Mesh& mesh, const scan::Topology& topology,
               const std::vector<Vec3>& normals) {
  constexpr double kSameWay = 0.94;  // 20 degrees: an edge is not averaged over
  Coarse coarse;
  coarse.cluster.assign(mesh.vertices.size(), scan::kNone);
  // Whole rings first, so that most clusters are of one size; what is left joins a neighbour.
  for (const bool whole : {true, false}) {
    for (std::uint32_t v = 0; v < mesh.vertices.size(); ++v) {
      if (coarse.cluster[v] != scan::kNone) continue;
      const auto ring = topology.vertex_neighbours[v];
      const auto free = [&](std::uint32_t other) {
        return coarse.cluster[other] == scan::kNone && normals[other].dot(normals[v]) > kSameWay;
      };
      if (whole) {
        bool all = ring.size() > 0;
        for (const std::uint32_t other : ring) all = all && coarse.cluster[other] == scan::kNone;
        if (!all) continue;
      } else {
        std::uint32_t host = scan::kNone;
        double nearest = 1e300;
        for (const std::uint32_t other : ring) {
          if (coarse.cluster[other] == scan::kNone || normals[other].dot(normals[v]) <= kSameWay)
            continue;
          const double d = (mesh.vertices[other] - mesh.vertices[v]).squaredNorm();
          if (d < nearest) {
            nearest = d;
            host = coarse.cluster[other];
          }
        }
        if (host != scan::kNone) {
          coarse.cluster[v] = host;
          continue;
        }
      }
      const auto id = static_cast<std::uint32_t>(coarse.mesh.vertices.size());
      coarse.mesh.vertices.emplace_back(Vec3::Zero());
      for (const std::uint32_t other : ring) {
        if (free(other)) coarse.cluster[other] = id;
      }
      coarse.cluster[v] = id;
    }
  }
  std::vector<std::uint32_t> count(coarse.mesh.vertices.size(), 0);
  for (std::uint32_t v = 0; v < mesh.vertices.size(); ++v) {
    coarse.mesh.vertices[coarse.cluster[v]] += mesh.vertices[v];
    ++count[coarse.cluster[v]];
  }
  for (std::size_t i = 0; i < count.size(); ++i) coarse.mesh.vertices[i] /= count[i];
  for (const scan::Triangle& t : mesh.triangles) {
    const scan::Triangle c{coarse.cluster[t[0]], coarse.cluster[t[1]], coarse.cluster[t[2]]};
    if (c[0] != c[1] && c[1] != c[2] && c[2] != c[0]) coarse.mesh.triangles.push_back(c);
  }
  return coarse;
}

}  // namespace lostline::survey
