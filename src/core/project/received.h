#pragma once

#include "cloud/mesh_cloud.h"
#include "cloud/table.h"
#include "scan/point_cloud.h"

// Views of a scanner on their way to a scan.

namespace lostline::project {

/// What is still missing while views arrive: the surface so far, roughly, and where it ends.
struct SoFar {
  double area = 0;                           ///< mm2, seen, without the table
  std::size_t openings = 0;                  ///< runs of border
  double border = 0;                         ///< mm, of all of them
  std::vector<std::pair<Vec3, Vec3>> edges;  ///< of the border, for drawing
  std::optional<cloud::Table> table;
};
/// @param cloud  all points so far, with normals; thinned before it is looked at.
/// @errors as cloud::mesh_cloud.
Result<SoFar> look_at(const scan::PointCloud& cloud, bool cut_table, const Task& task = {});

/// All views as one mesh.
struct Received {
  cloud::Meshed meshed;
  std::optional<cloud::Table> table;  ///< that was cut away
  std::size_t cut = 0;                ///< points on it and under it
};
/// @param cut_table  look for a table on which everything stands, and leave it out.
/// @errors as cloud::mesh_cloud.
Result<Received> mesh_views(const scan::PointCloud& cloud, bool cut_table,
                            const cloud::MeshingOptions& options = {}, const Task& task = {});

}  // namespace lostline::project
