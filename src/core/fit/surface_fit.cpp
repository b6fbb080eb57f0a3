#include "fit/surface_fit.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <numbers>
#include <vector>

#include "fit/least_squares.h"

namespace lostline::fit {
namespace {

using Points = Eigen::Ref<const Eigen::Matrix3Xd>;

// The state of a fit as one vector: point 0..2, axis 3..5, radius 6, half angle 7.
Eigen::VectorXd pack(const Surface& s) {
  Eigen::VectorXd x(8);
  x << s.point, s.axis, s.radius, s.half_angle;
  return x;
}

/// The free directions of a fit: which tilts are allowed, in a frame that is fixed during one fit.
struct Freedoms {
  Kind kind;
  std::vector<Vec3> tilts;  // unit vectors across the axis at the start
  Vec3 u, v;                // across the axis: shifts of cylinder and cone

  [[nodiscard]] Eigen::Index count() const {
    const auto tilt_count = static_cast<Eigen::Index>(tilts.size());
    return tilt_count + (kind == Kind::Plane ? 1 : kind == Kind::Cylinder ? 3 : 4);
  }
};

Freedoms freedoms_of(Kind kind, const Vec3& axis, const DirectionRule& rule) {
  Freedoms f{kind, {}, any_perpendicular(axis), {}};
  f.v = axis.cross(f.u);
  if (rule.type == DirectionRule::Type::Free) f.tilts = {f.u, f.v};
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

/// Distances outward from axis or along the normal, and their derivatives by the freedoms.
void evaluate(const Points& points, const Freedoms& f, const Eigen::VectorXd& x,
              Eigen::VectorXd& residuals, Eigen::MatrixXd* jacobian) {
  const Vec3 point = x.head<3>();
  const Vec3 axis = x.segment<3>(3);
  const double radius = x[6];
  const double c = std::cos(x[7]);
  const double s = std::sin(x[7]);
  const Eigen::Index n = points.cols();
  const auto n_tilts = static_cast<Eigen::Index>(f.tilts.size());
  residuals.resize(n);
  if (jacobian != nullptr) jacobian->resize(n, f.count());
  for (Eigen::Index i = 0; i < n; ++i) {
    const Vec3 d = points.col(i) - point;
    const double z = d.dot(axis);
    if (f.kind == Kind::Plane) {
      residuals[i] = z;
      if (jacobian == nullptr) continue;
      for (Eigen::Index k = 0; k < n_tilts; ++k) {
        (*jacobian)(i, k) = d.dot(f.tilts[static_cast<std::size_t>(k)]);
      }
      (*jacobian)(i, n_tilts) = -1;
      continue;
    }
    const Vec3 across = d - z * axis;
    const double rho = std::max(across.norm(), 1e-12);
    residuals[i] = (rho - radius) * c - z * s;
    if (jacobian == nullptr) continue;
    const Vec3 radial = across / rho;
    for (Eigen::Index k = 0; k < n_tilts; ++k) {
      const Vec3& t = f.tilts[static_cast<std::size_t>(k)];
      (*jacobian)(i, k) = -c * z * radial.dot(t) - s * d.dot(t);
    }
    (*jacobian)(i, n_tilts) = -c * radial.dot(f.u);
    (*jacobian)(i, n_tilts + 1) = -c * radial.dot(f.v);
    (*jacobian)(i, n_tilts + 2) = -c;
    if (f.kind == Kind::Cone) (*jacobian)(i, n_tilts + 3) = -(rho - radius) * s - z * c;
  }
}

Eigen::VectorXd moved(const Freedoms& f, const Eigen::VectorXd& x, const Eigen::VectorXd& step) {
  Eigen::VectorXd next = x;
  Vec3 axis = x.segment<3>(3);
  const auto n_tilts = static_cast<Eigen::Index>(f.tilts.size());
  for (Eigen::Index k = 0; k < n_tilts; ++k) axis += step[k] * f.tilts[static_cast<std::size_t>(k)];
  next.segment<3>(3) = axis.normalized();
  if (f.kind == Kind::Plane) {
    next.head<3>() += step[n_tilts] * x.segment<3>(3);
  } else {
    next.head<3>() += step[n_tilts] * f.u + step[n_tilts + 1] * f.v;
    next[6] += step[n_tilts + 2];
    if (f.kind == Kind::Cone) next[7] += step[n_tilts + 3];
  }
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

struct Circle2 {
  Vec2 centre;
  double radius;
};

/// Algebraic circle fit, the start for the geometric one. Source: I. Kåsa, IEEE Trans. Instrum.
/// Meas. 25 (1976).
Result<Circle2> algebraic_circle(const Eigen::Matrix2Xd& p) {
  const Vec2 mean = p.rowwise().mean();
  Eigen::MatrixXd a(p.cols(), 3);
  Eigen::VectorXd b(p.cols());
  for (Eigen::Index i = 0; i < p.cols(); ++i) {
    const Vec2 d = p.col(i) - mean;
    a.row(i) << 2 * d.x(), 2 * d.y(), 1;
    b[i] = d.squaredNorm();
  }
  const Eigen::ColPivHouseholderQR<Eigen::MatrixXd> qr(a);
  if (qr.rank() < 3) return Error{ErrorCode::Degenerate, "The points lie on a straight line."};
  const Vec3 s = qr.solve(b);
  const double squared = s[2] + s.head<2>().squaredNorm();
  if (!(squared > 0)) return Error{ErrorCode::Degenerate, "The points lie on no circle."};
  return Circle2{mean + s.head<2>(), std::sqrt(squared)};
}

Error too_few(Kind kind, Eigen::Index have, int need) {
  return {ErrorCode::InvalidInput, std::string("A ") + kind_name(kind) + " needs at least " +
                                       std::to_string(need) + " points; there are " +
                                       std::to_string(have) + "."};
}

int fewest_points(Kind kind) { return kind == Kind::Plane ? 4 : kind == Kind::Cylinder ? 8 : 10; }

}  // namespace

Result<Surface> estimate_surface(Kind kind, const Points& points, const Points& normals) {
  if (points.cols() < 3) return too_few(kind, points.cols(), fewest_points(kind));
  Surface s;
  s.kind = kind;
  s.point = points.rowwise().mean();
  const Eigen::Matrix3Xd centred = points.colwise() - s.point;
  const bool has_normals = normals.cols() == points.cols();
  if (kind == Kind::Plane) {
    const Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d> axes(centred * centred.transpose());
    if (!(axes.eigenvalues()[1] > 1e-12 * axes.eigenvalues()[2])) {
      return Error{ErrorCode::Degenerate,
                   "The points lie on a straight line: no plane is determined."};
    }
    s.axis = axes.eigenvectors().col(0);
    if (has_normals && normals.rowwise().sum().dot(s.axis) < 0) s.axis = -s.axis;
    return s;
  }
  if (!has_normals) {
    return Error{ErrorCode::InvalidInput,
                 std::string("A ") + kind_name(kind) + " needs surface normals or a start."};
  }
  // The normals of a cylinder are perpendicular to its axis, those of a cone keep one angle to it:
  // the axis is the direction in which the (centred) normals vary least.
  const Vec3 mean_normal = kind == Kind::Cone ? Vec3(normals.rowwise().mean()) : Vec3::Zero();
  const Eigen::Matrix3Xd spread = normals.colwise() - mean_normal;
  const Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d> axes(spread * spread.transpose());
  if (!(axes.eigenvalues()[1] > 1e-6 * static_cast<double>(points.cols()))) {
    return Error{ErrorCode::Degenerate, std::string("The patch is flat or too narrow for a ") +
                                            kind_name(kind) + "; select a wider arc."};
  }
  s.axis = axes.eigenvectors().col(0);
  const Vec3 u = any_perpendicular(s.axis);
  const Vec3 v = s.axis.cross(u);
  if (kind == Kind::Cone) {
    s.half_angle = -std::asin(std::clamp(mean_normal.dot(s.axis), -1.0, 1.0));
    // The apex lies on every tangent plane.
    const Eigen::Matrix3d system = normals * normals.transpose();
    const Eigen::VectorXd along = normals.cwiseProduct(centred).colwise().sum().transpose();
    const Vec3 apex = s.point + Vec3(system.ldlt().solve(normals * along));
    s.point = apex + s.axis * s.axis.dot(s.point - apex);
  } else {
    Eigen::Matrix2Xd flat(2, points.cols());
    flat.row(0) = u.transpose() * centred;
    flat.row(1) = v.transpose() * centred;
    const Result<Circle2> circle = algebraic_circle(flat);
    if (!circle) return circle.error();
    s.point += circle->centre.x() * u + circle->centre.y() * v;
  }
  double radius = 0;
  double side = 0;
  for (Eigen::Index i = 0; i < points.cols(); ++i) {
    const Vec3 d = points.col(i) - s.point;
    const Vec3 across = d - d.dot(s.axis) * s.axis;
    radius += across.norm();
    side += across.dot(normals.col(i));
  }
  s.radius = radius / static_cast<double>(points.cols());
  s.hollow = side < 0;
  if (s.hollow) s.half_angle = -s.half_angle;
  if (s.half_angle < 0) {  // the cone opens along its axis
    s.half_angle = -s.half_angle;
    s.axis = -s.axis;
  }
  if (kind == Kind::Cone && !(s.half_angle > 1e-4 && s.half_angle < 1.5)) {
    return Error{ErrorCode::Degenerate, "The patch has no measurable taper."};
  }
  return s;
}

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
    } else {
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
  if (kind != Kind::Plane && (!(surface.radius > 0) || surface.radius > 200 * extent)) {
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
  const auto n_tilts = static_cast<Eigen::Index>(freedoms.tilts.size());
  const auto expanded = [&](Eigen::Index first, Eigen::Index count) {
    return 2 * std::sqrt(std::max(0.0, covariance.diagonal().segment(first, count).sum()));
  };
  fit.u_angle = n_tilts > 0 ? expanded(0, n_tilts) : 0.0;
  fit.u_offset = expanded(n_tilts, kind == Kind::Plane ? 1 : 2);
  if (kind != Kind::Plane) fit.u_radius = expanded(n_tilts + 2, 1);
  if (kind == Kind::Cone) fit.u_half_angle = expanded(n_tilts + 3, 1);

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
