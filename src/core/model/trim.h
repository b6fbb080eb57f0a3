#pragma once

#include "model/profile.h"
#include "model/tool_body.h"

namespace lostline::model {

/// A level safely beyond where lines square to the sketch from all around the profile meet a
/// surface, on the side where they meet it.
/// @errors Degenerate  some lines miss it, or it lies on both sides of the profile.
Result<double> level_beyond(const PlacedSketch& placed, const Choice& choice, double from,
                            const fit::Surface& surface);

/// What a body keeps between its start face and the surface it runs into; the new faces are named
/// as its end.
/// @errors Failed  the surface does not cut the body.
Result<Named> trim_at(const Named& body, const fit::Surface& surface, const std::string& prefix);

}  // namespace lostline::model
