#include "fit/parametric.h"

#include <algorithm>
#include <cmath>

#include "base/parallel.h"
#include "fit/surface_kernels.h"
#include "fit/surface_kind.h"

namespace lostline::fit {

using Points = Eigen::Ref<const Eigen::Matrix3Xd>;

Eigen::VectorXd pack(const Surface& s) {
  Eigen::VectorXd x(12);
  x << s.point, s.axis, s.radius, s.half_angle, s.minor_radius, s.major;
  return x;
}

Surface unpack(const Eigen::VectorXd& state, Surface surface) {
  surface.point = state.head<3>();
  surface.axis = state.segment<3>(3);
  surface.radius = state[6];
  surface.half_angle = state[7];
  surface.minor_radius = state[8];
  surface.major = state.segment<3>(9);
  return surface;
}

Freedoms freedoms_of(Kind kind, const Vec3& axis, const DirectionRule& rule) {
  const Vec3 u = any_perpendicular(axis);
  const Vec3 v = axis.cross(u);
  const SurfaceKind& k = about(kind);
  Freedoms f{kind, {}, {}, k.has_radius, k.last != nullptr, k.turns};
  using Shifts = SurfaceKind::Shifts;
  if (k.shifts != Shifts::Along) f.shifts = {u, v};
  if (k.shifts != Shifts::Across) f.shifts.push_back(axis);
  if (rule.type == DirectionRule::Type::OnAxis) {
    f.shifts.clear();
    if (k.shifts != Shifts::Across) f.shifts.push_back(rule.direction);
    return f;
  }
  if (!has_direction(kind)) return f;
  if (rule.type == DirectionRule::Type::Free) f.tilts = {u, v};
  if (rule.type == DirectionRule::Type::Perpendicular) {
    f.tilts = {rule.direction.cross(axis).normalized()};
  }
  return f;
}

int rows_per_point(Kind kind) { return is_curve(kind) ? 2 : 1; }

namespace {

/// Off an ellipse: along the outward normal in its plane, and along its axis.
void evaluate_ellipse(const Points& points, const Freedoms& f, const Eigen::VectorXd& x,
                      Eigen::VectorXd& residuals, Eigen::MatrixXd* jacobian) {
  const Vec3 point = x.head<3>();
  const Vec3 axis = x.segment<3>(3);
  const Vec3 major = x.segment<3>(9);
  const Vec3 minor = axis.cross(major);
  const double a = x[6];
  const double b = x[8];
  const Eigen::Index n = points.cols();
  residuals.resize(2 * n);
  if (jacobian != nullptr) jacobian->setZero(2 * n, f.count());
  for (Eigen::Index i = 0; i < n; ++i) {
    const Vec3 d = points.col(i) - point;
    const Vec2 flat(d.dot(major), d.dot(minor));
    const Vec2 foot = foot_on_ellipse(a, b, flat);
    const Vec2 normal = Vec2(foot.x() / (a * a), foot.y() / (b * b)).normalized();
    const Vec3 outward = normal.x() * major + normal.y() * minor;
    residuals[2 * i] = normal.dot(flat - foot);
    residuals[2 * i + 1] = d.dot(axis);
    if (jacobian == nullptr) continue;
    const double z = d.dot(axis);
    for (std::size_t k = 0; k < f.tilts.size(); ++k) {
      (*jacobian)(2 * i, static_cast<Eigen::Index>(k)) = -z * outward.dot(f.tilts[k]);
      (*jacobian)(2 * i + 1, static_cast<Eigen::Index>(k)) = d.dot(f.tilts[k]);
    }
    for (std::size_t k = 0; k < f.shifts.size(); ++k) {
      const Eigen::Index c = f.first_shift() + static_cast<Eigen::Index>(k);
      (*jacobian)(2 * i, c) = -outward.dot(f.shifts[k]);
      (*jacobian)(2 * i + 1, c) = -axis.dot(f.shifts[k]);
    }
    if (f.radius) (*jacobian)(2 * i, f.at_radius()) = -normal.x() * foot.x() / a;
    (*jacobian)(2 * i, f.at_last()) = -normal.y() * foot.y() / b;
    // Turning the ellipse moves its foot across: by (-y, x) in its plane.
    (*jacobian)(2 * i, f.at_turn()) = -(normal.y() * foot.x() - normal.x() * foot.y());
  }
}

/// Off a line: two components across it. Off a circle: away from its axis, and along it.
void evaluate_curve(const Points& points, const Freedoms& f, const Eigen::VectorXd& x,
                    Eigen::VectorXd& residuals, Eigen::MatrixXd* jacobian) {
  const Vec3 point = x.head<3>();
  const Vec3 axis = x.segment<3>(3);
  const Vec3 u = any_perpendicular(axis);
  const Vec3 v = axis.cross(u);
  const Eigen::Index n = points.cols();
  residuals.resize(2 * n);
  if (jacobian != nullptr) jacobian->resize(2 * n, f.count());
  for (Eigen::Index i = 0; i < n; ++i) {
    const Vec3 d = points.col(i) - point;
    const double z = d.dot(axis);
    // Each residual is a component of d along a direction that turns with the axis.
    Vec3 first = u;
    Vec3 second = v;
    if (f.kind == Kind::Circle) {
      const Vec3 across = d - z * axis;
      const double rho = std::max(across.norm(), 1e-12);
      first = across / rho;
      second = axis;
      residuals[2 * i] = rho - x[6];
      residuals[2 * i + 1] = z;
    } else {
      residuals[2 * i] = d.dot(u);
      residuals[2 * i + 1] = d.dot(v);
    }
    if (jacobian == nullptr) continue;
    for (std::size_t k = 0; k < f.tilts.size(); ++k) {
      const Vec3& t = f.tilts[k];
      const auto c = static_cast<Eigen::Index>(k);
      (*jacobian)(2 * i, c) = -z * first.dot(t);
      (*jacobian)(2 * i + 1, c) = f.kind == Kind::Circle ? d.dot(t) : -z * second.dot(t);
    }
    for (std::size_t k = 0; k < f.shifts.size(); ++k) {
      const Eigen::Index c = f.first_shift() + static_cast<Eigen::Index>(k);
      (*jacobian)(2 * i, c) = -first.dot(f.shifts[k]);
      (*jacobian)(2 * i + 1, c) = -second.dot(f.shifts[k]);
    }
    if (f.radius) {
      (*jacobian)(2 * i, f.at_radius()) = -1;
      (*jacobian)(2 * i + 1, f.at_radius()) = 0;
    }
  }
}

constexpr Eigen::Index kBlock = 64;  // points whose numbers fit the nearest cache
using Column = Eigen::Array<double, kBlock, 1>;

/// Distances off a surface of one kind and their slopes, the loop that fits spend their time in:
/// for a block of points with their numbers side by side, so that several are computed at once.
template <Kind kKind>
class SurfaceBlock {
 public:
  SurfaceBlock(const Freedoms& f, const Eigen::VectorXd& x)
      : freedoms_(f), point_(x.head<3>()), numbers_(x.segment<3>(3), x[6], x[7], x[8]) {}

