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

}  // namespace

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
}

}  // namespace lostline::survey
