#pragma once

#include "cloud/mesh_cloud.h"
#include "io/formats.h"

namespace lostline::project {

/// A scan as its file has it: a mesh, or points that were meshed on the way.
struct ScanFile {
  io::LoadedMesh loaded;
  std::size_t points = 0;  ///< of the cloud; 0: the file holds a mesh
  std::string columns;     ///< what the columns of a text were taken for; empty: the format says it
};

/// @errors as io::read_mesh, io::read_points and cloud::mesh_cloud.
Result<ScanFile> read_scan_file(const std::string& path, const cloud::MeshingOptions& options = {},
                                const Task& task = {});

}  // namespace lostline::project
