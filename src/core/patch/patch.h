#pragma once

#include <optional>

#include "base/result.h"
#include "base/task.h"
#include "patch/spline_surface.h"
#include "scan/mesh.h"

namespace lostline::patch {

/// A place that a face is drawn on to.
struct HeldPlace {
  Vec3 at;
  std::optional<Vec3> normal;  ///< unit, where the face is square to it
};

struct PatchOptions {
  /// mm: how near 95 % of the points are to lie; 0: as near as their noise asks, no nearer.
  double tolerance = 0;
  double noise = 0;       ///< mm, of one point; 0: not known
  std::size_t spans = 0;  ///< along the longer side, instead of a tolerance; 0: by the tolerance
  std::size_t most_spans = 60;
  /// How much fairness counts against the points, as a share of what a span's points say; larger is
  /// stiffer.
  double stiffness = 1e-4;
  double beyond = 0.03;  ///< extended beyond the area by this share of its size, for trimming
  /// Places along a closed border, in order, that the face passes through; only what of the area
  /// lies inside is evidence then. Empty: the border is free.
  std::vector<HeldPlace> held;
};

/// A free-form face through an area of scan.
struct Patch {
  SplineSurface surface;
  std::vector<Vec2> feet;  ///< parameters of each vertex of the area, in the order of `vertices`
  std::vector<std::uint32_t> vertices;  ///< of the mesh
  double rms = 0;                       ///< mm, of the points
  double p95 = 0;                       ///< mm: 95 % of them lie nearer
  double greatest = 0;                  ///< mm
  bool within = true;                   ///< the tolerance was met
  double border_off = 0;                ///< mm, greatest distance of the held border
  double border_turn = 0;               ///< rad, greatest turn from the planes it is held to
  /// The points lie nearer than their noise lets expect: fewer spans would do.
  bool follows_noise = false;
};

/// Fits a B-spline surface to triangles of a mesh: least squares of distance with a thin-plate term
/// that bridges holes and carries on beyond the border. The points are laid out flat first; then
/// their parameters are corrected to their feet and the spans refined, until the tolerance holds or
/// the residuals are but noise.
/// @param triangles  of the mesh, one connected area that is a disc with or without holes.
/// @errors InvalidInput  fewer than 16 vertices, or a tolerance below zero;  Degenerate  the area
/// cannot be laid out flat (a closed surface, a tube), or the border lies away from it: the message
/// says so;  Cancelled.
/// About 1.5 s for 100 000 points. Deterministic.
/// Source: least-squares conformal maps (B. Lévy et al., ACM Transactions on Graphics 21 (2002))
/// for the layout; L. Piegl and W. Tiller, The NURBS Book (1997), 9.4; parameter correction after
/// J. Hoschek, Intrinsic parametrization for approximation, CAGD 5 (1988).
Result<Patch> fit_patch(const scan::Mesh& mesh, const std::vector<std::uint32_t>& triangles,
                        const PatchOptions& options = {}, const Task& task = {});

/// Triangles that go on smoothly from some: over edges flatter than `crease` rad, by normals
/// averaged on either side of the edge.
std::vector<std::uint32_t> smooth_area(const scan::Mesh& mesh, const scan::Topology& topology,
                                       const std::vector<std::uint32_t>& seeds,
                                       double crease = 0.35);

}  // namespace lostline::patch
