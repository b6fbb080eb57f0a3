#pragma once

#include "model/model.h"

// The other parts of the lock winch that the pedestal carries. Invented for the product; nothing
// here is data of a real part. Lengths in mm, angles in rad.

namespace lostline::simulate {

/// Turned and drilled: a register, a hub with a keyway, holes on a bolt circle.
struct DrumFlangeDesign {
  double diameter = 170, thickness = 16, edge_chamfer = 1.5;
  double register_diameter = 110, register_height = 5, register_chamfer = 1;
  double hub_diameter = 84, hub_height = 52, hub_chamfer = 2, hub_fillet = 6;
  double bore = 45, bore_chamfer = 1;
  double key_width = 14, key_top = 26.3;  ///< of the groove, from the axis (DIN 6885-1, bore 45)
  double bolt_circle = 138, hole = 11;
  int holes = 6;
};
/// The flange's back on z = 0, its register below, its axis on z, the keyway towards +y.
model::Model drum_flange(const DrumFlangeDesign& design = {});

/// A plate with a bent tube and two bent straps welded on; the welds have pulled the straps.
struct WallBracketDesign {
  double length = 140, width = 120, thickness = 10;
  double hole = 13.5, pitch_x = 110, pitch_y = 90;
  double tube_radius = 16.85, tube_wall = 3.2;  ///< ISO 4200: 33.7 x 3.2
  double tube_rise = 110, tube_bend = 95, tube_turn = 1.3089969389957472, tube_reach = 60;
  double tube_x = -35;
  double strap_thickness = 6, strap_bend = 8;  ///< inside the bend
  double strap_rise = 62, strap_reach = 58, strap_x = 12;
  double strap_from = 24, strap_to = 52;  ///< its sides along y; the other one is its mirror image
  double strap_lean = 0.02617993877991494;  ///< by which the weld has pulled it
};
/// The plate on z = 0 .. thickness, straps mirrored in the xz plane, the tube in it.
model::Model wall_bracket(const WallBracketDesign& design = {});

/// A forged arm between a hub and a boss, a turned pin with a shaped grip on it.
struct CrankDesign {
  double hub_diameter = 62, hub_height = 44, bore = 30;
  double reach = 180;  ///< from the hub's axis to the pin's
  double boss_diameter = 44, boss_height = 34;
  double pin_diameter = 26, pin_to = 40;
  double arm_wide_hub = 46, arm_thick_hub = 26, arm_wide_boss = 32, arm_thick_boss = 18;
  double arm_twist = 0.17453292519943295;  ///< of the section, from hub to boss
  double grip_top = 118;
};
/// The hub's axis on z, its middle on z = 0, the pin at x = reach.
model::Model crank(const CrankDesign& design = {});

/// A brake drum whose vanes blow air through it: lofted, their tops turned to a cone.
struct BrakeDrumDesign {
  double diameter = 220, wall = 7, height = 46;
  double disc = 8;  ///< thickness
  double hub_diameter = 58, bore = 32;
  int vanes = 9;
  double vane_inner = 43, vane_outer = 95;  ///< radii between which they stand
  double vane_thickness = 6;
  double vane_sweep = 0.6;   ///< by which a vane lags behind, from inside to outside
  double vane_lean = 0.004;  ///< rad for a mm of height, about the axis
  double vane_top_inner = 40, vane_top_outer = 28;  ///< heights, at the two radii
  double vane_fillet = 2;
};
/// The disc on z = 0 .. disc, its axis on z.
model::Model brake_drum(const BrakeDrumDesign& design = {});

}  // namespace lostline::simulate
