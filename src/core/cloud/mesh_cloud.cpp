#include "cloud/mesh_cloud.h"

#include <algorithm>
#include <cmath>

#include "base/median.h"
#include "base/parallel.h"
#include "cloud/neighbours.h"
#include "cloud/smooth.h"
#include "cloud/stars.h"

namespace lostline::cloud {
namespace {

scan::PointCloud in_order(const scan::PointCloud& cloud, const std::vector<std::uint32_t>& order) {
  scan::PointCloud sorted;
  const auto take = [&](const auto& from, auto& to) {
    if (from.empty()) return;
    to.reserve(order.size());
    for (const std::uint32_t i : order) to.push_back(from[i]);
  };
  take(cloud.points, sorted.points);
  take(cloud.normals, sorted.normals);
  take(cloud.noise, sorted.noise);
  take(cloud.seen, sorted.seen);
  sorted.eyes = cloud.eyes;
  return sorted;
}

/// Each point looks as the kept one next to it does.
std::vector<Vec3> as_nearest(const std::vector<Vec3>& points, const std::vector<Vec3>& places,
                             const std::vector<Vec3>& normals, double reach) {
  const PointGrid grid(places, reach);
  std::vector<Vec3> own(points.size(), Vec3::Zero());
  parallel_for(points.size(), 4096, [&](std::size_t begin, std::size_t end) {
    for (std::size_t i = begin; i < end; ++i) {
      double best = 1e300;
      grid.near(points[i], reach, [&](std::size_t j, double squared) {
        if (squared >= best) return;
        best = squared;
        own[i] = normals[j];
      });
    }
  });
  return own;
}

/// What a point alone scatters by, from how the surfaces fit that were laid through their places.
double noise_of(const std::vector<Settled>& settled) {
  std::vector<double> rests;
  for (const Settled& s : settled) {
    // A surface of six numbers through few points fits them too well.
    if (s.points < 10) continue;
    rests.push_back(s.rest / std::sqrt(1 - 6 / s.points));
  }
  return median(std::move(rests));
}

/// How many points stand nearer to a place that is in no mesh than to one that is.
/// @param kept  the points at which places are; @param index  of each place, its vertex or kNone.
/// @param grid  of the points; @param apart  mm: each point has a place as near as that.
std::size_t left_out(const std::vector<Vec3>& points, const std::vector<std::uint32_t>& kept,
                     const std::vector<std::uint32_t>& index, const PointGrid& grid, double apart) {
  std::vector<Vec3> meshed;
  std::vector<float> away(points.size(), -1);  // squared, from the nearest place without a vertex
  for (std::size_t i = 0; i < kept.size(); ++i) {
    if (index[i] != scan::kNone) {
      meshed.push_back(points[kept[i]]);
      continue;
    }
    grid.near(points[kept[i]], apart, [&](std::size_t k, double squared) {
      const auto d = static_cast<float>(squared);
      if (away[k] < 0 || d < away[k]) away[k] = d;
    });
  }
  if (meshed.size() == kept.size()) return 0;
  const PointGrid standing(meshed, apart);
  std::size_t count = 0;
  for (std::size_t k = 0; k < points.size(); ++k) {
    if (away[k] < 0) continue;
    bool nearer = false;
    standing.near(points[k], std::sqrt(static_cast<double>(away[k])),
                  [&](std::size_t, double) { nearer = true; });
    count += nearer ? 0 : 1;
  }
  return count;
}

}  // namespace

Result<Meshed> mesh_cloud(const scan::PointCloud& cloud, const MeshingOptions& options,
                          const Task& task) {
  if (cloud.points.size() < 4)
    return Error{ErrorCode::InvalidInput, "A surface needs at least four points; there are " +
                                              std::to_string(cloud.points.size()) + "."};
  if (!(options.spacing >= 0) || !(options.smooth >= 0) || !(options.bridge >= 1.5))
    return Error{ErrorCode::InvalidInput,
                 "Spacing and averaging may not be negative, and gaps up to 1.5 spacings must be "
                 "bridged at least."};
  for (const Vec3& p : cloud.points) {
    if (!p.allFinite())
      return Error{ErrorCode::InvalidInput, "A point has a coordinate that is not a number."};
  }
  Meshed meshed;
  meshed.cloud_spacing = spacing_of(cloud.points);
  if (!(meshed.cloud_spacing > 0))
    return Error{ErrorCode::Degenerate, "All points lie in one place: they show no surface."};
  // Wide enough for a dozen points on a surface, and for what is averaged.
  const double step = std::max(meshed.cloud_spacing, options.spacing);
  const double look = std::max(2.0 * step, 2.4 * meshed.cloud_spacing);
  const double reach = std::max(options.smooth * step, look);
  // In the order of their places: neighbours are asked for all the time.
  scan::PointCloud sorted = in_order(cloud, PointGrid(cloud.points, reach).order());
  // Normals that most points lack are of no use.
  const auto has_normal = [](const Vec3& n) { return n.squaredNorm() > 0.5; };
  if (2 * std::count_if(sorted.normals.begin(), sorted.normals.end(), has_normal) <
      static_cast<std::ptrdiff_t>(sorted.normals.size()))
    sorted.normals.clear();
  // A grid of points stays whole, a random cloud becomes more even. Of many points those that are
  // kept stand a fifth further apart than they must (the packing of spheres that arrive at random
  // covers 0.547 of a plane); of few they are as sparse as they were.
  constexpr double kEven = 0.7;
  const double apart =
      options.spacing > 0
          ? options.spacing *
                std::clamp(0.5 + 0.15 * options.spacing / meshed.cloud_spacing, 0.65, 0.8)
          : kEven * meshed.cloud_spacing;
  const auto kept = thinned(sorted.points, apart, task.part(0, 0.15));
  if (task.stopped()) return cancelled();
  std::vector<Vec3> places;
  places.reserve(kept.size());
  for (const std::uint32_t i : kept) places.push_back(sorted.points[i]);
  meshed.spacing = std::max(spacing_of(places), apart);
  const PointGrid grid(sorted.points, reach);
  scan::PointCloud seen = sorted;
  std::vector<Vec3> normals;
  if (sorted.has_normals()) {
    for (const std::uint32_t i : kept) normals.push_back(sorted.normals[i]);
  } else {
    normals = normals_of(places, grid, sorted.points, look, task.part(0.15, 0.3));
    if (task.stopped()) return cancelled();
    std::size_t told = 0;
    for (const Vec3& normal : normals) told += normal.squaredNorm() > 0.5 ? 1 : 0;
    if (2 * told < normals.size())
      return Error{ErrorCode::Degenerate,
                   "The points show no surface: they lie on lines, or too far from each other."};
    std::vector<Vec3> towards;
    for (const std::uint32_t i : sorted.seen.empty() ? std::vector<std::uint32_t>() : kept)
      towards.push_back((sorted.eyes[sorted.seen[i]] - sorted.points[i]).normalized());
    orient(places, normals, look, towards, task.part(0.3, 0.4));
    if (task.stopped()) return cancelled();
    seen.normals = as_nearest(sorted.points, places, normals, 1.01 * apart);
  }
  const std::vector<Settled> settled =
      settle_on_surface(places, normals, seen, grid, reach, task.part(0.4, 0.7));
  if (task.stopped()) return cancelled();
  meshed.noise = noise_of(settled);
  for (std::size_t i = 0; i < places.size(); ++i) {
    if (options.smooth > 0) places[i] = settled[i].at;
    normals[i] = settled[i].normal;
  }
  const scan::Mesh joined =
      join_stars(places, normals, options.bridge * meshed.spacing, task.part(0.7, 1));
  if (task.stopped()) return cancelled();
  if (joined.triangles.empty())
    return Error{ErrorCode::Degenerate,
                 "The points join to no surface: they lie too far from each other, or on lines. "
                 "Bridge more spacings."};
  const scan::Components islands = scan::connected_components(joined, scan::build_topology(joined));
  std::vector<char> keep(joined.triangles.size(), 0);
  for (std::size_t t = 0; t < keep.size(); ++t)
    keep[t] =
        islands.sizes[islands.label[t]] >= std::min(options.least_island, islands.sizes.front())
            ? 1
            : 0;
  std::vector<std::uint32_t> new_index(places.size(), scan::kNone);
  for (std::size_t t = 0; t < keep.size(); ++t) {
    if (keep[t] == 0) continue;
    scan::Triangle triangle = joined.triangles[t];
    for (std::uint32_t& v : triangle) {
      if (new_index[v] == scan::kNone) {
        new_index[v] = static_cast<std::uint32_t>(meshed.mesh.vertices.size());
        meshed.mesh.vertices.push_back(places[v]);
        const double left = options.smooth > 0 ? settled[v].share : 1;
        meshed.u.push_back(static_cast<float>(2 * left * std::max(settled[v].rest, meshed.noise)));
      }
      v = new_index[v];
    }
    meshed.mesh.triangles.push_back(triangle);
  }
  meshed.dropped = left_out(sorted.points, kept, new_index, grid, apart);
  task.report(1);
  return meshed;
}

}  // namespace lostline::cloud
