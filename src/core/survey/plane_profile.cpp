#include "survey/plane_profile.h"

#include <Eigen/Dense>
#include <cmath>

namespace lostline::survey {

std::optional<std::pair<Vec2, double>> circle_through(const std::vector<Vec2>& profile, bool ball) {
  Vec2 about = Vec2::Zero();
  for (const Vec2& p : profile) about += p / static_cast<double>(profile.size());
  if (ball) about.x() = 0;
  Eigen::Matrix3d a = Eigen::Matrix3d::Zero();
  Vec3 b = Vec3::Zero();
  const auto hold = [&] {
    if (!ball) return;
    a.row(0).setZero();
    a.col(0).setZero();
    a(0, 0) = 1;
    b[0] = 0;
  };
  for (const Vec2& p : profile) {
    const Vec2 d = p - about;
    const Vec3 row(2 * d.x(), 2 * d.y(), 1);
    a += row * row.transpose();
    b += row * d.squaredNorm();
  }
  hold();
  const Vec3 c = a.ldlt().solve(b);
  if (!c.allFinite()) return std::nullopt;
  Vec2 centre = about + c.head<2>();
  double radius = std::sqrt(std::max(0.0, c[2] + c.head<2>().squaredNorm()));
  for (int k = 0; k < 3; ++k) {
    a.setZero();
    b.setZero();
    for (const Vec2& p : profile) {
      const Vec2 d = p - centre;
      const double q = std::max(d.norm(), 1e-9);
      const Vec3 row(-d.x() / q, -d.y() / q, -1);
      a += row * row.transpose();
      b -= row * (q - radius);
    }
    hold();
    const Vec3 step = a.ldlt().solve(b);
    if (!step.allFinite()) return std::nullopt;
    centre += step.head<2>();
    radius += step[2];
  }
  if (!(radius > 0)) return std::nullopt;
  return std::pair{centre, radius};
}

std::pair<Vec2, Vec2> line_through(const std::vector<Vec2>& profile) {
  Vec2 mean = Vec2::Zero();
  for (const Vec2& p : profile) mean += p / static_cast<double>(profile.size());
  Eigen::Matrix2d moment = Eigen::Matrix2d::Zero();
  for (const Vec2& p : profile) moment += (p - mean) * (p - mean).transpose();
  const double turn = 0.5 * std::atan2(2 * moment(0, 1), moment(0, 0) - moment(1, 1));
  return {mean, Vec2(std::cos(turn), std::sin(turn))};
}

}  // namespace lostline::survey
