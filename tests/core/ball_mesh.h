#pragma once

#include <cmath>
#include <numbers>

#include "scan/mesh.h"

namespace lostline::testing {

/// A closed ball of rings between two poles, with shared vertices.
inline scan::Mesh ball_mesh(double radius, int rings, int round,
                            const Vec3& middle = Vec3::Zero()) {
  scan::Mesh mesh;
  const auto at = [&](int i, int j) {
    const double polar = std::numbers::pi * i / rings;
    const double turn = 2 * std::numbers::pi * j / round;
    return Vec3(middle + radius * Vec3(std::sin(polar) * std::cos(turn),
                                       std::sin(polar) * std::sin(turn), std::cos(polar)));
  };
  mesh.vertices.push_back(at(0, 0));
  for (int i = 1; i < rings; ++i)
    for (int j = 0; j < round; ++j) mesh.vertices.push_back(at(i, j));
  mesh.vertices.push_back(at(rings, 0));
  const auto ring = [round](int i, int j) {
    return static_cast<std::uint32_t>(1 + (i - 1) * round + j % round);
  };
  const auto last = static_cast<std::uint32_t>(mesh.vertices.size() - 1);
  for (int j = 0; j < round; ++j) {
    mesh.triangles.push_back({0, ring(1, j), ring(1, j + 1)});
    mesh.triangles.push_back({last, ring(rings - 1, j + 1), ring(rings - 1, j)});
    for (int i = 1; i + 1 < rings; ++i) {
      mesh.triangles.push_back({ring(i, j), ring(i + 1, j), ring(i + 1, j + 1)});
      mesh.triangles.push_back({ring(i, j), ring(i + 1, j + 1), ring(i, j + 1)});
    }
  }
  return mesh;
}

}  // namespace lostline::testing
