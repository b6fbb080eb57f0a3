#pragma once

#include <vector>

#include "base/result.h"
#include "scan/mesh.h"

namespace lostline::patch {

/// An area of mesh laid out flat.
struct Layout {
  std::vector<Vec2> flat;  ///< of each vertex, mm as far as the area allows
};

/// Seen along its mean normal where that shows all of it; else by a least-squares conformal map.
/// @param points, triangles  the area by itself.
/// @errors Degenerate  it cannot be laid out without folding.
Result<Layout> lay_out(const std::vector<Vec3>& points,
                       const std::vector<scan::Triangle>& triangles);

}  // namespace lostline::patch
