#pragma once

#include <array>
#include <cstdint>
#include <vector>

#include "base/geometry.h"

namespace lostline::scan {

using Triangle = std::array<std::uint32_t, 3>;
constexpr std::uint32_t kNone = 0xffffffffU;

/// A triangle mesh in mm; counter-clockwise triangles seen from outside. Vertices are shared
/// between triangles.
struct Mesh {
  std::vector<Vec3> vertices;
  std::vector<Triangle> triangles;

  [[nodiscard]] Vec3 corner(std::size_t triangle, int k) const {
    return vertices[triangles[triangle][static_cast<std::size_t>(k)]];
  }
  [[nodiscard]] Vec3 centroid(std::size_t t) const {
    return (corner(t, 0) + corner(t, 1) + corner(t, 2)) / 3.0;
  }
  /// Twice the area times the normal.
  [[nodiscard]] Vec3 area_vector(std::size_t t) const {
    return (corner(t, 1) - corner(t, 0)).cross(corner(t, 2) - corner(t, 0));
  }
};

Box3 bounds(const Mesh& mesh);
/// The mesh moved (and scaled) by `transform`; triangles are flipped when it mirrors.
Mesh transformed(const Mesh& mesh, const Transform& transform);
/// Keeps the triangles with `keep[t] != 0` and the vertices they use; order is preserved.
/// @param kept_triangles  if given, receives the old index of every new triangle.
Mesh extract(const Mesh& mesh, const std::vector<char>& keep,
             std::vector<std::uint32_t>* kept_triangles = nullptr);

/// Indices in compressed rows: row i is `items[start[i] .. start[i + 1])`.
struct Rows {
  std::vector<std::uint32_t> start;
  std::vector<std::uint32_t> items;

  struct Range {
    const std::uint32_t* first;
    const std::uint32_t* last;
    [[nodiscard]] const std::uint32_t* begin() const { return first; }
    [[nodiscard]] const std::uint32_t* end() const { return last; }
    [[nodiscard]] std::size_t size() const { return static_cast<std::size_t>(last - first); }
  };
  [[nodiscard]] Range operator[](std::size_t i) const {
    return {items.data() + start[i], items.data() + start[i + 1]};
  }
};

/// Who touches whom.
struct Topology {
  /// Triangle across edge k (from corner k to corner k + 1) of triangle t at [3 t + k]; kNone at an
  /// open or non-manifold edge.
  std::vector<std::uint32_t> across;
  Rows vertex_triangles;   ///< triangles around each vertex
  Rows vertex_neighbours;  ///< vertices joined to each vertex by an edge, ascending
  std::size_t open_edges = 0;
  std::size_t non_manifold_edges =
      0;  ///< edges of three or more triangles, or of two that disagree on direction
};
Topology build_topology(const Mesh& mesh);

/// Unit normals weighted by angle; zero where a vertex has no triangle with area.
std::vector<Vec3> vertex_normals(const Mesh& mesh);

/// Connected parts over shared edges: a label for each triangle, and the triangle count of each
/// label, largest first.
struct Components {
  std::vector<std::uint32_t> label;
  std::vector<std::size_t> sizes;
};
Components connected_components(const Mesh& mesh, const Topology& topology);

}  // namespace lostline::scan
