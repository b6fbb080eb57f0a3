#pragma once

#include "model/model.h"
#include "simulate/scanner.h"

namespace lostline::simulate {

/// Design values of the pedestal, mm and rad. Invented for the product; nothing here is data of a
/// real part.
struct PedestalDesign {
  double foot_length = 180, foot_width = 110, foot_thickness = 14, foot_corner_radius = 12;
  double boss_diameter = 72;  ///< at boss_neutral
  double boss_neutral = 49;   ///< height at which the draft is neutral
  double boss_height = 84, boss_draft = 0.026179938779914945;  ///< 1.5 degrees
  double bore_diameter = 42;
  double hole_diameter = 13.5, hole_pitch_x = 140, hole_pitch_y = 76;
  double rib_thickness = 10, rib_top = 62,
         rib_reach = 70;  ///< from the boss at rib_top to the foot at x = rib_reach
  double foot_fillet = 4;
};

/// The part as designed: foot on z = 0, boss axis on z.
model::Model pedestal(const PedestalDesign& design = {});

/// The worn specimen: a corner of the foot broken off; wear, finish and everything else of the
/// surface come with `surface`.
struct Specimen {
  model::Model solid;
  SurfaceState surface;
};
Specimen worn_pedestal(const PedestalDesign& design = {});

}  // namespace lostline::simulate
