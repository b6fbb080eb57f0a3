#pragma once

#include <functional>
#include <vector>

#include "base/result.h"
#include "fit/surface_fit.h"

namespace lostline::datum {

/// Makes a construction from fits; only `surface` of the result is looked at.
using Construct = std::function<Result<fit::SurfaceFit>(const std::vector<fit::SurfaceFit>&)>;

/// A constructed feature with the uncertainty that follows from those it rests on, taken as
/// independent: each is shifted and tilted by its standard uncertainty about its own evidence, in
/// every way that changes it, and the construction repeated. `u_offset` is that of the feature's
/// place across itself (of all three coordinates for a point) at `result.centroid`, `u_angle` that
/// of its direction, both expanded to 95.45 % in as many dimensions as they spread over. Source:
/// law of propagation of uncertainty, JCGM 100:2008 (GUM), 5.1.2, with numerical sensitivities
/// (5.1.3, note 2).
/// @errors Degenerate  the construction fails within the uncertainty of one of them, to both sides:
/// what it makes is chance.
Result<fit::SurfaceFit> propagated(const std::vector<fit::SurfaceFit>& from,
                                   const Construct& construct, fit::SurfaceFit result);

}  // namespace lostline::datum
