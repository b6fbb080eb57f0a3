#pragma once

#include <Eigen/Core>
#include <optional>

#include "base/task.h"
#include "fit/surface.h"

namespace lostline::fit {

/// A condition on the direction (normal or axis) of a fit, or on its whole axis.
struct DirectionRule {
  enum class Type {
    Free,
    Parallel,
    Perpendicular,
    OnAxis,  ///< the whole axis is known: what is round lies about it, a plane square to it
  };
  Type type = Type::Free;
  Vec3 direction = Vec3::UnitZ();  ///< unit
  Vec3 point = Vec3::Zero();       ///< on the known axis, mm
};

struct SurfaceFitOptions {
  DirectionRule direction;
  /// Points further than this many robust standard deviations are left out; 0 keeps all (plain
  /// least squares).
  double reject_beyond = 3.5;
  int max_rounds = 12;      ///< of leaving out and fitting again
  int max_iterations = 60;  ///< of one least-squares round
  double relative_step =
      1e-11;  ///< converged when a step changes the residuals by less than this share
  /// Estimate how far neighbouring residuals agree and inflate the uncertainty by it.
  bool correlate = true;
  /// Noise of the points where it is known otherwise, mm: few points show less of it in their
  /// residuals, and uncertainties would come out too small.
  double least_sigma = 0;
  /// Weight of each point, mean about 1: trust. Empty: all alike. A point of weight w is taken to
  /// scatter 1 / sqrt(w) times as much.
  Eigen::VectorXd weights;
  /// A radius more uncertain than this share of itself is refused: the arc does not tell it. 0:
  /// never.
  double hopeless = 0.3;
};

/// A fitted surface with everything that is known of its quality. Uncertainties are expanded, k
/// = 2.
struct SurfaceFit {
  Surface surface;
  std::size_t points = 0;  ///< offered
  std::size_t used = 0;    ///< kept by the robust rounds
  /// Rounds of leaving out points and fitting again, and whether the last one left out the same
  /// points as the one before: else the choice of points still moved when the rounds ran out.
  int rounds = 0;
  bool settled = true;
  double rms = 0;    ///< of the kept residuals, mm
  double sigma = 0;  ///< residual standard deviation, freedoms accounted for, mm
  double form_error =
      0;  ///< greatest minus least kept residual, mm (ISO 1101 sense, with the scan's noise in it)
  double inflation = 1;  ///< mean factor on the variances for correlated noise, >= 1
  /// Plane along its normal, axis across itself, both at the centroid; centre of a sphere or torus;
  /// mm.
  double u_offset = 0;
  double u_angle = 0;  ///< of normal or axis as a whole, rad; 0 when the direction is imposed fully
  double u_radius = 0;        ///< cylinder, sphere, cone at its point, torus: the major one; mm
  double u_half_angle = 0;    ///< cone, rad
  double u_minor_radius = 0;  ///< torus or ellipse, mm
  Vec3 centroid =
      Vec3::Zero();  ///< of the kept points; `surface.point` is its foot on plane or axis
};

/// Fits a plane, cylinder, cone, sphere, torus, line, circle or ellipse by orthogonal-distance
/// least squares with repeated rejection of outliers.
///
/// @param points   3 x N, mm, all finite; N >= 2 for a line, 3 for a plane or circle, 5 for a
/// sphere, 6 for a cylinder or ellipse, 7 for a cone, 14 for a torus.
/// @param normals  3 x N unit normals out of the material (zero where unknown), or 3 x 0; they give
/// the start and the side of
///                 the material, not the result.
/// @param start    a start; without it one is derived from the normals. All but plane, line and
/// circle need one of the two, unless the whole axis is known.
/// @errors InvalidInput  too few points, a value that is not finite, no start;  Degenerate  the
/// points do not determine the surface (collinear,
///         a narrow arc: the message says how wide it is);  NotConverged;  Cancelled.
///
/// The covariance assumes normal noise that neighbours may share: their correlation is estimated
/// from the residuals, ring after ring of distance as far as it is more than chance and at most
/// eight spacings, corrected for what the fit absorbed, and carried into the covariance as (J'J)^-1
/// J'CJ (J'J)^-1 (W. Newey and K. West, Econometrica 55 (1987), and T. Conley, J. Econometrics 92
/// (1999), for such estimates along a line and in the plane). Systematic scanner error is not in
/// it. O(N) per iteration, deterministic, thread-safe. Source: A. B. Forbes, Least-squares best-fit
/// geometric elements, NPL Report DITC 140/89 (1989).
Result<SurfaceFit> fit_surface(Kind kind, const Eigen::Ref<const Eigen::Matrix3Xd>& points,
                               const Eigen::Ref<const Eigen::Matrix3Xd>& normals,
                               const std::optional<Surface>& start = {},
                               const SurfaceFitOptions& options = {}, const Task& task = {});

/// A start for `fit_surface` from points and normals alone.
Result<Surface> estimate_surface(Kind kind, const Eigen::Ref<const Eigen::Matrix3Xd>& points,
                                 const Eigen::Ref<const Eigen::Matrix3Xd>& normals);

}  // namespace lostline::fit
