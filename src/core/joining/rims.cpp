#include "joining/rims.h"

#include <cmath>
#include <unordered_map>
#include <unordered_set>

#include "fit/estimate.h"

namespace lostline::joining {

std::vector<std::vector<std::uint32_t>> border_loops(const scan::Mesh& mesh,
                                                     const scan::Topology& topology,
                                                     const std::vector<std::uint32_t>& triangles) {
  const std::unordered_set<std::uint32_t> inside(triangles.begin(), triangles.end());
  std::unordered_map<std::uint32_t, std::uint32_t> next;
  for (const std::uint32_t t : triangles) {
    for (std::size_t k = 0; k < 3; ++k) {
      const std::uint32_t across = topology.across[3 * static_cast<std::size_t>(t) + k];
      if (across != scan::kNone && inside.contains(across)) continue;
      const scan::Triangle& corners = mesh.triangles[t];
      next[corners[k]] = corners[(k + 1) % 3];
    }
  }
  std::vector<std::vector<std::uint32_t>> loops;
  while (!next.empty()) {
    std::vector<std::uint32_t> loop;
    std::uint32_t at = next.begin()->first;
    for (auto found = next.find(at); found != next.end(); found = next.find(at)) {
      loop.push_back(at);
      at = found->second;
      next.erase(found);
    }
    if (at == loop.front()) loops.push_back(std::move(loop));
  }
  return loops;
}

std::vector<Rim> round_rims(const scan::Mesh& mesh, const scan::Topology& topology,
                            const fit::Surface& plane, const std::vector<std::uint32_t>& triangles,
                            double spacing) {
  const Vec3 u = any_perpendicular(plane.axis);
  const Vec3 v = plane.axis.cross(u);
  std::vector<Rim> rims;
  for (const auto& loop : border_loops(mesh, topology, triangles)) {
    constexpr std::size_t kFewest = 10;
    if (loop.size() < kFewest) continue;
    Eigen::Matrix2Xd flat(2, static_cast<Eigen::Index>(loop.size()));
    double turned = 0;  // twice the area that the loop goes round, anticlockwise
    for (std::size_t i = 0; i < loop.size(); ++i) {
      const Vec3 d = mesh.vertices[loop[i]] - plane.point;
      flat.col(static_cast<Eigen::Index>(i)) = Vec2(d.dot(u), d.dot(v));
    }
    for (Eigen::Index i = 0; i < flat.cols(); ++i) {
      const Vec2 a = flat.col(i);
      const Vec2 b = flat.col((i + 1) % flat.cols());
      turned += a.x() * b.y() - a.y() * b.x();
    }
    const auto circle = fit::algebraic_circle(flat);
    if (!circle) continue;
    double squares = 0;
    for (Eigen::Index i = 0; i < flat.cols(); ++i) {
      const double off = (flat.col(i) - circle->centre).norm() - circle->radius;
      squares += off * off;
    }
    const double rms = std::sqrt(squares / static_cast<double>(flat.cols()));
    if (rms > 0.6 * spacing) continue;
    rims.push_back({plane.point + circle->centre.x() * u + circle->centre.y() * v, circle->radius,
                    turned < 0});
  }
  return rims;
}

}  // namespace lostline::joining
