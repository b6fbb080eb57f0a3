#pragma once

#include <filesystem>
#include <string>

#include "base/task.h"
#include "scan/point_cloud.h"

namespace lostline::io {

/// What a file of points held. Coordinates in the numbers of the file unless it states its unit.
struct LoadedCloud {
  scan::PointCloud cloud;
  /// What each column was taken for, in words: "x y z intensity"; empty where the format says it.
  std::string columns;
  std::size_t skipped = 0;      ///< points without valid coordinates
  bool in_millimetres = false;  ///< the file states its unit, and the points are in mm
};

// One function a format; formats.h chooses among them.
// @errors Io  missing, unreadable, a folder;  InvalidInput  empty, truncated, garbled or without
// points: the message says where;  Unsupported  a kind of the format that is not read;  Cancelled.

/// Vertices of a PLY file, with their normals where it has them; its faces are left out.
Result<LoadedCloud> read_ply_points(const std::filesystem::path& path, const Task& task = {});
/// One point a line in columns (XYZ, ASC, TXT, PTS): separated by blanks, tabs, commas or
/// semicolons; a line of names, a count before the points and comments (# or //) are understood.
/// Which columns are normals, colours and intensities is told by the names, else by the values.
Result<LoadedCloud> read_text_points(const std::filesystem::path& path, const Task& task = {});
/// PTX: rows and columns of one or more scanner positions, each with its transform; points that the
/// scanner did not see (all zero) are left out.
Result<LoadedCloud> read_ptx(const std::filesystem::path& path, const Task& task = {});
/// E57 (ASTM E2807): all scans of the file, each placed by its pose; metres in the file, mm here.
Result<LoadedCloud> read_e57(const std::filesystem::path& path, const Task& task = {});

/// Binary little-endian PLY with normals where the cloud has them.
Status write_ply_points(const std::filesystem::path& path, const scan::PointCloud& cloud);
/// One point a line, with its normal where the cloud has them.
Status write_xyz(const std::filesystem::path& path, const scan::PointCloud& cloud);

}  // namespace lostline::io
