#pragma once

#include "fit/surface_fit.h"
#include "scan/mesh.h"

// Reference targets: balls stuck beside the part or on it, round holes and discs in flat faces,
// whose centres every scan shows alike.

namespace lostline::joining {

enum class TargetKind { Ball, Circle };

struct Target {
  Vec3 centre = Vec3::Zero();  ///< mm
  /// mm; of a circle that of the flat face's border, which stands up to one and a half spacings off
  /// the edge itself.
  double radius = 0;
  double u = 0;  ///< mm, of the centre, k = 2
};

/// The target at a picked place of a scan.
/// @param place  on the ball; of a circle on the flat face beside it, not further from its rim than
/// its radius. In the scan's coordinates, mm.
/// @errors InvalidInput  the scan is nowhere near;  Degenerate  what is there is no such target, or
/// too little of it is seen to tell its centre;  Cancelled.
Result<Target> target_at(TargetKind kind, const scan::Mesh& mesh, const Vec3& place,
                         const Task& task = {});

/// Whether two targets can be one as two scans show it: balls or circles of one radius, by what the
/// rounded edges of each scan leave of it.
bool alike(const Target& a, const Target& b);

}  // namespace lostline::joining