  /// Of at most kBlock points from `first`.
  const Column& distances(const Points& points, Eigen::Index first, Eigen::Index count) {
    const double* from = points.data() + first * points.outerStride();
    const Eigen::Index stride = points.outerStride();
    const double px = point_.x();
    const double py = point_.y();
    const double pz = point_.z();
    double* to = d_.data();
    for (Eigen::Index i = 0; i < count; ++i, from += stride) {
      to[i] = from[0] - px;
      to[kBlock + i] = from[1] - py;
      to[2 * kBlock + i] = from[2] - pz;
    }
    const Vec3& a = numbers_.axis;
    z_ = along(d_, a);
    if constexpr (kKind != Kind::Plane) {
      for (int c = 0; c < 3; ++c) radial_.col(c) = d_.col(c) - z_ * a[c];
      rho_ = (radial_.col(0).square() + radial_.col(1).square() + radial_.col(2).square()).sqrt();
      // A point on the axis lies away from it in no direction: its slopes are nothing.
      const Column inverse = rho_.max(1e-12).inverse();
      for (int c = 0; c < 3; ++c) radial_.col(c) *= inverse;
    }
    profile_slopes<kKind, Column>(numbers_, z_, rho_, at_);
    return at_.distance;
  }

  /// Calls `put(column, slopes)` for each freedom, after `distances`.
  template <class Put>
  void slopes(const Put& put) {
    const Freedoms& f = freedoms_;
    Column slope;
    for (std::size_t k = 0; k < f.tilts.size(); ++k) {
      const Vec3& t = f.tilts[k];
      if constexpr (kKind == Kind::Plane) {
        slope = along(d_, t);
      } else if constexpr (kKind == Kind::Cylinder) {
        slope = -z_ * along(radial_, t);
      } else {
        slope = at_.by_z * along(d_, t) - at_.by_rho * z_ * along(radial_, t);
      }
      put(static_cast<Eigen::Index>(k), slope);
    }
    for (std::size_t k = 0; k < f.shifts.size(); ++k) {
      const Vec3& s = f.shifts[k];
      slope = -(at_.by_rho * along(radial_, s) + at_.by_z * numbers_.axis.dot(s));
      put(f.first_shift() + static_cast<Eigen::Index>(k), slope);
    }
    slope = at_.by_radius;
    if (f.radius) put(f.at_radius(), slope);
    slope = at_.by_last;
    if (f.last) put(f.at_last(), slope);
  }

