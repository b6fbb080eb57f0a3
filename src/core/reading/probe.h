#pragma once

#include "project/fits.h"
#include "reading/names.h"

namespace lostline::reading {

/// The surface under a pick, averaged over the scan around it.
struct Probe {
  Vec3 point = Vec3::Zero();    ///< scan coordinates, moved onto the averaged surface
  Vec3 normal = Vec3::UnitZ();  ///< unit, out of the material
  double sigma = 0;             ///< standard deviation of `point` along the normal, mm
};
/// @param triangle  of the scan, under the pick at `point` (scan coordinates).
/// @errors InvalidInput  too little surface around it.
/// A plane fitted to the points within `reach` mm that look the same way; 0: four spacings.
Result<Probe> probe_scan(const Scan& scan, std::uint32_t triangle, const Vec3& point,
                         double reach = 0);

/// Radius of the circle through three probed points: `diameter` false. U from the noise of the
/// three points, propagated to first order (JCGM 100:2008, 5.1).
/// @errors Degenerate  they lie on a line.
Result<project::Measurement> radius_by_three(const std::vector<Probe>& three);

/// Thickness of the wall under a pick: along the inner normal to the opposite surface.
/// @errors InvalidInput  nothing lies opposite, or the opposite surface looks the same way (the
/// scan is open there).
struct Thickness {
  project::Measurement measurement;
  Probe near;
  Probe far;
};
Result<Thickness> wall_thickness(const Scan& scan, const Probe& near);

/// Straight distance of two probed points.
Result<project::Measurement> point_distance(const Probe& a, const Probe& b);

/// Adds a measurement between points as a Ledger row.
project::Added add_point_measurement(const Document& document,
                                     const project::Measurement& measurement,
                                     const std::vector<Probe>& probes);

}  // namespace lostline::reading
