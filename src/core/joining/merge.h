#pragma once

#include "cloud/mesh_cloud.h"
#include "scan/mesh.h"

namespace lostline::joining {

/// One mesh of several scans that lie together: where they overlap the surface is averaged by their
/// noise, so that no skin is doubled and no seam is left; islands are dropped.
/// @param scans, poses  one each; @param weight  of each scan, 1 as its noise says, 0: left out;
/// empty: all 1.
/// @errors as cloud::mesh_cloud.
Result<cloud::Meshed> merge_scans(const std::vector<const scan::Mesh*>& scans,
                                  const std::vector<Transform>& poses,
                                  const std::vector<double>& weight = {},
                                  const cloud::MeshingOptions& options = {}, const Task& task = {});

}  // namespace lostline::joining
