#include "scan/health.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <mutex>

#include "base/median.h"
#include "base/parallel.h"
#include "scan/noise.h"

namespace lostline::scan {
Result<LocalQuality> local_quality(const Mesh& mesh, const Topology& topology, const Task& task) {
  const std::size_t n = mesh.vertices.size();
  LocalQuality q;
  q.spacing.assign(n, 0);
  q.noise.assign(n, std::nanf(""));
  std::vector<float> own(n, -1);
  parallel_for(n, 512, [&](std::size_t begin, std::size_t end) {
    for (std::size_t i = begin; i < end && !task.stopped(); ++i) {
      const auto v = static_cast<std::uint32_t>(i);
      own[i] = static_cast<float>(ring_noise(mesh, topology, v));
      double sum = 0;
      for (const std::uint32_t other : topology.vertex_neighbours[v])
        sum += (mesh.vertices[other] - mesh.vertices[v]).norm();
      const std::size_t neighbours = topology.vertex_neighbours[v].size();
      if (neighbours > 0) q.spacing[i] = static_cast<float>(sum / static_cast<double>(neighbours));
    }
  });
  if (task.stopped()) return cancelled();
  task.report(0.8);
  // One patch of twenty points says little: the median over the ring is steadier.
  parallel_for(n, 2048, [&](std::size_t begin, std::size_t end) {
    std::vector<double> around;
    for (std::size_t i = begin; i < end; ++i) {
      around.clear();
      if (own[i] >= 0) around.push_back(own[i]);
      for (const std::uint32_t other : topology.vertex_neighbours[static_cast<std::uint32_t>(i)])
        if (own[other] >= 0) around.push_back(own[other]);
      if (!around.empty()) q.noise[i] = static_cast<float>(median(around));
    }
  });
  task.report(1.0);
  return q;
}

Result<Health> examine(const Mesh& mesh, const Topology& topology, const Task& task) {
  Health health;
  health.triangles = mesh.triangles.size();
  health.vertices = mesh.vertices.size();
  health.box = bounds(mesh);
  health.open_edges = topology.open_edges;
  health.non_manifold_edges = topology.non_manifold_edges;
  task.report(0.1);

  const Vec3 middle = health.box.isEmpty() ? Vec3(Vec3::Zero()) : Vec3(health.box.center());
  std::vector<double> edges;
  edges.reserve(mesh.triangles.size());
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    const Vec3 a = mesh.corner(t, 0) - middle;
    const Vec3 b = mesh.corner(t, 1) - middle;
    const Vec3 c = mesh.corner(t, 2) - middle;
    const double area = 0.5 * (b - a).cross(c - a).norm();
    if (!(area > 0)) ++health.zero_area_triangles;
    health.area += area;
    health.volume += a.dot(b.cross(c)) / 6.0;
    edges.push_back((b - a).norm());
  }
  health.spacing = median(edges);
  task.report(0.4);
  if (task.stopped()) return cancelled();

  const Components components = connected_components(mesh, topology);
  health.components = components.sizes.size();
  for (const std::size_t size : components.sizes) {
    if (static_cast<double>(size) < kIslandShare * static_cast<double>(components.sizes.front())) {
      ++health.islands;
      health.island_triangles += size;
    }
  }
  // A missing patch can at most hide the volume under it; an inside-out closed part is negative by
  // far more.
  const double side = health.box.isEmpty() ? 0.0 : health.box.sizes().maxCoeff();
  health.inside_out = health.volume < -0.001 * side * health.area;
  task.report(0.6);
  if (task.stopped()) return cancelled();
  const Noise noise = measure_noise(mesh, topology);
  health.noise_sigma = noise.sigma;
  health.noise_correlation = noise.correlation;
  task.report(1.0);
  return health;
}

UnitGuess guess_unit(double extent, double spacing) {
  // Scanned machine parts: sides of 20 mm to 2 m around 200 mm, spacing of 0.05 to 3 mm around 0.4
  // mm (common practice, no source). Each candidate is scored by its distance from those on a
  // logarithmic scale; millimetres win a tie.
  struct Candidate {
    Unit unit;
    double handicap;
  };
  constexpr std::array<Candidate, 4> kCandidates{
      {{Unit::Millimetre, 0.0}, {Unit::Inch, 0.8}, {Unit::Metre, 0.8}, {Unit::Centimetre, 2.0}}};
  UnitGuess guess;
  double best = 1e300;
  for (const auto& [unit, handicap] : kCandidates) {
    const double side = std::log10(std::max(extent * mm_per(unit), 1e-9) / 200.0) / 0.5;
    double score = side * side + handicap;
    if (spacing > 0) {
      const double step = std::log10(spacing * mm_per(unit) / 0.4) / 0.6;
      score += step * step;
    }
    if (score < best) {
      best = score;
      guess.unit = unit;
    }
  }
  const std::string size = format_trimmed(extent * mm_per(guess.unit), extent < 1 ? 2 : 1);
  guess.reason = "longest side " + format_trimmed(extent, 3) + " in the file: read as " +
                 unit_symbol(guess.unit) + " it is " + size + " mm";
  if (spacing > 0) {
    guess.reason += " with points " + format_trimmed(spacing * mm_per(guess.unit), 2) + " mm apart";
  }
  return guess;
}

Mesh drop_islands(const Mesh& mesh, const Topology& topology, double share) {
  const Components components = connected_components(mesh, topology);
  std::vector<char> keep(mesh.triangles.size(), 0);
  const double smallest =
      components.sizes.empty() ? 0.0 : share * static_cast<double>(components.sizes.front());
  for (std::size_t t = 0; t < keep.size(); ++t) {
    keep[t] = static_cast<double>(components.sizes[components.label[t]]) >= smallest &&
              mesh.area_vector(t).squaredNorm() > 0;
  }
  return extract(mesh, keep);
}

Mesh flipped(Mesh mesh) {
  for (Triangle& t : mesh.triangles) std::swap(t[1], t[2]);
  return mesh;
}

}  // namespace lostline::scan
