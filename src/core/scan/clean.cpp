#include "scan/clean.h"

#include <algorithm>
#include <cmath>

#include "base/parallel.h"

namespace lostline::scan {

Cleaned drop_spikes(const Mesh& mesh, const Topology& topology, double noise, double sigmas) {
  const std::vector<Vec3> normals = vertex_normals(mesh);
  std::vector<char> spike(mesh.vertices.size(), 0);
  parallel_for(mesh.vertices.size(), 4096, [&](std::size_t begin, std::size_t end) {
    std::vector<double> off;
    for (std::size_t v = begin; v < end; ++v) {
      const auto ring = topology.vertex_neighbours[v];
      if (ring.size() < 4) continue;
      Vec3 mean = Vec3::Zero();
      Vec3 normal = Vec3::Zero();
      for (const std::uint32_t other : ring) {
        mean += mesh.vertices[other];
        normal += normals[other];
      }
      if (!(normal.norm() > 0)) continue;
      mean /= static_cast<double>(ring.size());
      normal.normalize();
      // The ring's own spread about its plane tells an edge from a spike.
      off.clear();
      for (const std::uint32_t other : ring)
        off.push_back(std::abs((mesh.vertices[other] - mean).dot(normal)));
      std::nth_element(off.begin(), off.begin() + static_cast<std::ptrdiff_t>(off.size() / 2),
                       off.end());
      const double spread = std::max(noise, 1.5 * off[off.size() / 2]);
      if (std::abs((mesh.vertices[v] - mean).dot(normal)) > sigmas * spread) spike[v] = 1;
    }
  });
  std::vector<char> keep(mesh.triangles.size(), 1);
  Cleaned result;
  for (std::size_t t = 0; t < keep.size(); ++t) {
    const Triangle& triangle = mesh.triangles[t];
    if (spike[triangle[0]] == 0 && spike[triangle[1]] == 0 && spike[triangle[2]] == 0) continue;
    keep[t] = 0;
    ++result.count;
  }
  result.mesh = extract(mesh, keep);
  return result;
}

Result<Cleaned> smooth(const Mesh& mesh, const Topology& topology, const Selection& selection,
                       int passes, const Task& task) {
  constexpr double kInwards = 0.5;
  constexpr double kOutwards = -0.53;
  const std::size_t n = mesh.vertices.size();
  std::vector<char> moves(n, 1);
  const bool some = std::find(selection.begin(), selection.end(), 1) != selection.end();
  if (some) {
    std::fill(moves.begin(), moves.end(), 0);
    for (std::size_t t = 0; t < selection.size(); ++t) {
      if (selection[t] == 0) continue;
      for (const std::uint32_t v : mesh.triangles[t]) moves[v] = 1;
    }
  }
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    for (std::size_t k = 0; k < 3; ++k) {
      if (topology.across[3 * t + k] != kNone) continue;
      moves[mesh.triangles[t][k]] = 0;
      moves[mesh.triangles[t][(k + 1) % 3]] = 0;
    }
  }
  Cleaned result;
  result.mesh = mesh;
  std::vector<Vec3> next(n);
  for (int pass = 0; pass < 2 * passes; ++pass) {
    if (task.stopped()) return cancelled();
    task.report(static_cast<double>(pass) / (2 * passes));
    const double step = pass % 2 == 0 ? kInwards : kOutwards;
    const std::vector<Vec3>& from = result.mesh.vertices;
    parallel_for(n, 4096, [&](std::size_t begin, std::size_t end) {
      for (std::size_t v = begin; v < end; ++v) {
        const auto ring = topology.vertex_neighbours[v];
        next[v] = from[v];
        if (moves[v] == 0 || ring.size() < 3) continue;
        Vec3 mean = Vec3::Zero();
        for (const std::uint32_t other : ring) mean += from[other];
        next[v] += step * (mean / static_cast<double>(ring.size()) - from[v]);
      }
    });
    result.mesh.vertices.swap(next);
  }
  double squares = 0;
  for (std::size_t v = 0; v < n; ++v) {
    const double moved = (result.mesh.vertices[v] - mesh.vertices[v]).norm();
    squares += moved * moved;
    result.moved_most = std::max(result.moved_most, moved);
    result.count += moves[v] != 0;
  }
  result.moved_rms = std::sqrt(squares / std::max<double>(1, static_cast<double>(result.count)));
  task.report(1.0);
  return result;
}

}  // namespace lostline::scan
