#pragma once

#include "reading/names.h"

namespace lostline::reading {

/// The sketch of a section, as sketch::sketch_from_section has it, with what the survey knows: arcs
/// that end in the open and lie on a bore or a pin whose region is seen over more than 200 degrees
/// are the circle that it cuts there. In a deep narrow bore one level shows less of it than all
/// levels together.
/// @param traced  says where the section lies and how far from it is still the same curve
/// (`tolerance`); its sketch and section are not looked at.
sketch::Sketch draw_section(const Document& document, const TracedSketch& traced,
                            const section::Section& section);

}  // namespace lostline::reading
