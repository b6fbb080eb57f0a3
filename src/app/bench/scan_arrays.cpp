#include "bench/scan_arrays.h"

#include <cmath>
#include <unordered_map>

namespace lostline::app {
namespace {

using project::Visibility;

/// Triangles of the scan while the view moves: four pixels each at the usual size of the Bench.
constexpr std::size_t kReduced = 60000;

/// Triangles of a coarser mesh over the same vertices: those whose corners fall into three
/// different cells of a grid, each cell with one vertex standing for all.
std::vector<std::uint32_t> reduce(const scan::Mesh& mesh, std::size_t wanted,
                                  const std::vector<Visibility>& shown) {
  std::vector<std::uint32_t> result;
  if (mesh.triangles.size() <= wanted) return result;
  const double area = [&] {
    double sum = 0;
    for (std::size_t t = 0; t < mesh.triangles.size(); t += 16)
      sum += 8 * mesh.area_vector(t).norm();
    return sum;
  }();
  const double cell = 1.3 * std::sqrt(area / static_cast<double>(wanted));
  const Vec3 low = scan::bounds(mesh).min();
  std::unordered_map<std::uint64_t, std::uint32_t> stand_in;
  std::vector<std::uint32_t> of(mesh.vertices.size());
  for (std::size_t v = 0; v < of.size(); ++v) {
    const Vec3 c = (mesh.vertices[v] - low) / cell;
    const std::uint64_t key = static_cast<std::uint64_t>(c.x()) |
                              static_cast<std::uint64_t>(c.y()) << 21U |
                              static_cast<std::uint64_t>(c.z()) << 42U;
    of[v] = stand_in.try_emplace(key, static_cast<std::uint32_t>(v)).first->second;
  }
  for (std::size_t k = 0; k < mesh.triangles.size(); ++k) {
    if (!shown.empty() && shown[k] != Visibility::Shown) continue;
    const scan::Triangle& t = mesh.triangles[k];
    const std::uint32_t a = of[t[0]], b = of[t[1]], c = of[t[2]];
    if (a != b && b != c && a != c) result.insert(result.end(), {a, b, c});
  }
  return result;
}

/// Only the vertices that the reduced triangles use: a tenth of the work where the processor draws.
void compact(ScanArrays& arrays, const std::vector<std::uint32_t>& reduced) {
  constexpr std::uint32_t kUnused = 0xffffffff;
  std::vector<std::uint32_t> place(arrays.vertices.size() / 6, kUnused);
  arrays.reduced_indices.reserve(reduced.size());
  for (const std::uint32_t v : reduced) {
    if (place[v] == kUnused) {
      place[v] = static_cast<std::uint32_t>(arrays.reduced_of.size());
      arrays.reduced_of.push_back(v);
      const auto from = arrays.vertices.begin() + 6 * static_cast<std::ptrdiff_t>(v);
      arrays.reduced_vertices.insert(arrays.reduced_vertices.end(), from, from + 6);
    }
    arrays.reduced_indices.push_back(place[v]);
  }
}

}  // namespace

ScanArrays arrays_of(std::shared_ptr<const project::Scan> scan, const survey::Survey* survey,
                     const project::Showing& showing) {
  ScanArrays arrays;
  const scan::Mesh& mesh = *scan->mesh;
  const Vec3 origin = scan->health.box.center();
  arrays.origin = origin.cast<float>();
  const std::vector<Vec3> normals = scan::vertex_normals(mesh);
  arrays.vertices.reserve(6 * mesh.vertices.size());
  for (std::size_t i = 0; i < mesh.vertices.size(); ++i) {
    const Vec3 p = mesh.vertices[i] - origin;
    for (int k = 0; k < 3; ++k) arrays.vertices.push_back(static_cast<float>(p[k]));
    for (int k = 0; k < 3; ++k) arrays.vertices.push_back(static_cast<float>(normals[i][k]));
  }
  std::vector<Visibility> shown;
  if (survey != nullptr && survey->triangle_region.size() == mesh.triangles.size() &&
      !(showing.hidden_regions.empty() && showing.translucent_regions.empty())) {
    for (const std::uint32_t region : survey->triangle_region)
      shown.push_back(showing.of_region(region));
  }
  arrays.indices.reserve(3 * mesh.triangles.size());
  for (const Visibility wanted : {Visibility::Shown, Visibility::Translucent}) {
    std::size_t count = 0;
    for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
      if ((shown.empty() ? Visibility::Shown : shown[t]) != wanted) continue;
      arrays.indices.insert(arrays.indices.end(), mesh.triangles[t].begin(),
                            mesh.triangles[t].end());
      ++count;
    }
    (wanted == Visibility::Shown ? arrays.opaque : arrays.translucent) = count;
  }
  compact(arrays, reduce(mesh, kReduced, shown));
  arrays.scan = std::move(scan);
  return arrays;
}

}  // namespace lostline::app
