#pragma once

#include "model/plane_view.h"
#include "project/document.h"

// What a sketch takes over from elsewhere, in the plane that it lies in.

namespace lostline::project {

/// The plane that a sketch is drawn in, part coordinates.
Placement plane_of(const TracedSketch& sketch);

/// A fit or region seen in a plane: a plane is the line in which it cuts it, an axis its foot on
/// the plane where it stands within ten degrees of upright on it and else the line that is seen of
/// it, a sphere or circle its centre. Lines are as long as the evidence.
/// @errors NotFound  it is gone or free-form;  InvalidInput  a plane within a degree of parallel.
Result<model::PlaneView> fit_seen(const Document& document, const FitRef& ref,
                                  const Placement& plane);

/// The sketch with what is seen in its plane as construction that stays where it is.
/// @param added  receives the new entities and points, if given.
sketch::Sketch with_seen(const TracedSketch& sketch, const model::PlaneView& view,
                         std::vector<sketch::Id>* added = nullptr);

}  // namespace lostline::project
