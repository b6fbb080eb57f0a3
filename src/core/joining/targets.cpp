#include "joining/targets.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include "scan/mesh_index.h"

namespace lostline::joining {
namespace {

using Vertices = std::vector<std::uint32_t>;

Result<fit::SurfaceFit> sphere_of(const scan::Mesh& mesh, const std::vector<Vec3>& normals,
                                  const Vertices& vertices,
                                  const std::optional<fit::Surface>& start) {
  Eigen::Matrix3Xd points(3, static_cast<Eigen::Index>(vertices.size()));
  Eigen::Matrix3Xd directions(3, points.cols());
  for (std::size_t i = 0; i < vertices.size(); ++i) {
    points.col(static_cast<Eigen::Index>(i)) = mesh.vertices[vertices[i]];
    directions.col(static_cast<Eigen::Index>(i)) = normals[vertices[i]];
  }
  return fit::fit_surface(fit::Kind::Sphere, points, directions, start);
}

/// The next vertices around some, outside of them.
Vertices around(const scan::Topology& topology, const Vertices& some, std::vector<char>& taken) {
  Vertices next;
  for (const std::uint32_t v : some) {
    for (const std::uint32_t w : topology.vertex_neighbours[v]) {
      if (taken[w] != 0) continue;
      taken[w] = 1;
      next.push_back(w);
    }
  }
  return next;
}

}  // namespace

Result<fit::SurfaceFit> ball_at(const scan::Mesh& mesh, const Vec3& place) {
  const Error none{ErrorCode::Degenerate,
                   "What lies there is no ball whose centre could be told. Pick a place on a ball "
                   "that the scan shows well."};
  const auto nearest = scan::MeshIndex(mesh).nearest(place);
  const double size = scan::bounds(mesh).diagonal().norm();
  if (!nearest || nearest->distance > 0.05 * size)
    return Error{ErrorCode::InvalidInput, "The place of a ball lies nowhere near its scan."};
  const scan::Topology topology = scan::build_topology(mesh);
  const std::vector<Vec3> normals = scan::vertex_normals(mesh);
  std::vector<char> taken(mesh.vertices.size(), 0);
  Vertices ball{mesh.triangles[nearest->triangle][0]};
  taken[ball.front()] = 1;
  constexpr std::size_t kSeed = 60;  // enough for a first sphere, few enough to stay on a target
  for (Vertices edge = ball; ball.size() < kSeed && !edge.empty();) {
    edge = around(topology, edge, taken);
    ball.insert(ball.end(), edge.begin(), edge.end());
  }
  if (ball.size() < kSeed / 2) return none;
  auto fit = sphere_of(mesh, normals, ball, {});
  // Ring by ring over what lies on the sphere and looks away from its centre; fitted anew as often
  // as it has grown by half.
  for (int round = 0; fit && round < 60; ++round) {
    const fit::Surface sphere = fit->surface;
    const double near = 5 * std::max(fit->sigma, 1e-4 * sphere.radius);
    const auto lies_on = [&](std::uint32_t v) {
      const Vec3 out = mesh.vertices[v] - sphere.point;
      constexpr double kOutwards = 0.87;  // cosine: normals of noisy scans stray by 30 degrees
      return std::abs(out.norm() - sphere.radius) < near &&
             std::abs(out.normalized().dot(normals[v])) > kOutwards;
    };
    const std::size_t enough = ball.size() + ball.size() / 2;
    std::erase_if(ball, [&](std::uint32_t v) { return !lies_on(v); });
    if (ball.size() < kSeed / 2) return none;
    const std::size_t before = ball.size();
    std::fill(taken.begin(), taken.end(), 0);
    for (const std::uint32_t v : ball) taken[v] = 1;
    for (Vertices edge = ball; ball.size() < enough && !edge.empty();) {
      edge = around(topology, edge, taken);
      std::erase_if(edge, [&](std::uint32_t v) { return !lies_on(v); });
      ball.insert(ball.end(), edge.begin(), edge.end());
    }
    fit = sphere_of(mesh, normals, ball, sphere);
    if (ball.size() == before) break;
  }
  // A centre that strays by a tenth of the radius is no target (common practice, no source).
  if (!fit || !(fit->u_offset < 0.1 * fit->surface.radius) ||
      !(fit->rms < 0.05 * fit->surface.radius))
    return none;
  return fit;
}

}  // namespace lostline::joining
