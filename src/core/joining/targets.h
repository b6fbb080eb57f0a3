#pragma once

#include "fit/surface_fit.h"
#include "scan/mesh.h"

// Reference targets: balls stuck beside the part or on it, whose centres every scan shows alike.

namespace lostline::joining {

/// The ball at a picked place of a scan: grown from there over what lies on one sphere.
/// @param place  on the ball, in the scan's coordinates, mm.
/// @errors InvalidInput  the scan is nowhere near;  Degenerate  what is there is no ball, or too
/// little of it is seen to tell its centre.
Result<fit::SurfaceFit> ball_at(const scan::Mesh& mesh, const Vec3& place);

}  // namespace lostline::joining
