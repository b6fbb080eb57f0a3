#pragma once

#include "base/task.h"
#include "scan/mesh.h"
#include "scan/mesh_index.h"

namespace lostline::scan {

/// Where another scan would see most of what is missing.
struct NextView {
  Vec3 from = Vec3::UnitZ();  ///< unit, from the part towards the scanner
  double seen = 0;    ///< share of the length of all open borders that is in sight from there
};
/// Of directions spread over the sphere, the one from which most of the open borders' length lies
/// in sight, looked at no flatter than 60 degrees off. What lies beyond a border is not known; its
/// rim must be seen to go on from there.
/// @errors NotFound  the scan has no open border;  Cancelled.
Result<NextView> next_view(const Mesh& mesh, const Topology& topology, const MeshIndex& index,
                           const Task& task = {});

}  // namespace lostline::scan
