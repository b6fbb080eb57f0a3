#pragma once

#include "base/task.h"
#include "scan/selection.h"

namespace lostline::scan {

/// A cleaned mesh with what was done to it.
struct Cleaned {
  Mesh mesh;
  std::size_t count = 0;  ///< triangles dropped or made, holes filled, or vertices moved
  double moved_rms = 0;   ///< of the vertices kept, mm
  double moved_most = 0;  ///< mm
};

/// Drops vertices that stand off the mean of their neighbours by more than `sigmas` times the noise
/// and their ring's own spread, with their triangles.
/// @param noise  standard deviation of the scan, mm.
Cleaned drop_spikes(const Mesh& mesh, const Topology& topology, double noise, double sigmas = 6);

/// Smooths without shrinking: alternating steps inwards and outwards along the mean of the
/// neighbours; open borders stay. Only the selected triangles' vertices move, all when the
/// selection is empty.
/// @errors Cancelled.
/// Source: G. Taubin, A signal processing approach to fair surface design, SIGGRAPH 1995.
Result<Cleaned> smooth(const Mesh& mesh, const Topology& topology, const Selection& selection,
                       int passes, const Task& task = {});

enum class Filling {
  Flat,    ///< the smallest area of triangles across the hole
  Curved,  ///< fine triangles that carry on the curvature around it
};
/// Fills holes whose border has at most `most_edges` edges; larger ones (the scan's outer border)
/// stay.
/// @param wanted  told a hole's border, says whether it is to be filled; empty: all are.
/// @errors Failed  the mesh cannot be taken as a surface;  Cancelled.
/// Source: minimum-weight triangulation and fairing after P. Liepa, Filling holes in meshes, SGP
/// 2003, as implemented in CGAL; the curvature is solved for (M. Botsch and O. Sorkine, On linear
/// variational surface deformation methods, IEEE TVCG 14 (2008)).
Result<Cleaned> fill_holes(const Mesh& mesh, Filling filling, std::size_t most_edges,
                           const Task& task = {},
                           const std::function<bool(const std::vector<Vec3>&)>& wanted = {});

enum class Thinning {
  Even,       ///< edges shorter than the spacing are collapsed
  Curvature,  ///< flat places lose more: least change of volume and border
};
/// Thins to about the spacing wanted (Even), or to the number of triangles that an even mesh of
/// that spacing would have (Curvature).
/// @errors InvalidInput  a spacing that is not positive;  Failed;  Cancelled.
/// Source: P. Lindstrom and G. Turk, Fast and memory efficient polygonal simplification, 1998, as
/// implemented in CGAL.
Result<Cleaned> thin(const Mesh& mesh, Thinning thinning, double spacing, const Task& task = {});

/// Triangles with edges of about one length, on the surface as it is: borders and edges sharper
/// than 45 degrees stay. Only the selected triangles, all when the selection is empty.
/// @errors InvalidInput  a length that is not positive;  Failed;  Cancelled.
/// Source: M. Botsch and L. Kobbelt, A remeshing approach to multiresolution modeling, SGP 2004, as
/// implemented in CGAL.
Result<Cleaned> remesh(const Mesh& mesh, const Selection& selection, double length,
                       const Task& task = {});

}  // namespace lostline::scan
