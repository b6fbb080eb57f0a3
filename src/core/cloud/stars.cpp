#include "cloud/stars.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <unordered_map>
#include <unordered_set>

#include "base/parallel.h"
#include "base/point_grid.h"

namespace lostline::cloud {
namespace {

using scan::Triangle;

/// The neighbours of a point round about it, counter-clockwise seen from outside; where two that
/// follow each other span no triangle with it, the second is marked.
struct Star {
  std::vector<std::uint32_t> around;
  std::vector<char> open_before;  ///< nothing between the one before and this one

  /// Whether `b` follows `a` with a triangle between.
  [[nodiscard]] bool has(std::uint32_t a, std::uint32_t b) const {
    for (std::size_t k = 0; k < around.size(); ++k) {
      if (around[k] != b || open_before[k] != 0) continue;
      return around[(k + around.size() - 1) % around.size()] == a;
    }
    return false;
  }
};

struct Beside {
  std::uint32_t index;
  Vec2 flat;  // in the tangent plane, from the point
  Vec2 dual;  // flat / |flat|2: the nearer the further out
};

/// Hull of some points, counter-clockwise; @source A. M. Andrew, Inf. Process. Lett. 9 (1979).
std::vector<std::size_t> hull_of(const std::vector<Vec2>& p) {
  std::vector<std::size_t> order(p.size());
  for (std::size_t i = 0; i < order.size(); ++i) order[i] = i;
  std::sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
    return p[a].x() != p[b].x() ? p[a].x() < p[b].x() : p[a].y() < p[b].y();
  });
  std::vector<std::size_t> hull;
  for (int side = 0; side < 2; ++side) {
    const std::size_t start = hull.size();
    for (const std::size_t i : order) {
      while (hull.size() >= start + 2 &&
             cross(p[hull.back()] - p[hull[hull.size() - 2]], p[i] - p[hull.back()]) <= 0)
        hull.pop_back();
      hull.push_back(i);
    }
    hull.pop_back();
    std::reverse(order.begin(), order.end());
  }
  return hull;
}

/// The Delaunay neighbours of a point among those about it: the duals of the planes that bound its
/// Voronoi cell are the corners of their hull, taken with the point itself where it lies outside.
Star star_of(const std::vector<Vec3>& points, const std::vector<Vec3>& normals, std::uint32_t self,
             const PointGrid& grid, double bridge, std::vector<Beside>& beside) {
  const Vec3& at = points[self];
  const Vec3& normal = normals[self];
  Star star;
  if (!(normal.squaredNorm() > 0.5)) return star;
  const Vec3 u = any_perpendicular(normal);
  const Vec3 v = normal.cross(u);
  beside.clear();
  grid.near(at, bridge, [&](std::size_t j, double squared) {
    // The other side of a thin wall looks the other way; what lies under or over the point is no
    // neighbour on its surface.
    constexpr double kOtherSide = -0.2;  // cosine
    if (j == self || !(squared > 0) || normal.dot(normals[j]) < kOtherSide) return;
    const Vec3 d = points[j] - at;
    const Vec2 flat(d.dot(u), d.dot(v));
    if (flat.squaredNorm() < 0.09 * squared) return;
    // Its length is kept where the surface turns away.
    const Vec2 laid = flat * std::sqrt(squared / flat.squaredNorm());
    beside.push_back({static_cast<std::uint32_t>(j), laid, laid / squared});
  });
  if (beside.size() < 2) return star;
  std::vector<Vec2> duals;
  duals.reserve(beside.size() + 1);
  for (const Beside& b : beside) duals.push_back(b.dual);
  duals.emplace_back(0, 0);
  const std::vector<std::size_t> hull = hull_of(duals);
  const std::size_t origin = beside.size();
  const auto zero = std::find(hull.begin(), hull.end(), origin);
  const auto offset = static_cast<std::size_t>(zero == hull.end() ? 0 : zero - hull.begin());
  for (std::size_t k = 0; k < hull.size(); ++k) {
    const std::size_t i = hull[(offset + k) % hull.size()];
    if (i != origin) star.around.push_back(beside[i].index);
  }
  const std::size_t n = star.around.size();
  star.open_before.assign(n, 0);
  if (zero != hull.end() && n > 0) star.open_before[0] = 1;
  for (std::size_t k = 0; k < n; ++k) {
    const Vec3 a = points[star.around[(k + n - 1) % n]] - at;
    const Vec3 b = points[star.around[k]] - at;
    const double area = a.cross(b).norm();
    const double widest = std::max({a.norm(), b.norm(), (a - b).norm()});
    // Radius of the circle about it: the product of the sides over four times the area.
    const bool wide = widest > bridge || !(area > 0) ||
                      a.norm() * b.norm() * (a - b).norm() > 2 * area * (0.75 * bridge);
    if (wide || n < 2) star.open_before[k] = 1;
  }
  return star;
}

std::uint64_t edge_key(std::uint32_t a, std::uint32_t b) {
  return (static_cast<std::uint64_t>(a) << 32U) | b;
}

