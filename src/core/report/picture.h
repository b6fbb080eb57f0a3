#pragma once

#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "report/drawing.h"
#include "scan/mesh_index.h"

namespace lostline::report {

/// A PNG in memory.
struct Picture {
  std::string png;
  int width = 0;
  int height = 0;
};

struct View {
  Vec3 toward{-0.55, 0.75, -0.5};  ///< the way the eye looks
  Vec3 up = Vec3::UnitZ();
  int width = 900;
  int height = 600;
  std::optional<Vec3> centre;  ///< of the picture; without it the whole mesh is shown
  double seen = 0;             ///< height of what is shown about `centre`, mm
};

/// A shaded parallel view of a mesh on paper.
/// @param colour  of a hit triangle with barycentric weights; shaded by the light afterwards.
Picture render(const scan::Mesh& mesh, const scan::MeshIndex& index, const View& view,
               const std::function<Colour(std::uint32_t triangle, const Vec3& weights)>& colour);

}  // namespace lostline::report
