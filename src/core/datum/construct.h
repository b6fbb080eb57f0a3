#pragma once

#include <vector>

#include "base/result.h"
#include "fit/surface_fit.h"

// Datum features that follow from fits. Uncertainties are carried over from the fits, taken as
// independent. Source of the constructions: ISO 5459:2011, common practice.

namespace lostline::datum {

/// The plane midway between two planes: parallel ones that face apart or alike, or the bisector of
/// two slanted ones. Form error: that of the wider.
/// @errors InvalidInput  not two planes;  Degenerate  they coincide.
Result<fit::SurfaceFit> midplane(const fit::SurfaceFit& a, const fit::SurfaceFit& b);

/// The line through two centres: axes are taken where they meet the plane square to them midway
/// between their evidence, or `through` when given.
/// @errors InvalidInput  a plane among them;  Degenerate  the centres coincide.
Result<fit::SurfaceFit> axis_of_two(const fit::SurfaceFit& a, const fit::SurfaceFit& b,
                                    const fit::SurfaceFit* through = nullptr);

/// The line nearest to the axes of several features, each weighted by its certainty. `rms` is the
/// departure of the axes from it.
/// @errors InvalidInput  fewer than two, or one without an axis;  Degenerate  they are not coaxial
/// within 5 degrees.
Result<fit::SurfaceFit> common_axis(const std::vector<fit::SurfaceFit>& fits);

/// The circle through the axes of holes, in the plane square to their mean direction. `rms` and
/// form error are the departures of the holes.
/// @errors InvalidInput  fewer than three;  Degenerate  not parallel, or in one line.
Result<fit::SurfaceFit> bolt_circle(const std::vector<fit::SurfaceFit>& fits);

/// The point where three planes, a plane and an axis, or two axes meet; of two axes the midpoint of
/// their shortest distance, which is the form error.
/// @errors InvalidInput  another combination;  Degenerate  parallel.
Result<fit::SurfaceFit> intersection(const std::vector<fit::SurfaceFit>& fits);

}  // namespace lostline::datum
