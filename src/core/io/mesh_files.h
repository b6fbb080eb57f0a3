#pragma once

#include <filesystem>
#include <vector>

#include "base/task.h"
#include "scan/mesh.h"

namespace lostline::io {

/// What a mesh file held, in the numbers of the file (no unit).
struct LoadedMesh {
  scan::Mesh mesh;
  std::size_t skipped_triangles = 0;   ///< degenerate in the file: repeated corners after welding
  std::size_t skipped_not_finite = 0;  ///< triangles with NaN or infinite coordinates
};

/// Reads a binary or ASCII STL, or a PLY (ASCII, either byte order) by its content, welding equal
/// vertices.
/// @errors Io           missing, unreadable, a folder;  InvalidInput  empty, truncated, garbled, or
/// not a mesh: the message says where;
///         Unsupported  another format or a point cloud;  Cancelled.
Result<LoadedMesh> read_mesh(const std::filesystem::path& path, const Task& task = {});

Result<LoadedMesh> read_stl(const std::filesystem::path& path, const Task& task = {});
Result<LoadedMesh> read_ply(const std::filesystem::path& path, const Task& task = {});

/// Writes binary little-endian PLY, with an optional value per vertex as property `quality`.
/// Atomic: the file appears whole or not at all.
/// @errors Io with the reason of the system (permission, disk full).
Status write_ply(const std::filesystem::path& path, const scan::Mesh& mesh,
                 const std::vector<float>& quality = {});
/// Writes binary STL in single precision.
Status write_stl(const std::filesystem::path& path, const scan::Mesh& mesh);
/// By extension: .stl or .ply.
Status write_mesh(const std::filesystem::path& path, const scan::Mesh& mesh);

}  // namespace lostline::io
