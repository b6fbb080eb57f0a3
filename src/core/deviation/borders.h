#pragma once

#include <array>
#include <optional>
#include <vector>

#include "model/model.h"

namespace lostline::deviation {

/// Which triangles of a tessellation meet across the borders of their faces, and which way is
/// outwards there.
///
/// Faces have vertices of their own; those that lie on one place are taken together. The outward
/// direction at an edge is the mean of both sides', at a corner that of the triangles round it
/// weighted by their angles: the sign of a distance from the nearest edge or corner is then right
/// wherever the point lies. Source: J. A. Baerentzen and H. Aanaes, Signed distance computation
/// using the angle weighted pseudonormal, IEEE TVCG 11 (2005).
class Borders {
 public:
  explicit Borders(const model::Tessellation& shape);

  /// The triangle across the edge that lies opposite corner k; scan::kNone at an open border.
  [[nodiscard]] std::uint32_t across(std::uint32_t triangle, int k) const {
    return across_[triangle][static_cast<std::size_t>(k)];
  }
  /// Whether another face, or nothing, begins there.
  [[nodiscard]] bool is_border(std::uint32_t triangle, int k) const;
  [[nodiscard]] bool touches_border(std::uint32_t vertex) const { return on_border_[vertex] != 0; }
  /// An edge of a triangle: the one opposite corner k.
  struct Edge {
    std::uint32_t triangle = scan::kNone;
    int k = 0;
  };
  /// A border edge that ends at a vertex where just two faces meet: the vertex lies along an edge
  /// of the model. Empty at its corners.
  [[nodiscard]] std::optional<Edge> edge_through(std::uint32_t vertex) const;
  /// Outward direction at an edge or vertex of a triangle; not of unit length.
  [[nodiscard]] Vec3 outwards_at_edge(std::uint32_t triangle, int k) const;
  [[nodiscard]] const Vec3& outwards_at_vertex(std::uint32_t vertex) const {
    return corner_normal_[place_of_[vertex]];
  }

 private:
  const model::Tessellation& shape_;
  std::vector<std::uint32_t> place_of_;  // of each vertex: vertices on one place share it
  std::vector<std::array<std::uint32_t, 3>> across_;
  std::vector<Vec3> corner_normal_;            // by place
  std::vector<char> on_border_;                // by vertex
  std::vector<std::uint32_t> first_, around_;  // triangles round each place, one list after another
};

}  // namespace lostline::deviation
