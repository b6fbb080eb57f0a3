#include <fmt/format.h>

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

#include "base/linear.h"
#include "datum/place.h"

namespace lostline::datum {
namespace {

/// A place that a pair fixes wholly: a point, the centre of a sphere, torus, circle or ellipse.
std::optional<Vec3> place_of(const std::variant<Vec3, fit::Surface>& item) {
  if (const Vec3* p = std::get_if<Vec3>(&item)) return *p;
  const auto& s = std::get<fit::Surface>(item);
  if (fit::has_centre(s.kind)) return s.point;
  return std::nullopt;
}

const fit::Surface* direction_of(const std::variant<Vec3, fit::Surface>& item) {
  const auto* s = std::get_if<fit::Surface>(&item);
  return s != nullptr && fit::has_direction(s->kind) ? s : nullptr;
}

bool is_plane(const fit::Surface& s) { return fit::is_flat(s.kind); }

/// Best rotation of vectors onto others. Source: W. Kabsch, Acta Cryst. A32 (1976).
Eigen::Matrix3d rotation_between(const std::vector<std::pair<Vec3, Vec3>>& vectors) {
  Eigen::Matrix3d sum = Eigen::Matrix3d::Zero();
  for (const auto& [from, to] : vectors) sum += to * from.transpose();
  return nearest_rotation(sum);
}

/// Residuals of all pairs under a motion, and their derivatives by turn (times lever) and shift.
struct Equations {
  Eigen::MatrixXd jacobian;
  Eigen::VectorXd residuals;
};
Equations equations(const std::vector<Pair>& pairs, const Transform& motion, const Vec3& about,
                    double lever) {
  std::vector<Eigen::Matrix<double, 1, 7>> rows;
  const auto add = [&](const Vec3& normal, const Vec3& at, double value) {
    Eigen::Matrix<double, 1, 7> row;
    row << ((at - about).cross(normal) / lever).transpose(), normal.transpose(), value;
    rows.push_back(row);
  };
  const auto turn_only = [&](const Vec3& axis, const Vec3& across, double value) {
    Eigen::Matrix<double, 1, 7> row = Eigen::Matrix<double, 1, 7>::Zero();
    row.head<3>() = axis.cross(across).transpose();  // d(axis . across) for a turn, times lever
    row[6] = value * lever;
    rows.push_back(row);
  };
  for (const Pair& pair : pairs) {
    if (const auto from = place_of(pair.scan)) {
      const Vec3 p = motion * *from;
      const Vec3 d = p - *place_of(pair.model);
      for (int k = 0; k < 3; ++k) add(Vec3::Unit(k), p, d[k]);
    }
    const fit::Surface* s = direction_of(pair.scan);
    const fit::Surface* m = direction_of(pair.model);
    if (s == nullptr || m == nullptr) continue;
    Vec3 axis = motion.linear() * s->axis;
    if (!is_plane(*s) && axis.dot(m->axis) < 0) axis = -axis;
    const Vec3 u = any_perpendicular(m->axis);
    const Vec3 v = m->axis.cross(u);
    turn_only(axis, u, axis.dot(u));
    turn_only(axis, v, axis.dot(v));
    if (place_of(pair.scan)) continue;
    const Vec3 p = motion * s->point;
    if (is_plane(*s)) {
      add(m->axis, p, m->axis.dot(p - m->point));
    } else {
      add(u, p, u.dot(p - m->point));
      add(v, p, v.dot(p - m->point));
    }
  }
  Equations e;
  e.jacobian.resize(static_cast<Eigen::Index>(rows.size()), 6);
  e.residuals.resize(static_cast<Eigen::Index>(rows.size()));
  for (std::size_t i = 0; i < rows.size(); ++i) {
    e.jacobian.row(static_cast<Eigen::Index>(i)) = rows[i].head<6>();
    e.residuals[static_cast<Eigen::Index>(i)] = rows[i][6];
  }
  return e;
}

/// Refuses what does not hold the motion.
Status check(const std::vector<Pair>& pairs, double size) {
  std::vector<Vec3> places;
  bool directed = false;
  for (const Pair& pair : pairs) {
    const bool point = std::holds_alternative<Vec3>(pair.scan);
    if (point != std::holds_alternative<Vec3>(pair.model))
      return Error{ErrorCode::InvalidInput, "A point and a feature do not make a pair."};
    if (const auto p = place_of(pair.scan)) places.push_back(*p);
    if (point) continue;
    const auto& s = std::get<fit::Surface>(pair.scan);
    const auto& m = std::get<fit::Surface>(pair.model);
    const bool round = fit::is_turned(s.kind);
    const bool round_model = fit::is_turned(m.kind);
    if (s.kind != m.kind && !(round && round_model))
      return Error{ErrorCode::InvalidInput, fmt::format("A {} and a {} do not make a pair.",
                                                        kind_name(s.kind), kind_name(m.kind))};
    directed = directed || fit::has_direction(s.kind);
  }
  if (directed) return Done{};
  if (places.size() < 3)
    return Error{
        ErrorCode::Degenerate,
        fmt::format("{} pair{} of points leave{} the turn open: give at least three that "
                    "lie apart and not on one line.",
                    places.size(), places.size() == 1 ? "" : "s", places.size() == 1 ? "s" : "")};
  Vec3 mean = Vec3::Zero();
  for (const Vec3& p : places) mean += p / static_cast<double>(places.size());
  Eigen::Matrix3d moment = Eigen::Matrix3d::Zero();
  for (const Vec3& p : places) moment += (p - mean) * (p - mean).transpose();
  const auto axes = symmetric_eigen<3>(moment);
  const double n = static_cast<double>(places.size());
  const double longest = std::sqrt(axes.values[2] / n);
  const double across = std::sqrt(std::max(0.0, axes.values[1]) / n);
  if (longest < 0.03 * size)
    return Error{
        ErrorCode::Degenerate,
        fmt::format("The points lie within {:.1f} mm of a part of {:.0f} mm: a small error "
                    "would turn it far. Choose points further apart.",
                    2 * longest, size)};
  if (across < 0.05 * longest)
    return Error{ErrorCode::Degenerate,
                 "The points lie on one line: the turn about it stays open. Add one beside it."};
  return Done{};
}

}  // namespace

Result<BestFit> place_by_pairs(const std::vector<Pair>& pairs, double size) {
  if (pairs.empty())
    return Error{ErrorCode::Degenerate, "Say which points or features belong together."};
  if (const Status status = check(pairs, size); !status) return status.error();
  // Vectors that turn with the part: directions, and differences of places.
  struct Sensed {
    Vec3 from, to;
    bool sense;
  };
  std::vector<Sensed> vectors;
  std::vector<std::pair<Vec3, Vec3>> places;
  for (const Pair& pair : pairs) {
    if (const fit::Surface* s = direction_of(pair.scan))
      vectors.push_back({s->axis, direction_of(pair.model)->axis, is_plane(*s)});
    if (const auto p = place_of(pair.scan)) places.emplace_back(*p, *place_of(pair.model));
  }
  for (std::size_t i = 1; i < places.size(); ++i) {
    vectors.push_back({(places[i].first - places[0].first) / size,
                       (places[i].second - places[0].second) / size, true});
  }
  std::vector<std::size_t> open;  // axes whose sense is not known
  for (std::size_t i = 0; i < vectors.size(); ++i) {
    if (!vectors[i].sense && open.size() < 6) open.push_back(i);
  }
  BestFit best;
  best.rms = 1e300;
  Eigen::Matrix<double, 6, 6> hold = Eigen::Matrix<double, 6, 6>::Zero();
  for (std::size_t senses = 0; senses < (std::size_t{1} << open.size()); ++senses) {
    std::vector<std::pair<Vec3, Vec3>> sensed;
    for (const Sensed& v : vectors) sensed.emplace_back(v.from, v.to);
    for (std::size_t k = 0; k < open.size(); ++k) {
      if ((senses >> k & 1U) != 0) sensed[open[k]].second *= -1;
    }
    Transform motion(rotation_between(sensed));
    Vec3 about = Vec3::Zero();
    for (const Pair& pair : pairs) {
      const auto p = place_of(pair.model);
      about +=
          (p ? *p : std::get<fit::Surface>(pair.model).point) / static_cast<double>(pairs.size());
    }
    const double lever = size / 4;
    for (int round = 0; round < 30; ++round) {
      const Equations e = equations(pairs, motion, about, lever);
      const Eigen::VectorXd step = solve_least_norm(e.jacobian, -e.residuals);
      const Vec3 turn = step.head<3>() / lever;
      const double angle = turn.norm();
      Transform move = Transform::Identity();
      if (angle > 0)
        move = Eigen::Translation3d(about) * Eigen::AngleAxisd(angle, turn / angle) *
               Eigen::Translation3d(-about);
      move.pretranslate(Vec3(step.tail<3>()));
      motion = move * motion;
      if (step.norm() < 1e-10 * size) break;
    }
    const Equations e = equations(pairs, motion, about, lever);
    const double rms =
        std::sqrt(e.residuals.squaredNorm() / static_cast<double>(e.residuals.size()));
    if (rms < best.rms - 1e-9) {
      best.rms = rms;
      best.motion = motion;
      hold = product_tn(e.jacobian, e.jacobian);
    }
  }
  const auto eigen = symmetric_eigen<6>(hold);
  int held = 0;
  for (int k = 0; k < 6; ++k) held += eigen.values[k] > 1e-4 ? 1 : 0;
  if (held < 6) {
    return Error{
        ErrorCode::Degenerate,
        fmt::format("The pairs hold {} of six motions. Add a feature in another direction, "
                    "or a point that lies apart.",
                    held)};
  }
  best.motion.linear() = Eigen::Quaterniond(best.motion.linear()).normalized().toRotationMatrix();
  best.used_fraction = 1;
  return best;
}

}  // namespace lostline::datum
