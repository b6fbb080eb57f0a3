#pragma once

#include "datum/place.h"
#include "fit/surface_fit.h"

namespace lostline::datum {

/// A plane that mirrors a scan upon itself.
struct Symmetry {
  fit::SurfaceFit plane;  ///< rms: residual of the mirrored scan, half of it is that of the plane
  double agreement = 0;   ///< share of the scan's weight that has its mirror image, within 5 sigma
};

/// Planes of symmetry of a scan, the most complete first, refined by a robust best fit of the scan
/// mirrored upon itself, weighted by trust; at most eight.
/// @param scan   the scan as a target (without faces).
/// @param found  surfaces that candidates are made of.
/// @param guess  a plane near the one wanted, or empty to try what the surfaces offer.
/// @errors Failed  none mirrors half of the scan: says how far the best got;  Cancelled.
Result<std::vector<Symmetry>> find_symmetry(const Target& scan, const Cloud& cloud,
                                            const std::vector<Found>& found,
                                            const std::optional<fit::Surface>& guess = {},
                                            const Task& task = {});

}  // namespace lostline::datum
