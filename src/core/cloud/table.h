#pragma once

#include <optional>

#include "base/task.h"
#include "scan/mesh.h"
#include "scan/point_cloud.h"

namespace lostline::cloud {

/// A flat surface on which everything else stands.
struct Table {
  Vec3 point = Vec3::Zero();
  Vec3 normal = Vec3::UnitZ();  ///< unit, towards what stands on it
  double noise = 0;             ///< mm, scatter of its points, one standard deviation
  std::size_t points = 0;       ///< that lie on it
};

/// Finds the table in a cloud: the plane with most points that looks towards all the others and
/// reaches beyond them all round. The floor of a tray does not, nor does a flat face of the part.
/// @param cloud  with normals of one sense.
/// @param spacing  mm, of the points.
/// Empty where there is none. Deterministic. Source: M. Fischler and R. Bolles, Random sample
/// consensus, CACM 24 (1981); refined by least squares.
std::optional<Table> find_table(const scan::PointCloud& cloud, double spacing,
                                const Task& task = {});

/// Which points remain when a table is cut away: those that stand higher above it than its noise
/// and half a spacing allow.
std::vector<bool> above(const Table& table, const std::vector<Vec3>& points, double spacing);

/// A mesh without the table that it stands on, and how many triangles went; empty where there is
/// none.
struct TableCut {
  scan::Mesh mesh;
  Table table;
  std::size_t triangles = 0;
};
std::optional<TableCut> without_table(const scan::Mesh& mesh, const Task& task = {});

}  // namespace lostline::cloud
