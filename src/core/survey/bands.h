#pragma once

#include "survey/survey.h"

// Bands of two to five rows of points: low walls, narrow bevels, the sides of a plate.

namespace lostline::survey {

/// Whether triangles are a band of at most so many rows of points: n rows have 2 (n - 1) triangles
/// for n points, and irregular ones somewhat fewer.
bool is_band(const scan::Mesh& mesh, const std::vector<std::uint32_t>& triangles, double rows);

/// Adds to a plane's or cylinder's uncertainty of direction what the edges beside a narrow band
/// leave open. All its points lie within a spacing or two of an edge that the scanner rounds: one
/// side may stand off by a twentieth of a spacing (k = 2; by sampling, see docs/design/survey.md),
/// which tilts the fit by that over half the band's width.
void add_rounding(fit::SurfaceFit& fit, const Patch& band, double spacing);

/// Takes a cone whose angle is not told from none as a cylinder, where that holds the points as
/// well.
void take_as_cylinder(fit::SurfaceFit& cone, const Patch& patch);

/// Takes a narrow cylinder or ball as a cone where that holds its points clearly better: a chamfer
/// round a corner, of which growing has seen too little to tell.
/// @param noise  of the scan, mm: what holds the points as well as that stays.
void take_as_cone(fit::SurfaceFit& round, const Patch& patch, double noise);

}  // namespace lostline::survey
