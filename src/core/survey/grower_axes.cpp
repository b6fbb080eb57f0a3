#include <algorithm>
#include <cmath>
#include <numbers>

#include "survey/grower.h"
#include "survey/plane_profile.h"

// Growing about axes that surfaces of revolution share.

namespace lostline::survey {
namespace {

constexpr std::size_t kPartAxes = 6;    // axes that may hold for the whole part
constexpr std::size_t kMostAxes = 160;  // with those of holes, which hold nearby

bool turned(const Grower::Candidate& c) { return fit::is_turned(c.surface.kind); }

double off_axis(const Grower::Axis& a, const Vec3& p) {
  const Vec3 d = p - a.point;
  return (d - d.dot(a.direction) * a.direction).norm();
}

}  // namespace

double Grower::profile_angle(std::uint32_t vertex) const {
  const Vec3 d = mesh_.vertices[vertex] - held_->point;
  const Vec3 across = d - d.dot(held_->direction) * held_->direction;
  return std::atan2(normals_[vertex].dot(held_->direction),
                    normals_[vertex].dot(across) / std::max(across.norm(), 1e-9));
}

bool Grower::refit_about(Candidate& candidate) const {
  // In the half-plane about the axis: a line or a circle.
  const std::vector<std::uint32_t>& vertices = candidate.vertices;
  const std::size_t stride = std::max<std::size_t>(1, vertices.size() / kFitSample);
  std::vector<Vec2> profile;
  double side = 0;
  for (std::size_t i = 0; i < vertices.size(); i += stride) {
    const Vec3 d = mesh_.vertices[vertices[i]] - held_->point;
    const double z = d.dot(held_->direction);
    const Vec3 across = d - z * held_->direction;
    profile.emplace_back(across.norm(), z);
    side += normals_[vertices[i]].dot(across);
  }
  const auto n = static_cast<double>(profile.size());
  if (n < 12) return false;
  Vec2 mean = Vec2::Zero();
  for (const Vec2& p : profile) mean += p / n;
  fit::Surface& s = candidate.surface;
  s.point = held_->point + mean.y() * held_->direction;
  s.axis = held_->direction;
  s.half_angle = 0;
  s.radius = mean.x();
  s.hollow = side < 0;
  if (s.kind == fit::Kind::Cone) {
    Eigen::Matrix2d moment = Eigen::Matrix2d::Zero();
    for (const Vec2& p : profile) moment += (p - mean) * (p - mean).transpose();
    const double turn = 0.5 * std::atan2(2 * moment(0, 1), moment(1, 1) - moment(0, 0));
    // Steeper than 80 degrees it is as good as a plane across the axis.
    if (std::abs(turn) > 1.4) return false;
    s.half_angle = turn;
  } else if (s.kind == fit::Kind::Torus || s.kind == fit::Kind::Sphere) {
    const bool ball = s.kind == fit::Kind::Sphere;
    const auto circle = circle_through(profile, ball);
    if (!circle) return false;
    const auto& [centre, radius] = *circle;
    double widest = 0;
    for (const Vec2& p : profile) widest = std::max(widest, (p - mean).norm());
    if (radius > 8 * widest || (!ball && !(centre.x() > 0))) return false;
    s.point = held_->point + centre.y() * held_->direction;
    s.radius = ball ? radius : centre.x();
    s.minor_radius = ball ? 0 : radius;
    s.hollow = false;
    double outward = 0;
    for (std::size_t i = 0; i < vertices.size(); i += stride)
      outward += s.normal_at(mesh_.vertices[vertices[i]]).dot(normals_[vertices[i]]);
    s.hollow = outward < 0;
  } else if (fit::is_flat(s.kind)) {
    double up = 0;
    for (std::size_t i = 0; i < vertices.size(); i += stride)
      up += normals_[vertices[i]].dot(held_->direction);
    if (std::abs(up) < 0.9 * n) return false;  // it does not stand across the axis
    s.axis = up < 0 ? Vec3(-held_->direction) : held_->direction;
    s.hollow = false;
  } else if (s.kind != fit::Kind::Cylinder) {
    return false;
  }
  double squares = 0;
  for (std::size_t i = 0; i < vertices.size(); i += stride)
    squares += std::pow(s.distance(mesh_.vertices[vertices[i]]), 2);
  candidate.sigma = std::sqrt(squares / std::max(1.0, n - 3));
  return true;
}
std::optional<Grower::Candidate> Grower::best_about_axis(std::uint32_t seed, std::size_t size,
                                                         std::vector<char>& tried) {
  // A straight profile keeps its slope but for noise; where it bends more, an edge is rounded.
  const double kStraight = std::min(0.2, 0.07 + noise_ / spacing_);
  // A round turns by more than that scatter does; smoothing takes much of a narrow one's turn.
  constexpr double kRound = 0.45;
  constexpr double kBent = 0.2;
  const std::vector<std::uint32_t> straight = patch_around(seed, size, kStraight);
  for (const std::uint32_t v : straight) tried[v] = 1;
  const std::size_t least = std::min(size / 2, smallest_ / 2);
  std::optional<Candidate> best;
  if (straight.size() >= least)
    best = best_of({fit::Kind::Plane, fit::Kind::Cylinder, fit::Kind::Cone}, straight);
  if (best && !bends(*best)) return best;
  const std::vector<std::uint32_t> patch = best ? best->vertices : patch_around(seed, size);
  for (const std::uint32_t v : patch) tried[v] = 1;
  if (patch.size() < least) return std::nullopt;
  std::optional<Candidate> straight_one = std::move(best);
  best = best_of({fit::Kind::Sphere, fit::Kind::Torus}, patch);
  if (!best) return straight_one;
  std::vector<double> slopes;
  const double middle = profile_angle(best->vertices.front());
  for (const std::uint32_t v : best->vertices)
    slopes.push_back(std::remainder(profile_angle(v) - middle, 2 * std::numbers::pi));
  std::sort(slopes.begin(), slopes.end());
  const double turn = slopes[slopes.size() * 9 / 10] - slopes[slopes.size() / 10];
  if (turn < (straight_one ? kBent : kRound)) return straight_one;
  straighten(*best);
  return best;
}

bool Grower::is_about(const Candidate& c, const Axis& axis) const {
  return turned(c) && fit::angle_between(c.surface.axis, axis.direction) < 0.01 &&
         off_axis(axis, c.surface.point) < 0.1 + 4 * noise_;
}

void Grower::find_axes() {
  axes_.clear();
  for (const Candidate& c : surfaces_) {
    if (!turned(c) || c.vertices.size() < std::max<std::size_t>(smallest_, 150)) continue;
    // Half a turn at least: the mean of the normals about the axis is short then.
    Vec3 mean = Vec3::Zero();
    for (const std::uint32_t v : c.vertices) mean += normals_[v];
    mean -= mean.dot(c.surface.axis) * c.surface.axis;
    if (mean.norm() > 0.64 * static_cast<double>(c.vertices.size())) continue;
    const auto same =
        std::find_if(axes_.begin(), axes_.end(), [&](const Axis& a) { return is_about(c, a); });
    const auto weight = static_cast<double>(c.vertices.size());
    if (same == axes_.end()) {
      axes_.push_back({c.surface.point, c.surface.axis, weight});
    } else if (weight > same->weight) {
      *same = {c.surface.point, c.surface.axis, weight + same->weight};
    } else {
      same->weight += weight;
    }
  }
  std::stable_sort(axes_.begin(), axes_.end(),
                   [](const Axis& a, const Axis& b) { return a.weight > b.weight; });
  if (axes_.size() > kMostAxes) axes_.resize(kMostAxes);
}

std::vector<char> Grower::settled_about(std::size_t rank, std::vector<char>& claimed) const {
  // Surfaces known to turn about the axis stay, planes too.
  std::vector<char> settled(surfaces_.size(), 0);
  for (std::size_t i = 0; i < surfaces_.size(); ++i) {
    const Candidate& c = surfaces_[i];
    if (is_about(c, axes_[rank]) && !(c.sigma > 1.3 * noise_ && bends(c))) claimed[i] = 1;
    // A small surface's axis does not call a large one in question.
    settled[i] = fit::is_flat(c.surface.kind) || claimed[i] != 0 ||
                 static_cast<double>(c.vertices.size()) > 0.3 * axes_[rank].weight;
  }
  return settled;
}

std::vector<char> Grower::questionable_about(std::size_t rank,
                                             const std::vector<char>& settled) const {
  const Axis& axis = axes_[rank];
  const bool nearby = rank >= kPartAxes;  // the axis of a hole says something of its surroundings
  double widest = 0;
  double low = 0;
  double high = 0;
  for (const Candidate& c : surfaces_) {
    if (!nearby || !is_about(c, axis)) continue;
    for (const std::uint32_t v : c.vertices) {
      const double z = (mesh_.vertices[v] - axis.point).dot(axis.direction);
      widest = std::max(widest, off_axis(axis, mesh_.vertices[v]));
      low = std::min(low, z);
      high = std::max(high, z);
    }
  }
  // What turns about the axis has normals that meet it.
  std::vector<char> questionable(labels_.size(), 0);
  for (std::size_t v = 0; v < labels_.size(); ++v) {
    if (labels_[v] >= 0 && settled[static_cast<std::size_t>(labels_[v])] != 0) continue;
    const Vec3 d = mesh_.vertices[v] - axis.point;
    const double z = d.dot(axis.direction);
    const Vec3 across = d - z * axis.direction;
    const double rho = across.norm();
    if (nearby && (rho > 2.2 * widest || z < low - widest || z > high + widest)) continue;
    if (rho < 1e-6 || std::abs(axis.direction.cross(across).dot(normals_[v])) > 0.2 * rho) continue;
    questionable[v] = 1;
  }
  return questionable;
}

bool Grower::grow_about_axes(const std::vector<std::uint32_t>& order, const Task& task) {
  find_axes();
  std::vector<char> claimed;  // surfaces about a stronger axis
  for (std::size_t rank = 0; rank < axes_.size(); ++rank) {
    claimed.resize(surfaces_.size(), 0);
    held_ = axes_[rank];
    const std::vector<char> settled = settled_about(rank, claimed);
    const std::vector<char> questionable = questionable_about(rank, settled);
    held_.reset();
    if (static_cast<std::size_t>(std::count(questionable.begin(), questionable.end(), 1)) <
        smallest_)
      continue;
    const std::vector<int> before = labels_;
    for (std::size_t v = 0; v < labels_.size(); ++v) {
      if (questionable[v] != 0) labels_[v] = -1;
    }
    held_ = axes_[rank];
    for (const std::size_t size : {4 * options_.seed_patch, options_.seed_patch}) {
      std::vector<char> tried(labels_.size(), 0);
      for (const std::uint32_t seed : order) {
        if (questionable[seed] == 0 || labels_[seed] >= 0 || tried[seed] != 0) continue;
        if (task.stopped()) return false;
        if (std::optional<Candidate> best = best_about_axis(seed, size, tried))
          accept(std::move(*best));
      }
    }
    for (std::size_t v = 0; v < labels_.size(); ++v) {
      if (questionable[v] != 0 && labels_[v] < 0) labels_[v] = before[v];
    }
    gather_vertices();
    // What stayed as it was may be a narrow band about the axis too.
    for (std::size_t i = 0; i < settled.size(); ++i) {
      Candidate& c = surfaces_[i];
      if (settled[i] != 0 || c.vertices.size() < 40) continue;
      const auto about = std::count_if(c.vertices.begin(), c.vertices.end(),
                                       [&](std::uint32_t v) { return questionable[v] != 0; });
      if (static_cast<double>(about) < 0.8 * static_cast<double>(c.vertices.size())) continue;
      const std::vector<std::uint32_t> all = c.vertices;
      straighten(c);
      for (const std::uint32_t v : all) labels_[v] = -1;
      for (const std::uint32_t v : c.vertices) labels_[v] = static_cast<int>(i);
    }
    held_.reset();
  }
  return true;
}

}  // namespace lostline::survey
