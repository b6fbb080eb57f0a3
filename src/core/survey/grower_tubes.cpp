#include <algorithm>
#include <cmath>

#include "survey/grower.h"

// Bends of tubes and bars. Along a bend a cylinder of the tube's radius holds a stretch, then the
// next one does: pieces of cylinder of one radius that touch and turn are one torus.

namespace lostline::survey {
namespace {

/// The torus that is tangent to two cylinders at their middles: its axis square to both.
std::optional<fit::Surface> bend_through(const fit::Surface& a, const fit::Surface& b) {
  const Vec3 normal = a.axis.cross(b.axis);
  if (normal.norm() < 0.02) return std::nullopt;  // a degree: one straight
  fit::Surface torus;
  torus.kind = fit::Kind::Torus;
  torus.axis = normal.normalized();
  torus.minor_radius = 0.5 * (a.radius + b.radius);
  torus.hollow = a.hollow;
  // The centre lies square to each axis from its middle: a.point + s u = b.point + t v.
  const Vec3 u = torus.axis.cross(a.axis);
  const Vec3 v = torus.axis.cross(b.axis);
  const Vec3 d = b.point - a.point;
  const double across = u.cross(v).dot(torus.axis);
  if (std::abs(across) < 1e-9) return std::nullopt;
  const double s = d.cross(v).dot(torus.axis) / across;
  torus.point = a.point + s * u;
  torus.radius = std::abs(s);
  if (!(torus.radius > torus.minor_radius)) return std::nullopt;
  return torus;
}

/// Where two straights of one radius would meet, and what a bend between them lies in.
struct Corner {
  Vec3 meeting;      ///< of the axes
  Vec3 away, other;  ///< unit, along the straights from there
  Vec3 normal;       ///< of the plane of both, unit
  double radius;     ///< of the tube

