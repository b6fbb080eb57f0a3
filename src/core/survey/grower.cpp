#include "survey/grower.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <numeric>

#include "base/parallel.h"
#include "scan/health.h"
#include "scan/noise.h"

namespace lostline::survey {
namespace {

struct Sample {
  Eigen::Matrix3Xd points;
  Eigen::Matrix3Xd normals;
};

Sample sample_of(const std::vector<std::uint32_t>& vertices, const std::vector<Vec3>& points,
                 const std::vector<Vec3>& normals, std::size_t most) {
  const std::size_t stride = std::max<std::size_t>(1, vertices.size() / most);
  const auto n = static_cast<Eigen::Index>((vertices.size() + stride - 1) / stride);
  Sample sample{Eigen::Matrix3Xd(3, n), Eigen::Matrix3Xd(3, n)};
  for (Eigen::Index i = 0; i < n; ++i) {
    const std::uint32_t v = vertices[static_cast<std::size_t>(i) * stride];
    sample.points.col(i) = points[v];
    sample.normals.col(i) = normals[v];
  }
  return sample;
}

/// How fast the distance from a cylinder's axis grows along it, rad: the slope of a straight line
/// through the points.
double taper_of(const fit::Surface& cylinder, const Eigen::Matrix3Xd& points) {
  double z_mean = 0;
  double r_mean = 0;
  std::vector<Vec2> profile;
  for (Eigen::Index i = 0; i < points.cols(); ++i) {
    const Vec3 d = points.col(i) - cylinder.point;
    const double z = d.dot(cylinder.axis);
    profile.emplace_back(z, (d - z * cylinder.axis).norm());
    z_mean += z;
    r_mean += profile.back().y();
  }
  z_mean /= static_cast<double>(profile.size());
  r_mean /= static_cast<double>(profile.size());
  double zz = 0;
  double zr = 0;
  for (const Vec2& p : profile) {
    zz += (p.x() - z_mean) * (p.x() - z_mean);
    zr += (p.x() - z_mean) * (p.y() - r_mean);
  }
  return zz > 0 ? std::atan(zr / zz) : 0;
}

}  // namespace

Grower::Grower(const scan::Mesh& mesh, const scan::Topology& topology, const SurveyOptions& options,
               std::size_t smallest)
    : mesh_(mesh),
      topology_(topology),
      options_(options),
      smallest_(smallest),
      labels_(mesh.vertices.size(), -1),
      mark_(mesh.vertices.size(), 0) {
  noise_ = std::max(scan::typical_ring_noise(mesh, topology), 1e-6);
  double edges = 0;
  for (const scan::Triangle& t : mesh.triangles)
    edges += (mesh.vertices[t[1]] - mesh.vertices[t[0]]).norm();
  spacing_ = std::max(1e-9, edges / static_cast<double>(mesh.triangles.size()));
  // Neighbours are averaged as far as their scatter goes and no further: a band of three points
  // between two edges would lose its own direction. Noise turns a normal by about noise over
  // spacing; six times that holds all of it. Below 7 degrees little is left to gain, above 25 the
  // two sides of an edge are averaged.
  const double agree = std::clamp(6 * noise_ / spacing_, 0.12, 0.436);
  normals_ = smoothed_normals(mesh, topology, 4, agree);
  // Local noise: how far a vertex stands off its ring, averaged over the surroundings. The chord
  // between two points of an arc is square to the mean of their normals, so that curvature is not
  // taken for noise.
  const std::size_t n = mesh.vertices.size();
  std::vector<double> squared(n, 0.0);
  parallel_for(n, 4096, [&](std::size_t begin, std::size_t end) {
    for (std::size_t v = begin; v < end; ++v) {
      const auto ring = topology_.vertex_neighbours[v];
      if (ring.size() < 3) continue;
      double off = 0;
      for (const std::uint32_t other : ring)
        off += (normals_[v] + normals_[other])
                   .normalized()
                   .dot(mesh_.vertices[other] - mesh_.vertices[v]);
      const double count = static_cast<double>(ring.size());
      squared[v] = off * off / (count * count + count);
    }
  });
  std::vector<double> next(n);
  for (int pass = 0; pass < 6; ++pass) {
    parallel_for(n, 4096, [&](std::size_t begin, std::size_t end) {
      for (std::size_t v = begin; v < end; ++v) {
        double sum = squared[v];
        double weight = 1;
        for (const std::uint32_t other : topology_.vertex_neighbours[v]) {
          if (normals_[other].dot(normals_[v]) < 0.95) continue;  // not across an edge
          sum += squared[other];
          weight += 1;
        }
        next[v] = sum / weight;
      }
    });
    squared.swap(next);
  }
  local_noise_.resize(n);
  for (std::size_t v = 0; v < n; ++v) {
    local_noise_[v] = std::clamp(std::sqrt(squared[v]), noise_, 12 * noise_);
  }
}

std::vector<std::uint32_t> Grower::seeds() const {
  // Flat-normal places first: the turning of the smoothed normals over the ring, in coarse classes
  // to keep the order stable.
  const std::size_t n = mesh_.vertices.size();
  std::vector<std::uint8_t> turning(n, 255);
  parallel_for(n, 4096, [&](std::size_t begin, std::size_t end) {
    for (std::size_t v = begin; v < end; ++v) {
      const auto ring = topology_.vertex_neighbours[v];
      if (ring.size() < 4) continue;
      double widest = 0;
      for (const std::uint32_t other : ring) {
        widest = std::max(widest, (normals_[other] - normals_[v]).squaredNorm());
      }
      turning[v] = static_cast<std::uint8_t>(std::min(254.0, std::sqrt(widest) * 200));
    }
  });
  std::vector<std::uint32_t> order(n);
  std::iota(order.begin(), order.end(), 0U);
  std::stable_sort(order.begin(), order.end(),
                   [&](std::uint32_t a, std::uint32_t b) { return turning[a] < turning[b]; });
  const auto sharp =
      std::find_if(order.begin(), order.end(), [&](std::uint32_t v) { return turning[v] > 110; });
  order.erase(sharp, order.end());
  return order;
}

std::vector<std::uint32_t> Grower::patch_around(std::uint32_t seed, std::size_t size, double turn) {
  ++stamp_;
  const double slope = held_ ? profile_angle(seed) : 0;
  std::vector<std::uint32_t> patch{seed};
  mark_[seed] = stamp_;
  for (std::size_t i = 0; i < patch.size() && patch.size() < size; ++i) {
    for (const std::uint32_t other : topology_.vertex_neighbours[patch[i]]) {
      if (mark_[other] == stamp_ || labels_[other] >= 0) continue;
      mark_[other] = stamp_;
      if (normals_[other].dot(normals_[patch[i]]) < 0.93) continue;
      if (held_ &&
          std::abs(std::remainder(profile_angle(other) - slope, 2 * std::numbers::pi)) > turn)
        continue;
      patch.push_back(other);
    }
  }
  return patch;
}

bool Grower::refit(Candidate& candidate, bool with_start) const {
  if (held_) return refit_about(candidate);
  const Sample sample = sample_of(candidate.vertices, mesh_.vertices, normals_, kFitSample);
  fit::SurfaceFitOptions options;
  options.correlate = false;
  options.max_rounds = 1;
  const bool slow =
      candidate.surface.kind == fit::Kind::Cone || candidate.surface.kind == fit::Kind::Torus;
  options.max_iterations = slow ? 40 : 12;
  options.hopeless = 0;
  options.relative_step = 1e-3;  // a thousandth of the scatter: the final fits are exact
  const auto fitted = fit::fit_surface(
      candidate.surface.kind, sample.points, sample.normals,
      with_start ? std::optional<fit::Surface>(candidate.surface) : std::nullopt, options);
  if (!fitted) return false;
  candidate.surface = fitted->surface;
  candidate.sigma = fitted->sigma;
  return true;
}

std::vector<std::uint32_t> Grower::flood(const std::vector<std::uint32_t>& start,
                                         const fit::Surface& surface, double reach) {
  ++stamp_;
  const double limit = std::cos(options_.normal_limit);
  std::vector<std::uint32_t> found;
  const auto belongs = [&](std::uint32_t v) {
    return labels_[v] < 0 && std::abs(surface.distance(mesh_.vertices[v])) <= reach &&
           surface.normal_at(mesh_.vertices[v]).dot(normals_[v]) >= limit;
  };
  for (const std::uint32_t v : start) {
    if (mark_[v] == stamp_ || !belongs(v)) continue;
    mark_[v] = stamp_;
    found.push_back(v);
  }
  for (std::size_t i = 0; i < found.size(); ++i) {
    for (const std::uint32_t other : topology_.vertex_neighbours[found[i]]) {
      if (mark_[other] == stamp_) continue;
      mark_[other] = stamp_;
      if (belongs(other)) found.push_back(other);
    }
  }
  return found;
}

double Grower::expected_noise(const std::vector<std::uint32_t>& patch) const {
  // Beside an edge its rounding looks like noise: the lower values are the surface's own.
  constexpr double kOwn = 0.3;
  std::vector<double> values;
  for (const std::uint32_t v : patch) values.push_back(local_noise_[v]);
  const auto own =
      values.begin() + static_cast<std::ptrdiff_t>(kOwn * static_cast<double>(values.size()));
  std::nth_element(values.begin(), own, values.end());
  return *own;
}

std::optional<Grower::Candidate> Grower::grow(fit::Kind kind,
                                              const std::vector<std::uint32_t>& patch) {
  Candidate candidate;
  candidate.surface.kind = kind;
  candidate.vertices = patch;
  const double expected = expected_noise(patch);
  bool started = refit(candidate, false);
  if (kind == fit::Kind::Cone && (!started || candidate.sigma > 1.2 * expected)) {
    // A slight taper hides in the scatter of the normals; the cylinder through the patch is then
    // the better start.
    Candidate through = candidate;
    through.surface.kind = fit::Kind::Cylinder;
    if (refit(through, false)) {
      through.surface.half_angle =
          taper_of(through.surface, sample_of(patch, mesh_.vertices, normals_, kFitSample).points);
      through.surface.kind = fit::Kind::Cone;
      if (refit(through, true) && (!started || through.sigma < candidate.sigma)) {
        candidate = std::move(through);
        started = true;
      }
    }
  }
  if (!started || candidate.sigma > 2.0 * expected) return std::nullopt;
  // Correlated roughness hides from the small patch: the reach rests on the larger of both
  // estimates and follows the growing region, bounded.
  std::size_t last = 0;
  for (int round = 0; round < 14; ++round) {
    const double sigma = std::clamp(candidate.sigma, expected, 3.0 * expected);
    std::vector<std::uint32_t> next =
        flood(candidate.vertices, candidate.surface, options_.reach * sigma);
    if (next.size() < patch.size() / 2) return std::nullopt;
    candidate.vertices = std::move(next);
    const std::size_t size = candidate.vertices.size();
    if (round > 1 && size <= last + last / 50) break;
    last = size;
    if (!refit(candidate, true)) return std::nullopt;
  }
  if (candidate.sigma > 3.0 * expected) return std::nullopt;
  return candidate;
}

void Grower::accept(Candidate candidate) {
  for (const std::uint32_t v : candidate.vertices) labels_[v] = static_cast<int>(surfaces_.size());
  surfaces_.push_back(std::move(candidate));
}

std::optional<Grower::Candidate> Grower::best_candidate(const std::vector<std::uint32_t>& patch) {
  // A richer surface must explain clearly more of the scan than a simpler one.
  std::optional<Candidate> best;
  for (const fit::Kind kind : {fit::Kind::Plane, fit::Kind::Cylinder, fit::Kind::Cone}) {
    const bool flat = best && fit::is_flat(best->surface.kind);
    // A plane that holds far beyond its patch is one; a strip along a cone is not.
    if (kind == fit::Kind::Cone && flat && best->vertices.size() > 4 * patch.size()) break;
    // A cone from a small patch is guesswork: it starts from what the cylinder gathered.
    const bool from_best = kind == fit::Kind::Cone && best.has_value() && !flat;
    std::optional<Candidate> candidate = grow(kind, from_best ? best->vertices : patch);
    if (!candidate || candidate->vertices.size() < smallest_) continue;
    if (!best || static_cast<double>(candidate->vertices.size()) >
                     1.15 * static_cast<double>(best->vertices.size())) {
      best = std::move(candidate);
    }
  }
  if (best) return best;
  // Doubly curved surfaces, where no simpler one holds even a small region.
  return best_of({fit::Kind::Sphere, fit::Kind::Torus}, patch);
}

std::optional<Grower::Candidate> Grower::best_of(std::initializer_list<fit::Kind> kinds,
                                                 const std::vector<std::uint32_t>& patch) {
  std::optional<Candidate> best;
  for (const fit::Kind kind : kinds) {
    std::optional<Candidate> candidate = grow(kind, patch);
    if (!candidate || candidate->vertices.size() < smallest_) continue;
    if (!best || static_cast<double>(candidate->vertices.size()) >
                     1.15 * static_cast<double>(best->vertices.size()))
      best = std::move(candidate);
  }
  return best;
}

bool Grower::grow_from(const std::vector<std::uint32_t>& order,
                       const std::vector<std::size_t>& sizes, const Task& task) {
  for (std::size_t scale = 0; scale < sizes.size(); ++scale) {
    const std::size_t size = sizes[scale];
    std::vector<char> tried(mesh_.vertices.size(), 0);
    std::size_t seen = 0;
    for (const std::uint32_t seed : order) {
      if (++seen % 1024 == 0) {
        if (task.stopped()) return false;
        task.report((static_cast<double>(scale) +
                     static_cast<double>(seen) / static_cast<double>(order.size())) /
                    static_cast<double>(sizes.size()));
      }
      if (labels_[seed] >= 0 || tried[seed] != 0) continue;
      const std::vector<std::uint32_t> patch = patch_around(seed, size);
      for (const std::uint32_t v : patch) tried[v] = 1;
      if (patch.size() < std::min(size / 2, smallest_ / 2)) continue;
      if (std::optional<Candidate> best = best_candidate(patch)) accept(std::move(*best));
    }
  }
  return true;
}

Status Grower::run(const Task& task) {
  const std::vector<std::uint32_t> order = seeds();
  // Large patches first: they tell a wide curve from a plane and a taper from none under rough
  // skin. What is smaller is found by the smaller patches after them.
  if (!grow_from(order, {16 * options_.seed_patch, 4 * options_.seed_patch, options_.seed_patch},
                 task.part(0, 0.85)))
    return cancelled();
  compete();
  if (!grow_about_axes(order, task)) return cancelled();
  if (simplify() && !grow_from(seeds(), {options_.seed_patch}, task.part(0.85, 0.9)))
    return cancelled();
  compete();
  merge_same();
  compete();
  join_bends();
  compete();
  tell_bands();
  compete();
  fill_specks();
  task.report(0.9);
  return Done{};
}

}  // namespace lostline::survey
