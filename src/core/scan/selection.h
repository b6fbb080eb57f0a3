#pragma once

#include <functional>

#include "base/task.h"
#include "scan/mesh.h"
#include "scan/mesh_index.h"

namespace lostline::scan {

/// A selection of triangles: one flag each.
using Selection = std::vector<char>;

/// Adds or removes every triangle that is joined over shared edges to one of `seeds`.
void select_connected(const Topology& topology, const std::vector<std::uint32_t>& seeds, bool add,
                      Selection& selection);
/// One ring of triangles more around the selection, or one less.
Selection grown(const Mesh& mesh, const Selection& selection);
Selection shrunk(const Mesh& mesh, const Selection& selection);
Selection inverted(Selection selection);
/// Triangles joined to `seed` over edges whose middles lie within `radius` mm of `centre` and that
/// look to the seed's side: what a brush covers.
std::vector<std::uint32_t> patch_around(const Mesh& mesh, const Topology& topology,
                                        std::uint32_t seed, const Vec3& centre, double radius);

/// How a selection by an outline looks at the scan.
struct Sight {
  Vec3 direction = -Vec3::UnitZ();  ///< of view, unit, scan coordinates
  bool through = false;             ///< also what faces away or is hidden
  double slack = 1;                 ///< mm that a surface may lie behind another and still be seen
};
/// Adds or removes every triangle whose middle is `inside` and that can be seen.
/// @errors Cancelled.
/// O(n) tests and a ray for each that passes them, on all cores.
Result<Selection> select_seen(const Mesh& mesh, const MeshIndex& index, const Sight& sight,
                              const std::function<bool(const Vec3&)>& inside, bool add,
                              Selection selection, const Task& task = {});
std::vector<std::uint32_t> indices_of(const Selection& selection);

}  // namespace lostline::scan
