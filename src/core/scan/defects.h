#pragma once

#include <vector>

#include "scan/clean.h"

namespace lostline::scan {

/// Triangles that no surface of a part has.
struct Defects {
  std::vector<std::uint32_t> crossing;  ///< that run through others
  std::vector<std::uint32_t> folded;    ///< that look against two of their neighbours
  /// Of a second skin: another one that looks the same way lies under it, nearer than the spacing.
  std::vector<std::uint32_t> doubled;
  std::vector<std::uint32_t> non_manifold;  ///< at edges that three or more share

  /// All of them, each once, ascending.
  [[nodiscard]] std::vector<std::uint32_t> all() const;
};
/// @errors Cancelled.
/// Crossings by exact predicates over boxes that overlap; O(n log n).
Result<Defects> find_defects(const Mesh& mesh, const Topology& topology, const Task& task = {});

/// Takes triangles out, with a ring around those that cross or fold, and fills the holes that this
/// makes; holes that were there before stay.
/// @param defects  triangles, of find_defects or some of them.
/// @errors Failed  the mesh cannot be taken as a surface;  Cancelled.
Result<Cleaned> mend(const Mesh& mesh, const Topology& topology,
                     const std::vector<std::uint32_t>& defects, const Task& task = {});

}  // namespace lostline::scan
