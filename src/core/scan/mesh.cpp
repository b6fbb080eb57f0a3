#include "scan/mesh.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "base/parallel.h"

namespace lostline::scan {
namespace {

struct HalfEdge {
  std::uint32_t high;  // the larger end; the smaller one is the bucket
  std::uint32_t slot;  // 3 t + k
  bool forward;        // runs from the smaller to the larger vertex
};

Rows rows_from_counts(std::vector<std::uint32_t> counts) {
  Rows rows;
  rows.start.resize(counts.size() + 1, 0);
  std::partial_sum(counts.begin(), counts.end(), rows.start.begin() + 1);
  rows.items.resize(rows.start.back());
  return rows;
}

}  // namespace

Box3 bounds(const Mesh& mesh) {
  Box3 box;
  for (const Vec3& v : mesh.vertices) box.extend(v);
  return box;
}

Mesh transformed(const Mesh& mesh, const Transform& transform) {
  Mesh result = mesh;
  parallel_for(result.vertices.size(), 16384, [&](std::size_t begin, std::size_t end) {
    for (std::size_t i = begin; i < end; ++i) result.vertices[i] = transform * mesh.vertices[i];
  });
  if (transform.linear().determinant() < 0) {
    for (Triangle& t : result.triangles) std::swap(t[1], t[2]);
  }
  return result;
}

Mesh extract(const Mesh& mesh, const std::vector<char>& keep,
             std::vector<std::uint32_t>* kept_triangles) {
  std::vector<std::uint32_t> new_index(mesh.vertices.size(), kNone);
  std::vector<char> used(mesh.vertices.size(), 0);
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    if (keep[t] == 0) continue;
    for (const std::uint32_t v : mesh.triangles[t]) used[v] = 1;
  }
  Mesh result;
  for (std::size_t v = 0; v < used.size(); ++v) {
    if (used[v] == 0) continue;
    new_index[v] = static_cast<std::uint32_t>(result.vertices.size());
    result.vertices.push_back(mesh.vertices[v]);
  }
  if (kept_triangles != nullptr) kept_triangles->clear();
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    if (keep[t] == 0) continue;
    const Triangle& old = mesh.triangles[t];
    result.triangles.push_back({new_index[old[0]], new_index[old[1]], new_index[old[2]]});
    if (kept_triangles != nullptr) kept_triangles->push_back(static_cast<std::uint32_t>(t));
  }
  return result;
}

Topology build_topology(const Mesh& mesh) {
  const std::size_t n_vertices = mesh.vertices.size();
  const std::size_t n_triangles = mesh.triangles.size();
  Topology topology;

  // Half-edges are bucketed by their smaller vertex; the few in a bucket are then matched by
  // sorting.
  std::vector<std::uint32_t> edge_counts(n_vertices, 0);
  std::vector<std::uint32_t> triangle_counts(n_vertices, 0);
  for (const Triangle& t : mesh.triangles) {
    for (std::size_t k = 0; k < 3; ++k) {
      ++edge_counts[std::min(t[k], t[(k + 1) % 3])];
      ++triangle_counts[t[k]];
    }
  }
  topology.vertex_triangles = rows_from_counts(triangle_counts);
  std::vector<std::uint32_t> bucket_start(n_vertices + 1, 0);
  std::partial_sum(edge_counts.begin(), edge_counts.end(), bucket_start.begin() + 1);
  std::vector<HalfEdge> edges(bucket_start.back());
  {
    std::vector<std::uint32_t> edge_fill(bucket_start.begin(), bucket_start.end() - 1);
    std::vector<std::uint32_t> triangle_fill(topology.vertex_triangles.start.begin(),
                                             topology.vertex_triangles.start.end() - 1);
    for (std::size_t t = 0; t < n_triangles; ++t) {
      const Triangle& corners = mesh.triangles[t];
      for (std::size_t k = 0; k < 3; ++k) {
        const std::uint32_t a = corners[k];
        const std::uint32_t b = corners[(k + 1) % 3];
        edges[edge_fill[std::min(a, b)]++] = {std::max(a, b), static_cast<std::uint32_t>(3 * t + k),
                                              a < b};
        topology.vertex_triangles.items[triangle_fill[a]++] = static_cast<std::uint32_t>(t);
      }
    }
  }
  topology.across.assign(3 * n_triangles, kNone);
  std::vector<std::uint32_t> neighbour_counts(n_vertices, 0);
  std::vector<std::pair<std::uint32_t, std::uint32_t>> joined;
  joined.reserve(edges.size() / 2);
  for (std::size_t v = 0; v < n_vertices; ++v) {
    const auto first = edges.begin() + bucket_start[v];
    const auto last = edges.begin() + bucket_start[v + 1];
    std::sort(first, last, [](const HalfEdge& a, const HalfEdge& b) {
      return a.high != b.high ? a.high < b.high : a.slot < b.slot;
    });
    for (auto edge = first; edge != last;) {
      auto next = edge;
      while (next != last && next->high == edge->high) ++next;
      if (edge->high != v) {
        joined.emplace_back(static_cast<std::uint32_t>(v), edge->high);
        ++neighbour_counts[v];
        ++neighbour_counts[edge->high];
      }
      const auto count = next - edge;
      if (count == 1) {
        ++topology.open_edges;
      } else if (count == 2 && edge[0].forward != edge[1].forward) {
        topology.across[edge[0].slot] = edge[1].slot / 3;
        topology.across[edge[1].slot] = edge[0].slot / 3;
      } else {
        ++topology.non_manifold_edges;
      }
      edge = next;
    }
  }
  topology.vertex_neighbours = rows_from_counts(neighbour_counts);
  std::vector<std::uint32_t> fill(topology.vertex_neighbours.start.begin(),
                                  topology.vertex_neighbours.start.end() - 1);
  for (const auto& [a, b] : joined) {
    topology.vertex_neighbours.items[fill[a]++] = b;
    topology.vertex_neighbours.items[fill[b]++] = a;
  }
  return topology;
}

