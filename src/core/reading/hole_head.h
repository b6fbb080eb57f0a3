#pragma once

#include <optional>

#include "model/steps/hole/hole.h"
#include "project/document.h"

namespace lostline::reading {

/// What the scan shows round the mouth of holes: the seat of a screw's head.
struct HeadReading {
  model::Hole::Head head = model::Hole::Head::None;
  double diameter = 0, u_diameter = 0;  ///< mm
  double depth = 0, u_depth = 0;        ///< mm, of a counterbore
  double angle = 0, u_angle = 0;        ///< rad, whole, of a countersink
  double entry = 0, u_entry = 0;        ///< level of the surface it is sunk into
  bool from_below = false;
  std::size_t holes = 0;  ///< at how many it was found
};

/// Hollow cylinders or cones of the survey about the axes of circles of a sketch, wider than these.
/// Equal ones are read as one. Empty where there are none, or no survey.
/// @param diameter  of the holes, mm.
std::optional<HeadReading> read_head(const project::Document& document,
                                     const project::TracedSketch& sketch,
                                     const std::vector<sketch::Id>& circles, double diameter);

}  // namespace lostline::reading