  /// The torus tangent to both whose circle has a radius.
  [[nodiscard]] fit::Surface bend(double circle) const {
    fit::Surface torus;
    torus.kind = fit::Kind::Torus;
    torus.axis = normal;
    torus.minor_radius = radius;
    torus.radius = circle;
    const Vec3 inwards = (away + other).normalized();
    torus.point = meeting + circle / inwards.cross(away).norm() * inwards;
    return torus;
  }
  /// Whether a point lies between the planes where the bend ends.
  [[nodiscard]] bool between(const Vec3& p, double circle) const {
    const Vec3 from = p - bend(circle).point;
    return from.dot(away) < 0 && from.dot(other) < 0;
  }
};

/// @param first, second  points of the two straights, that say on which side each lies.
std::optional<Corner> corner_of(const fit::Surface& a, const fit::Surface& b, const Vec3& first,
                                const Vec3& second) {
  constexpr double kSame = 0.05;   // of the radius
  constexpr double kMeet = 0.3;    // of the radius: how far the axes may pass
  constexpr double kTurned = 0.1;  // sine of the least angle
  if (a.hollow != b.hollow || std::abs(a.radius - b.radius) > kSame * a.radius) return std::nullopt;
  const Vec3 normal = a.axis.cross(b.axis);
  const double sine = normal.norm();
  if (sine < kTurned) return std::nullopt;
  const Vec3 d = b.point - a.point;
  if (std::abs(d.dot(normal)) > kMeet * a.radius * sine) return std::nullopt;
  const Vec3 meeting = a.point + d.cross(b.axis).dot(normal) / (sine * sine) * a.axis;
  Corner corner;
  corner.meeting = meeting;
  corner.away = (first - meeting).dot(a.axis) < 0 ? Vec3(-a.axis) : a.axis;
  corner.other = (second - meeting).dot(b.axis) < 0 ? Vec3(-b.axis) : b.axis;
  corner.normal = normal / sine;
  corner.radius = 0.5 * (a.radius + b.radius);
  return corner;
}

}  // namespace

bool Grower::bend_between(std::size_t first, std::size_t second) {
  const auto middle = [&](const Candidate& c) {
    Vec3 sum = Vec3::Zero();
    for (const std::uint32_t v : c.vertices) sum += mesh_.vertices[v];
    return Vec3(sum / static_cast<double>(c.vertices.size()));
  };
  const Candidate& a = surfaces_[first];
  const Candidate& b = surfaces_[second];
  const auto corner = corner_of(a.surface, b.surface, middle(a), middle(b));
  if (!corner) return false;
  // Each straight begins where the bend ends, but for what it holds of the bend.
  const auto begins = [&](const Candidate& c, const Vec3& away) {
    constexpr double kOfTheBend = 0.1;  // of a straight, at most
    std::vector<double> along;
    along.reserve(c.vertices.size());
    for (const std::uint32_t v : c.vertices)
      along.push_back((mesh_.vertices[v] - corner->meeting).dot(away));
    const auto low =
        along.begin() + static_cast<std::ptrdiff_t>(kOfTheBend * static_cast<double>(along.size()));
    std::nth_element(along.begin(), low, along.end());
    return *low;
  };
  const double near = std::max(begins(a, corner->away), begins(b, corner->other));
  if (near < 0) return false;  // they cross
  const double reach = near + 3 * corner->radius;
  const auto like = [&](int label) {
    constexpr double kAlike = 0.25;  // of the radius: a cylinder on a stretch of a bend is off
    if (label < 0) return true;
    const fit::Surface& s = surfaces_[static_cast<std::size_t>(label)].surface;
    const double radius = s.kind == fit::Kind::Cylinder ? s.radius : s.minor_radius;
    return (s.kind == fit::Kind::Cylinder || s.kind == fit::Kind::Torus) &&
           std::abs(radius - corner->radius) < kAlike * corner->radius;
  };
  std::vector<std::uint32_t> around;
  for (std::uint32_t v = 0; v < labels_.size(); ++v)
    if ((mesh_.vertices[v] - corner->meeting).squaredNorm() < reach * reach && like(labels_[v]))
      around.push_back(v);
  if (around.size() < smallest_) return false;
  const double sigma = std::max(noise_, expected_noise(around));
  const auto on = [&](const fit::Surface& torus, std::uint32_t v, double within) {
    return corner->between(mesh_.vertices[v], torus.radius) &&
           std::abs(torus.distance(mesh_.vertices[v])) < within;
  };
  // The circle with which straight, bend and straight together explain what lies there best, from a
  // tight bend to a wide one, first of a sample. The bend alone would not do: of a slight one a
  // wide torus holds the straights as well. Each point counts by its squared distance, up to a
  // limit (M-estimator sample consensus, Torr and Zisserman 2000); a step of the search leaves the
  // surface off by some of the tube's radius.
  constexpr double kTightest = 1.05;  // of the tube's radius
  constexpr double kWidest = 30;
  constexpr double kStep = 1.04;
  const std::size_t stride = 1 + around.size() / 2000;
  const double limit = std::pow(2 * options_.reach * sigma, 2);
  double best = 0;
  double least = 1e300;
  for (double circle = kTightest; circle < kWidest; circle *= kStep) {
    const fit::Surface torus = corner->bend(circle * corner->radius);
    double cost = 0;
    for (std::size_t i = 0; i < around.size(); i += stride) {
      const Vec3& p = mesh_.vertices[around[i]];
      const Vec3 from = p - torus.point;
      double off = limit;
      if (corner->between(p, torus.radius))
        off = std::pow(torus.distance(p), 2);
      else if (from.dot(corner->away) >= 0)
        off = std::pow(a.surface.distance(p), 2);
      if (from.dot(corner->other) >= 0) off = std::min(off, std::pow(b.surface.distance(p), 2));
      cost += std::min(off, limit);
    }
    if (cost >= least) continue;
    least = cost;
    best = torus.radius;
  }
  Candidate bend;
  bend.surface = corner->bend(best);
  bend.surface.hollow = a.surface.hollow;
  for (int round = 0; round < 4; ++round) {
    bend.vertices.clear();
    for (const std::uint32_t v : around)
      if (on(bend.surface, v, (round == 0 ? 2 : 1) * options_.reach * sigma))
        bend.vertices.push_back(v);
    if (bend.vertices.size() < smallest_ || !refit(bend, true)) return false;
  }
  if (bend.sigma > 1.3 * sigma || !(bend.surface.radius > bend.surface.minor_radius) ||
      std::abs(bend.surface.minor_radius - corner->radius) > 0.05 * corner->radius)
    return false;
  // Most of what lies in the bend must be on it.
  const auto inside = std::count_if(around.begin(), around.end(), [&](std::uint32_t v) {
    return corner->between(mesh_.vertices[v], bend.surface.radius);
  });
  if (static_cast<double>(bend.vertices.size()) < 0.6 * static_cast<double>(inside)) return false;
  std::map<int, std::size_t> holds;
  for (const std::uint32_t v : bend.vertices) ++holds[labels_[v]];
  for (const auto& [label, held] : holds) {
    // It has been told already.
    if (label >= 0 && surfaces_[static_cast<std::size_t>(label)].surface.kind == fit::Kind::Torus &&
        static_cast<double>(held) > 0.8 * static_cast<double>(bend.vertices.size()))
      return false;
  }
  accept(std::move(bend));
  gather_vertices();
  return true;
}

std::optional<Grower::Candidate> Grower::bend_of_two(const Candidate& a, const Candidate& b) const {
  const auto round = [](const Candidate& c) {
    return c.surface.kind == fit::Kind::Torus ? c.surface.minor_radius : c.surface.radius;
  };
  constexpr double kAlike =
      0.15;  // of the radius: a cylinder on a stretch of a bend is a little off
  if (a.surface.hollow != b.surface.hollow ||
      std::abs(round(a) - round(b)) > kAlike * std::max(round(a), round(b)))
    return std::nullopt;
  Candidate joined;
  if (a.surface.kind == fit::Kind::Torus) {
    joined.surface = a.surface;
  } else if (b.surface.kind == fit::Kind::Torus) {
    joined.surface = b.surface;
  } else if (const auto bend = bend_through(a.surface, b.surface)) {
    joined.surface = *bend;
  } else {
    return std::nullopt;
  }
  joined.vertices = a.vertices;
  joined.vertices.insert(joined.vertices.end(), b.vertices.begin(), b.vertices.end());
  const double expected = std::max(noise_, expected_noise(joined.vertices));
  if (!refit(joined, true) || joined.sigma > 1.3 * expected) return std::nullopt;
  if (!(joined.surface.radius > joined.surface.minor_radius)) return std::nullopt;
  return joined;
}

void Grower::join_bends() {
  const auto bends = [](const Candidate& c) {
    return !c.vertices.empty() &&
           (c.surface.kind == fit::Kind::Cylinder || c.surface.kind == fit::Kind::Torus);
  };
  for (bool changed = true; changed;) {
    changed = false;
    for (const auto& [pair, count] : contacts()) {
      Candidate& a = surfaces_[static_cast<std::size_t>(pair.first)];
      Candidate& b = surfaces_[static_cast<std::size_t>(pair.second)];
      if (count < 6 || !bends(a) || !bends(b)) continue;
      std::optional<Candidate> bend = bend_of_two(a, b);
      if (!bend) continue;
      for (const std::uint32_t v : b.vertices) labels_[v] = pair.first;
      b.vertices.clear();
      a = *std::move(bend);
      changed = true;
    }
  }
  const std::size_t count = surfaces_.size();
  for (std::size_t i = 0; i < count; ++i) {
    for (std::size_t k = i + 1; k < count; ++k) {
      const auto straight = [&](std::size_t at) {
        return surfaces_[at].surface.kind == fit::Kind::Cylinder &&
               surfaces_[at].vertices.size() >= smallest_;
      };
      if (straight(i) && straight(k)) bend_between(i, k);
    }
  }
}

}  // namespace lostline::survey
