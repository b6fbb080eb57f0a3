#pragma once

#include <array>
#include <vector>

#include "base/result.h"
#include "base/task.h"
#include "scan/mesh.h"
#include "scan/mesh_index.h"

namespace lostline::patch {

/// A closed surface parted into four-sided areas, each with a grid of places laid over it.
struct QuadLayout {
  /// Corners of each area, counter-clockwise seen from outside: (0, 0), (1, 0), (1, 1), (0, 1) of
  /// its parameters.
  std::vector<std::array<std::uint32_t, 4>> quads;
  std::size_t steps = 0;     ///< of the grid, along each side
  std::vector<Vec3> places;  ///< corners first; those on borders are shared
  /// Place of each area's grid node (i, j) at [area * (steps + 1)^2 + i * (steps + 1) + j], i along
  /// the first parameter.
  std::vector<std::uint32_t> nodes;

  [[nodiscard]] std::uint32_t node(std::size_t quad, std::size_t i, std::size_t j) const {
    const std::size_t row = steps + 1;
    return nodes[(quad * row + i) * row + j];
  }
  /// Two triangles a grid cell, in the order of areas, then cells (i, j).
  [[nodiscard]] scan::Mesh mesh() const;
};

/// Parts a closed mesh into about so many areas: those of a coarse box of cells that fills it, in
/// the mesh's principal axes, wrapped tight around it by turns of smoothing and projection.
/// @param wanted  areas; somewhat more or fewer come, as few as 6.
/// @errors Degenerate  no box of cells has the shape's holes and handles, or none can be wrapped
/// around it without folds;  Cancelled.
Result<QuadLayout> part_closed(const scan::Mesh& mesh, const scan::MeshIndex& index,
                               std::size_t wanted, const Task& task = {});

}  // namespace lostline::patch
