#pragma once

#include "base/point_grid.h"
#include "base/task.h"
#include "scan/point_cloud.h"

namespace lostline::cloud {

/// A place on the surface that points lie about.
struct Settled {
  Vec3 at = Vec3::Zero();
  Vec3 normal = Vec3::Zero();  ///< unit, of the sense given
  double rest = 0;             ///< mm, rms of the points about the surface there
  double share = 0;            ///< of a point's noise that is left at this place, 0 to 1
  double points = 0;           ///< that told it, by their weights
};

/// Moves places along their normals on to the surface of second degree that fits the points about
/// them best: what is bent keeps its place, noise is averaged. Points that look elsewhere (another
/// side of an edge, of a thin wall) have little or no say, those far off none.
/// @param places, normals  one each; normals unit, of one sense.
/// @param reach   mm: points count less and less up to this distance.
/// Source: D. Levin, Mesh-independent surface interpolation (2004), for the projection; A. Öztireli
/// et al., Feature preserving point set surfaces based on non-linear kernel regression, Computer
/// Graphics Forum 28 (2009), for weights by distance, residual and normal.
std::vector<Settled> settle_on_surface(const std::vector<Vec3>& places,
                                       const std::vector<Vec3>& normals,
                                       const scan::PointCloud& cloud, const PointGrid& grid,
                                       double reach, const Task& task = {});

}  // namespace lostline::cloud
