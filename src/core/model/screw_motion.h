#pragma once

#include <Geom_Surface.hxx>
#include <TopoDS_Edge.hxx>
#include <gp_Trsf.hxx>

#include "base/geometry.h"

namespace lostline::model {

/// A turn about an axis together with a shift along it, in even proportion.
struct ScrewMotion {
  Vec3 point = Vec3::Zero();  ///< on the axis
  Vec3 axis = Vec3::UnitZ();  ///< unit
  double angle = 0;           ///< rad, of the whole motion, counter-clockwise about the axis
  double advance = 0;         ///< mm, along the axis
  double from = 0;            ///< share of the motion at which it begins, to from + 1
  /// rad, of one span of the surface along the motion: 0.07 is within 3e-7 of the distance from the
  /// axis, 0.4 within 3e-4.
  double span = 0.07;

  /// Where the motion has taken what stood at its share 0.
  [[nodiscard]] gp_Trsf at(double share) const;
};

/// The surface that an edge passes over, as a B-spline: exactly along the edge, along the motion
/// as nearly as its spans are short. Neighbouring edges pass over surfaces that
/// meet without a gap.
Handle(Geom_Surface) swept_by(const TopoDS_Edge& edge, const ScrewMotion& motion);

}  // namespace lostline::model
