#include "simulate/scanner.h"

#include <algorithm>
#include <atomic>
#include <cmath>

#include "base/parallel.h"
#include "model/faces.h"
#include "simulate/chance.h"
#include "simulate/grid_surface.h"

namespace lostline::simulate {
namespace {

/// Smooth random field of unit variance with features of about `size` mm: the skin of a casting.
double field(std::uint64_t seed, const Vec3& p, double size) {
  const Vec3 q = p / size;
  const Vec3 base(std::floor(q.x()), std::floor(q.y()), std::floor(q.z()));
  const Vec3 f = q - base;
  double sum = 0;
  double squares = 0;
  for (int c = 0; c < 8; ++c) {
    double weight = 1;
    std::uint64_t key = 0;
    for (int k = 0; k < 3; ++k) {
      const bool high = (c >> k & 1) != 0;
      const double s = f[k] * f[k] * (3 - 2 * f[k]);
      weight *= high ? s : 1 - s;
      key = key * 2097152U + static_cast<std::uint64_t>(static_cast<std::int64_t>(base[k]) +
                                                        (high ? 1 : 0) + (1 << 20));
    }
    sum += weight * normal(seed, key, 7);
    squares += weight * weight;
  }
  return sum / std::sqrt(squares);
}

/// Moves points near an edge towards their neighbours, as a scanner's spot of half a spacing does;
/// smooth surfaces keep their place.
void round_edges(scan::Mesh& mesh, const scan::Topology& topology,
                 const std::vector<Vec3>& normals) {
  std::vector<Vec3> next(mesh.vertices.size());
  parallel_for(next.size(), 4096, [&](std::size_t begin, std::size_t end) {
    for (std::size_t v = begin; v < end; ++v) {
      Vec3 mean = Vec3::Zero();
      const auto ring = topology.vertex_neighbours[v];
      double turn = 0;
      for (const std::uint32_t other : ring) {
        mean += mesh.vertices[other];
        turn = std::max(turn, (normals[other] - normals[v]).norm());
      }
      const double share = 0.5 * std::clamp((turn - 0.35) / 0.35, 0.0, 1.0);
      next[v] = ring.size() == 0 ? mesh.vertices[v]
                                 : Vec3((1 - share) * mesh.vertices[v] +
                                        share * mean / static_cast<double>(ring.size()));
    }
  });
  mesh.vertices = std::move(next);
}

/// Moves points from the chords of a tessellation to the surface itself where that is a plane,
/// cylinder, cone, sphere or torus: a fit of many points tells a radius to less than the chords'
/// height.
void lift_from_chords(scan::Mesh& mesh, const scan::MeshIndex& index,
                      const model::Tessellation& tessellation, const model::Model& solid,
                      const Transform& pose, double chord) {
  std::vector<std::optional<fit::Surface>> surfaces;
  for (std::size_t f = 0; f < solid.face_count(); ++f) {
    const auto own = model::surface_of_face(solid, f);
    surfaces.push_back(own ? std::optional(fit::transformed(*own, pose)) : std::nullopt);
  }
  parallel_for(mesh.vertices.size(), 4096, [&](std::size_t begin, std::size_t end) {
    for (std::size_t v = begin; v < end; ++v) {
      Vec3& p = mesh.vertices[v];
      const auto nearest = index.nearest(p);
      if (!nearest) continue;
      const auto& face = surfaces[tessellation.triangle_face[nearest->triangle]];
      if (!face) continue;
      const double off = face->distance(p);
      if (std::abs(off) <= 2 * chord) p -= off * face->normal_at(p);
    }
  });
}

void add_strays(scan::Mesh& mesh, const ScanOptions& options) {
  const Box3 box = scan::bounds(mesh);
  for (int s = 0; s < options.strays; ++s) {
    const auto key = static_cast<std::uint64_t>(s);
    const Vec3 spot(uniform(options.seed, 200, 3 * key), uniform(options.seed, 200, 3 * key + 1),
                    uniform(options.seed, 200, 3 * key + 2));
    const Vec3 centre = box.min() + box.sizes().cwiseProduct(1.2 * spot - Vec3::Constant(0.1));
    const int side = 3 + static_cast<int>(4 * uniform(options.seed, 201, key));
    const Transform tilt = random_pose(options.seed + 1000 + key);
    const auto offset = static_cast<std::uint32_t>(mesh.vertices.size());
    for (int i = 0; i < side; ++i) {
      for (int j = 0; j < side; ++j) {
        const auto k = static_cast<std::uint64_t>(i * side + j);
        mesh.vertices.push_back(
            centre +
            tilt.linear() * Vec3(i * options.spacing, j * options.spacing,
                                 0.2 * options.spacing * normal(options.seed, 300 + key, k)));
      }
    }
    for (int i = 0; i + 1 < side; ++i) {
      for (int j = 0; j + 1 < side; ++j) {
        const auto a = offset + static_cast<std::uint32_t>(i * side + j);
        const auto n = static_cast<std::uint32_t>(side);
        mesh.triangles.push_back({a, a + n, a + 1});
        mesh.triangles.push_back({a + 1, a + n, a + n + 1});
      }
    }
  }
}

}  // namespace

Result<SimulatedScan> simulate_scan(const model::Model& solid, const SurfaceState& surface,
                                    const ScanOptions& options, const Task& task) {
  if (solid.empty()) return Error{ErrorCode::InvalidInput, "There is no model to scan."};
  if (!(options.spacing > 0) || !(options.noise >= 0) || !(options.chord > 0) ||
      options.views < 1 || options.views > 1000) {
    return Error{ErrorCode::InvalidInput,
                 "Spacing must be above zero, noise not below it, and views between 1 and 1000."};
  }
  const double extent = solid.box().sizes().maxCoeff();
  if (extent / options.spacing > 900) {
    return Error{ErrorCode::InvalidInput, "A spacing of " + std::to_string(options.spacing) +
                                              " mm is too fine for a part of " +
                                              std::to_string(extent) + " mm; use " +
                                              std::to_string(extent / 900) + " mm or more."};
  }
  model::TessellationOptions fine;
  fine.deflection = options.chord;
  fine.angle = 10 * options.chord;  // rad: of bends of a few millimetres
  Result<model::Tessellation> tessellation = model::tessellate(solid, fine);
  if (!tessellation) return tessellation.error();
  SimulatedScan result;
  result.pose = options.random_pose ? random_pose(options.seed) : Transform::Identity();
  const scan::Mesh posed = scan::transformed(tessellation->mesh, result.pose);
  const scan::MeshIndex index(posed);
  task.report(0.1);
  scan::Mesh mesh = grid_surface(posed, index, options.spacing);
  lift_from_chords(mesh, index, *tessellation, solid, result.pose, options.chord);
  if (task.stopped()) return cancelled();
  task.report(0.5);
  const scan::Topology topology = scan::build_topology(mesh);
  const std::vector<Vec3> normals = scan::vertex_normals(mesh);
  const Transform to_model = result.pose.inverse();
  const Vec3 middle = scan::bounds(mesh).center();
  std::vector<Vec3> scanners;
  for (int v = 0; v < options.views; ++v) {  // a spiral over the sphere
    const double z = 1 - (2.0 * v + 1) / options.views;
    const double turn = v * kPi * (3 - std::sqrt(5.0));
    const double r = std::sqrt(1 - z * z);
    const Vec3 way(r * std::cos(turn), r * std::sin(turn), z);
    constexpr double kBehind = -0.087;  // cosine of 95 degrees
    if (!options.side.isZero() &&
        way.dot(result.pose.linear() * options.side.normalized()) < kBehind)
      continue;
    scanners.emplace_back(middle + options.distance * way);
  }
  result.views = static_cast<int>(scanners.size());
  const std::vector<Vec3> exact = mesh.vertices;
  round_edges(mesh, topology, normals);
  std::vector<char> seen(mesh.vertices.size(), 0);
  std::atomic<std::size_t> done{0};
  parallel_for(mesh.vertices.size(), 1024, [&](std::size_t begin, std::size_t end) {
    if (task.stopped()) return;
    for (std::size_t i = begin; i < end; ++i) {
      Vec3 shift = Vec3::Zero();
      int count = 0;
      for (std::size_t v = 0; v < scanners.size(); ++v) {
        const Vec3 ray = (scanners[v] - exact[i]).normalized();
        const double cosine = ray.dot(normals[i]);
        if (cosine < std::cos(options.grazing_limit)) continue;
        // The signal fades towards the limit: some points are lost before it.
        if (uniform(options.seed + 11, i, v) >
            std::min(1.0, 3 * (cosine - std::cos(options.grazing_limit)) + 0.3))
          continue;
        if (index.first_hit(exact[i] + 0.02 * normals[i] + 0.05 * ray, ray)) continue;
        shift += ray * (options.noise / std::sqrt(cosine) * normal(options.seed + 12, i, v));
        ++count;
      }
      if (count == 0) continue;
      seen[i] = 1;
      const Vec3 n_model = to_model.linear() * normals[i];
      const Vec3 p_model = to_model * exact[i];
      double along = 0;
      if (surface.roughness)
        along += surface.roughness(p_model, n_model) * field(options.seed + 13, p_model, 1.2);
      if (surface.wear) along += surface.wear(p_model, n_model);
      // Averaging overlapping views lowers their noise only in part, since they share the
      // calibration (common practice, no source): the averaged point keeps the stated noise.
      mesh.vertices[i] += shift / std::sqrt(static_cast<double>(count)) + along * normals[i];
    }
    task.report(0.5 + 0.45 * static_cast<double>(done += end - begin) /
                          static_cast<double>(mesh.vertices.size()));
  });
  if (task.stopped()) return cancelled();
  std::vector<char> keep(mesh.triangles.size(), 0);
  for (std::size_t t = 0; t < keep.size(); ++t) {
    const scan::Triangle& c = mesh.triangles[t];
    keep[t] = seen[c[0]] != 0 && seen[c[1]] != 0 && seen[c[2]] != 0;
  }
  const auto unseen = static_cast<double>(std::count(seen.begin(), seen.end(), 0));
  result.unseen_fraction = unseen / static_cast<double>(seen.size());
  result.mesh = scan::extract(mesh, keep);
  add_strays(result.mesh, options);
  task.report(1.0);
  return result;
}

}  // namespace lostline::simulate
