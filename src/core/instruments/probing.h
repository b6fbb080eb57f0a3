#pragma once

#include <optional>
#include <span>
#include <string_view>
#include <vector>

#include "fit/surface_fit.h"
#include "instruments/client.h"

// What a probe's touches say of the surface they lie on.

namespace lostline::instruments {

/// What can be probed: a fitted kind, a slot, or a curve of any shape.
enum class Probed { Plane, Line, Circle, Cylinder, Cone, Sphere, Slot, Curve };
struct ProbedKind {
  Probed kind;
  const char* name;                 ///< "plane"
  std::size_t needed;               ///< touches that determine it
  std::optional<fit::Kind> fitted;  ///< as a surface or curve of fits
};
std::span<const ProbedKind> probed_kinds();
const ProbedKind& about(Probed kind);
/// By the first word of a name such as "plane 3"; null for one that is not known.
const ProbedKind* probed_kind_of(std::string_view name);

/// A groove with round ends, in its plane.
struct Slot {
  Vec3 a = Vec3::Zero(), b = Vec3::Zero();  ///< centres of its ends
  Vec3 normal = Vec3::UnitZ();              ///< of its plane
  double radius = 0;                        ///< half its width, mm
  double u_radius = 0, u_length = 0;        ///< expanded, mm; of the length between a and b
  double rms = 0;
};

/// A feature as probed, the ball taken off.
struct ProbedFit {
  std::vector<Vec3> places;  ///< on the part, one a touch
  std::optional<fit::SurfaceFit> fit;
  std::optional<Slot> slot;
};

/// Fits a feature to touches. There must be one more than it needs, so that its U has something to
/// rest on. The ball is taken off exactly: surfaces at a distance from these kinds are of the same
/// kind; of a curve, square to it in its plane.
/// @param tip    mm, radius of the ball where touches are its centres; 0 where they are places.
/// @param noise  mm, standard deviation of one touch; touches that scatter less are not believed
/// to be better.
/// @errors Degenerate  too few touches, or they lie so that they do not determine it: the message
/// says how many more, or where.  As fit::fit_surface.
/// Source of slots: least squares of the distances from their outline, as A. B. Forbes, NPL Report
/// DITC 140/89 (1989), for other elements.
Result<ProbedFit> fit_touches(Probed kind, const std::vector<Touch>& touches, double tip,
                              double noise);

}  // namespace lostline::instruments
