#pragma once

#include "scan/mesh.h"

namespace lostline::scan {

/// The scatter of a scan along its surface normal.
struct Noise {
  double sigma = 0;  ///< standard deviation, mm; 0 when there is too little to tell
  /// Distance over which neighbouring points share it (their correlation falls to 1/e there), mm; 0
  /// when each point scatters by itself as far as can be told.
  double correlation = 0;
  double patch = 0;  ///< radius of the patches that it was read from, mm; 0: rings of neighbours
};

/// Reads the noise from the residuals of quadratic patches spread over the mesh, first over two
/// rings of neighbours. A scanner that smooths leaves noise which small patches follow and hide:
/// when patches of four spacings show more, the largest of four, eight and sixteen spacings are
/// taken that the part has, and what their quadratics absorb of shared noise is added back. Patches
/// that hold an edge, as their normals tell, are left out. What is shared over much of a patch is
/// the shape of the part, and is not taken for noise; a rough skin whose waves are a few spacings
/// long is, since nothing in the scan tells it from noise that the scanner has smoothed.
/// @param samples  patches tried for the first reading; a tenth of them for the large ones.
/// Right to 20 % for noise shared over up to four spacings where there are smooth faces of thirty
/// spacings; beyond that it is told too small. Common practice of variography, N. Cressie,
/// Statistics for Spatial Data (1993), 2.4, for the correlation by distance.
Noise measure_noise(const Mesh& mesh, const Topology& topology, std::size_t samples = 4000);

/// The scatter of each point by itself, mm: the median of ring_noise over vertices spread over the
/// mesh. 0 when there are fewer than 20 that tell it.
double typical_ring_noise(const Mesh& mesh, const Topology& topology, std::size_t samples = 4000);

/// Residual standard deviation of a quadratic height function over the two-ring of a vertex, mm;
/// negative when there is too little.
double ring_noise(const Mesh& mesh, const Topology& topology, std::uint32_t vertex);

}  // namespace lostline::scan
