#include "scan/defects.h"

#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <CGAL/box_intersection_d.h>
#include <CGAL/intersections.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <set>

#include "base/parallel.h"
#include "scan/mesh_index.h"

namespace lostline::scan {
namespace {

using Kernel = CGAL::Exact_predicates_inexact_constructions_kernel;

Kernel::Point_3 point(const Vec3& p) { return {p.x(), p.y(), p.z()}; }

/// Whether two triangles have more in common than the corners they share.
bool cross(const Mesh& mesh, std::uint32_t a, std::uint32_t b) {
  const Triangle& one = mesh.triangles[a];
  const Triangle& two = mesh.triangles[b];
  std::vector<std::size_t> mine;  // corners of the first that the second has too
  std::vector<std::size_t> other;
  for (std::size_t i = 0; i < 3; ++i) {
    for (std::size_t j = 0; j < 3; ++j) {
      if (one[i] != two[j]) continue;
      mine.push_back(i);
      other.push_back(j);
    }
  }
  if (mine.size() > 1) return false;  // along an edge: a fold, not a crossing
  const auto triangle = [&](std::uint32_t t) {
    return Kernel::Triangle_3(point(mesh.corner(t, 0)), point(mesh.corner(t, 1)),
                              point(mesh.corner(t, 2)));
  };
  const Kernel::Triangle_3 first = triangle(a);
  const Kernel::Triangle_3 second = triangle(b);
  if (first.is_degenerate() || second.is_degenerate()) return false;
  if (mine.empty()) return CGAL::do_intersect(first, second);
  // One corner shared: the side across from it must not meet the other triangle.
  const auto across = [&](std::uint32_t t, std::size_t corner) {
    return Kernel::Segment_3(point(mesh.corner(t, static_cast<int>((corner + 1) % 3))),
                             point(mesh.corner(t, static_cast<int>((corner + 2) % 3))));
  };
  return CGAL::do_intersect(across(a, mine.front()), second) ||
         CGAL::do_intersect(across(b, other.front()), first);
}

std::vector<std::uint32_t> crossings(const Mesh& mesh) {
  using Box = CGAL::Box_intersection_d::Box_with_handle_d<double, 3, const std::uint32_t*>;
  std::vector<std::uint32_t> numbers(mesh.triangles.size());
  std::vector<Box> boxes;
  boxes.reserve(numbers.size());
  for (std::uint32_t t = 0; t < numbers.size(); ++t) {
    numbers[t] = t;
    CGAL::Bbox_3 box = point(mesh.corner(t, 0)).bbox();
    box += point(mesh.corner(t, 1)).bbox();
    box += point(mesh.corner(t, 2)).bbox();
    boxes.emplace_back(box, &numbers[t]);
  }
  std::vector<char> found(numbers.size(), 0);
  CGAL::box_self_intersection_d(boxes.begin(), boxes.end(), [&](const Box& a, const Box& b) {
    const std::uint32_t one = *a.handle();
    const std::uint32_t two = *b.handle();
    if ((found[one] != 0 && found[two] != 0) || !cross(mesh, one, two)) return;
    found[one] = found[two] = 1;
  });
  return indices_of(found);
}

std::vector<std::uint32_t> folds(const Mesh& mesh, const Topology& topology) {
  constexpr double kAgainst = -0.7;  // cosine: an edge sharper than 45 degrees of material
  std::vector<std::uint32_t> found;
  for (std::uint32_t t = 0; t < mesh.triangles.size(); ++t) {
    const Vec3 n = mesh.area_vector(t).normalized();
    int against = 0;
    for (std::size_t k = 0; k < 3; ++k) {
      const std::uint32_t other = topology.across[3 * t + k];
      if (other == kNone) continue;
      against += mesh.area_vector(other).normalized().dot(n) < kAgainst ? 1 : 0;
    }
    if (against >= 2) found.push_back(t);
  }
  return found;
}

double mean_edge(const Mesh& mesh) {
  double sum = 0;
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t)
    sum += (mesh.corner(t, 1) - mesh.corner(t, 0)).norm();
  return mesh.triangles.empty() ? 0 : sum / static_cast<double>(mesh.triangles.size());
}

std::vector<std::uint32_t> second_skins(const Mesh& mesh, double spacing) {
  constexpr double kSameWay = 0.8;  // cosine
  const MeshIndex index(mesh);
  std::vector<char> found(mesh.triangles.size(), 0);
  parallel_for(found.size(), 1024, [&](std::size_t begin, std::size_t end) {
    for (std::size_t t = begin; t < end; ++t) {
      const Vec3 n = mesh.area_vector(t).normalized();
      if (!n.allFinite()) continue;
      const auto under = index.first_hit(mesh.centroid(t) - 1e-3 * spacing * n, -n);
      if (!under || under->t > spacing) continue;
      const Triangle& mine = mesh.triangles[t];
      const Triangle& other = mesh.triangles[under->triangle];
      const bool touches = std::any_of(mine.begin(), mine.end(), [&](std::uint32_t v) {
        return std::find(other.begin(), other.end(), v) != other.end();
      });
      if (!touches && mesh.area_vector(under->triangle).normalized().dot(n) > kSameWay)
        found[t] = 1;
    }
  });
  return indices_of(found);
}

/// Triangles at edges that three or more share, by their sorted ends.
std::vector<std::uint32_t> shared_by_three(const Mesh& mesh, const Topology& topology) {
  std::vector<std::uint32_t> found;
  for (std::uint32_t t = 0; t < mesh.triangles.size(); ++t) {
    for (std::size_t k = 0; k < 3; ++k) {
      if (topology.across[3 * t + k] != kNone) continue;
      const std::uint32_t a = mesh.triangles[t][k];
      const std::uint32_t b = mesh.triangles[t][(k + 1) % 3];
      const auto around = topology.vertex_triangles[a];
      const auto holding = std::count_if(around.begin(), around.end(), [&](std::uint32_t other) {
        const Triangle& corners = mesh.triangles[other];
        return std::find(corners.begin(), corners.end(), b) != corners.end();
      });
      if (holding < 2) continue;
      found.push_back(t);
      break;
    }
  }
  return found;
}

using Place = std::array<std::int64_t, 3>;
Place place(const Vec3& p, double grid) {
  return {std::llround(p.x() / grid), std::llround(p.y() / grid), std::llround(p.z() / grid)};
}

std::set<Place> border_of(const Mesh& mesh, const Topology& topology, double grid) {
  std::set<Place> border;
  for (std::uint32_t t = 0; t < mesh.triangles.size(); ++t) {
    for (std::size_t k = 0; k < 3; ++k) {
      if (topology.across[3 * t + k] != kNone) continue;
      border.insert(place(mesh.corner(t, static_cast<int>(k)), grid));
      border.insert(place(mesh.corner(t, static_cast<int>((k + 1) % 3)), grid));
    }
  }
  return border;
}

}  // namespace

