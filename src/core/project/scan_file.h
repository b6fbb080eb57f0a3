#pragma once

#include <optional>

#include "io/formats.h"
#include "project/from_points.h"

namespace lostline::project {

/// A scan as its file has it: a mesh, or points that were meshed on the way.
struct ScanFile {
  io::LoadedMesh loaded;
  /// Lengths in the numbers of the file, as those of the mesh; empty: the file holds a mesh.
  std::optional<FromPoints> from;
};

/// @param options  for a cloud; the spacing in the numbers of the file.
/// @errors as io::read_mesh, io::read_points and cloud::mesh_cloud.
Result<ScanFile> read_scan_file(const std::string& path, const cloud::MeshingOptions& options = {},
                                const Task& task = {});

}  // namespace lostline::project