/// Fans of triangles about each vertex; of several the largest stays. Vertices that lose triangles
/// are marked.
void keep_one_fan(std::vector<Triangle>& triangles, std::vector<char>& unsettled) {
  const std::size_t vertices = unsettled.size();
  std::vector<std::uint32_t> start(vertices + 1, 0);
  for (const Triangle& t : triangles) {
    for (const std::uint32_t v : t) ++start[v + 1];
  }
  for (std::size_t v = 0; v < vertices; ++v) start[v + 1] += start[v];
  std::vector<std::uint32_t> at(triangles.size() * 3);
  std::vector<std::uint32_t> next(start.begin(), start.end() - 1);
  for (std::uint32_t t = 0; t < triangles.size(); ++t) {
    for (const std::uint32_t v : triangles[t]) at[next[v]++] = t;
  }
  std::vector<char> drop(triangles.size(), 0);
  for (std::uint32_t v = 0; v < vertices; ++v) {
    const std::uint32_t count = start[v + 1] - start[v];
    if (count < 2) continue;
    // Each triangle goes on to the one that begins where it ends.
    std::vector<int> fan(count, -1);
    const auto corners = [&](std::uint32_t k) {
      const Triangle& t = triangles[at[start[v] + k]];
      const std::size_t i = t[0] == v ? 0 : t[1] == v ? 1 : 2;
      return std::pair{t[(i + 1) % 3], t[(i + 2) % 3]};
    };
    int fans = 0;
    std::vector<std::uint32_t> sizes;
    for (std::uint32_t k = 0; k < count; ++k) {
      if (fan[k] >= 0) continue;
      std::vector<std::uint32_t> open{k};
      fan[k] = fans;
      std::uint32_t size = 0;
      while (!open.empty()) {
        const std::uint32_t m = open.back();
        open.pop_back();
        ++size;
        const auto [from, to] = corners(m);
        for (std::uint32_t o = 0; o < count; ++o) {
          if (fan[o] >= 0) continue;
          const auto [other_from, other_to] = corners(o);
          if (other_from != to && other_to != from) continue;
          fan[o] = fans;
          open.push_back(o);
        }
      }
      sizes.push_back(size);
      ++fans;
    }
    if (fans < 2) continue;
    const auto largest = std::max_element(sizes.begin(), sizes.end()) - sizes.begin();
    for (std::uint32_t k = 0; k < count; ++k) {
      if (fan[k] != largest) drop[at[start[v] + k]] = 1;
    }
  }
  std::size_t kept = 0;
  for (std::size_t t = 0; t < triangles.size(); ++t) {
    if (drop[t] == 0) {
      triangles[kept++] = triangles[t];
    } else {
      for (const std::uint32_t v : triangles[t]) unsettled[v] = 1;
    }
  }
  triangles.resize(kept);
}

/// Closes loops of few open edges between unsettled vertices by cutting ears, the roundest first,
/// where nothing is wider than `bridge`.
void close_small_holes(const std::vector<Vec3>& points, const std::vector<Vec3>& normals,
                       double bridge, const std::vector<char>& unsettled,
                       std::vector<Triangle>& triangles) {
  std::unordered_set<std::uint64_t> edges;
  for (const Triangle& t : triangles) {
    for (std::size_t k = 0; k < 3; ++k) {
      if (unsettled[t[k]] != 0 && unsettled[t[(k + 1) % 3]] != 0)
        edges.insert(edge_key(t[k], t[(k + 1) % 3]));
    }
  }
  std::unordered_map<std::uint32_t, std::uint32_t> next;  // along the hole
  std::unordered_set<std::uint32_t> twice;
  for (const std::uint64_t edge : edges) {
    const auto a = static_cast<std::uint32_t>(edge >> 32U);
    const auto b = static_cast<std::uint32_t>(edge);
    if (edges.contains(edge_key(b, a))) continue;
    if (!next.emplace(b, a).second) twice.insert(b);
  }
  std::vector<std::uint32_t> begins;
  for (const auto& [from, to] : next) begins.push_back(from);
  std::sort(begins.begin(), begins.end());
  std::unordered_set<std::uint32_t> seen;
  constexpr std::size_t kMostEdges = 12;
  for (const std::uint32_t first : begins) {
    if (seen.contains(first)) continue;
    std::vector<std::uint32_t> loop;
    bool closed = false;
    for (std::uint32_t at = first; loop.size() <= kMostEdges;) {
      if (twice.contains(at)) break;
      loop.push_back(at);
      seen.insert(at);
      const auto it = next.find(at);
      if (it == next.end()) break;
      at = it->second;
      if (at == first) {
        closed = true;
        break;
      }
    }
    if (!closed || loop.size() > kMostEdges || loop.size() < 3) continue;
    double widest = 0;
    for (const std::uint32_t a : loop) {
      for (const std::uint32_t b : loop) widest = std::max(widest, (points[a] - points[b]).norm());
    }
    if (widest > 1.5 * bridge) continue;
    std::vector<Triangle> ears;
    std::vector<std::uint32_t> rest = loop;
    while (rest.size() >= 3) {
      double best = -1;
      std::size_t place = 0;
      for (std::size_t k = 0; k < rest.size(); ++k) {
        const std::uint32_t a = rest[(k + rest.size() - 1) % rest.size()];
        const std::uint32_t b = rest[k];
        const std::uint32_t c = rest[(k + 1) % rest.size()];
        // Edges inside the hole must be new.
        if (rest.size() > 3 && (edges.contains(edge_key(c, a)) || edges.contains(edge_key(a, c))))
          continue;
        const Vec3 area = (points[b] - points[a]).cross(points[c] - points[a]);
        const double size = area.norm();
        if (!(size > 0) || area.dot(normals[b]) < 0.2 * size) continue;
        const double round =
            size / ((points[b] - points[a]).squaredNorm() + (points[c] - points[b]).squaredNorm() +
                    (points[a] - points[c]).squaredNorm());
        if (round > best) {
          best = round;
          place = k;
        }
      }
      if (best < 0) break;
      ears.push_back({rest[(place + rest.size() - 1) % rest.size()], rest[place],
                      rest[(place + 1) % rest.size()]});
      rest.erase(rest.begin() + static_cast<std::ptrdiff_t>(place));
      if (rest.size() == 2) rest.clear();
    }
    if (!rest.empty()) continue;
    for (const Triangle& t : ears) {
      triangles.push_back(t);
      for (std::size_t k = 0; k < 3; ++k) edges.insert(edge_key(t[k], t[(k + 1) % 3]));
    }
  }
}

}  // namespace

