#include "scan/selection.h"

#include <unordered_set>

#include "base/parallel.h"

namespace lostline::scan {
namespace {

/// Flags of vertices that touch a triangle with the flag `value`.
std::vector<char> touched(const Mesh& mesh, const Selection& selection, char value) {
  std::vector<char> vertices(mesh.vertices.size(), 0);
  for (std::size_t t = 0; t < selection.size(); ++t) {
    if ((selection[t] != 0) != (value != 0)) continue;
    for (const std::uint32_t v : mesh.triangles[t]) vertices[v] = 1;
  }
  return vertices;
}

}  // namespace

void select_connected(const Topology& topology, const std::vector<std::uint32_t>& seeds, bool add,
                      Selection& selection) {
  std::vector<char> seen(selection.size(), 0);
  std::vector<std::uint32_t> queue;
  for (const std::uint32_t s : seeds) {
    if (s >= seen.size() || seen[s] != 0) continue;
    seen[s] = 1;
    queue.push_back(s);
  }
  for (std::size_t i = 0; i < queue.size(); ++i) {
    selection[queue[i]] = add ? 1 : 0;
    for (std::size_t k = 0; k < 3; ++k) {
      const std::uint32_t other = topology.across[3 * static_cast<std::size_t>(queue[i]) + k];
      if (other == kNone || seen[other] != 0) continue;
      seen[other] = 1;
      queue.push_back(other);
    }
  }
}

Selection grown(const Mesh& mesh, const Selection& selection) {
  const std::vector<char> vertices = touched(mesh, selection, 1);
  Selection result = selection;
  for (std::size_t t = 0; t < result.size(); ++t) {
    for (const std::uint32_t v : mesh.triangles[t]) result[t] = result[t] != 0 || vertices[v] != 0;
  }
  return result;
}

Selection shrunk(const Mesh& mesh, const Selection& selection) {
  const std::vector<char> vertices = touched(mesh, selection, 0);
  Selection result = selection;
  for (std::size_t t = 0; t < result.size(); ++t) {
    for (const std::uint32_t v : mesh.triangles[t]) result[t] = result[t] != 0 && vertices[v] == 0;
  }
  return result;
}

Selection inverted(Selection selection) {
  for (char& s : selection) s = s == 0 ? 1 : 0;
  return selection;
}

std::vector<std::uint32_t> patch_around(const Mesh& mesh, const Topology& topology,
                                        std::uint32_t seed, const Vec3& centre, double radius) {
  const Vec3 facing = mesh.area_vector(seed);
  std::vector<std::uint32_t> front{seed};
  std::unordered_set<std::uint32_t> seen{seed};
  for (std::size_t i = 0; i < front.size(); ++i) {
    for (std::size_t k = 0; k < 3; ++k) {
      const std::uint32_t other = topology.across[3 * front[i] + k];
      if (other == kNone || !seen.insert(other).second) continue;
      if ((mesh.centroid(other) - centre).norm() > radius ||
          mesh.area_vector(other).dot(facing) < 0)
        continue;
      front.push_back(other);
    }
  }
  return front;
}

Result<Selection> select_seen(const Mesh& mesh, const MeshIndex& index, const Sight& sight,
                              const std::function<bool(const Vec3&)>& inside, bool add,
                              Selection selection, const Task& task) {
  const double far = 2 * bounds(mesh).diagonal().norm() + 1;
  parallel_for(mesh.triangles.size(), 2048, [&](std::size_t begin, std::size_t end) {
    for (std::size_t t = begin; t < end && !task.stopped(); ++t) {
      if ((selection[t] != 0) == add) continue;
      const Vec3 centre = mesh.centroid(t);
      if (!inside(centre)) continue;
      if (!sight.through) {
        if (mesh.area_vector(t).dot(sight.direction) > 0) continue;
        const auto hit = index.first_hit(centre - far * sight.direction, sight.direction);
        if (hit && hit->t < far - sight.slack) continue;
      }
      selection[t] = add ? 1 : 0;
    }
  });
  if (task.stopped()) return cancelled();
  return selection;
}

std::vector<std::uint32_t> indices_of(const Selection& selection) {
  std::vector<std::uint32_t> indices;
  for (std::size_t t = 0; t < selection.size(); ++t) {
    if (selection[t] != 0) indices.push_back(static_cast<std::uint32_t>(t));
  }
  return indices;
}

}  // namespace lostline::scan
