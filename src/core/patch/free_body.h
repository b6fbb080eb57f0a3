#pragma once

#include <vector>

#include "base/result.h"
#include "base/task.h"
#include "patch/spline_surface.h"
#include "scan/mesh.h"

namespace lostline::patch {

struct FreeBodyOptions {
  /// mm: how near 95 % of the points are to lie; 0: as near as their noise asks, no nearer.
  double tolerance = 0;
  double noise = 0;         ///< mm, of one point; 0: not known
  std::size_t patches = 0;  ///< about so many; 0: as few as hold the tolerance
  std::size_t spans = 0;    ///< of each side of each patch; 0: by the tolerance
  double stiffness = 1e-4;  ///< as of a patch
};

/// A closed shape of smooth patches that meet along whole sides.
struct FreeBody {
  std::vector<SplineSurface> patches;  ///< normals outwards; neighbours share the poles of a side
  double rms = 0;                      ///< mm, of the points
  double p95 = 0;                      ///< mm: 95 % of them lie nearer
  double greatest = 0;                 ///< mm
  double crease = 0;                   ///< rad, greatest angle between neighbours along a side
  bool within = true;                  ///< the tolerance was met
};

/// Fits smooth patches to a closed mesh of a wholly free shape: a layout of four-sided areas is
/// wrapped around it, then cubic B-spline surfaces that share the poles of their sides are fitted
/// together by least squares of distance, a thin-plate term and the condition that neighbours have
/// one tangent plane along their sides.
/// @errors InvalidInput  an open mesh, several parts, or numbers below zero;  Degenerate  no layout
/// lies around the shape;  Cancelled.
/// Deterministic. Source: as fit_patch; tangent planes by a common normal along a side after
/// M. Eck and H. Hoppe, Automatic reconstruction of B-spline surfaces of arbitrary topological
/// type, SIGGRAPH (1996), which solves for patch networks over a layout as well.
Result<FreeBody> fit_free_body(const scan::Mesh& mesh, const FreeBodyOptions& options = {},
                               const Task& task = {});

}  // namespace lostline::patch