 private:
  using Columns = Eigen::Array<double, kBlock, 3>;
  static auto along(const Columns& v, const Vec3& t) {
    return v.col(0) * t.x() + v.col(1) * t.y() + v.col(2) * t.z();
  }

  const Freedoms& freedoms_;
  Vec3 point_;
  Numbers numbers_;
  Columns d_ = Columns::Zero();
  Columns radial_ = Columns::Zero();
  Column z_ = Column::Zero();
  Column rho_ = Column::Zero();
  ProfileSlopesOf<kKind, Column> at_;
};

template <Kind kKind>
void evaluate_range(const Points& points, Eigen::Index begin, Eigen::Index end, const Freedoms& f,
                    const Eigen::VectorXd& x, Eigen::VectorXd& residuals,
                    Eigen::MatrixXd* jacobian) {
  SurfaceBlock<kKind> block(f, x);
  for (Eigen::Index first = begin; first < end; first += kBlock) {
    const Eigen::Index count = std::min(kBlock, end - first);
    residuals.segment(first, count) = block.distances(points, first, count).head(count).matrix();
    if (jacobian == nullptr) continue;
    block.slopes([&](Eigen::Index column, const Column& slope) {
      jacobian->col(column).segment(first, count) = slope.head(count).matrix();
    });
  }
}

template <Kind kKind>
void evaluate_surface(const Points& points, const Freedoms& f, const Eigen::VectorXd& x,
                      Eigen::VectorXd& residuals, Eigen::MatrixXd* jacobian) {
  constexpr Eigen::Index kFew = 16384;  // not worth sharing among cores
  const Eigen::Index n = points.cols();
  residuals.resize(n);
  if (jacobian != nullptr) jacobian->resize(n, f.count());
  if (n <= kFew) return evaluate_range<kKind>(points, 0, n, f, x, residuals, jacobian);
  parallel_for(static_cast<std::size_t>(n), kFew / 2, [&](std::size_t begin, std::size_t end) {
    evaluate_range<kKind>(points, static_cast<Eigen::Index>(begin), static_cast<Eigen::Index>(end),
                          f, x, residuals, jacobian);
  });
}

constexpr Eigen::Index kMostFreedoms = 7;  // a torus: two tilts, three shifts, two radii
/// Slopes and, last, the distances of a block.
using BlockRows = Eigen::Matrix<double, kBlock, Eigen::Dynamic, 0, kBlock, kMostFreedoms + 1>;

/// J^T J, J^T r and r^T r of the points of a range as one upper triangle.
template <Kind kKind>
Eigen::MatrixXd sums_of_range(const Points& points, const Eigen::VectorXd& root_weights,
                              Eigen::Index begin, Eigen::Index end, const Freedoms& f,
                              const Eigen::VectorXd& x) {
  const Eigen::Index p = f.count();
  SurfaceBlock<kKind> block(f, x);
  BlockRows rows(kBlock, p + 1);
  Eigen::MatrixXd sums = Eigen::MatrixXd::Zero(p + 1, p + 1);
  for (Eigen::Index first = begin; first < end; first += kBlock) {
    const Eigen::Index count = std::min(kBlock, end - first);
    rows.col(p) = block.distances(points, first, count).matrix();
    block.slopes(
        [&](Eigen::Index column, const Column& slope) { rows.col(column) = slope.matrix(); });
    if (root_weights.size() != 0) {
      for (Eigen::Index c = 0; c <= p; ++c)
        rows.col(c).head(count).array() *= root_weights.segment(first, count).array();
    }
    if (count < kBlock) rows.bottomRows(kBlock - count).setZero();
    for (Eigen::Index i = 0; i <= p; ++i) {
      for (Eigen::Index j = i; j <= p; ++j) sums(i, j) += rows.col(i).dot(rows.col(j));
    }
  }
  return sums;
}

}  // namespace

void evaluate(const Points& points, const Freedoms& f, const Eigen::VectorXd& x,
              Eigen::VectorXd& residuals, Eigen::MatrixXd* jacobian) {
  const bool bounds = with_surface(
      f.kind, [&]<Kind kKind>() { evaluate_surface<kKind>(points, f, x, residuals, jacobian); });
  if (bounds) return;
  if (f.kind == Kind::Ellipse) return evaluate_ellipse(points, f, x, residuals, jacobian);
  evaluate_curve(points, f, x, residuals, jacobian);
}

NormalEquations normal_equations(const Points& points, const Eigen::VectorXd& root_weights,
                                 const Freedoms& f, const Eigen::VectorXd& x) {
  constexpr Eigen::Index kPart = 2048;  // parts are added in their order, on any number of cores
  const Eigen::Index n = points.cols();
  const Eigen::Index p = f.count();
  std::vector<Eigen::MatrixXd> parts(static_cast<std::size_t>((n + kPart - 1) / kPart));
  with_surface(f.kind, [&]<Kind kKind>() {
    parallel_for(parts.size(), 4, [&](std::size_t begin, std::size_t end) {
      for (std::size_t k = begin; k < end; ++k) {
        const Eigen::Index first = static_cast<Eigen::Index>(k) * kPart;
        parts[k] =
            sums_of_range<kKind>(points, root_weights, first, std::min(first + kPart, n), f, x);
      }
    });
  });
  Eigen::MatrixXd sums = Eigen::MatrixXd::Zero(p + 1, p + 1);
  for (const Eigen::MatrixXd& part : parts) sums += part;
  return {sums.topLeftCorner(p, p), sums.col(p).head(p), sums(p, p)};
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
  if (f.last) next[about(f.kind).last == &Surface::half_angle ? 7 : 8] += step[f.at_last()];
  // The long axis stays square to the normal and turns about it.
  Vec3 major = x.segment<3>(9);
  axis = next.segment<3>(3);
  if (f.turn) major += step[f.at_turn()] * axis.cross(major);
  major -= major.dot(axis) * axis;
  if (major.norm() > 1e-9) next.segment<3>(9) = major.normalized();
  return next;
}

void settle_point(Surface& surface, const Vec3& centre) {
  const double z = (centre - surface.point).dot(surface.axis);
  switch (about(surface.kind).shifts) {
    case SurfaceKind::Shifts::Along:
      surface.point = centre - z * surface.axis;
      break;
    case SurfaceKind::Shifts::Across:
      surface.point += z * surface.axis;
      surface.radius += z * std::tan(surface.half_angle);
      break;
    case SurfaceKind::Shifts::All:
      break;
  }
}

}  // namespace lostline::fit
