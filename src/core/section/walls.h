#pragma once

#include "section/section.h"

namespace lostline::section {

/// How a plane section runs through the walls of a part.
struct WallShare {
  double walls = 0;  ///< of its length: where the surface stands within 20 degrees of square to it
  double whole = 0;  ///< of its length: in closed runs without gaps
};
/// Of nothing for a section without runs, or whose triangles are not known.
WallShare wall_share(const Section& section, const scan::Mesh& mesh);

/// Whether a plane section runs along a face of the part, so that it follows the noise of the scan
/// there: in many runs that stand in no wall for most of their length.
bool runs_along_a_face(const Section& section, const scan::Mesh& mesh);

/// The nearest level to that of `plane`, within `reach` mm to either side in steps of `step`, at
/// which a section no longer runs along a face; empty where there is none.
std::optional<double> level_off_the_face(const SectionIndex& index, const Placement& plane,
                                         double step, double reach);

/// The nearest level to that of `plane`, within `reach` mm to either side in steps of `step`, at
/// which a section cuts walls only, in whole runs; empty where there is none, or the plane itself
/// does. A section through a round, a chamfer or an edge gives an outline that no wall has.
std::optional<double> cleaner_level(const SectionIndex& index, const Placement& plane, double step,
                                    double reach);

}  // namespace lostline::section