std::vector<Vec3> vertex_normals(const Mesh& mesh) {
  std::vector<Vec3> normals(mesh.vertices.size(), Vec3::Zero());
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    const Vec3 p[3] = {mesh.corner(t, 0), mesh.corner(t, 1), mesh.corner(t, 2)};
    const Vec3 n = (p[1] - p[0]).cross(p[2] - p[0]);
    const double length = n.norm();
    if (!(length > 0)) continue;
    for (int k = 0; k < 3; ++k) {
      const Vec3 e = p[(k + 1) % 3] - p[k];
      const Vec3 f = p[(k + 2) % 3] - p[k];
      const double angle = std::atan2(length, e.dot(f));
      normals[mesh.triangles[t][static_cast<std::size_t>(k)]] += n * (angle / length);
    }
  }
  for (Vec3& n : normals) {
    const double length = n.norm();
    if (length > 0) n /= length;
  }
  return normals;
}

Components connected_components(const Mesh& mesh, const Topology& topology) {
  Components result;
  result.label.assign(mesh.triangles.size(), kNone);
  std::vector<std::size_t> sizes;
  std::vector<std::uint32_t> queue;
  for (std::size_t seed = 0; seed < mesh.triangles.size(); ++seed) {
    if (result.label[seed] != kNone) continue;
    const auto label = static_cast<std::uint32_t>(sizes.size());
    result.label[seed] = label;
    queue.assign(1, static_cast<std::uint32_t>(seed));
    std::size_t count = 0;
    while (!queue.empty()) {
      const std::uint32_t t = queue.back();
      queue.pop_back();
      ++count;
      for (std::size_t k = 0; k < 3; ++k) {
        const std::uint32_t other = topology.across[3 * t + k];
        if (other == kNone || result.label[other] != kNone) continue;
        result.label[other] = label;
        queue.push_back(other);
      }
    }
    sizes.push_back(count);
  }
  std::vector<std::uint32_t> order(sizes.size());
  std::iota(order.begin(), order.end(), 0U);
  std::stable_sort(order.begin(), order.end(),
                   [&](std::uint32_t a, std::uint32_t b) { return sizes[a] > sizes[b]; });
  std::vector<std::uint32_t> rank(order.size());
  for (std::size_t i = 0; i < order.size(); ++i) {
    rank[order[i]] = static_cast<std::uint32_t>(i);
    result.sizes.push_back(sizes[order[i]]);
  }
  for (std::uint32_t& label : result.label) label = rank[label];
  return result;
}

}  // namespace lostline::scan
