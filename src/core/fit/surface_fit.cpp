#include "fit/surface_fit.h"

#include <fmt/format.h>

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <numbers>
#include <vector>

#include "base/linear.h"
#include "fit/estimate.h"
#include "fit/least_squares.h"
#include "fit/parametric.h"
#include "fit/surface_kind.h"

namespace lostline::fit {
namespace {

using Points = Eigen::Ref<const Eigen::Matrix3Xd>;

/// A sum tells it in one quick pass; one that overflows is looked at again.
bool all_finite(const Points& points) {
  if (points.outerStride() != 3) return points.allFinite();
  const Eigen::Map<const Eigen::VectorXd> numbers(points.data(), points.size());
  return std::isfinite(numbers.sum()) || numbers.allFinite();
}

Surface obey(Surface s, const DirectionRule& rule) {
  const bool on_axis = rule.type == DirectionRule::Type::OnAxis;
  if (on_axis) s.point = rule.point + (s.point - rule.point).dot(rule.direction) * rule.direction;
  if (on_axis || rule.type == DirectionRule::Type::Parallel) {
    s.axis = s.axis.dot(rule.direction) < 0 ? Vec3(-rule.direction) : rule.direction;
  } else if (rule.type == DirectionRule::Type::Perpendicular) {
    const Vec3 across = s.axis - rule.direction * rule.direction.dot(s.axis);
    s.axis = across.norm() > 1e-9 ? across.normalized() : any_perpendicular(rule.direction);
  }
  return s;
}

/// Distance of each point from a curve out of its two components.
Eigen::VectorXd sizes_of(const Eigen::VectorXd& components) {
  Eigen::VectorXd sizes(components.size() / 2);
  for (Eigen::Index i = 0; i < sizes.size(); ++i)
    sizes[i] = std::hypot(components[2 * i], components[2 * i + 1]);
  return sizes;
}

/// From the median of the distances: 1.4826 of it for a normal distribution, 0.8493 for the length
/// of two normal components (Rayleigh).
double robust_sigma(const Eigen::VectorXd& residuals, Kind kind) {
  std::vector<double> sizes(residuals.data(), residuals.data() + residuals.size());
  for (double& v : sizes) v = std::abs(v);
  const auto middle = sizes.begin() + static_cast<std::ptrdiff_t>(sizes.size() / 2);
  std::nth_element(sizes.begin(), middle, sizes.end());
  return (is_curve(kind) ? 0.8493 : 1.4826) * *middle;
}

Eigen::Matrix3Xd columns(const Points& points, const std::vector<Eigen::Index>& which) {
  Eigen::Matrix3Xd result(3, static_cast<Eigen::Index>(which.size()));
  for (std::size_t i = 0; i < which.size(); ++i) {
    result.col(static_cast<Eigen::Index>(i)) = points.col(which[i]);
  }
  return result;
}

/// Each point's rows times the root of its weight.
void scale_rows(const Eigen::VectorXd& root, Eigen::VectorXd& residuals,
                Eigen::MatrixXd* jacobian) {
  const Eigen::Index each = residuals.size() / root.size();
  for (Eigen::Index i = 0; i < residuals.size(); ++i) {
    residuals[i] *= root[i / each];
    if (jacobian != nullptr) jacobian->row(i) *= root[i / each];
  }
}

/// Of each of a point's rows by itself: the components of a curve's distances are independent.
Eigen::MatrixXd inflation_of(const Points& points, const Eigen::VectorXd& residuals,
                             const Eigen::MatrixXd& slopes, const Eigen::MatrixXd& root,
                             int rows_each) {
  const Eigen::MatrixXd one = Eigen::MatrixXd::Identity(root.cols(), root.cols());
  if (rows_each == 1) return shared_noise(points, residuals, slopes, root);
  Eigen::MatrixXd inflation = one;
  for (int c = 0; c < rows_each; ++c) {
    const auto rows = Eigen::seq(c, Eigen::last, rows_each);
    inflation += shared_noise(points, residuals(rows), slopes(rows, Eigen::all), root) - one;
  }
  return inflation;
}

/// Widest angle without a point about the axis taken from the full turn, degrees.
double arc_of(const Surface& s, const Points& points) {
  const Vec3 u = any_perpendicular(s.axis);
  const Vec3 v = s.axis.cross(u);
  std::vector<double> angles;
  for (Eigen::Index i = 0; i < points.cols(); ++i) {
    const Vec3 d = points.col(i) - s.point;
    angles.push_back(std::atan2(d.dot(v), d.dot(u)));
  }
  std::sort(angles.begin(), angles.end());
  double gap = angles.front() + 2 * std::numbers::pi - angles.back();
  for (std::size_t i = 1; i < angles.size(); ++i) gap = std::max(gap, angles[i] - angles[i - 1]);
  return (2 * std::numbers::pi - gap) * 180 / std::numbers::pi;
}

/// About a known axis a surface is a curve in the half-plane of (distance from it, height along
/// it): a line or a circle through the points there.
Result<Surface> guess_on_axis(Kind kind, const Points& points, const DirectionRule& rule) {
  const Eigen::VectorXd z = (points.colwise() - rule.point).transpose() * rule.direction;
  Eigen::VectorXd rho(points.cols());
  for (Eigen::Index i = 0; i < rho.size(); ++i)
    rho[i] = (points.col(i) - rule.point - z[i] * rule.direction).norm();
  Surface s;
  s.kind = kind;
  s.axis = rule.direction;
  double level = z.mean();
  s.radius = rho.mean();
  if (kind == Kind::Cone) {
    const Eigen::VectorXd along = z.array() - level;
    const double spread = along.squaredNorm();
    if (!(spread > 0)) return too_few(kind, points.cols(), fewest_points(kind));
    s.half_angle = std::atan(along.dot(rho) / spread);
  } else if (kind == Kind::Sphere) {
    // z^2 + rho^2 = 2 c z + (r^2 - c^2): the centre's height c by linear least squares.
    const Eigen::VectorXd along = z.array() - level;
    const Eigen::VectorXd square = z.array().square() + rho.array().square();
    const double spread = along.squaredNorm();
    if (!(spread > 0)) return too_few(kind, points.cols(), fewest_points(kind));
    level = 0.5 * along.dot(square) / spread;
    s.radius = std::sqrt(((z.array() - level).square() + rho.array().square()).mean());
  } else if (kind == Kind::Torus) {
    Eigen::Matrix2Xd flat(2, points.cols());
    flat.row(0) = rho;
    flat.row(1) = z;
    const auto circle = algebraic_circle(flat);
    if (!circle) return circle.error();
    s.radius = circle->centre.x();
    s.minor_radius = circle->radius;
    level = circle->centre.y();
  }
  s.point = rule.point + level * rule.direction;
  return s;
}

/// Where a fit of all points begins, obeying the rule.
Result<Surface> first_guess(Kind kind, const Points& points, const Points& normals,
                            const std::optional<Surface>& start, const DirectionRule& rule) {
  // An ellipse is no surface of turning: which way it lies is to be found too.
  if (rule.type == DirectionRule::Type::OnAxis && !start && kind != Kind::Ellipse)
    return guess_on_axis(kind, points, rule);
  Result<Surface> guess = start ? *start : estimate_surface(kind, points, normals);
  if (!guess) return guess;
  Surface surface = obey(*guess, rule);
  const bool direction =
      rule.type == DirectionRule::Type::Parallel || rule.type == DirectionRule::Type::Perpendicular;
  if (!direction || kind != Kind::Cylinder) return surface;
  // With the direction imposed the circle across it is the better start.
  const Vec3 u = any_perpendicular(surface.axis);
  const Vec3 v = surface.axis.cross(u);
  const Eigen::Matrix3Xd centred = points.colwise() - surface.point;
  Eigen::Matrix2Xd flat(2, points.cols());
  flat.row(0) = u.transpose() * centred;
  flat.row(1) = v.transpose() * centred;
  const Result<Circle2> circle = algebraic_circle(flat);
  if (!circle) return circle.error();
  surface.point += circle->centre.x() * u + circle->centre.y() * v;
  surface.radius = circle->radius;
  return surface;
}

/// Which points are chosen does not change by this share of their scatter.
constexpr double kChoosing = 1e-4;
/// Of the column norms: as many figures as the next step gains (from a scatter's hundredth).
constexpr double kDampingNear = 1e-8;
constexpr Eigen::Index kEnough = 5000;  // points that tell where a surface lies

/// Of many points every k-th settles where the surface lies; all of them then need a round or two.
/// Empty where there are not many, or the sample does not hold the surface.
std::optional<Surface> settled_on_sample(Kind kind, const Points& points, const Points& normals,
                                         const std::optional<Surface>& start,
                                         const SurfaceFitOptions& options, const Task& task) {
  const Eigen::Index stride = points.cols() / kEnough;
  if (stride <= 2) return std::nullopt;
  const auto every = Eigen::seq(0, Eigen::last, stride);
  SurfaceFitOptions rough = options;
  rough.correlate = false;
  rough.hopeless = 0;
  rough.relative_step = std::max(options.relative_step, kChoosing);
  if (options.weights.size() != 0) rough.weights = options.weights(every);
  Eigen::Matrix3Xd some(3, 0);
  if (normals.cols() == points.cols()) some = normals(Eigen::all, every);
  const auto sample =
      fit_surface(kind, Eigen::Matrix3Xd(points(Eigen::all, every)), some, start, rough, task);
  if (!sample) return std::nullopt;
  return sample->surface;
}

}  // namespace

Result<SurfaceFit> fit_surface(Kind kind, const Points& points, const Points& normals,
                               const std::optional<Surface>& start,
                               const SurfaceFitOptions& options, const Task& task) {
  if (kind == Kind::Point)
    return Error{ErrorCode::InvalidInput, "A point is constructed, not fitted."};
  if (kind == Kind::Line && options.direction.type == DirectionRule::Type::OnAxis)
    return Error{ErrorCode::InvalidInput, "A line on a known axis leaves nothing to fit."};
  if (options.weights.size() != 0 && options.weights.size() != points.cols())
    return Error{ErrorCode::InvalidInput, "There must be one weight for each point."};
  if (points.cols() < fewest_points(kind)) return too_few(kind, points.cols(), fewest_points(kind));
  if (!all_finite(points) || !all_finite(normals)) {
    return Error{ErrorCode::InvalidInput, "A point has a coordinate that is not a number."};
  }
  Surface surface;
  bool near = false;  // the solution: steps need hardly any damping
  if (const auto sample = settled_on_sample(kind, points, normals, start, options, task)) {
    surface = *sample;
    near = true;
  } else {
    const Result<Surface> guess = first_guess(kind, points, normals, start, options.direction);
    if (!guess) return guess.error();
    surface = *guess;
  }

  std::vector<Eigen::Index> kept(static_cast<std::size_t>(points.cols()));
  for (std::size_t i = 0; i < kept.size(); ++i) kept[i] = static_cast<Eigen::Index>(i);
  Eigen::Matrix3Xd used = points;
  SurfaceFit fit;
  fit.points = kept.size();
  Eigen::MatrixXd normal_inverse;
  Eigen::VectorXd residuals;
  Freedoms freedoms = freedoms_of(kind, surface.axis, options.direction);
  Eigen::VectorXd root_weights = options.weights.cwiseSqrt();
  bool choosing = options.reject_beyond > 0;  // then once more to the end, where it is not there
  for (int round = 0;;) {
    // Working about the centroid keeps the unknowns of shift and tilt nearly independent.
    fit.centroid = used.rowwise().mean();
    settle_point(surface, fit.centroid);
    freedoms = freedoms_of(kind, surface.axis, options.direction);
    LeastSquaresProblem problem;
    problem.evaluate = [&](const Eigen::VectorXd& x, Eigen::VectorXd& r, Eigen::MatrixXd* j) {
      evaluate(used, freedoms, x, r, j);
      if (root_weights.size() != 0) scale_rows(root_weights, r, j);
    };
    if (used.cols() > kEnough && !is_curve(kind)) {
      problem.normal = [&](const Eigen::VectorXd& x) {
        return normal_equations(used, root_weights, freedoms, x);
      };
    }
    problem.plus = [&](const Eigen::VectorXd& x, const Eigen::VectorXd& step) {
      return moved(freedoms, x, step);
    };
    LeastSquaresOptions solver;
    solver.max_iterations = options.max_iterations;
    // Near the solution the end is a step or two away.
    const bool to_the_end = near || !choosing;
    solver.relative_step =
        to_the_end ? options.relative_step : std::max(options.relative_step, kChoosing);
    if (near) solver.initial_damping = kDampingNear;
    const Result<LeastSquaresResult> solution = minimise(problem, pack(surface), solver, task);
    if (!solution) {
      if (solution.error().code == ErrorCode::Degenerate) {
        return Error{ErrorCode::Degenerate,
                     std::string("The points do not determine a ") + kind_name(kind) +
                         ": the patch is too narrow or flat. Select more of it."};
      }
      return solution.error();
    }
    surface = unpack(solution->x, surface);
    near = true;
    normal_inverse = solution->normal_inverse;
    evaluate(points, freedoms, solution->x, residuals, nullptr);
    if (is_curve(kind)) residuals = sizes_of(residuals);
    fit.rounds = round + 1;
    if (!choosing) break;
    const double limit = options.reject_beyond * robust_sigma(residuals, kind) + 1e-9;
    std::vector<Eigen::Index> next;
    next.reserve(kept.size());
    for (Eigen::Index i = 0; i < residuals.size(); ++i) {
      if (std::abs(residuals[i]) <= limit) next.push_back(i);
    }
    const bool few = next.size() < static_cast<std::size_t>(fewest_points(kind));
    fit.settled = few || next == kept;
    if (fit.settled || round >= options.max_rounds) {
      if (to_the_end) break;
      choosing = false;
      continue;
    }
    ++round;
    kept = std::move(next);
    used = columns(points, kept);
    if (options.weights.size() != 0) {
      root_weights.resize(used.cols());
      for (std::size_t i = 0; i < kept.size(); ++i)
        root_weights[static_cast<Eigen::Index>(i)] = std::sqrt(options.weights[kept[i]]);
    }
  }

  // Half a turn more is the same cone.
  surface.half_angle = std::remainder(surface.half_angle, std::numbers::pi);
  if (surface.half_angle < 0) {  // a cone opens along its axis
    surface.half_angle = -surface.half_angle;
    surface.axis = -surface.axis;
    // Its tilts and its angle now count the other way: so do what they share with the rest.
    Eigen::VectorXd turned = Eigen::VectorXd::Ones(freedoms.count());
    turned.head(freedoms.first_shift()).setConstant(-1);
    turned[freedoms.at_last()] = -1;
    normal_inverse = turned.asDiagonal() * normal_inverse * turned.asDiagonal();
  }
  if (kind == Kind::Ellipse && surface.minor_radius > surface.radius) {
    std::swap(surface.radius, surface.minor_radius);
    surface.major = surface.axis.cross(surface.major);
  }
  const double extent = extent_of(used);
  const bool thin_tube =
      kind == Kind::Torus && !(surface.minor_radius > 0 && surface.minor_radius < 200 * extent);
  if (about(kind).has_radius &&
      (!(surface.radius > 0) || surface.radius > 200 * extent || thin_tube)) {
    return Error{ErrorCode::Degenerate, std::string("The patch is too flat for a ") +
                                            kind_name(kind) +
                                            ": fit a plane or select a wider arc."};
  }
  Eigen::VectorXd kept_residuals(static_cast<Eigen::Index>(kept.size()));
  for (std::size_t i = 0; i < kept.size(); ++i) {
    kept_residuals[static_cast<Eigen::Index>(i)] = residuals[kept[i]];
  }
  fit.surface = surface;
  fit.used = kept.size();
  const double n = static_cast<double>(kept.size());
  const double sum = root_weights.size() == 0
                         ? kept_residuals.squaredNorm()
                         : kept_residuals.cwiseProduct(root_weights).squaredNorm();
  fit.rms = std::sqrt(kept_residuals.squaredNorm() / n);
  const double rows = n * rows_per_point(kind) - static_cast<double>(freedoms.count());
  fit.sigma = std::sqrt(sum / std::max(1.0, rows));
  // A curve's distances have no side: the widest tube that holds the points.
  fit.form_error = is_curve(kind) ? 2 * kept_residuals.maxCoeff()
                                  : kept_residuals.maxCoeff() - kept_residuals.minCoeff();
  if (options.correlate) {
    // Weighted as the solution was: a point of weight w scatters 1 / sqrt(w) times as much, and
    // what neighbours share of it as well.
    Eigen::VectorXd weighted;
    Eigen::MatrixXd slopes;
    evaluate(used, freedoms, pack(surface), weighted, &slopes);
    if (root_weights.size() != 0) scale_rows(root_weights, weighted, &slopes);
    const Eigen::LLT<Eigen::MatrixXd> llt(normal_inverse);
    if (llt.info() == Eigen::Success) {
      const Eigen::MatrixXd root = llt.matrixL();
      const Eigen::MatrixXd inflation =
          inflation_of(used, weighted, slopes, root, rows_per_point(kind));
      fit.inflation = inflation.trace() / static_cast<double>(freedoms.count());
      normal_inverse = product_nt(product(root, inflation), root);
      // What the fit absorbs of noise that neighbours share is as much more.
      const double all = n * rows_per_point(kind);
      fit.sigma = std::sqrt(sum / std::max(0.2 * all, all - inflation.trace()));
    }
  }

  const double sigma = std::max(fit.sigma, options.least_sigma);
  const Eigen::MatrixXd covariance = normal_inverse * (sigma * sigma);
  const auto expanded = [&](Eigen::Index first, Eigen::Index count) {
    return count > 0 ? expanded_length(covariance.block(first, first, count, count)) : 0.0;
  };
  fit.u_angle = expanded(0, freedoms.first_shift());
  fit.u_offset = expanded(freedoms.first_shift(), freedoms.at_radius() - freedoms.first_shift());
  if (freedoms.radius) fit.u_radius = expanded(freedoms.at_radius(), 1);
  // A narrow cone may tilt by tens of degrees; it looks smaller then by the cosine of that, which
  // slopes do not tell (JCGM 100:2008, 5.1.2: terms of higher order).
  if (kind == Kind::Cone)
    fit.u_radius = std::hypot(
        fit.u_radius, surface.radius * (1 - std::cos(std::min(fit.u_angle, std::numbers::pi / 2))));
  if (freedoms.last) fit.*about(kind).last_u = expanded(freedoms.at_last(), 1);

  if (freedoms.radius && options.hopeless > 0 && fit.u_radius > options.hopeless * surface.radius &&
      kind != Kind::Cone) {
    return Error{
        ErrorCode::Degenerate,
        fmt::format("The radius is not told by this evidence: {:.3g} mm, uncertain by {:.2g} "
                    "mm, from an arc of {:.0f} degrees. Select a wider arc, or hold the "
                    "radius to a value.",
                    surface.radius, fit.u_radius, arc_of(surface, used))};
  }

  settle_point(fit.surface, fit.centroid);  // the last round has turned the axis
  // Which side the material is on: the normals say.
  if (normals.cols() == points.cols() && !is_curve(kind)) {
    double agreement = 0;
    const std::size_t stride = kept.size() / 1000 + 1;  // many more than tell a side
    for (std::size_t k = 0; k < kept.size(); k += stride)
      agreement += fit.surface.normal_at(points.col(kept[k])).dot(normals.col(kept[k]));
    if (agreement < 0) {
      if (is_flat(kind)) {
        fit.surface.axis = -fit.surface.axis;
      } else {
        fit.surface.hollow = !fit.surface.hollow;
      }
    }
  }
  return fit;
}

}  // namespace lostline::fit
