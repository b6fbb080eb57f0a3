#include "fit/estimate.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

#include "base/linear.h"
#include "fit/surface_kind.h"

namespace lostline::fit {

using Points = Eigen::Ref<const Eigen::Matrix3Xd>;

Error too_few(Kind kind, Eigen::Index have, int need) {
  return {ErrorCode::InvalidInput, std::string("A ") + kind_name(kind) + " needs at least " +
                                       std::to_string(need) + " points; there are " +
                                       std::to_string(have) + "."};
}

int fewest_points(Kind kind) { return about(kind).fewest_points; }

Result<Circle2> algebraic_circle(const Eigen::Matrix2Xd& p) {
  const Vec2 mean = p.rowwise().mean();
  Eigen::MatrixXd a(p.cols(), 3);
  Eigen::VectorXd b(p.cols());
  for (Eigen::Index i = 0; i < p.cols(); ++i) {
    const Vec2 d = p.col(i) - mean;
    a.row(i) << 2 * d.x(), 2 * d.y(), 1;
    b[i] = d.squaredNorm();
  }
  const RankedSolution solution = solve_least_squares(a, b);
  if (solution.rank < 3) return Error{ErrorCode::Degenerate, "The points lie on a straight line."};
  const Vec3 s = solution.x;
  const double squared = s[2] + s.head<2>().squaredNorm();
  if (!(squared > 0)) return Error{ErrorCode::Degenerate, "The points lie on no circle."};
  return Circle2{mean + s.head<2>(), std::sqrt(squared)};
}

namespace {

/// Every normal runs through the centre: p = c + r n.
Result<Surface> estimate_sphere(const Points& points, const Points& normals) {
  Surface s;
  s.kind = Kind::Sphere;
  const Vec3 mean = points.rowwise().mean();
  const Vec3 mean_normal = normals.rowwise().mean();
  double numerator = 0;
  double denominator = 0;
  for (Eigen::Index i = 0; i < points.cols(); ++i) {
    const Vec3 n = normals.col(i) - mean_normal;
    numerator += (points.col(i) - mean).dot(n);
    denominator += n.squaredNorm();
  }
  if (!(denominator > 1e-6 * static_cast<double>(points.cols())))
    return Error{ErrorCode::Degenerate,
                 "The patch is flat or too small for a sphere; select a larger cap."};
  const double r = numerator / denominator;
  s.radius = std::abs(r);
  s.hollow = r < 0;
  s.point = mean - r * mean_normal;
  if (!(s.radius > 0)) return Error{ErrorCode::Degenerate, "The patch is too flat for a sphere."};
  return s;
}

/// The normals of a surface of revolution all meet its axis: the axis is the line whose reciprocal
/// product with them is least. In the half-plane about it the profile is a circle. Source: H.
/// Pottmann and J. Wallner, Computational Line Geometry (2001), 4.3.
Result<Surface> estimate_torus(const Points& points, const Points& normals) {
  const Error degenerate{ErrorCode::Degenerate,
                         "The patch is too small or too even for a torus; select more of it."};
  Surface s;
  s.kind = Kind::Torus;
  const Vec3 mean = points.rowwise().mean();
  const double size =
      std::sqrt((points.colwise() - mean).squaredNorm() / static_cast<double>(points.cols()));
  if (!(size > 0)) return degenerate;
  Eigen::Matrix<double, 6, 6> moment = Eigen::Matrix<double, 6, 6>::Zero();
  for (Eigen::Index i = 0; i < points.cols(); ++i) {
    Eigen::Matrix<double, 6, 1> line;
    line << normals.col(i), ((points.col(i) - mean) / size).cross(Vec3(normals.col(i)));
    moment.selfadjointView<Eigen::Lower>().rankUpdate(line);
  }
  const Eigen::Matrix<double, 6, 1> axis =
      symmetric_eigen<6>(moment).vectors.col(0);  // moment, direction
  const Vec3 direction = axis.tail<3>();
  if (!(direction.norm() > 1e-4)) return degenerate;
  s.axis = direction.normalized();
  Vec3 m = axis.head<3>() / direction.norm();
  m -= m.dot(s.axis) * s.axis;
  s.point = mean + size * s.axis.cross(m);
  Eigen::Matrix2Xd profile(2, points.cols());
  double side = 0;
  for (Eigen::Index i = 0; i < points.cols(); ++i) {
    const Vec3 d = points.col(i) - s.point;
    const double z = d.dot(s.axis);
    profile.col(i) << (d - z * s.axis).norm(), z;
  }
  const Result<Circle2> circle = algebraic_circle(profile);
  if (!circle) return degenerate;
  s.radius = circle->centre.x();
  s.point += circle->centre.y() * s.axis;
  s.minor_radius = circle->radius;
  if (!(s.radius > 0) || !(s.minor_radius > 0) || s.minor_radius > 50 * size) return degenerate;
  for (Eigen::Index i = 0; i < points.cols(); ++i)
    side += s.normal_at(points.col(i)).dot(normals.col(i));
  s.hollow = side < 0;
  return s;
}

/// In the plane `s` through the points: the conic of least algebraic distance that is an ellipse.
/// Source: A. Fitzgibbon, M. Pilu, R. B. Fisher, IEEE PAMI 21 (1999), in the stable form of R.
/// Halir and J. Flusser (1998).
Result<Surface> estimate_ellipse(const Points& points, Surface s) {
  const Error degenerate{ErrorCode::Degenerate, "The points lie on no ellipse."};
  const Vec3 u = any_perpendicular(s.axis);
  const Vec3 v = s.axis.cross(u);
  Eigen::MatrixXd quadratic(points.cols(), 3);
  Eigen::MatrixXd linear(points.cols(), 3);
  const double size =
      std::sqrt((points.colwise() - s.point).squaredNorm() / static_cast<double>(points.cols()));
  if (!(size > 0)) return degenerate;
  for (Eigen::Index i = 0; i < points.cols(); ++i) {
    const double x = u.dot(points.col(i) - s.point) / size;
    const double y = v.dot(points.col(i) - s.point) / size;
    quadratic.row(i) << x * x, x * y, y * y;
    linear.row(i) << x, y, 1;
  }
  const Eigen::Matrix3d s1 = product_tn(quadratic, quadratic);
  const Eigen::Matrix3d s2 = product_tn(quadratic, linear);
  const Eigen::Matrix3d s3 = product_tn(linear, linear);
  const Eigen::Matrix3d t = -solve_symmetric(s3, s2.transpose());
  const Eigen::Matrix3d m = s1 + s2 * t;
  Eigen::Matrix3d reduced;
  reduced << m.row(2) / 2, -m.row(1), m.row(0) / 2;
  const Eigen::Matrix3d eigen = general_eigenvectors(reduced);
  Vec3 a = Vec3::Zero();
  bool found = false;
  for (int k = 0; k < 3; ++k) {
    const Vec3 w = eigen.col(k);
    if (4 * w[0] * w[2] - w[1] * w[1] > 0) {
      a = w;
      found = true;
    }
  }
  if (!found) return degenerate;
  const Vec3 l = t * a;  // a x2 + b x y + c y2 + d x + e y + f = 0
  Eigen::Matrix2d q;
  q << a[0], a[1] / 2, a[1] / 2, a[2];
  const Vec2 centre = -0.5 * q.inverse() * Vec2(l[0], l[1]);
  const double value = l[2] + 0.5 * (l[0] * centre.x() + l[1] * centre.y());
  const auto axes = symmetric_eigen<2>(q * (value < 0 ? 1.0 : -1.0));
  const Vec2 squares = (std::abs(value) / axes.values.array()).matrix();
  if (!(squares.minCoeff() > 0) || !squares.allFinite()) return degenerate;
  s.point += size * (centre.x() * u + centre.y() * v);
  s.radius = size * std::sqrt(squares[0]);  // the smaller eigenvalue gives the long axis
  s.minor_radius = size * std::sqrt(squares[1]);
  s.major = axes.vectors(0, 0) * u + axes.vectors(1, 0) * v;
  return s;
}

/// In the plane `s` through the points.
Result<Surface> estimate_circle(const Points& points, Surface s) {
  const Vec3 u = any_perpendicular(s.axis);
  const Vec3 v = s.axis.cross(u);
  Eigen::Matrix2Xd flat(2, points.cols());
  flat.row(0) = u.transpose() * (points.colwise() - s.point);
  flat.row(1) = v.transpose() * (points.colwise() - s.point);
  const Result<Circle2> circle = algebraic_circle(flat);
  if (!circle) return circle.error();
  s.point += circle->centre.x() * u + circle->centre.y() * v;
  s.radius = circle->radius;
  return s;
}

}  // namespace

Result<Surface> estimate_surface(Kind kind, const Points& points, const Points& normals) {
  if (points.cols() < fewest_points(kind)) return too_few(kind, points.cols(), fewest_points(kind));
  Surface s;
  s.kind = kind;
  s.point = points.rowwise().mean();
  const Eigen::Matrix3Xd centred = points.colwise() - s.point;
  const bool has_normals = normals.cols() == points.cols();
  if (kind == Kind::Line) {
    const auto axes = symmetric_eigen<3>(scatter_of(centred));
    if (!(axes.values[2] > 0))
      return Error{ErrorCode::Degenerate, "The points coincide: no line is determined."};
    s.axis = axes.vectors.col(2);
    return s;
  }
  if (kind == Kind::Point) return s;
  if (is_flat(kind) || kind == Kind::Circle || kind == Kind::Ellipse) {
    const auto axes = symmetric_eigen<3>(scatter_of(centred));
    if (!(axes.values[1] > 1e-12 * axes.values[2])) {
      return Error{ErrorCode::Degenerate, std::string("The points lie on a straight line: no ") +
                                              kind_name(kind) + " is determined."};
    }
    s.axis = axes.vectors.col(0);
    if (has_normals && normals.rowwise().sum().dot(s.axis) < 0) s.axis = -s.axis;
    if (kind == Kind::Circle) return estimate_circle(points, s);
    if (kind == Kind::Ellipse) return estimate_ellipse(points, s);
    return s;
  }
  if (!has_normals) {
    return Error{ErrorCode::InvalidInput,
                 std::string("A ") + kind_name(kind) + " needs surface normals or a start."};
  }
  if (kind == Kind::Sphere) return estimate_sphere(points, normals);
  if (kind == Kind::Torus) return estimate_torus(points, normals);
  // The normals of a cylinder are perpendicular to its axis, those of a cone keep one angle to it:
  // the axis is the direction in which the (centred) normals vary least.
  const Vec3 mean_normal = kind == Kind::Cone ? Vec3(normals.rowwise().mean()) : Vec3::Zero();
  const Eigen::Matrix3Xd spread = normals.colwise() - mean_normal;
  const auto axes = symmetric_eigen<3>(scatter_of(spread));
  if (!(axes.values[1] > 1e-6 * static_cast<double>(points.cols()))) {
    return Error{ErrorCode::Degenerate, std::string("The patch is flat or too narrow for a ") +
                                            kind_name(kind) + "; select a wider arc."};
  }
  s.axis = axes.vectors.col(0);
  const Vec3 u = any_perpendicular(s.axis);
  const Vec3 v = s.axis.cross(u);
  if (kind == Kind::Cone) {
    s.half_angle = -std::asin(std::clamp(mean_normal.dot(s.axis), -1.0, 1.0));
    // The apex lies on every tangent plane.
    const Eigen::Matrix3d system = scatter_of(normals);
    Vec3 along = Vec3::Zero();
    for (Eigen::Index i = 0; i < points.cols(); ++i)
      along += normals.col(i).dot(centred.col(i)) * normals.col(i);
    const Vec3 apex = s.point + Vec3(solve_symmetric(system, along));
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

}  // namespace lostline::fit
