#pragma once

#include <random>

#include "random_parts.h"
#include "scan/mesh_index.h"

// What scanners at several places see of one part, each scan lying anyhow.

namespace lostline::testing {

struct PartialScan {
  scan::Mesh mesh;
  Transform pose;  ///< model to scan
};

/// What can be seen of a model from one direction, with noise of its own, moved anywhere.
/// @param eye  unit, from the part, model coordinates.
inline PartialScan partial_scan(const model::Model& solid, const Vec3& eye, double spacing,
                                double noise, unsigned seed,
                                const simulate::SurfaceState& surface = {}) {
  simulate::ScanOptions options;
  options.spacing = spacing;
  options.noise = noise;
  options.seed = seed;
  options.strays = 0;
  options.random_pose = true;
  auto scan = simulate::simulate_scan(solid, surface, options);
  EXPECT_TRUE(scan) << scan.error().message;
  const Vec3 towards = scan->pose.linear() * eye;
  const scan::MeshIndex index(scan->mesh);
  std::vector<char> keep(scan->mesh.triangles.size(), 0);
  for (std::size_t t = 0; t < keep.size(); ++t) {
    const Vec3 area = scan->mesh.area_vector(t);
    const Vec3 normal = area.normalized();
    if (normal.dot(towards) < 0.26) continue;  // 75 degrees
    keep[t] = index.first_hit(scan->mesh.centroid(t) + 0.3 * spacing * (normal + towards), towards)
                  ? 0
                  : 1;
  }
  return {scan::extract(scan->mesh, keep), scan->pose};
}

/// Views from round about and above, as on a turntable: neighbours share about half of what they
/// see, those across from each other a quarter or less.
inline std::vector<PartialScan> partial_scans(const model::Model& solid, int count, double spacing,
                                              double noise, unsigned seed,
                                              const simulate::SurfaceState& surface = {}) {
  std::mt19937 rng(seed);
  std::uniform_real_distribution<double> turn(0, 2 * std::numbers::pi);
  const double first = turn(rng);
  std::vector<PartialScan> scans;
  for (int k = 0; k < count; ++k) {
    const double angle = first + 2 * std::numbers::pi * k / count;
    const double up = 0.5 + 0.3 * turn(rng) / std::numbers::pi;
    const Vec3 eye = Vec3(std::cos(angle), std::sin(angle), up).normalized();
    scans.push_back(
        partial_scan(solid, eye, spacing, noise, 1000 * seed + static_cast<unsigned>(k), surface));
  }
  return scans;
}

}  // namespace lostline::testing
