#include "joining/meetings.h"

#include <algorithm>
#include <cmath>

#include "base/median.h"
#include "base/parallel.h"

namespace lostline::joining {
namespace {

/// How well a point was seen: the flatter, the worse.
double sight(const Piece& piece, const Vec3& normal) {
  if (piece.eyes.empty()) return 1;
  double best = 0;
  for (const Vec3& eye : piece.eyes) best = std::max(best, eye.dot(normal));
  return std::clamp(best, 0.1, 1.0);
}

}  // namespace

std::vector<Meeting> meet(const Piece& first, const Piece& second, const Transform& first_pose,
                          const Transform& second_pose, double search, std::size_t stride) {
  // Edges are drawn together from as far as they scatter.
  const double search_edges = std::max(search, 1.5 * std::max(first.spacing, second.spacing));
  const Transform to_second = second_pose.inverse() * first_pose;
  const auto& sample = first.with_edges;
  const std::size_t count = (sample.size() + stride - 1) / stride;
  std::vector<Meeting> all(count);
  std::vector<char> met(count, 0);
  parallel_for(count, 256, [&](std::size_t begin, std::size_t end) {
    for (std::size_t i = begin; i < end; ++i) {
      const std::size_t k = i * stride;
      const Vec3& own = first.mesh->vertices[sample[k]];
      const Vec3& own_normal = first.normals[sample[k]];
      const Vec3 p = to_second * own;
      const Falls falls = falls_on(second, p, first.edge[sample[k]] != 0 ? search_edges : search);
      if (falls.on != Falls::On::Surface) continue;
      const Vec3 normal = to_second.linear() * own_normal;
      constexpr double kSameWay = 0.7;  // cosine
      if (normal.dot(falls.normal) < kSameWay) continue;
      Meeting& m = all[i];
      m.at = first_pose * own;
      m.normal = second_pose.linear() * falls.normal;
      m.distance = falls.distance;
      m.weight = sight(first, own_normal) * sight(second, falls.normal);
      m.edge = first.edge[sample[k]] != 0 || second.edge[falls.vertex] != 0;
      met[i] = 1;
    }
  });
  std::vector<Meeting> kept;
  for (std::size_t i = 0; i < count; ++i) {
    if (met[i] != 0) kept.push_back(all[i]);
  }
  return kept;
}

double scatter_of(const std::vector<Meeting>& met, bool edge) {
  std::vector<double> sizes;
  for (const Meeting& m : met) {
    if (m.edge == edge) sizes.push_back(std::abs(m.distance));
  }
  return 1.4826 * median(std::move(sizes));  // of normally distributed ones
}

std::vector<Tie> shared_axes(const Piece& first, const Piece& second, const Transform& first_pose,
                             const Transform& second_pose, double search) {
  std::vector<Tie> shared;
  for (const Axis& a : first.axes) {
    const Vec3 at = first_pose * a.place;
    const Vec3 direction = first_pose.linear() * a.direction;
    Tie nearest;
    double least = search;
    for (const Axis& b : second.axes) {
      const double sigma = std::hypot(a.sigma, b.sigma);
      constexpr double kSameWay = 0.9986;  // cosine of 3 degrees
      const Vec3 other = second_pose.linear() * b.direction;
      if (a.hollow != b.hollow || std::abs(direction.dot(other)) < kSameWay ||
          std::abs(a.radius - b.radius) > std::max(6 * sigma, 0.01 * b.radius))
        continue;
      const Vec3 d = at - second_pose * b.place;
      const double along = d.dot(other);
      const Vec3 apart = d - along * other;
      // Bores in line with each other are not one: not further along than they are wide.
      if (apart.norm() >= least || std::abs(along) > 4 * b.radius) continue;
      least = apart.norm();
      // Where the one lies the other's direction carries its axis aside.
      const double carried = std::hypot(sigma, std::hypot(a.tilt, b.tilt) * along);
      const Vec3 u = any_perpendicular(other);
      nearest = {at, apart, {u, other.cross(u)}, carried, a.rim || b.rim};
    }
    if (least < search) shared.push_back(nearest);
  }
  return shared;
}

Tie tie_of(const SharedPlace& place, const Piece& a, const Piece& b, const Transform& a_pose,
           const Transform& b_pose) {
  // A click hits a place to one or two points of the scan, and to some pixels of a picture that
  // shows all of it (common practice, no source).
  const double strays =
      std::hypot(1.5 * std::max(a.spacing, b.spacing), 0.003 * std::max(a.size, b.size));
  const Vec3 at = a_pose * place.a;
  return {at,
          at - b_pose * place.b,
          {Vec3::UnitX(), Vec3::UnitY(), Vec3::UnitZ()},
          std::max(place.sigma.value_or(strays), 1e-6 * a.size),
          // Targets of one scan are seen from one side.
          place.sigma.has_value()};
}

}  // namespace lostline::joining
