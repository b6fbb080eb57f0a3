#pragma once

#include "model/model_impl.h"

namespace lostline::model {

/// What a tap takes out over a span: the hole inside the crests and the groove around it, as a
/// solid with the basic profile of ISO 68-1, right-handed. It ends in a turn's step at both ends.
/// @param axis  origin on the hole's axis, normal along it.
/// @param crest  mm, diameter inside the crests.
/// @param from, to  levels along the axis between which it is whole.
/// @errors InvalidInput  crests no narrower than the thread, or so narrow that its turns meet;
/// Failed.
Result<TopoDS_Shape> tapped_inside(const Placement& axis, double crest, double major_diameter,
                                   double pitch, double from, double to);

}  // namespace lostline::model
