#pragma once

#include <array>
#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "base/task.h"
#include "scan/mesh.h"

namespace lostline::io {

/// What a mesh file held, in the numbers of the file (no unit).
struct LoadedMesh {
  scan::Mesh mesh;
  std::size_t skipped_triangles = 0;   ///< degenerate in the file: repeated corners after welding
  std::size_t skipped_not_finite = 0;  ///< triangles with NaN or infinite coordinates
  bool in_millimetres = false;         ///< the file states its unit, and the mesh is in mm
};

// One function a format; formats.h chooses among them. Equal vertices are welded.
// @errors Io  missing, unreadable, a folder;  InvalidInput  empty, truncated, garbled, or not a
// mesh: the message says where;  Unsupported  a point cloud;  Cancelled.

Result<LoadedMesh> read_stl(const std::filesystem::path& path, const Task& task = {});
Result<LoadedMesh> read_ply(const std::filesystem::path& path, const Task& task = {});
Result<LoadedMesh> read_obj(const std::filesystem::path& path, const Task& task = {});
Result<LoadedMesh> read_off(const std::filesystem::path& path, const Task& task = {});
/// All build items of the model, placed as it says, in mm by its unit.
Result<LoadedMesh> read_3mf(const std::filesystem::path& path, const Task& task = {});

/// Writes binary little-endian PLY, with an optional value per vertex as property `quality`.
/// Atomic: the file appears whole or not at all.
/// @errors Io with the reason of the system (permission, disk full).
Status write_ply(const std::filesystem::path& path, const scan::Mesh& mesh,
                 const std::vector<float>& quality = {});
/// Writes binary STL in single precision.
Status write_stl(const std::filesystem::path& path, const scan::Mesh& mesh);
/// A body in triangles.
struct BodyMesh {
  std::string name;
  std::optional<std::array<std::uint8_t, 3>> colour;
  scan::Mesh mesh;  ///< mm
};
/// Writes 3MF in mm, an object for each body with its name and colour.
Status write_3mf_bodies(const std::filesystem::path& path, const std::vector<BodyMesh>& bodies);
/// Writes 3MF in mm. With `colour` (an index into `palette` per vertex) the vertices are coloured.
Status write_3mf(const std::filesystem::path& path, const scan::Mesh& mesh,
                 const std::vector<std::uint8_t>& colour = {},
                 const std::vector<std::array<std::uint8_t, 3>>& palette = {});

}  // namespace lostline::io
