#include "section/resolving/piece.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

namespace lostline::section {
namespace {

struct EllipseFoot {
  Vec2 foot;
  Vec2 along;  ///< towards growing parameter, not of unit length
  double t;
};

EllipseFoot ellipse_foot(const Piece& e, const Vec2& p) {
  const Vec2 d = p - e.point;
  const Vec2 side = left_of(e.direction);
  const double t = ellipse_parameter(e.radius, e.minor, {e.direction.dot(d), side.dot(d)});
  return {e.point + e.radius * std::cos(t) * e.direction + e.minor * std::sin(t) * side,
          -e.radius * std::sin(t) * e.direction + e.minor * std::cos(t) * side, t};
}

/// How much one point may pull: as much as one that is two and a half standard deviations off.
double bounded(double r, double sigma) {
  const double most = 2.5 * sigma;
  return std::abs(r) > most ? most / std::abs(r) : 1;
}

/// Gauss-Newton on a piece's own numbers. `row` gives residual and slopes, `step` moves the piece.
template <int N, class Row, class Step>
bool settle(const Trace& trace, Piece& piece, const Row& row, const Step& step) {
  using Square = Eigen::Matrix<double, N, N>;
  using Column = Eigen::Matrix<double, N, 1>;
  Square normal;
  double damping = 0;
  double before = 1e300;
  for (int round = 0; round < 30; ++round) {
    normal.setZero();
    Column gradient = Column::Zero();
    double sum = 0;
    for (std::size_t i = piece.first; i < piece.last; ++i) {
      if (trace.weights[i] == 0) continue;
      Column j;
      const double r = row(i, j);
      const double w = trace.weights[i] * bounded(r, trace.sigma);
      normal.noalias() += w * j * j.transpose();
      gradient.noalias() += w * r * j;
      sum += w * r * r;
    }
    Square damped = normal;
    damped.diagonal() *= 1 + damping;
    const Column move = damped.ldlt().solve(-gradient);
    if (!move.allFinite()) return false;
    damping = sum > before * (1 + 1e-9) ? std::max(1e-3, 4 * damping) : damping / 4;
    if (damping < 1e-6) damping = 0;
    before = sum;
    if (!step(move)) return false;
    if (gradient.dot(move) > -1e-10 * trace.sigma * trace.sigma) break;
  }
  const Eigen::LDLT<Square> solved(normal);
  if (!(solved.vectorD().minCoeff() > 1e-13 * solved.vectorD().maxCoeff())) return false;
  piece.spread = solved.solve(Square::Identity()) * (trace.sigma * trace.sigma * trace.inflation);
  return true;
}

void measure_sense(const Trace& trace, Piece& piece) {
  double turned = 0;
  for (std::size_t i = piece.first; i + 1 < piece.last; ++i)
    turned += cross(trace.points[i] - piece.point, trace.points[i + 1] - piece.point);
  piece.counter_clockwise = turned > 0;
}

}  // namespace

double Piece::distance(const Vec2& p) const {
  switch (kind) {
    case PieceKind::Line:
      return cross(direction, p - point);
    case PieceKind::Arc:
      return (p - point).norm() - radius;
    case PieceKind::Ellipse: {
      const EllipseFoot f = ellipse_foot(*this, p);
      const double side = cross(f.along, p - f.foot);
      return side > 0 ? -(p - f.foot).norm() : (p - f.foot).norm();
    }
    case PieceKind::Spline:
      break;
  }
  const double t = spline.parameter(p);
  const Vec2 d = p - spline.at(t);
  return cross(spline.slope(t), d) > 0 ? d.norm() : -d.norm();
}

Vec2 Piece::foot(const Vec2& p) const {
  const Vec2 d = p - point;
  switch (kind) {
    case PieceKind::Line:
      return point + direction * direction.dot(d);
    case PieceKind::Arc: {
      const double length = d.norm();
      return length > 0 ? Vec2(point + d * (radius / length)) : Vec2(point + Vec2(radius, 0));
    }
    case PieceKind::Ellipse:
      return ellipse_foot(*this, p).foot;
    case PieceKind::Spline:
      break;
  }
  return spline.at(spline.parameter(p));
}

Vec2 Piece::heading(const Vec2& p) const {
  const double sense = counter_clockwise ? 1 : -1;
  switch (kind) {
    case PieceKind::Line:
      return direction;
    case PieceKind::Arc:
      return sense * left_of((p - point).normalized());
    case PieceKind::Ellipse:
      return sense * ellipse_foot(*this, p).along.normalized();
    case PieceKind::Spline:
      break;
  }
  return spline.slope(spline.parameter(p)).normalized();
}

double Piece::curvature(const Vec2& p) const {
  switch (kind) {
    case PieceKind::Line:
      return 0;
    case PieceKind::Arc:
      return 1 / radius;
    case PieceKind::Ellipse: {
      const double speed = ellipse_foot(*this, p).along.norm();
      return radius * minor / (speed * speed * speed);
    }
    case PieceKind::Spline:
      break;
  }
  const double t = spline.parameter(p);
  const Vec2 v = spline.slope(t);
  const double speed = v.norm();
  return std::abs(cross(v, spline.bend(t))) / (speed * speed * speed);
}

double cost_of(const Piece& piece, const Costs& costs) {
  switch (piece.kind) {
    case PieceKind::Line:
      return piece.chi + costs.line;
    case PieceKind::Arc:
      return piece.chi + costs.arc;
    case PieceKind::Ellipse:
      return piece.chi + costs.ellipse;
    case PieceKind::Spline:
      break;
  }
  return piece.chi + costs.spline +
         costs.pole * (static_cast<double>(piece.spline.poles.size()) - 4);
}

double sag(const Trace& trace, std::size_t i, const Vec2& along, double curvature) {
  if (trace.chords.empty()) return 0;
  const double reach = trace.chords[i].dot(along);
  return 0.5 * reach * reach * curvature;
}

void measure(const Trace& trace, Piece& piece) {
  double sum = 0;
  double t = piece.kind == PieceKind::Spline && piece.last > piece.first
                 ? piece.spline.parameter(trace.points[piece.first])
                 : 0;
  for (std::size_t i = piece.first; i < piece.last; ++i) {
    if (trace.weights[i] == 0) continue;
    double r = 0;
    if (piece.kind == PieceKind::Spline) {
      t = piece.spline.parameter_near(trace.points[i], t);
      r = (piece.spline.at(t) - trace.points[i]).norm();
    } else {
      r = piece.distance(trace.points[i]);
      if (piece.kind == PieceKind::Arc)
        r += sag(trace, i, left_of((trace.points[i] - piece.point).normalized()), 1 / piece.radius);
    }
    sum += trace.weights[i] * std::min(r * r, 36 * trace.sigma * trace.sigma);
  }
  piece.chi = sum / (trace.sigma * trace.sigma * trace.inflation);
}

bool fit_line(const Trace& trace, Piece& piece) {
  piece.kind = PieceKind::Line;
  if (piece.last < piece.first + 2) return false;
  const Vec2 chord = trace.points[piece.last - 1] - trace.points[piece.first];
  if (!(chord.norm() > 0)) return false;
  // By the scatter first, then with bounded weights; the reference is the middle of the points.
  for (int round = 0; round < 3; ++round) {
    double n = 0;
    Vec2 m = Vec2::Zero();
    Eigen::Matrix2d scatter = Eigen::Matrix2d::Zero();
    const Vec2 about = trace.points[piece.first];
    for (std::size_t i = piece.first; i < piece.last; ++i) {
      const double w = trace.weights[i] *
                       (round == 0 ? 1 : bounded(piece.distance(trace.points[i]), trace.sigma));
      const Vec2 d = trace.points[i] - about;
      n += w;
      m += w * d;
      scatter += w * d * d.transpose();
    }
    if (!(n > 1)) return false;
    m /= n;
    scatter -= n * m * m.transpose();
    const double half = 0.5 * (scatter(0, 0) - scatter(1, 1));
    const double angle = 0.5 * std::atan2(scatter(0, 1), half);
    piece.direction = Vec2(std::cos(angle), std::sin(angle));
    if (piece.direction.dot(chord) < 0) piece.direction = -piece.direction;
    piece.point = about + m;
    const double wide = piece.direction.dot(scatter * piece.direction);
    if (!(wide > 0)) return false;
    // Of direction (rad) and offset (mm, to the left).
    piece.spread = Eigen::Matrix2d::Zero();
    piece.spread(0, 0) = trace.sigma * trace.sigma * trace.inflation / wide;
    piece.spread(1, 1) = trace.sigma * trace.sigma * trace.inflation / n;
  }
  measure(trace, piece);
  return true;
}

bool fit_arc(const Trace& trace, Piece& piece) {
  if (piece.last < piece.first + 3) return false;
  // Algebraic start (I. Kåsa, IEEE Trans. Instrum. Meas. 25 (1976)) about the middle of the points,
  // only where the piece is no arc yet.
  if (piece.kind != PieceKind::Arc || !(piece.radius > 0)) {
    Vec2 m = Vec2::Zero();
    for (std::size_t i = piece.first; i < piece.last; ++i) m += trace.points[i];
    m /= static_cast<double>(piece.last - piece.first);
    Eigen::Matrix2d scatter = Eigen::Matrix2d::Zero();
    Vec2 right = Vec2::Zero();
    double mean = 0;
    for (std::size_t i = piece.first; i < piece.last; ++i) {
      const Vec2 d = trace.points[i] - m;
      scatter += d * d.transpose();
      right += d.squaredNorm() * d;
      mean += d.squaredNorm();
    }
    mean /= static_cast<double>(piece.last - piece.first);
    if (!(scatter.determinant() > 1e-14 * scatter.trace() * scatter.trace())) return false;
    const Vec2 centre = 0.5 * scatter.inverse() * right;
    piece.point = m + centre;
    piece.radius = std::sqrt(mean + centre.squaredNorm());
  }
  piece.kind = PieceKind::Arc;
  const double limit = 200 * trace.length;
  const bool good = settle<3>(
      trace, piece,
      [&](std::size_t i, Vec3& j) {
        const Vec2 d = trace.points[i] - piece.point;
        const double length = std::max(d.norm(), 1e-12);
        j = Vec3(-d.x() / length, -d.y() / length, -1);
        return length - piece.radius + sag(trace, i, left_of(d / length), 1 / piece.radius);
      },
      [&](const Vec3& move) {
        piece.point += move.head<2>();
        piece.radius += move[2];
        return piece.radius > 0 && piece.radius < limit;
      });
  if (!good) return false;
  measure_sense(trace, piece);
  measure(trace, piece);
  return true;
}

bool fit_ellipse(const Trace& trace, Piece& piece) {
  if (piece.last < piece.first + 6) return false;
  if (piece.kind != PieceKind::Ellipse) {
    // Direct algebraic start: A. Fitzgibbon, M. Pilu and R. Fisher, Direct least square fitting of
    // ellipses, IEEE Trans. PAMI 21 (1999), in the stable form of R. Halir and J. Flusser (1998).
    Vec2 m = Vec2::Zero();
    for (std::size_t i = piece.first; i < piece.last; ++i) m += trace.points[i];
    m /= static_cast<double>(piece.last - piece.first);
    double size = 0;
    for (std::size_t i = piece.first; i < piece.last; ++i)
      size = std::max(size, (trace.points[i] - m).norm());
    if (!(size > 0)) return false;
    Eigen::Matrix3d s1 = Eigen::Matrix3d::Zero(), s2 = s1, s3 = s1;
    for (std::size_t i = piece.first; i < piece.last; ++i) {
      const Vec2 d = (trace.points[i] - m) / size;
      const Vec3 q(d.x() * d.x(), d.x() * d.y(), d.y() * d.y());
      const Vec3 l(d.x(), d.y(), 1);
      s1 += trace.weights[i] * q * q.transpose();
      s2 += trace.weights[i] * q * l.transpose();
      s3 += trace.weights[i] * l * l.transpose();
    }
    const Eigen::Matrix3d t = -s3.ldlt().solve(s2.transpose());
    const Eigen::Matrix3d reduced = s1 + s2 * t;
    Eigen::Matrix3d system;
    system.row(0) = reduced.row(2) / 2;
    system.row(1) = -reduced.row(1);
    system.row(2) = reduced.row(0) / 2;
    const Eigen::EigenSolver<Eigen::Matrix3d> eigen(system);
    Vec3 conic = Vec3::Zero();
    for (int k = 0; k < 3; ++k) {
      const Vec3 v = eigen.eigenvectors().col(k).real();
      if (4 * v[0] * v[2] - v[1] * v[1] > 0) conic = v;
    }
    if (conic.isZero()) return false;
    const Vec3 linear = t * conic;
    Eigen::Matrix2d quadratic;
    quadratic << conic[0], conic[1] / 2, conic[1] / 2, conic[2];
    const Vec2 centre = -0.5 * quadratic.inverse() * linear.head<2>();
    const double level = centre.dot(quadratic * centre) - linear[2];
    Eigen::SelfAdjointEigenSolver<Eigen::Matrix2d> axes;
    axes.computeDirect(quadratic);
    const double first = level / axes.eigenvalues()[0];
    const double second = level / axes.eigenvalues()[1];
    if (!(first > 0) || !(second > 0)) return false;
    const bool major_first = first >= second;
    piece.kind = PieceKind::Ellipse;
    piece.point = m + size * centre;
    piece.radius = size * std::sqrt(std::max(first, second));
    piece.minor = size * std::sqrt(std::min(first, second));
    piece.direction = axes.eigenvectors().col(major_first ? 0 : 1);
  }
  const double limit = 20 * trace.length;
  using Column = Eigen::Matrix<double, 5, 1>;
  const bool good = settle<5>(
      trace, piece,
      [&](std::size_t i, Column& j) {
        const Vec2& p = trace.points[i];
        const EllipseFoot f = ellipse_foot(piece, p);
        const Vec2 along = f.along.normalized();
        const Vec2 outward(along.y(), -along.x());
        const double speed = f.along.norm();
        const double curved = piece.radius * piece.minor / (speed * speed * speed);
        const Vec2 side = left_of(piece.direction);
        j[0] = -outward.x();
        j[1] = -outward.y();
        j[2] = -outward.dot(std::cos(f.t) * piece.direction);
        j[3] = -outward.dot(std::sin(f.t) * side);
        j[4] = -outward.dot(left_of(f.foot - piece.point));
        return outward.dot(p - f.foot) + sag(trace, i, along, curved);
      },
      [&](const Column& move) {
        piece.point += move.head<2>();
        piece.radius += move[2];
        piece.minor += move[3];
        const double turn = std::clamp(move[4], -0.5, 0.5);
        piece.direction = Eigen::Rotation2Dd(turn) * piece.direction;
        if (piece.minor > piece.radius) {
          std::swap(piece.minor, piece.radius);
          piece.direction = left_of(piece.direction);
        }
        return piece.minor > 1e-3 * piece.radius && piece.radius < limit;
      });
  if (!good) return false;
  measure_sense(trace, piece);
  measure(trace, piece);
  return true;
}

}  // namespace lostline::section
