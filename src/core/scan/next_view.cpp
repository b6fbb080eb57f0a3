#include "scan/next_view.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <vector>

#include "base/parallel.h"

namespace lostline::scan {
namespace {

/// A stretch of an open border.
struct Rim {
  Vec3 at;
  Vec3 normal;  ///< of the triangle that ends there
  double length;
};

std::vector<Rim> rims_of(const Mesh& mesh, const Topology& topology) {
  std::vector<Rim> rims;
  for (std::uint32_t t = 0; t < mesh.triangles.size(); ++t) {
    for (std::size_t k = 0; k < 3; ++k) {
      if (topology.across[3 * t + k] != kNone) continue;
      const Vec3 a = mesh.corner(t, static_cast<int>(k));
      const Vec3 b = mesh.corner(t, static_cast<int>((k + 1) % 3));
      const Vec3 n = mesh.area_vector(t);
      if (n.norm() > 0) rims.push_back({0.5 * (a + b), n.normalized(), (b - a).norm()});
    }
  }
  return rims;
}

}  // namespace

Result<NextView> next_view(const Mesh& mesh, const Topology& topology, const MeshIndex& index,
                           const Task& task) {
  std::vector<Rim> rims = rims_of(mesh, topology);
  if (rims.empty())
    return Error{ErrorCode::NotFound, "The scan has no open border: nothing is missing."};
  NextView best;
  // Evenly picked ones tell as much of long borders.
  constexpr std::size_t kMost = 4000;
  const std::size_t stride = (rims.size() + kMost - 1) / kMost;
  std::vector<Rim> some;
  double length = 0;
  for (std::size_t k = 0; k < rims.size(); k += stride) {
    some.push_back(rims[k]);
    length += rims[k].length;
  }
  const double clear = 1e-4 * bounds(mesh).diagonal().norm();  // of the surface itself
  constexpr int kDirections = 200;
  constexpr double kFlattest = 0.5;  // cosine of 60 degrees
  std::vector<double> seen(kDirections, 0);
  std::vector<Vec3> directions;
  for (int d = 0; d < kDirections; ++d) {  // a spiral over the sphere
    const double z = 1 - (2.0 * d + 1) / kDirections;
    const double turn = d * std::numbers::pi * (3 - std::sqrt(5.0));
    const double r = std::sqrt(1 - z * z);
    directions.emplace_back(r * std::cos(turn), r * std::sin(turn), z);
  }
  parallel_for(kDirections, 1, [&](std::size_t begin, std::size_t end) {
    for (std::size_t d = begin; d < end && !task.stopped(); ++d) {
      for (const Rim& rim : some) {
        if (rim.normal.dot(directions[d]) < kFlattest) continue;
        if (!index.first_hit(rim.at + clear * (rim.normal + directions[d]), directions[d]))
          seen[d] += rim.length;
      }
    }
  });
  if (task.stopped()) return cancelled();
  const auto most = std::max_element(seen.begin(), seen.end());
  best.from = directions[static_cast<std::size_t>(most - seen.begin())];
  best.seen = length > 0 ? *most / length : 0;
  return best;
}

}  // namespace lostline::scan
