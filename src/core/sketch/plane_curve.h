#pragma once

#include <memory>
#include <variant>
#include <vector>

#include "base/geometry.h"
#include "section/plane_spline.h"

namespace lostline::sketch {

/// The forms in which a kernel and the exchange formats know a plane curve. Whoever writes them out
/// visits the variant, so that a new form does not compile until each has an answer for it.
struct StraightForm {
  Vec2 a, b;  ///< mm
};
/// A piece of a circle, counter-clockwise; the whole circle when `sweep` is a full turn.
struct RoundForm {
  Vec2 centre;       ///< mm
  double radius;     ///< mm
  double start = 0;  ///< rad
  double sweep = 0;  ///< rad, above 0, at most a full turn
  [[nodiscard]] bool whole() const;
};
/// A piece of an ellipse, counter-clockwise; start and sweep of the parameter t of
/// centre + cos(t) major axis + sin(t) minor axis.
struct EllipticForm {
  Vec2 centre;          ///< mm
  Vec2 axis;            ///< unit vector along the major axis
  double major, minor;  ///< radii, mm
  double start = 0;     ///< rad
  double sweep = 0;     ///< rad, above 0, at most a full turn
  [[nodiscard]] bool whole() const;
  [[nodiscard]] Vec2 at(double t) const;
};
/// A B-spline from its first pole to its last, or closed.
struct SplineForm {
  section::PlaneSpline spline;
};
using Form = std::variant<StraightForm, RoundForm, EllipticForm, SplineForm>;

/// A bounded curve in the plane of a sketch, in coordinates. Its parameter runs from 0 to range();
/// beyond that it follows the endless curve.
class PlaneCurve {
 public:
  PlaneCurve() = default;
  PlaneCurve(const PlaneCurve&) = delete;
  PlaneCurve& operator=(const PlaneCurve&) = delete;
  virtual ~PlaneCurve() = default;

  [[nodiscard]] virtual Form form() const = 0;
  [[nodiscard]] virtual double range() const = 0;
  /// After how much the parameter comes back to the same place; 0 never.
  [[nodiscard]] virtual double period() const = 0;
  /// mm per unit of the parameter.
  [[nodiscard]] virtual double pace() const = 0;
  [[nodiscard]] virtual Vec2 at(double t) const = 0;
  /// Unit vector along the growing parameter.
  [[nodiscard]] virtual Vec2 direction(double t) const = 0;
  /// Of the point's foot on the endless curve; within [0, period) where there is one.
  [[nodiscard]] virtual double parameter(const Vec2& p) const = 0;
  /// Signed distance of `p` from the bounded curve, mm: left of a straight piece, outside a round
  /// one is positive; beyond the ends it is the distance from the end. `foot` receives the nearest
  /// point when given.
  [[nodiscard]] virtual double drift(const Vec2& p, Vec2* foot = nullptr) const = 0;
  /// Half the integral of x dy - y dx along the curve, mm2: summed over a closed chain, its area.
  [[nodiscard]] virtual double area_part() const = 0;
  /// Points from start to end on chords of at most 3.75 degrees (0.05 % of a radius).
  [[nodiscard]] virtual std::vector<Vec2> chords() const = 0;

  [[nodiscard]] bool closed() const { return period() > 0 && range() >= period(); }
  [[nodiscard]] Vec2 start() const { return at(0); }
  [[nodiscard]] Vec2 end() const { return at(range()); }
  [[nodiscard]] Vec2 middle() const { return at(range() / 2); }
  /// Whether a point of the endless curve lies on the bounded one.
  [[nodiscard]] bool holds(const Vec2& p) const;
  /// How far (mm) from its ends a parameter counts as being there, in units of the parameter.
  [[nodiscard]] double slack() const;
};

std::unique_ptr<PlaneCurve> straight_piece(const Vec2& a, const Vec2& b);
std::unique_ptr<PlaneCurve> round_piece(const RoundForm& form);
std::unique_ptr<PlaneCurve> elliptic_piece(const EllipticForm& form);
std::unique_ptr<PlaneCurve> spline_piece(const SplineForm& form);
std::unique_ptr<PlaneCurve> piece_of(const Form& form);

/// Whether two curves are one: each lies on the other, both ends too.
/// @param within  mm.
bool fall_together(const Form& a, const Form& b, double within);

/// Where the endless curves of two forms meet (splines end where they end); empty for those that
/// coincide or never meet.
std::vector<Vec2> meetings(const Form& a, const Form& b);

}  // namespace lostline::sketch
