#pragma once

#include "cloud/mesh_cloud.h"
#include "scan/mesh.h"

namespace lostline::joining {

/// A scan as it lies among others.
struct Lying {
  const scan::Mesh* mesh = nullptr;
  Transform pose = Transform::Identity();
  bool inside_out = false;  ///< its triangles face inwards
  double weight = 1;        ///< 1: as its noise says; 0: left out
};

/// Length of the edges of an even mesh with as many triangles on the same area, mm; 0 of an empty
/// one.
double even_spacing(const scan::Mesh& mesh);

/// One mesh of several scans that lie together: where they overlap the surface is averaged by their
/// noise, so that no skin is doubled and no seam is left; islands are dropped.
/// @errors as cloud::mesh_cloud.
Result<cloud::Meshed> merge_scans(const std::vector<Lying>& scans,
                                  const cloud::MeshingOptions& options = {}, const Task& task = {});

}  // namespace lostline::joining