std::vector<std::uint32_t> Defects::all() const {
  std::vector<std::uint32_t> all;
  for (const auto* list : {&crossing, &folded, &doubled, &non_manifold})
    all.insert(all.end(), list->begin(), list->end());
  std::sort(all.begin(), all.end());
  all.erase(std::unique(all.begin(), all.end()), all.end());
  return all;
}

Result<Defects> find_defects(const Mesh& mesh, const Topology& topology, const Task& task) {
  Defects defects;
  defects.folded = folds(mesh, topology);
  defects.non_manifold = shared_by_three(mesh, topology);
  task.report(0.1);
  if (task.stopped()) return cancelled();
  if (!mesh.triangles.empty()) defects.doubled = second_skins(mesh, mean_edge(mesh));
  task.report(0.5);
  if (task.stopped()) return cancelled();
  defects.crossing = crossings(mesh);
  task.report(1);
  if (task.stopped()) return cancelled();
  return defects;
}

Result<Cleaned> mend(const Mesh& mesh, const Topology& topology,
                     const std::vector<std::uint32_t>& defects, const Task& task) {
  Selection out(mesh.triangles.size(), 0);
  for (const std::uint32_t t : defects)
    if (t < out.size()) out[t] = 1;
  // What crosses or folds has drawn its neighbours along.
  const Mesh rest = extract(mesh, inverted(grown(mesh, out)));
  const double grid = 1e-4 * std::max(mean_edge(mesh), 1e-9);
  const std::set<Place> before = border_of(mesh, topology, grid);
  constexpr std::size_t kMostEdges = 2000;
  auto filled =
      fill_holes(rest, Filling::Curved, kMostEdges, task, [&](const std::vector<Vec3>& border) {
        return std::none_of(border.begin(), border.end(),
                            [&](const Vec3& p) { return before.contains(place(p, grid)); });
      });
  if (!filled) return filled.error();
  Cleaned result = *std::move(filled);
  result.count = defects.size();
  return result;
}

}  // namespace lostline::scan
