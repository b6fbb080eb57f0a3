#include "fit/surface_fit.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <numbers>
#include <vector>

#include "fit/estimate.h"
#include "fit/least_squares.h"

namespace lostline::fit {
namespace {

using Points = Eigen::Ref<const Eigen::Matrix3Xd>;

// The state of a fit as one vector: point 0..2, axis 3..5, radius 6, half angle 7, minor radius 8.
Eigen::VectorXd pack(const Surface& s) {
  Eigen::VectorXd x(9);
  x << s.point, s.axis, s.radius, s.half_angle, s.minor_radius;
  return x;
}

/// The free directions of a fit: which tilts are allowed, in a frame that is fixed during one fit.
struct Freedoms {
  Kind kind;
  std::vector<Vec3> tilts;  // unit vectors across the axis at the start
  std::vector<Vec3> shifts;
  bool radius = true;
  bool last = false;  // half angle of a cone, minor radius of a torus

  // In this order: tilts, shifts, radius, the last.
  [[nodiscard]] Eigen::Index first_shift() const { return static_cast<Eigen::Index>(tilts.size()); }
  [[nodiscard]] Eigen::Index at_radius() const {
    return first_shift() + static_cast<Eigen::Index>(shifts.size());
  }
  [[nodiscard]] Eigen::Index at_last() const { return at_radius() + (radius ? 1 : 0); }
  [[nodiscard]] Eigen::Index count() const { return at_last() + (last ? 1 : 0); }
};

Freedoms freedoms_of(Kind kind, const Vec3& axis, const DirectionRule& rule) {
  const Vec3 u = any_perpendicular(axis);
  const Vec3 v = axis.cross(u);
  Freedoms f{kind, {}, {}, kind != Kind::Plane, kind == Kind::Cone || kind == Kind::Torus};
  switch (kind) {
    case Kind::Plane:
      f.shifts = {axis};
      break;
    case Kind::Cylinder:
    case Kind::Cone:
      f.shifts = {u, v};
      break;
    case Kind::Sphere:
    case Kind::Torus:
      f.shifts = {u, v, axis};
      break;
  }
  if (!has_direction(kind)) return f;
  if (rule.type == DirectionRule::Type::Free) f.tilts = {u, v};
  if (rule.type == DirectionRule::Type::Perpendicular) {
    f.tilts = {rule.direction.cross(axis).normalized()};
  }
  return f;
}

Surface obey(Surface s, const DirectionRule& rule) {
  if (rule.type == DirectionRule::Type::Parallel) {
    s.axis = s.axis.dot(rule.direction) < 0 ? Vec3(-rule.direction) : rule.direction;
  } else if (rule.type == DirectionRule::Type::Perpendicular) {
    const Vec3 across = s.axis - rule.direction * rule.direction.dot(s.axis);
    s.axis = across.norm() > 1e-9 ? across.normalized() : any_perpendicular(rule.direction);
  }
  return s;
}

/// Distances outward from the surface, and their derivatives by the freedoms.
void evaluate(const Points& points, const Freedoms& f, const Eigen::VectorXd& x,
              Eigen::VectorXd& residuals, Eigen::MatrixXd* jacobian) {
  const Vec3 point = x.head<3>();
  const Vec3 axis = x.segment<3>(3);
  const double radius = x[6];
  const double c = std::cos(x[7]);
  const double s = std::sin(x[7]);
  const Eigen::Index n = points.cols();
  const Eigen::Index first_shift = f.first_shift();
  residuals.resize(n);
  if (jacobian != nullptr) jacobian->resize(n, f.count());
  for (Eigen::Index i = 0; i < n; ++i) {
    const Vec3 d = points.col(i) - point;
    const double z = d.dot(axis);
    // The distance depends on z along the axis and rho across it by these slopes.
    double by_z = 1;
    double by_rho = 0;
    double by_radius = -1;
    double by_last = 0;
    double rho = 0;
    Vec3 radial = Vec3::Zero();
    Vec3 outward = axis;
    if (f.kind == Kind::Plane) {
      residuals[i] = z;
    } else if (f.kind == Kind::Sphere) {
      const double size = std::max(d.norm(), 1e-12);
      residuals[i] = size - radius;
      outward = d / size;
    } else {
      const Vec3 across = d - z * axis;
      rho = std::max(across.norm(), 1e-12);
      radial = across / rho;
      if (f.kind == Kind::Torus) {
        const double q = std::max(std::hypot(rho - radius, z), 1e-12);
        residuals[i] = q - x[8];
        by_rho = (rho - radius) / q;
        by_z = z / q;
        by_radius = -by_rho;
        by_last = -1;
      } else {
        residuals[i] = (rho - radius) * c - z * s;
        by_rho = c;
        by_z = -s;
        by_radius = -c;
        by_last = -(rho - radius) * s - z * c;
      }
      outward = by_rho * radial + by_z * axis;
    }
    if (jacobian == nullptr) continue;
    for (std::size_t k = 0; k < f.tilts.size(); ++k) {
      const Vec3& t = f.tilts[k];
      (*jacobian)(i, static_cast<Eigen::Index>(k)) = by_z * d.dot(t) - by_rho * z * radial.dot(t);
    }
    for (std::size_t k = 0; k < f.shifts.size(); ++k)
      (*jacobian)(i, first_shift + static_cast<Eigen::Index>(k)) = -outward.dot(f.shifts[k]);
    if (f.radius) (*jacobian)(i, f.at_radius()) = by_radius;
    if (f.last) (*jacobian)(i, f.at_last()) = by_last;
  }
}

Eigen::VectorXd moved(const Freedoms& f, const Eigen::VectorXd& x, const Eigen::VectorXd& step) {
  Eigen::VectorXd next = x;
  Vec3 axis = x.segment<3>(3);
  for (std::size_t k = 0; k < f.tilts.size(); ++k)
    axis += step[static_cast<Eigen::Index>(k)] * f.tilts[k];
  next.segment<3>(3) = axis.normalized();
  for (std::size_t k = 0; k < f.shifts.size(); ++k)
    next.head<3>() += step[f.first_shift() + static_cast<Eigen::Index>(k)] * f.shifts[k];
  if (f.radius) next[6] += step[f.at_radius()];
  if (f.last) next[f.kind == Kind::Cone ? 7 : 8] += step[f.at_last()];
  return next;
}

double robust_sigma(const Eigen::VectorXd& residuals) {
  std::vector<double> sizes(residuals.data(), residuals.data() + residuals.size());
  for (double& v : sizes) v = std::abs(v);
  const auto middle = sizes.begin() + static_cast<std::ptrdiff_t>(sizes.size() / 2);
  std::nth_element(sizes.begin(), middle, sizes.end());
  return 1.4826 * *middle;  // the median absolute deviation of a normal distribution
}

Eigen::Matrix3Xd columns(const Points& points, const std::vector<Eigen::Index>& which) {
  Eigen::Matrix3Xd result(3, static_cast<Eigen::Index>(which.size()));
  for (std::size_t i = 0; i < which.size(); ++i) {
    result.col(static_cast<Eigen::Index>(i)) = points.col(which[i]);
  }
  return result;
}

}  // namespace

Result<SurfaceFit> fit_surface(Kind kind, const Points& points, const Points& normals,
                               const std::optional<Surface>& start,
                               const SurfaceFitOptions& options, const Task& task) {
  if (points.cols() < fewest_points(kind)) return too_few(kind, points.cols(), fewest_points(kind));
  if (!points.allFinite() || !normals.allFinite()) {
    return Error{ErrorCode::InvalidInput, "A point has a coordinate that is not a number."};
  }
  Surface surface;
  if (start) {
    surface = *start;
  } else {
    Result<Surface> estimate = estimate_surface(kind, points, normals);
    if (!estimate) return estimate.error();
    surface = *estimate;
  }
  surface = obey(surface, options.direction);
  if (options.direction.type != DirectionRule::Type::Free && kind == Kind::Cylinder) {
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
  }

  std::vector<Eigen::Index> kept(static_cast<std::size_t>(points.cols()));
  for (std::size_t i = 0; i < kept.size(); ++i) kept[i] = static_cast<Eigen::Index>(i);
  Eigen::Matrix3Xd used = points;
  SurfaceFit fit;
  fit.points = kept.size();
  Eigen::MatrixXd normal_inverse;
  Eigen::VectorXd residuals;
  Freedoms freedoms = freedoms_of(kind, surface.axis, options.direction);
  for (int round = 0;; ++round) {
    // Working about the centroid keeps the unknowns of shift and tilt nearly independent.
    fit.centroid = used.rowwise().mean();
    const double z = (fit.centroid - surface.point).dot(surface.axis);
    if (kind == Kind::Plane) {
      surface.point = fit.centroid - z * surface.axis;
    } else if (kind == Kind::Cylinder || kind == Kind::Cone) {
      surface.point += z * surface.axis;
      surface.radius += z * std::tan(surface.half_angle);
    }
    freedoms = freedoms_of(kind, surface.axis, options.direction);
    const LeastSquaresProblem problem{
        [&](const Eigen::VectorXd& x, Eigen::VectorXd& r, Eigen::MatrixXd* j) {
          evaluate(used, freedoms, x, r, j);
        },
        [&](const Eigen::VectorXd& x, const Eigen::VectorXd& step) {
          return moved(freedoms, x, step);
        }};
    LeastSquaresOptions solver;
    solver.max_iterations = options.max_iterations;
    solver.relative_step = options.relative_step;
    const Result<LeastSquaresResult> solution = minimise(problem, pack(surface), solver, task);
    if (!solution) {
      if (solution.error().code == ErrorCode::Degenerate) {
        return Error{ErrorCode::Degenerate,
                     std::string("The points do not determine a ") + kind_name(kind) +
                         ": the patch is too narrow or flat. Select more of it."};
      }
      return solution.error();
    }
    surface.point = solution->x.head<3>();
    surface.axis = solution->x.segment<3>(3);
    surface.radius = solution->x[6];
    surface.half_angle = solution->x[7];
    surface.minor_radius = solution->x[8];
    normal_inverse = solution->normal_inverse;
    evaluate(points, freedoms, solution->x, residuals, nullptr);
    if (options.reject_beyond <= 0 || round >= options.max_rounds) break;
    const double limit = options.reject_beyond * robust_sigma(residuals) + 1e-9;
    std::vector<Eigen::Index> next;
    for (Eigen::Index i = 0; i < residuals.size(); ++i) {
      if (std::abs(residuals[i]) <= limit) next.push_back(i);
    }
    if (next == kept || next.size() < static_cast<std::size_t>(fewest_points(kind))) break;
    kept = std::move(next);
    used = columns(points, kept);
  }

  if (surface.half_angle < 0) {  // a cone opens along its axis
    surface.half_angle = -surface.half_angle;
    surface.axis = -surface.axis;
  }
  const double extent = (used.rowwise().maxCoeff() - used.rowwise().minCoeff()).norm();
  const bool thin_tube =
      kind == Kind::Torus && !(surface.minor_radius > 0 && surface.minor_radius < 200 * extent);
  if (kind != Kind::Plane &&
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
  const double sum = kept_residuals.squaredNorm();
  fit.rms = std::sqrt(sum / n);
  fit.sigma = std::sqrt(sum / std::max(1.0, n - static_cast<double>(freedoms.count())));
  fit.form_error = kept_residuals.maxCoeff() - kept_residuals.minCoeff();
  if (options.correlate) fit.inflation = correlation_inflation(used, kept_residuals);

  const Eigen::MatrixXd covariance = normal_inverse * (fit.sigma * fit.sigma * fit.inflation);
  const auto expanded = [&](Eigen::Index first, Eigen::Index count) {
    return 2 * std::sqrt(std::max(0.0, covariance.diagonal().segment(first, count).sum()));
  };
  fit.u_angle = expanded(0, freedoms.first_shift());
  fit.u_offset = expanded(freedoms.first_shift(), freedoms.at_radius() - freedoms.first_shift());
  if (freedoms.radius) fit.u_radius = expanded(freedoms.at_radius(), 1);
  if (kind == Kind::Cone) fit.u_half_angle = expanded(freedoms.at_last(), 1);
  if (kind == Kind::Torus) fit.u_minor_radius = expanded(freedoms.at_last(), 1);

  // Which side the material is on: the normals say.
  if (normals.cols() == points.cols()) {
    double agreement = 0;
    for (const Eigen::Index i : kept) {
      agreement += fit.surface.normal_at(points.col(i)).dot(normals.col(i));
    }
    if (agreement < 0) {
      if (kind == Kind::Plane) {
        fit.surface.axis = -fit.surface.axis;
      } else {
        fit.surface.hollow = !fit.surface.hollow;
      }
    }
  }
  return fit;
}

}  // namespace lostline::fit
