// What the survey finds of a family of parts under varied scanning: a table of faces found, fits of
// a wrong type and time.
#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <string>

#include "part_family.h"
#include "random_parts.h"
#include "scan/clean.h"
#include "survey_score.h"

namespace lostline {
namespace {

std::vector<testing::Part> parts_at_random(int first, int count, const std::string& kind) {
  std::vector<testing::Part> parts;
  for (int seed = first; seed < first + count; ++seed) {
    const testing::RandomPart part(static_cast<unsigned>(seed));
    if (!kind.empty() && kind != part.kind()) continue;
    auto made = part.make();
    parts.push_back({std::string(made.kind) + " " + std::to_string(seed), std::move(made.solid),
                     std::move(made.surface)});
  }
  return parts;
}

struct Condition {
  const char* name;
  double noise, spacing;
  int views;
  double roughness;  // mm, of every other face direction: as cast
  double warp;       // mm, bend of the whole part
  int strays;
  double thin = 0;  // mm: thinned by curvature to as many triangles as an even mesh of it has
};

int run(const std::vector<testing::Part>& parts, const std::string& only) {
  const Condition conditions[] = {
      {"plain", 0.02, 0.9, 18, 0, 0, 14},      {"fine", 0.02, 0.6, 18, 0, 0, 14},
      {"dense", 0.02, 0.4, 18, 0, 0, 14},      {"coarse", 0.02, 1.3, 18, 0, 0, 14},
      {"noisy", 0.05, 0.9, 18, 0, 0, 14},      {"as-cast", 0.02, 0.9, 18, 0.04, 0, 14},
      {"warped", 0.02, 0.9, 18, 0, 0.08, 14},  {"few views", 0.02, 0.9, 6, 0, 0, 60},
      {"uneven", 0.02, 0.6, 18, 0, 0, 14, 0.9}};
  std::printf("%-10s %6s %6s %6s %6s %8s %8s %8s\n", "scan", "faces", "found", "fits", "wrong",
              "free %", "border %", "s / M tri");
  for (const Condition& c : conditions) {
    if (!only.empty() && only != c.name) continue;
    testing::Score all;
    double free = 0;
    double border = 0;
    double seconds = 0;
    double triangles = 0;
    for (const testing::Part& part : parts) {
      simulate::SurfaceState surface = part.surface;
      if (c.roughness > 0)
        surface.roughness = [&](const Vec3&, const Vec3& n) {
          return std::abs(n.z()) < 0.5 ? c.roughness : 0.1 * c.roughness;
        };
      if (c.warp > 0)
        surface.wear = [&](const Vec3& p, const Vec3& n) {
          return n.z() * c.warp * (p.x() * p.x() / 8000 - 0.5);
        };
      simulate::ScanOptions options;
      options.noise = c.noise;
      options.spacing = c.spacing;
      options.views = c.views;
      options.strays = c.strays;
      options.seed = 21;
      const auto scan = simulate::simulate_scan(part.solid, surface, options);
      if (!scan) {
        std::fprintf(stderr, "%s: %s\n", part.name.c_str(), scan.error().message.c_str());
        continue;
      }
      scan::Mesh mesh = scan->mesh;
      if (c.thin > 0) {
        auto thinned = scan::thin(mesh, scan::Thinning::Curvature, c.thin);
        if (!thinned) return 1;
        mesh = (*std::move(thinned)).mesh;
      }
      const scan::Topology topology = scan::build_topology(mesh);
      const auto start = std::chrono::steady_clock::now();
      const auto found = survey::split_into_regions(mesh, topology);
      const double took =
          std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
      if (!found) return 1;
      const testing::Score s = testing::judge(part.solid, scan->pose.inverse(), *found, mesh,
                                              topology, c.spacing, c.warp, !only.empty());
      std::printf("  %-14s %4d/%-4d %d wrong of %d, %.1f %% free, %.1f %% of borders, %.2f s\n",
                  part.name.c_str(), s.found, s.faces, s.wrong, s.regions,
                  100 * found->unassigned_area_fraction, 100 * s.border, took);
      border += s.border / static_cast<double>(parts.size());
      all.add(s);
      free += found->unassigned_area_fraction / static_cast<double>(parts.size());
      seconds += took;
      triangles += 1e-6 * static_cast<double>(mesh.triangles.size());
    }
    std::printf("%-10s %6d %6d %6d %6d %8.1f %8.1f %8.2f\n", c.name, all.faces, all.found,
                all.regions, all.wrong, 100 * free, 100 * border, seconds / triangles);
    std::printf("less than 2.5 spacings wide: %d of %d found; wider: %d of %d, %.1f %%\n",
                all.narrow_found, all.narrow, all.found - all.narrow_found, all.faces - all.narrow,
                100.0 * (all.found - all.narrow_found) / std::max(1, all.faces - all.narrow));
    std::printf("U holds:");
    for (const auto& [what, held] : all.u)
      std::printf(" %s %.1f %% of %d;", what.c_str(), 100.0 * held.held / held.of, held.of);
    std::printf("\n");
  }
  return 0;
}

}  // namespace
}  // namespace lostline

// lostline_survey_table [CONDITION [FIRST_SEED COUNT [KIND]]]: parts at random where seeds are
// given.
int main(int argc, char** argv) {
  const auto parts = argc > 3 ? lostline::parts_at_random(std::atoi(argv[2]), std::atoi(argv[3]),
                                                          argc > 4 ? argv[4] : "")
                              : lostline::testing::part_family();
  return lostline::run(parts, argc > 1 ? argv[1] : "");
}
