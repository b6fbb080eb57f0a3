#include <algorithm>
#include <cmath>
#include <numbers>

#include "pipe/centreline.h"

namespace lostline::pipe {

double Piece::angle() const {
  if (straight) return 0;
  const Vec3 u = a - centre;
  const Vec3 v = b - centre;
  const double turn = std::atan2(axis.dot(u.cross(v)), u.dot(v));
  return turn < 0 ? turn + 2 * std::numbers::pi : turn;
}

double Piece::length() const { return straight ? (b - a).norm() : angle() * radius; }

Vec3 Piece::at(double share) const {
  if (straight) return a + share * (b - a);
  return centre + Eigen::AngleAxisd(share * angle(), axis) * (a - centre);
}

Vec3 Piece::direction(double share) const {
  if (straight) return (b - a).normalized();
  return axis.cross(at(share) - centre).normalized();
}

double Centreline::length() const {
  double sum = 0;
  for (const Piece& piece : pieces) sum += piece.length();
  return sum;
}

std::vector<Vec3> Centreline::points_along(double step) const {
  constexpr double kTurn = 5 * std::numbers::pi / 180;
  std::vector<Vec3> points;
  for (const Piece& piece : pieces) {
    const double parts = std::max(piece.length() / std::max(step, 1e-9), piece.angle() / kTurn);
    const int count = std::clamp(static_cast<int>(std::ceil(parts)), 1, 100000);
    if (points.empty()) points.push_back(piece.a);
    for (int k = 1; k <= count; ++k) points.push_back(piece.at(static_cast<double>(k) / count));
  }
  return points;
}

double Centreline::distance(const Vec3& p) const {
  double nearest = 1e300;
  for (const Piece& piece : pieces) {
    double d = 0;
    if (piece.straight) {
      const Vec3 along = piece.b - piece.a;
      const double t = along.squaredNorm() > 0
                           ? std::clamp((p - piece.a).dot(along) / along.squaredNorm(), 0.0, 1.0)
                           : 0.0;
      d = (p - piece.a - t * along).norm();
    } else {
      const Vec3 from = p - piece.centre;
      const double off = from.dot(piece.axis);
      const Vec3 flat = from - off * piece.axis;
      const Vec3 start = piece.a - piece.centre;
      double turn = std::atan2(piece.axis.dot(start.cross(flat)), start.dot(flat));
      if (turn < 0) turn += 2 * std::numbers::pi;
      d = turn <= piece.angle() ? std::hypot(flat.norm() - piece.radius, off)
                                : std::min((p - piece.a).norm(), (p - piece.b).norm());
    }
    nearest = std::min(nearest, d);
  }
  return (hollow ? -1 : 1) * (nearest - radius);
}

std::vector<BendRow> bending_table(const Centreline& line) {
  std::vector<BendRow> rows;
  BendRow row;
  Vec3 before = Vec3::Zero();  // axis of the last bend
  for (const Piece& piece : line.pieces) {
    if (piece.straight) {
      row.straight += piece.length();
      continue;
    }
    row.angle = piece.angle();
    row.radius = piece.radius;
    if (before.squaredNorm() > 0) {
      const Vec3 along = piece.direction(0);
      row.turn = std::atan2(along.dot(before.cross(piece.axis)), before.dot(piece.axis));
    }
    before = piece.axis;
    rows.push_back(row);
    row = {};
  }
  rows.push_back(row);
  return rows;
}

}  // namespace lostline::pipe
