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

double Piece::share_of(const Vec3& p) const {
  if (straight) {
    const Vec3 along = b - a;
    return along.squaredNorm() > 0 ? std::clamp((p - a).dot(along) / along.squaredNorm(), 0.0, 1.0)
                                   : 0.0;
  }
  const Vec3 flat = p - centre - (p - centre).dot(axis) * axis;
  const Vec3 start = a - centre;
  double turn = std::atan2(axis.dot(start.cross(flat)), start.dot(flat));
  // Half of what it lacks of a turn lies before its start.
  if (turn < -0.5 * (2 * std::numbers::pi - angle())) turn += 2 * std::numbers::pi;
  return std::clamp(turn / angle(), 0.0, 1.0);
}

Piece straight_piece(const Vec3& a, const Vec3& b) {
  Piece piece;
  piece.a = a;
  piece.b = b;
  return piece;
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
  for (const Piece& piece : pieces)
    nearest = std::min(nearest, (p - piece.at(piece.share_of(p))).norm());
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
