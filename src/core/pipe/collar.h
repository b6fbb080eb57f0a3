#pragma once

#include "pipe/centreline.h"

namespace lostline::pipe {

/// A stretch of another radius about a centre line: a collar, a bead, a reduced end.
struct Collar {
  /// Along the centre line from its start, mm; below 0 or beyond its length on the straight
  /// continuation of its ends.
  double from = 0, to = 0;
  double u_from = 0, u_to = 0;  ///< expanded, k = 2
  double radius = 0;            ///< of the surface that was scanned, mm
  double u_radius = 0;          ///< expanded, k = 2
  bool hollow = false;          ///< the inner surface was scanned
  double rms = 0;               ///< of the points used about it, mm
  std::size_t points = 0;       ///< used
};

/// Reads the stretch of one radius about a centre line that a place lies on. Its ends are where the
/// faces across the pipe stand; where the scan shows none, where its points end.
/// @param points   mm; @param normals  out of the material, unit, one a point.
/// @param line     in the same frame, with its radius.
/// @param options  noise and spacing, 0: from the points.
/// @errors InvalidInput  the place lies on the pipe itself;  NotFound  no points near it;
/// Degenerate  the surface there does not run along the pipe.
/// O(n) with the number of pieces. The radius, with an offset across where the stretch is straight,
/// by least squares with Tukey's weights; covariance by clusters of points that share their noise
/// (A. Cameron and D. Miller, A practitioner's guide to cluster-robust inference, J. Human
/// Resources 50 (2015)).
Result<Collar> find_collar(const std::vector<Vec3>& points, const std::vector<Vec3>& normals,
                           const Centreline& line, const Vec3& place,
                           const CentrelineOptions& options = {});

}  // namespace lostline::pipe
