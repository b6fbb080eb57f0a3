#include "pipe/chain.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <optional>

namespace lostline::pipe {
namespace {

/// A run of stations as one straight piece or bend.
struct Run {
  bool straight = true;
  double chi = 0;
  Vec3 point = Vec3::Zero(), along = Vec3::UnitX();  // of a straight one
  Vec3 centre = Vec3::Zero(), axis = Vec3::UnitZ();
  double radius = 0, angle = 0;
};

Run straight_run(const std::vector<Vec3>& p, std::size_t first, std::size_t last, double sigma) {
  Run run;
  const auto n = static_cast<double>(last - first + 1);
  for (std::size_t k = first; k <= last; ++k) run.point += p[k] / n;
  Eigen::Matrix3d spread = Eigen::Matrix3d::Zero();
  for (std::size_t k = first; k <= last; ++k)
    spread += (p[k] - run.point) * (p[k] - run.point).transpose();
  const Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d> axes(spread);
  run.along = axes.eigenvectors().col(2);
  if (run.along.dot(p[last] - p[first]) < 0) run.along = -run.along;
  run.chi = std::max(0.0, axes.eigenvalues()[0] + axes.eigenvalues()[1]) / (sigma * sigma);
  return run;
}

std::optional<Run> bent_run(const std::vector<Vec3>& p, std::size_t first, std::size_t last,
                            double sigma, double pipe_radius) {
  Run run;
  run.straight = false;
  const auto n = static_cast<double>(last - first + 1);
  Vec3 middle = Vec3::Zero();
  for (std::size_t k = first; k <= last; ++k) middle += p[k] / n;
  Eigen::Matrix3d spread = Eigen::Matrix3d::Zero();
  for (std::size_t k = first; k <= last; ++k)
    spread += (p[k] - middle) * (p[k] - middle).transpose();
  const Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d> axes(spread);
  run.axis = axes.eigenvectors().col(0);
  const Vec3 u = axes.eigenvectors().col(2);
  const Vec3 v = run.axis.cross(u);
  // Algebraic circle to begin with, then by distance.
  Eigen::Matrix3d m = Eigen::Matrix3d::Zero();
  Eigen::Vector3d b = Eigen::Vector3d::Zero();
  for (std::size_t k = first; k <= last; ++k) {
    const Eigen::Vector3d row((p[k] - middle).dot(u), (p[k] - middle).dot(v), 1);
    m += row * row.transpose();
    b += row.head<2>().squaredNorm() * row;
  }
  const Eigen::Vector3d x = m.ldlt().solve(b);
  Vec2 centre(x[0] / 2, x[1] / 2);
  double radius = std::sqrt(std::max(x[2] + centre.squaredNorm(), 0.0));
  if (!std::isfinite(radius)) return std::nullopt;
  double chi = 0;
  for (int round = 0; round < 4; ++round) {
    Eigen::Matrix3d h = Eigen::Matrix3d::Zero();
    Eigen::Vector3d g = Eigen::Vector3d::Zero();
    chi = 0;
    for (std::size_t k = first; k <= last; ++k) {
      const Vec2 d = Vec2((p[k] - middle).dot(u), (p[k] - middle).dot(v)) - centre;
      const double reach = std::max(d.norm(), 1e-12);
      const double off = reach - radius;
      const Eigen::Vector3d row(-d.x() / reach, -d.y() / reach, -1);
      h += row * row.transpose();
      g += off * row;
      chi += off * off;
    }
    if (round == 3) break;
    h.diagonal() *= 1 + 1e-9;
    const Eigen::Vector3d step = h.ldlt().solve(-g);
    if (!step.allFinite()) return std::nullopt;
    centre += step.head<2>();
    radius += step[2];
  }
  // A pipe cannot be bent about itself.
  if (!(radius > 1.02 * pipe_radius)) return std::nullopt;
  run.centre = middle + centre.x() * u + centre.y() * v;
  run.radius = radius;
  double turned = 0;
  for (std::size_t k = first; k < last; ++k) {
    const Vec3 c = p[k] - run.centre;
    const Vec3 d = p[k + 1] - run.centre;
    turned += std::atan2(run.axis.dot(c.cross(d)), c.dot(d));
  }
  if (turned < 0) run.axis = -run.axis;
  run.angle = std::abs(turned);
  run.chi = (chi + std::max(0.0, axes.eigenvalues()[0])) / (sigma * sigma);
  return run;
}

/// The runs of least cost; each shares its last station with the first of the next.
std::vector<std::pair<Run, std::pair<std::size_t, std::size_t>>> best_runs(
    const std::vector<Vec3>& p, double radius, double sigma) {
  // In units of chi squared: a piece must explain more than this. Four numbers of a line, seven of
  // a circle, by the Schwarz criterion about 5 each at the numbers of stations that pipes have.
  constexpr double kLine = 18;
  constexpr double kBend = 32;
  constexpr double kLeastTurn = 0.02;  // rad: less is no bend
  const std::size_t n = p.size();
  std::vector<double> cost(n, 1e300);
  std::vector<std::size_t> from(n, 0);
  std::vector<Run> by(n);
  cost[0] = 0;
  for (std::size_t j = 1; j < n; ++j) {
    for (std::size_t i = 0; i < j; ++i) {
      if (cost[i] >= cost[j]) continue;
      const Run line = straight_run(p, i, j, sigma);
      if (cost[i] + kLine + line.chi < cost[j]) {
        cost[j] = cost[i] + kLine + line.chi;
        from[j] = i;
        by[j] = line;
      }
      if (j - i < 3 || cost[i] + kBend >= cost[j]) continue;
      const auto bend = bent_run(p, i, j, sigma, radius);
      if (!bend || bend->angle < kLeastTurn) continue;
      if (cost[i] + kBend + bend->chi < cost[j]) {
        cost[j] = cost[i] + kBend + bend->chi;
        from[j] = i;
        by[j] = *bend;
      }
    }
  }
  std::vector<std::pair<Run, std::pair<std::size_t, std::size_t>>> runs;
  for (std::size_t j = n - 1; j > 0; j = from[j]) runs.push_back({by[j], {from[j], j}});
  std::reverse(runs.begin(), runs.end());
  return runs;
}

struct Axis {
  Vec3 point, along;
};

/// Middle of where two lines come nearest to each other; none for parallel ones.
std::optional<Vec3> meeting(const Axis& one, const Axis& two) {
  const Vec3 d = two.point - one.point;
  const double c = one.along.dot(two.along);
  const double det = 1 - c * c;
  if (det < 1e-7) return std::nullopt;
  const double s = (d.dot(one.along) - c * d.dot(two.along)) / det;
  const double t = (c * d.dot(one.along) - d.dot(two.along)) / det;
  return 0.5 * (one.point + s * one.along + two.point + t * two.along);
}

}  // namespace

std::vector<Piece> Chain::pieces() const {
  std::vector<Piece> all;
  const std::size_t n = corners.size();
  Vec3 start = corners.front();
  for (std::size_t k = 1; k < n; ++k) {
    const Vec3 before = (corners[k] - corners[k - 1]).normalized();
    Piece line;
    line.a = start;
    if (k + 1 == n) {
      line.b = corners[k];
      all.push_back(line);
      break;
    }
    const Vec3 after = (corners[k + 1] - corners[k]).normalized();
    const double bend = bends[group[k - 1]];
    const Vec3 cross = before.cross(after);
    const double angle = std::atan2(cross.norm(), before.dot(after));
    if (bend <= 0 || angle < 1e-9) {
      line.b = corners[k];
      all.push_back(line);
      start = corners[k];
      continue;
    }
    const double reach = bend * std::tan(angle / 2);
    Piece arc;
    arc.straight = false;
    arc.a = corners[k] - reach * before;
    arc.b = corners[k] + reach * after;
    arc.axis = cross.normalized();
    arc.radius = bend;
    arc.centre = arc.a + bend * arc.axis.cross(before);
    line.b = arc.a;
    all.push_back(line);
    all.push_back(arc);
    start = arc.b;
  }
  return all;
}

Chain chain_of(const std::vector<Station>& stations, double radius, double sigma) {
  // Borders need no finer places than this; the fit moves them.
  constexpr std::size_t kMost = 300;
  std::vector<Vec3> p;
  const std::size_t stride = 1 + stations.size() / kMost;
  for (std::size_t k = 0; k < stations.size(); k += stride) p.push_back(stations[k].centre);
  if ((stations.size() - 1) % stride != 0) p.push_back(stations.back().centre);
  Chain chain;
  chain.radius = radius;
  const auto runs = best_runs(p, radius, sigma);
  std::vector<Axis> axes;
  std::vector<std::size_t> groups;  // between axes
  const auto between = [&](const Axis& axis, std::size_t group) {
    if (!axes.empty()) groups.push_back(group);
    axes.push_back(axis);
  };
  constexpr std::size_t kMitre = 0;
  chain.bends.push_back(0);
  for (std::size_t r = 0; r < runs.size(); ++r) {
    const Run& run = runs[r].first;
    const auto [first, last] = runs[r].second;
    if (run.straight) {
      // After a bend its axis belongs to the corner that is open already.
      if (r > 0 && !runs[r - 1].first.straight)
        axes.back() = {run.point, run.along};
      else
        between({run.point, run.along}, kMitre);
      continue;
    }
    const auto tangent = [&](double share) {
      const Vec3 arm =
          run.radius *
          (p[first] - run.centre - (p[first] - run.centre).dot(run.axis) * run.axis).normalized();
      const Vec3 at = Eigen::AngleAxisd(share * run.angle, run.axis) * arm;
      return Axis{run.centre + at, run.axis.cross(at).normalized()};
    };
    // From a straight piece on, or with a straight piece of no length.
    if (axes.empty()) axes.push_back(tangent(0));
    constexpr double kWidest = 2 * kPi / 3;  // rad at one corner
    const int parts = std::max(1, static_cast<int>(std::ceil(run.angle / kWidest)));
    const std::size_t group = chain.bends.size();
    chain.bends.push_back(run.radius);
    for (int k = 1; k <= parts; ++k) between(tangent(static_cast<double>(k) / parts), group);
  }
  const auto onto = [](const Axis& axis, const Vec3& q) -> Vec3 {
    return axis.point + (q - axis.point).dot(axis.along) * axis.along;
  };
  chain.corners.push_back(onto(axes.front(), p.front()));
  for (std::size_t k = 0; k + 1 < axes.size(); ++k) {
    const auto corner = meeting(axes[k], axes[k + 1]);
    if (!corner) continue;
    chain.corners.push_back(*corner);
    chain.group.push_back(groups[k]);
  }
  chain.corners.push_back(onto(axes.back(), p.back()));
  return chain;
}

}  // namespace lostline::pipe
