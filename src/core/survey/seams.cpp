#include "survey/seams.h"

#include <algorithm>
#include <cmath>

#include "base/parallel.h"

namespace lostline::survey {
namespace {

/// Region with a fit that most triangles about a vertex belong to; 0: none.
std::uint32_t region_at(const Survey& survey, const scan::Topology& topology, std::size_t vertex) {
  std::uint32_t best = 0;
  int most = 0;
  for (const std::uint32_t t : topology.vertex_triangles[vertex]) {
    const std::uint32_t region = survey.triangle_region[t];
    if (region == 0 || !survey.regions[region - 1].fit || region == best) continue;
    int count = 0;
    for (const std::uint32_t other : topology.vertex_triangles[vertex])
      count += survey.triangle_region[other] == region ? 1 : 0;
    if (count > most) {
      most = count;
      best = region;
    }
  }
  return best;
}

}  // namespace

void measure_regions(Survey& survey, const scan::Mesh& mesh) {
  for (Region& r : survey.regions) {
    r.area = 0;
    r.triangles = 0;
    r.centre.setZero();
  }
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    if (survey.triangle_region[t] == 0) continue;
    Region& r = survey.regions[survey.triangle_region[t] - 1];
    const double area = 0.5 * mesh.area_vector(t).norm();
    r.area += area;
    r.centre += area * mesh.centroid(t);
    ++r.triangles;
  }
  for (Region& r : survey.regions) {
    if (r.area > 0) r.centre /= r.area;
  }
}

void close_seams(Survey& survey, const scan::Mesh& mesh, const scan::Topology& topology,
                 double spacing) {
  const std::size_t n = mesh.vertices.size();
  std::vector<std::uint32_t> at(n);
  parallel_for(n, 4096, [&](std::size_t begin, std::size_t end) {
    for (std::size_t v = begin; v < end; ++v) at[v] = region_at(survey, topology, v);
  });
  // An edge rounded over half a spacing departs by less than this where it is square.
  constexpr double kRounding = 0.35;
  const auto departure = [&](std::uint32_t region, const Vec3& p) {
    const fit::SurfaceFit& f = *survey.regions[region - 1].fit;
    const double d = std::abs(f.surface.distance(p));
    return d <= kRounding * spacing + 3.5 * f.sigma ? d : 1e300;
  };
  const std::vector<std::uint32_t> before = at;
  for (int pass = 0; pass < 2; ++pass) {
    std::vector<std::uint32_t> next = at;
    parallel_for(n, 4096, [&](std::size_t begin, std::size_t end) {
      for (std::size_t v = begin; v < end; ++v) {
        if (at[v] != 0) continue;
        std::uint32_t first = 0;
        bool seam = false;
        for (const std::uint32_t near : topology.vertex_neighbours[v]) {
          for (const std::uint32_t far : topology.vertex_neighbours[near]) {
            if (before[far] == 0) continue;
            seam = seam || (first != 0 && before[far] != first);
            first = before[far];
          }
        }
        if (!seam) continue;
        double least = 1e299;
        for (const std::uint32_t near : topology.vertex_neighbours[v]) {
          if (at[near] == 0) continue;
          const double d = departure(at[near], mesh.vertices[v]);
          if (d >= least) continue;
          least = d;
          next[v] = at[near];
        }
      }
    });
    at.swap(next);
  }
  parallel_for(mesh.triangles.size(), 4096, [&](std::size_t begin, std::size_t end) {
    for (std::size_t t = begin; t < end; ++t) {
      std::uint32_t& label = survey.triangle_region[t];
      if (label != 0 && survey.regions[label - 1].fit) continue;
      const scan::Triangle& corners = mesh.triangles[t];
      if (std::any_of(corners.begin(), corners.end(), [&](std::uint32_t v) { return at[v] == 0; }))
        continue;
      double least = 1e299;
      for (const std::uint32_t v : corners) {
        const double d = departure(at[v], mesh.centroid(t));
        if (d >= least) continue;
        least = d;
        label = at[v];
      }
    }
  });
}

}  // namespace lostline::survey
