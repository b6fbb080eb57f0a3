#include "model/steps/hole/tapped_inside.h"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <TopoDS_Face.hxx>
#include <cmath>

#include "base/text.h"
#include "model/screw_motion.h"
#include "model/sewn.h"

namespace lostline::model {

Result<TopoDS_Shape> tapped_inside(const Placement& axis, double crest, double major_diameter,
                                   double pitch, double from, double to) {
  const double root = major_diameter / 2;
  const double inside = crest / 2;
  // Flanks of 30 degrees, an eighth of the pitch wide at the major diameter (ISO 68-1).
  const double narrow = pitch / 16;
  const double wide = narrow + (root - inside) * std::tan(30 * kDegree);
  if (!(inside < root))
    return Error{ErrorCode::InvalidInput,
                 "A hole of " + format_trimmed(crest, 3) +
                     " mm is no narrower than its thread. Give the tap drill's diameter."};
  if (!(wide < 0.48 * pitch))
    return Error{
        ErrorCode::InvalidInput,
        "A hole of " + format_trimmed(crest, 3) +
            " mm is too narrow for this thread: its turns would meet. Give the tap drill's "
            "diameter."};
  // One pitch of the profile in a plane through the axis, from crest to crest. Moved on by a turn
  // its end is its beginning, so that turn meets turn along one helix.
  const double begin = from - pitch;
  const auto at = [&](double r, double t) {
    return pnt(axis.to_space(Vec2::Zero(), begin + t) + r * axis.x);
  };
  const std::array profile{at(inside, 0),
                           at(inside, pitch / 2 - wide),
                           at(root, pitch / 2 - narrow),
                           at(root, pitch / 2 + narrow),
                           at(inside, pitch / 2 + wide),
                           at(inside, pitch)};
  const auto line = [](const gp_Pnt& a, const gp_Pnt& b) {
    return BRepBuilderAPI_MakeEdge(a, b).Edge();
  };
  // Half a turn at a time: the kernel meets short faces where they are, and long ones everywhere.
  const int halves = 2 * static_cast<int>(std::ceil((to - from) / pitch + 2));
  ScrewMotion motion;
  motion.point = axis.origin;
  motion.axis = axis.normal;
  motion.angle = std::numbers::pi;
  motion.advance = pitch / 2;
  motion.span = 0.4;             // rad: within 3e-4 of the radius
  constexpr double kGap = 1e-5;  // mm
  BRepBuilderAPI_Sewing sewing(kGap);
  const auto sweep = [&](const gp_Pnt& a, const gp_Pnt& b, int half) {
    motion.from = half;
    sewing.Add(BRepBuilderAPI_MakeFace(swept_by(line(a, b), motion), 1e-7).Face());
  };
  for (int half = 0; half < halves; ++half)
    for (std::size_t k = 1; k < profile.size(); ++k) sweep(profile[k - 1], profile[k], half);
  // Both ends: what the line from the axis to the crest passes over in a turn, and the step that
  // it leaves.
  BRepBuilderAPI_MakeWire step;
  for (std::size_t k = 1; k < profile.size(); ++k) step.Add(line(profile[k - 1], profile[k]));
  step.Add(line(profile.back(), at(0, pitch)));
  step.Add(line(at(0, pitch), at(0, 0)));
  step.Add(line(at(0, 0), profile.front()));
  const TopoDS_Face low = BRepBuilderAPI_MakeFace(step.Wire(), true).Face();
  sewing.Add(low);
  sewing.Add(BRepBuilderAPI_Transform(low, motion.at(halves), true).Shape());
  for (int half = 0; half < 2; ++half) {
    sweep(at(0, 0), profile.front(), half);
    sweep(at(0, 0), profile.front(), halves + half);
  }
  sewing.Perform();
  const Error failed{ErrorCode::Failed, "The thread cannot be modelled with these numbers."};
  const TopoDS_Solid solid = sewn_solid(sewing);
  if (solid.IsNull() || !BRepCheck_Analyzer(solid).IsValid()) return failed;
  return TopoDS_Shape(solid);
}

}  // namespace lostline::model
