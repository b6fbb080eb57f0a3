#pragma once

#include <string>

#include "base/task.h"
#include "base/text.h"
#include "scan/mesh.h"

namespace lostline::scan {

/// What can be told about a scan before any work.
struct Health {
  std::size_t triangles = 0;
  std::size_t vertices = 0;
  Box3 box;                      ///< mm
  double spacing = 0;            ///< median edge length, mm
  double noise_sigma = 0;        ///< see measure_noise, mm; 0 when unknown
  double noise_correlation = 0;  ///< distance over which neighbours share it, mm; 0: they do not
  std::size_t components = 0;    ///< connected parts
  std::size_t islands = 0;  ///< parts with fewer than kIslandShare of the triangles of the largest
  std::size_t island_triangles = 0;
  std::size_t open_edges = 0;
  std::size_t non_manifold_edges = 0;
  std::size_t zero_area_triangles = 0;
  double area = 0;    ///< mm2
  double volume = 0;  ///< mm3, signed; meaningful when there are few open edges
  /// The triangles face inwards: the volume is negative and not explained by holes.
  bool inside_out = false;
};

constexpr double kIslandShare = 0.02;

/// @errors Cancelled.
Result<Health> examine(const Mesh& mesh, const Topology& topology, const Task& task = {});

/// How good the scan is where, for a picture: one value a vertex.
struct LocalQuality {
  std::vector<float> noise;    ///< over two rings, averaged over the neighbours, mm; NaN unknown
  std::vector<float> spacing;  ///< mean distance to the neighbours, mm
};
/// @errors Cancelled.
/// About 1 s for 200 k vertices on two cores.
Result<LocalQuality> local_quality(const Mesh& mesh, const Topology& topology,
                                   const Task& task = {});

/// A proposal for the unit of the numbers in a file that has none.
struct UnitGuess {
  Unit unit = Unit::Millimetre;
  std::string reason;  ///< one sentence
};
/// Chooses the unit that makes both the size and the point spacing plausible for a scanned machine
/// part.
/// @param extent   longest side in file numbers.
/// @param spacing  median edge length in file numbers; 0 if unknown.
UnitGuess guess_unit(double extent, double spacing);

/// Drops every connected part with fewer than `share` of the triangles of the largest, and
/// zero-area triangles.
Mesh drop_islands(const Mesh& mesh, const Topology& topology, double share = kIslandShare);

/// Reverses every triangle: repairs a scan that is inside out.
Mesh flipped(Mesh mesh);

}  // namespace lostline::scan
