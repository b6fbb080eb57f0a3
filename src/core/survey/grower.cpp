#include "survey/grower.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <numbers>
#include <numeric>

#include "base/parallel.h"
#include "scan/health.h"

namespace lostline::survey {
namespace {

constexpr std::size_t kFitSample = 1000;  // points that a fit while growing looks at

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
  noise_ = std::max(scan::estimate_noise(mesh, topology), 1e-6);
  normals_ = smoothed_normals(mesh, topology, 4);
  double edges = 0;
  for (const scan::Triangle& t : mesh.triangles)
    edges += (mesh.vertices[t[1]] - mesh.vertices[t[0]]).norm();
  spacing_ = std::max(1e-9, edges / static_cast<double>(mesh.triangles.size()));
  // Local noise: how far a vertex stands off the mean of its ring along the normal, averaged over
  // the surroundings.
  const std::size_t n = mesh.vertices.size();
  std::vector<double> squared(n, 0.0);
  parallel_for(n, 4096, [&](std::size_t begin, std::size_t end) {
    for (std::size_t v = begin; v < end; ++v) {
      const auto ring = topology_.vertex_neighbours[v];
      if (ring.size() < 3) continue;
      Vec3 mean = Vec3::Zero();
      for (const std::uint32_t other : ring) mean += mesh_.vertices[other];
      const double count = static_cast<double>(ring.size());
      const double off = normals_[v].dot(mean / count - mesh_.vertices[v]);
      squared[v] = off * off / (1 + 1 / count);
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

double Grower::profile_angle(std::uint32_t vertex) const {
  const Vec3 d = mesh_.vertices[vertex] - held_->point;
  const Vec3 across = d - d.dot(held_->direction) * held_->direction;
  return std::atan2(normals_[vertex].dot(held_->direction),
                    normals_[vertex].dot(across) / std::max(across.norm(), 1e-9));
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

bool Grower::refit_about(Candidate& candidate) const {
  // In the half-plane about the axis: a line or a circle.
  const std::vector<std::uint32_t>& vertices = candidate.vertices;
  const std::size_t stride = std::max<std::size_t>(1, vertices.size() / kFitSample);
  std::vector<Vec2> profile;
  double side = 0;
  for (std::size_t i = 0; i < vertices.size(); i += stride) {
    const Vec3 d = mesh_.vertices[vertices[i]] - held_->point;
    const double z = d.dot(held_->direction);
    const Vec3 across = d - z * held_->direction;
    profile.emplace_back(across.norm(), z);
    side += normals_[vertices[i]].dot(across);
  }
  const auto n = static_cast<double>(profile.size());
  if (n < 12) return false;
  Vec2 mean = Vec2::Zero();
  for (const Vec2& p : profile) mean += p / n;
  fit::Surface& s = candidate.surface;
  s.point = held_->point + mean.y() * held_->direction;
  s.axis = held_->direction;
  s.half_angle = 0;
  s.radius = mean.x();
  s.hollow = side < 0;
  if (s.kind == fit::Kind::Cone) {
    Eigen::Matrix2d moment = Eigen::Matrix2d::Zero();
    for (const Vec2& p : profile) moment += (p - mean) * (p - mean).transpose();
    const double turn = 0.5 * std::atan2(2 * moment(0, 1), moment(1, 1) - moment(0, 0));
    // Steeper than 80 degrees it is as good as a plane across the axis.
    if (std::abs(turn) > 1.4) return false;
    s.half_angle = turn;
  } else if (s.kind == fit::Kind::Torus) {
    // Kasa's circle, then Gauss-Newton on the distances.
    Eigen::Matrix3d a = Eigen::Matrix3d::Zero();
    Vec3 b = Vec3::Zero();
    for (const Vec2& p : profile) {
      const Vec2 d = p - mean;
      const Vec3 row(2 * d.x(), 2 * d.y(), 1);
      a += row * row.transpose();
      b += row * d.squaredNorm();
    }
    const Vec3 c = a.ldlt().solve(b);
    Vec2 centre = mean + c.head<2>();
    double radius = std::sqrt(std::max(0.0, c[2] + c.head<2>().squaredNorm()));
    for (int k = 0; k < 3; ++k) {
      a.setZero();
      b.setZero();
      for (const Vec2& p : profile) {
        const Vec2 d = p - centre;
        const double q = std::max(d.norm(), 1e-9);
        const Vec3 row(-d.x() / q, -d.y() / q, -1);
        a += row * row.transpose();
        b -= row * (q - radius);
      }
      const Vec3 step = a.ldlt().solve(b);
      if (!step.allFinite()) return false;
      centre += step.head<2>();
      radius += step[2];
    }
    double widest = 0;
    for (const Vec2& p : profile) widest = std::max(widest, (p - mean).norm());
    if (!(radius > 0) || radius > 8 * widest || !(centre.x() > 0)) return false;
    s.point = held_->point + centre.y() * held_->direction;
    s.radius = centre.x();
    s.minor_radius = radius;
    s.hollow = false;
    double outward = 0;
    for (std::size_t i = 0; i < vertices.size(); i += stride)
      outward += s.normal_at(mesh_.vertices[vertices[i]]).dot(normals_[vertices[i]]);
    s.hollow = outward < 0;
  } else if (s.kind == fit::Kind::Plane) {
    double up = 0;
    for (std::size_t i = 0; i < vertices.size(); i += stride)
      up += normals_[vertices[i]].dot(held_->direction);
    if (std::abs(up) < 0.9 * n) return false;  // it does not stand across the axis
    s.axis = up < 0 ? Vec3(-held_->direction) : held_->direction;
    s.hollow = false;
  } else if (s.kind != fit::Kind::Cylinder) {
    return false;
  }
  double squares = 0;
  for (std::size_t i = 0; i < vertices.size(); i += stride)
    squares += std::pow(s.distance(mesh_.vertices[vertices[i]]), 2);
  candidate.sigma = std::sqrt(squares / std::max(1.0, n - 3));
  return true;
}

bool Grower::refit(Candidate& candidate, bool with_start) const {
  if (held_) return refit_about(candidate);
  const Sample sample = sample_of(candidate.vertices, mesh_.vertices, normals_, kFitSample);
  fit::SurfaceFitOptions options;
  options.correlate = false;
  options.max_rounds = 1;
  options.max_iterations = candidate.surface.kind == fit::Kind::Cone ? 40 : 12;
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

std::optional<Grower::Candidate> Grower::grow(fit::Kind kind,
                                              const std::vector<std::uint32_t>& patch) {
  Candidate candidate;
  candidate.surface.kind = kind;
  candidate.vertices = patch;
  double expected = 0;
  for (const std::uint32_t v : patch) expected += local_noise_[v];
  expected /= static_cast<double>(patch.size());
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
    const bool flat = best && best->surface.kind == fit::Kind::Plane;
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
  for (const fit::Kind kind : {fit::Kind::Sphere, fit::Kind::Torus}) {
    std::optional<Candidate> candidate = grow(kind, patch);
    if (!candidate || candidate->vertices.size() < smallest_) continue;
    if (!best || static_cast<double>(candidate->vertices.size()) >
                     1.15 * static_cast<double>(best->vertices.size()))
      best = std::move(candidate);
  }
  return best;
}

Status Grower::run(const Task& task) {
  const std::vector<std::uint32_t> order = seeds();
  // Large patches first: they tell a wide curve from a plane and a taper from none under rough
  // skin. What is smaller is found by the smaller patches after them.
  const std::array<std::size_t, 3> sizes{16 * options_.seed_patch, 4 * options_.seed_patch,
                                         options_.seed_patch};
  for (std::size_t scale = 0; scale < sizes.size(); ++scale) {
    const std::size_t size = sizes[scale];
    std::vector<char> tried(mesh_.vertices.size(), 0);
    std::size_t seen = 0;
    for (const std::uint32_t seed : order) {
      if (++seen % 1024 == 0) {
        if (task.stopped()) return cancelled();
        task.report(0.9 *
                    (static_cast<double>(scale) +
                     static_cast<double>(seen) / static_cast<double>(order.size())) /
                    3);
      }
      if (labels_[seed] >= 0 || tried[seed] != 0) continue;
      const std::vector<std::uint32_t> patch = patch_around(seed, size);
      for (const std::uint32_t v : patch) tried[v] = 1;
      if (patch.size() < std::min(size / 2, smallest_ / 2)) continue;
      if (std::optional<Candidate> best = best_candidate(patch)) accept(std::move(*best));
    }
  }
  compete();
  grow_about_axes(order);
  simplify();
  compete();
  merge_same();
  compete();
  fill_specks();
  task.report(0.9);
  return Done{};
}

void Grower::straighten(Candidate& round) const {
  std::vector<std::pair<double, std::uint32_t>> along;  // place in the profile, along its chord
  Vec2 mean = Vec2::Zero();
  std::vector<Vec2> profile;
  double expected = 0;
  for (const std::uint32_t v : round.vertices) {
    const Vec3 d = mesh_.vertices[v] - held_->point;
    const double z = d.dot(held_->direction);
    profile.emplace_back((d - z * held_->direction).norm(), z);
    mean += profile.back();
    expected += local_noise_[v];
  }
  const auto n = static_cast<double>(profile.size());
  mean /= n;
  expected = std::max(expected / n, noise_);
  Eigen::Matrix2d moment = Eigen::Matrix2d::Zero();
  for (const Vec2& p : profile) moment += (p - mean) * (p - mean).transpose();
  const double turn = 0.5 * std::atan2(2 * moment(0, 1), moment(0, 0) - moment(1, 1));
  const Vec2 chord(std::cos(turn), std::sin(turn));
  for (std::size_t i = 0; i < profile.size(); ++i)
    along.emplace_back(chord.dot(profile[i]), round.vertices[i]);
  std::sort(along.begin(), along.end());
  if (along.back().first - along.front().first > 8 * spacing_) return;  // wide enough to be told
  Candidate middle;
  for (std::size_t i = along.size() / 4; i < 3 * along.size() / 4; ++i)
    middle.vertices.push_back(along[i].second);
  middle.surface.kind = std::abs(chord.y()) < 0.1   ? fit::Kind::Plane
                        : std::abs(chord.x()) < 0.1 ? fit::Kind::Cylinder
                                                    : fit::Kind::Cone;
  if (!refit_about(middle)) return;
  double squares = 0;
  for (const std::uint32_t v : middle.vertices)
    squares += std::pow(round.surface.distance(mesh_.vertices[v]), 2);
  const double as_round = std::sqrt(squares / static_cast<double>(middle.vertices.size()));
  if (middle.sigma > 1.3 * expected || middle.sigma > 1.05 * as_round) return;
  const double reach = options_.reach * std::max(middle.sigma, expected);
  std::vector<std::uint32_t> all;
  for (const std::uint32_t v : round.vertices) {
    if (std::abs(middle.surface.distance(mesh_.vertices[v])) <= reach) all.push_back(v);
  }
  middle.vertices = std::move(all);
  round = std::move(middle);
}

std::optional<Grower::Candidate> Grower::best_about_axis(std::uint32_t seed, std::size_t size,
                                                         std::vector<char>& tried) {
  // A straight profile keeps its slope but for noise; where it bends more, an edge is rounded.
  const double kStraight = std::min(0.2, 0.07 + noise_ / spacing_);
  // A round turns by more than that scatter does.
  constexpr double kRound = 0.45;
  const std::vector<std::uint32_t> straight = patch_around(seed, size, kStraight);
  for (const std::uint32_t v : straight) tried[v] = 1;
  const std::size_t least = std::min(size / 2, smallest_ / 2);
  std::optional<Candidate> best;
  if (straight.size() >= least) {
    for (const fit::Kind kind : {fit::Kind::Plane, fit::Kind::Cylinder, fit::Kind::Cone}) {
      std::optional<Candidate> candidate = grow(kind, straight);
      if (!candidate || candidate->vertices.size() < smallest_) continue;
      if (!best || static_cast<double>(candidate->vertices.size()) >
                       1.15 * static_cast<double>(best->vertices.size()))
        best = std::move(candidate);
    }
  }
  if (best) return best;
  const std::vector<std::uint32_t> patch = patch_around(seed, size);
  for (const std::uint32_t v : patch) tried[v] = 1;
  if (patch.size() < least) return std::nullopt;
  best = grow(fit::Kind::Torus, patch);
  if (!best || best->vertices.size() < smallest_) return std::nullopt;
  std::vector<double> slopes;
  const double middle = profile_angle(best->vertices.front());
  for (const std::uint32_t v : best->vertices)
    slopes.push_back(std::remainder(profile_angle(v) - middle, 2 * std::numbers::pi));
  std::sort(slopes.begin(), slopes.end());
  const double turn = slopes[slopes.size() * 9 / 10] - slopes[slopes.size() / 10];
  if (turn < kRound) return std::nullopt;
  straighten(*best);
  return best;
}

void Grower::grow_about_axes(const std::vector<std::uint32_t>& order) {
  const auto turned = [](const Candidate& c) {
    return c.surface.kind == fit::Kind::Cylinder || c.surface.kind == fit::Kind::Cone;
  };
  std::vector<Axis> axes;
  const auto off_axis = [](const Axis& a, const Vec3& p) {
    const Vec3 d = p - a.point;
    return (d - d.dot(a.direction) * a.direction).norm();
  };
  for (const Candidate& c : surfaces_) {
    if (!turned(c) || c.vertices.size() < std::max<std::size_t>(smallest_, 150)) continue;
    // Half a turn at least: the mean of the normals about the axis is short then.
    Vec3 mean = Vec3::Zero();
    for (const std::uint32_t v : c.vertices) mean += normals_[v];
    mean -= mean.dot(c.surface.axis) * c.surface.axis;
    if (mean.norm() > 0.64 * static_cast<double>(c.vertices.size())) continue;
    const auto same = std::find_if(axes.begin(), axes.end(), [&](const Axis& a) {
      return fit::angle_between(a.direction, c.surface.axis) < 0.01 &&
             off_axis(a, c.surface.point) < 0.1 + 4 * noise_;
    });
    const auto weight = static_cast<double>(c.vertices.size());
    if (same == axes.end()) {
      axes.push_back({c.surface.point, c.surface.axis, weight});
    } else if (weight > same->weight) {
      *same = {c.surface.point, c.surface.axis, weight + same->weight};
    } else {
      same->weight += weight;
    }
  }
  std::stable_sort(axes.begin(), axes.end(),
                   [](const Axis& a, const Axis& b) { return a.weight > b.weight; });
  if (axes.size() > 6) axes.resize(6);
  std::vector<char> questionable(labels_.size());
  std::vector<char> claimed;  // surfaces about a stronger axis
  for (const Axis& axis : axes) {
    // What turns about the axis has normals that meet it. Surfaces known to do so stay, planes too.
    claimed.resize(surfaces_.size(), 0);
    std::vector<char> settled(surfaces_.size(), 0);
    for (std::size_t i = 0; i < surfaces_.size(); ++i) {
      const Candidate& c = surfaces_[i];
      const bool coaxial = turned(c) && fit::angle_between(c.surface.axis, axis.direction) < 0.01 &&
                           off_axis(axis, c.surface.point) < 0.1 + 4 * noise_;
      if (coaxial) claimed[i] = 1;
      // A small surface's axis does not call a large one in question.
      settled[i] = c.surface.kind == fit::Kind::Plane || claimed[i] != 0 ||
                   static_cast<double>(c.vertices.size()) > 0.3 * axis.weight;
    }
    std::vector<int> before = labels_;
    std::size_t count = 0;
    for (std::size_t v = 0; v < labels_.size(); ++v) {
      questionable[v] = 0;
      if (labels_[v] >= 0 && settled[static_cast<std::size_t>(labels_[v])] != 0) continue;
      const Vec3 d = mesh_.vertices[v] - axis.point;
      const Vec3 across = d - d.dot(axis.direction) * axis.direction;
      const double rho = across.norm();
      if (rho < 1e-6 || std::abs(axis.direction.cross(across).dot(normals_[v])) > 0.2 * rho)
        continue;
      questionable[v] = 1;
      ++count;
    }
    if (count < smallest_) continue;
    for (std::size_t v = 0; v < labels_.size(); ++v) {
      if (questionable[v] != 0) labels_[v] = -1;
    }
    held_ = axis;
    for (const std::size_t size : {4 * options_.seed_patch, options_.seed_patch}) {
      std::vector<char> tried(labels_.size(), 0);
      for (const std::uint32_t seed : order) {
        if (questionable[seed] == 0 || labels_[seed] >= 0 || tried[seed] != 0) continue;
        if (std::optional<Candidate> best = best_about_axis(seed, size, tried))
          accept(std::move(*best));
      }
    }
    held_.reset();
    for (std::size_t v = 0; v < labels_.size(); ++v) {
      if (questionable[v] != 0 && labels_[v] < 0) labels_[v] = before[v];
    }
    for (Candidate& c : surfaces_) c.vertices.clear();
    for (std::size_t v = 0; v < labels_.size(); ++v) {
      if (labels_[v] >= 0)
        surfaces_[static_cast<std::size_t>(labels_[v])].vertices.push_back(
            static_cast<std::uint32_t>(v));
    }
    // What stayed as it was may be a narrow band about the axis too.
    held_ = axis;
    for (std::size_t i = 0; i < settled.size(); ++i) {
      Candidate& c = surfaces_[i];
      if (settled[i] != 0 || c.vertices.size() < 40) continue;
      const auto about = std::count_if(c.vertices.begin(), c.vertices.end(),
                                       [&](std::uint32_t v) { return questionable[v] != 0; });
      if (static_cast<double>(about) < 0.8 * static_cast<double>(c.vertices.size())) continue;
      const std::vector<std::uint32_t> all = c.vertices;
      straighten(c);
      for (const std::uint32_t v : all) labels_[v] = -1;
      for (const std::uint32_t v : c.vertices) labels_[v] = static_cast<int>(i);
    }
    held_.reset();
  }
}

void Grower::simplify() {
  parallel_for(surfaces_.size(), 1, [&](std::size_t begin, std::size_t end) {
    for (std::size_t i = begin; i < end; ++i) {
      Candidate& c = surfaces_[i];
      if (c.vertices.size() < 40 || c.surface.kind == fit::Kind::Plane) continue;
      Candidate own = c;
      if (!refit(own, true)) continue;
      for (const fit::Kind kind : {fit::Kind::Plane, fit::Kind::Cylinder}) {
        if (kind == c.surface.kind) break;
        Candidate simpler = c;
        simpler.surface.kind = kind;
        if (!refit(simpler, false) || simpler.sigma > 1.08 * std::max(own.sigma, noise_)) continue;
        c = std::move(simpler);
        break;
      }
    }
  });
}

void Grower::refine(const Grower& coarse, const std::vector<std::uint32_t>& cluster) {
  surfaces_ = coarse.surfaces_;
  for (Candidate& c : surfaces_) c.vertices.clear();
  for (std::size_t v = 0; v < labels_.size(); ++v) {
    labels_[v] = coarse.labels_[cluster[v]];
    if (labels_[v] >= 0)
      surfaces_[static_cast<std::size_t>(labels_[v])].vertices.push_back(
          static_cast<std::uint32_t>(v));
  }
  // The means of the coarse mesh hide some of the noise that the borders are judged by.
  parallel_for(surfaces_.size(), 1, [&](std::size_t begin, std::size_t end) {
    for (std::size_t i = begin; i < end; ++i) {
      if (surfaces_[i].vertices.size() > 12) refit(surfaces_[i], true);
    }
  });
  compete();
  fill_specks();
}

void Grower::compete() {
  // Near a border the surface that explains a vertex better takes it, and free vertices within
  // reach join.
  for (int pass = 0; pass < 3; ++pass) {
    std::vector<int> next = labels_;
    parallel_for(labels_.size(), 4096, [&](std::size_t begin, std::size_t end) {
      for (std::size_t v = begin; v < end; ++v) {
        bool border = labels_[v] < 0;
        for (const std::uint32_t other : topology_.vertex_neighbours[v]) {
          border = border || labels_[other] != labels_[v];
        }
        if (!border) continue;
        const auto cost = [&](int label) {
          const Candidate& c = surfaces_[static_cast<std::size_t>(label)];
          const double sigma = std::max(c.sigma, noise_);
          const double off = c.surface.distance(mesh_.vertices[v]) / (options_.reach * sigma);
          const double turn =
              std::acos(
                  std::clamp(c.surface.normal_at(mesh_.vertices[v]).dot(normals_[v]), -1.0, 1.0)) /
              options_.normal_limit;
          return std::abs(off) > 1 || turn > 1 ? 1e9 : off * off + turn * turn;
        };
        int best = -1;
        double lowest = 1e8;
        const auto consider = [&](int label) {
          if (label < 0) return;
          const double c = cost(label);
          if (c < lowest) {
            lowest = c;
            best = label;
          }
        };
        consider(labels_[v]);
        for (const std::uint32_t other : topology_.vertex_neighbours[v]) consider(labels_[other]);
        next[v] = best;
      }
    });
    labels_.swap(next);
  }
  std::vector<Candidate> updated = std::move(surfaces_);
  for (Candidate& c : updated) c.vertices.clear();
  for (std::size_t v = 0; v < labels_.size(); ++v) {
    if (labels_[v] >= 0) {
      updated[static_cast<std::size_t>(labels_[v])].vertices.push_back(
          static_cast<std::uint32_t>(v));
    }
  }
  surfaces_ = std::move(updated);
}

void Grower::merge_same() {
  std::map<std::pair<int, int>, std::size_t> contacts;
  for (std::size_t v = 0; v < labels_.size(); ++v) {
    if (labels_[v] < 0) continue;
    for (const std::uint32_t other : topology_.vertex_neighbours[v]) {
      if (labels_[other] > labels_[v]) ++contacts[{labels_[v], labels_[other]}];
    }
  }
  for (const auto& [pair, count] : contacts) {
    if (count < 6) continue;

    Candidate* first = &surfaces_[static_cast<std::size_t>(pair.first)];
    Candidate* second = &surfaces_[static_cast<std::size_t>(pair.second)];
    if (first->vertices.empty() || second->vertices.empty()) continue;
    if (first->vertices.size() < second->vertices.size()) std::swap(first, second);
    const int a = static_cast<int>(first - surfaces_.data());
    // One surface when the larger one's, fitted to both, explains both as well as each was
    // explained alone.
    Candidate joined = *first;
    joined.vertices.insert(joined.vertices.end(), second->vertices.begin(), second->vertices.end());
    if (!refit(joined, true)) continue;
    double sum = 0;
    for (const std::uint32_t v : second->vertices) {
      const double d = joined.surface.distance(mesh_.vertices[v]);
      sum += d * d;
    }
    const double off = std::sqrt(sum / static_cast<double>(second->vertices.size()));
    if (off > 1.3 * std::max({second->sigma, first->sigma, noise_}) ||
        joined.sigma > 1.15 * std::max(first->sigma, noise_)) {
      continue;
    }
    for (const std::uint32_t v : second->vertices) labels_[v] = a;
    second->vertices.clear();
    *first = std::move(joined);
  }
}

void Grower::fill_specks() {
  // Small holes of free vertices inside one region are outliers of its surface, not regions of
  // their own.
  ++stamp_;
  for (std::size_t seed = 0; seed < labels_.size(); ++seed) {
    if (labels_[seed] >= 0 || mark_[seed] == stamp_) continue;
    std::vector<std::uint32_t> hole{static_cast<std::uint32_t>(seed)};
    mark_[seed] = stamp_;
    std::map<int, std::size_t> rim;
    for (std::size_t i = 0; i < hole.size(); ++i) {
      for (const std::uint32_t other : topology_.vertex_neighbours[hole[i]]) {
        if (labels_[other] >= 0) {
          ++rim[labels_[other]];
        } else if (mark_[other] != stamp_) {
          mark_[other] = stamp_;
          hole.push_back(other);
        }
      }
    }
    if (hole.size() > 40 || rim.empty()) continue;
    std::size_t total = 0;
    auto most = rim.begin();
    for (auto it = rim.begin(); it != rim.end(); ++it) {
      total += it->second;
      if (it->second > most->second) most = it;
    }
    if (10 * most->second < 9 * total) continue;
    for (const std::uint32_t v : hole) labels_[v] = most->first;
  }
}

}  // namespace lostline::survey
