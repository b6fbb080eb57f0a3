#pragma once

#include <array>
#include <functional>

#include "deviation/deviation.h"
#include "scan/mesh_index.h"

namespace lostline::deviation {

/// Statistics of the points of one group: a face of the model or a region of the scan.
struct GroupStatistics {
  std::uint32_t group = 0;
  Statistics statistics;
};
/// @param group  group of each point; points of scan::kNone are left out.
/// @param tolerance  of a group; called once a group.
/// @return Groups with points, ascending by number.
/// Body of the model for each point, by its nearest face; scan::kNone where there is none.
std::vector<std::uint32_t> bodies_of(const Map& map, const model::Model& model);
std::vector<GroupStatistics> by_group(const Map& map, const std::vector<std::uint32_t>& group,
                                      const std::function<double(std::uint32_t)>& tolerance);

/// A place where the scan is far from the model over more than a stray point.
struct Place {
  Vec3 at = Vec3::Zero();  ///< of the scan, part coordinates
  double value = 0;        ///< signed, mm: what nine tenths of the points there stay below
  std::uint32_t face = 0;
  std::size_t points = 0;  ///< in the cell
};
/// The worst places, at least `apart` mm from each other, worst first. A place is a cell of that
/// size with eight points or more.
std::vector<Place> worst_places(const Map& map, const std::vector<Vec3>& points, std::size_t most,
                                double apart);

/// What of the model the scan shows: for each face the share of its area with scan within `limit`.
struct Coverage {
  std::vector<double> face_share;  ///< 0 … 1 by face index
  double share = 0;                ///< of the whole area
  /// Pieces of the model's triangles, no longer than about `limit`, that the scan does not show.
  std::vector<std::array<Vec3, 3>> unseen;
};
/// Looks from the model to the scan: what is missing there cannot show in the other direction.
/// @param to_scan  part to scan coordinates.
/// @errors Cancelled.
Result<Coverage> coverage(const model::Tessellation& model, std::size_t faces,
                          const scan::MeshIndex& scan, const Transform& to_scan, double limit,
                          const Task& task = {});

}  // namespace lostline::deviation
