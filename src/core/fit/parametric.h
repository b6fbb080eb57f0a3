#pragma once

#include <Eigen/Core>
#include <vector>

#include "fit/least_squares.h"
#include "fit/surface_fit.h"

// Surfaces as numbers that a solver moves: shared by single fits and fits solved together.

namespace lostline::fit {

/// The state of a fit as one vector: point 0..2, axis 3..5, radius 6, half angle 7, minor radius 8,
/// long axis 9..11.
Eigen::VectorXd pack(const Surface& surface);
/// `surface` with the numbers of a state.
Surface unpack(const Eigen::VectorXd& state, Surface surface);

/// The free directions of a fit: which tilts are allowed, in a frame that is fixed during one fit.
struct Freedoms {
  Kind kind;
  std::vector<Vec3> tilts;  ///< unit vectors across the axis at the start
  std::vector<Vec3> shifts;
  bool radius = true;
  bool last = false;  ///< half angle of a cone, minor radius of a torus or ellipse
  bool turn = false;  ///< of an ellipse in its plane

  // In this order: tilts, shifts, radius, the last, the turn.
  [[nodiscard]] Eigen::Index first_shift() const { return static_cast<Eigen::Index>(tilts.size()); }
  [[nodiscard]] Eigen::Index at_radius() const {
    return first_shift() + static_cast<Eigen::Index>(shifts.size());
  }
  [[nodiscard]] Eigen::Index at_last() const { return at_radius() + (radius ? 1 : 0); }
  [[nodiscard]] Eigen::Index at_turn() const { return at_last() + (last ? 1 : 0); }
  [[nodiscard]] Eigen::Index count() const { return at_turn() + (turn ? 1 : 0); }
};
Freedoms freedoms_of(Kind kind, const Vec3& axis, const DirectionRule& rule = {});

/// Numbers that one point leaves: 1 off a surface, 2 off a curve.
int rows_per_point(Kind kind);

/// Distances outward from the surface (two components across a curve, rows 2 i and 2 i + 1), and
/// their derivatives by the freedoms.
void evaluate(const Eigen::Ref<const Eigen::Matrix3Xd>& points, const Freedoms& freedoms,
              const Eigen::VectorXd& state, Eigen::VectorXd& residuals, Eigen::MatrixXd* jacobian);

/// The same summed up without being kept, for a surface: of many points several times faster.
/// @param root_weights  of the points, each scales its row; empty: all 1.
NormalEquations normal_equations(const Eigen::Ref<const Eigen::Matrix3Xd>& points,
                                 const Eigen::VectorXd& root_weights, const Freedoms& freedoms,
                                 const Eigen::VectorXd& state);

/// The state moved along the freedoms.
Eigen::VectorXd moved(const Freedoms& freedoms, const Eigen::VectorXd& state,
                      const Eigen::VectorXd& step);

/// Moves the surface's point, which may lie anywhere along it, to the foot of `centre`: shift and
/// tilt are nearly independent then.
void settle_point(Surface& surface, const Vec3& centre);

}  // namespace lostline::fit
