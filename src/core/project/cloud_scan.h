#pragma once

#include "project/document.h"
#include "scan/point_cloud.h"

// Scans that were meshed from the points of a file, which stays what they come from.

namespace lostline::project {

/// The points that a scan was meshed from, read again: mm, in its coordinates.
/// @errors InvalidInput  the scan is no cloud's, or was worked on since;  as io::read_points.
Result<scan::PointCloud> points_of(const Scan& scan, const Task& task = {});

/// A scan meshed anew from its points.
/// @param cloud  of `points_of`; @param options  the spacing in mm.
/// @errors as cloud::mesh_cloud.
Result<std::shared_ptr<const Scan>> meshed_anew(const Scan& scan, const scan::PointCloud& cloud,
                                                const cloud::MeshingOptions& options,
                                                const Task& task = {});

}  // namespace lostline::project