scan::Mesh join_stars(const std::vector<Vec3>& points, const std::vector<Vec3>& normals,
                      double bridge, const Task& task) {
  scan::Mesh mesh;
  mesh.vertices = points;
  const auto n = static_cast<std::uint32_t>(points.size());
  const PointGrid grid(points, bridge);
  std::vector<Star> stars(n);
  parallel_for(n, 1024, [&](std::size_t begin, std::size_t end) {
    if (task.stopped()) return;
    std::vector<Beside> beside;
    for (std::size_t i = begin; i < end; ++i)
      stars[i] = star_of(points, normals, static_cast<std::uint32_t>(i), grid, bridge, beside);
  });
  if (task.stopped()) return mesh;
  task.report(0.6);
  // What all three corners hold, once; what fewer hold waits.
  struct Doubtful {
    Triangle t;
    int votes;
    double round;
  };
  std::vector<Doubtful> doubtful;
  std::vector<char> unsettled(n, 0);
  for (std::uint32_t i = 0; i < n; ++i) {
    const Star& star = stars[i];
    const std::size_t count = star.around.size();
    for (std::size_t k = 0; k < count; ++k) {
      if (star.open_before[k] != 0) continue;
      const std::uint32_t a = star.around[(k + count - 1) % count];
      const std::uint32_t b = star.around[k];
      const bool by_a = stars[a].has(b, i);
      const bool by_b = stars[b].has(i, a);
      if (by_a && by_b) {
        if (i < a && i < b) mesh.triangles.push_back({i, a, b});
        continue;
      }
      // Counted by the lowest corner that holds it.
      if ((by_a && a < i) || (by_b && b < i)) continue;
      const Vec3 p = points[a] - points[i];
      const Vec3 q = points[b] - points[i];
      doubtful.push_back(
          {{i, a, b},
           1 + (by_a ? 1 : 0) + (by_b ? 1 : 0),
           p.cross(q).norm() / (p.squaredNorm() + q.squaredNorm() + (p - q).squaredNorm())});
      for (const std::uint32_t v : {i, a, b}) unsettled[v] = 1;
    }
  }
  std::unordered_set<std::uint64_t> used;
  for (const Triangle& t : mesh.triangles) {
    for (std::size_t k = 0; k < 3; ++k) {
      if (unsettled[t[k]] != 0 && unsettled[t[(k + 1) % 3]] != 0)
        used.insert(edge_key(t[k], t[(k + 1) % 3]));
    }
  }
  std::stable_sort(doubtful.begin(), doubtful.end(), [](const Doubtful& a, const Doubtful& b) {
    return a.votes != b.votes ? a.votes > b.votes : a.round > b.round;
  });
  task.report(0.75);
  for (const Doubtful& d : doubtful) {
    bool free = true;
    for (std::size_t k = 0; k < 3; ++k)
      free = free && !used.contains(edge_key(d.t[k], d.t[(k + 1) % 3]));
    if (!free) continue;
    // One star alone may join over what others have closed: it must touch something open.
    if (d.votes == 1) {
      int beside = 0;
      for (std::size_t k = 0; k < 3; ++k)
        beside += used.contains(edge_key(d.t[(k + 1) % 3], d.t[k])) ? 1 : 0;
      if (beside < 2) continue;
    }
    for (std::size_t k = 0; k < 3; ++k) used.insert(edge_key(d.t[k], d.t[(k + 1) % 3]));
    mesh.triangles.push_back(d.t);
  }
  if (task.stopped()) return mesh;
  keep_one_fan(mesh.triangles, unsettled);
  close_small_holes(points, normals, bridge, unsettled, mesh.triangles);
  keep_one_fan(mesh.triangles, unsettled);
  task.report(1);
  return mesh;
}

}  // namespace lostline::cloud
