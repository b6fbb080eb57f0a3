#pragma once

#include "base/result.h"
#include "base/task.h"
#include "scan/mesh.h"
#include "section/section.h"

namespace lostline::section {

struct OutlineOptions {
  bool openings = true;  ///< with what can be looked through
  double offset = 0;     ///< mm: the outline so far outside (negative: inside) of the silhouette
  double spacing = 0;    ///< mm: of the scan's points; 0: from its triangles
};

/// What a scan covers, seen along the normal of a plane: its outer outlines, counter-clockwise, and
/// its openings, clockwise, as closed runs of points; longest first. Each point lies where the
/// outermost triangle ends on a line across the outline, so that it is as exact as the scan.
/// Openings smaller than three spacings are taken for holes of the scan.
///
/// Found on a grid of a third of the spacing, at most 64 million cells (coarser for larger parts),
/// then moved; about 1 s for 1 M triangles.
/// @errors InvalidInput  no triangles;  Degenerate  nothing is left inside of the offset;
/// Cancelled. Source of the contour: W. Lorensen and H. Cline, Marching cubes, SIGGRAPH 1987, in
/// the plane.
Result<Section> outline(const scan::Mesh& mesh, const Placement& plane,
                        const OutlineOptions& options = {}, const Task& task = {});

}  // namespace lostline::section
