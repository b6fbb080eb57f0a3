#include <algorithm>
#include <cmath>

#include "base/linear.h"
#include "base/parallel.h"
#include "survey/grower.h"

// What follows the growing: simpler kinds, borders, merging, specks.

namespace lostline::survey {

std::optional<Grower::Candidate> Grower::plane_within(const Candidate& own) const {
  constexpr double kNearlyAll = 0.7;  // of the vertices
  constexpr double kMiddle = 0.6;     // of the length, that the plane is first laid through
  Eigen::Matrix3Xd points(3, static_cast<Eigen::Index>(own.vertices.size()));
  for (std::size_t i = 0; i < own.vertices.size(); ++i)
    points.col(static_cast<Eigen::Index>(i)) = mesh_.vertices[own.vertices[i]];
  points.colwise() -= Vec3(points.rowwise().mean());
  const Vec3 along = symmetric_eigen<3>(scatter_of(points)).vectors.col(2);
  const Eigen::VectorXd place = points.transpose() * along;
  const double low = place.minCoeff();
  const double margin = 0.5 * (1 - kMiddle) * (place.maxCoeff() - low);
  Candidate plane;
  plane.surface.kind = fit::Kind::Plane;
  for (std::size_t i = 0; i < own.vertices.size(); ++i) {
    const double from_low = place[static_cast<Eigen::Index>(i)] - low;
    if (from_low > margin && from_low < place.maxCoeff() - low - margin)
      plane.vertices.push_back(own.vertices[i]);
  }
  const double sigma = std::max(own.sigma, noise_);
  if (plane.vertices.size() < 24 || !refit(plane, false) || plane.sigma > 1.1 * sigma)
    return std::nullopt;
  plane.vertices.clear();
  for (const std::uint32_t v : own.vertices)
    if (std::abs(plane.surface.distance(mesh_.vertices[v])) < options_.reach * sigma)
      plane.vertices.push_back(v);
  if (static_cast<double>(plane.vertices.size()) <
          kNearlyAll * static_cast<double>(own.vertices.size()) ||
      !refit(plane, true) || plane.sigma > 1.1 * sigma)
    return std::nullopt;
  return plane;
}

bool Grower::simplify() {
  std::vector<char> gave(surfaces_.size(), 0);
  parallel_for(surfaces_.size(), 1, [&](std::size_t begin, std::size_t end) {
    for (std::size_t i = begin; i < end; ++i) {
      Candidate& c = surfaces_[i];
      if (c.vertices.size() < 40 || fit::is_flat(c.surface.kind)) continue;
      Candidate own = c;
      if (!refit(own, true)) continue;
      bool simple = false;
      for (const fit::Kind kind : {fit::Kind::Plane, fit::Kind::Cylinder}) {
        if (kind == c.surface.kind) break;
        Candidate simpler = c;
        simpler.surface.kind = kind;
        if (!refit(simpler, false) || simpler.sigma > 1.08 * std::max(own.sigma, noise_)) continue;
        c = std::move(simpler);
        simple = true;
        break;
      }
      if (simple) continue;
      if (std::optional<Candidate> plane = plane_within(own)) {
        gave[i] = plane->vertices.size() < c.vertices.size() ? 1 : 0;
        c = *std::move(plane);
      }
    }
  });
  if (std::none_of(gave.begin(), gave.end(), [](char g) { return g != 0; })) return false;
  take_labels();
  return true;
}

Status Grower::refine(const Grower& coarse, const std::vector<std::uint32_t>& cluster,
                      const Task& task) {
  surfaces_ = coarse.surfaces_;
  axes_ = coarse.axes_;
  for (std::size_t v = 0; v < labels_.size(); ++v) labels_[v] = coarse.labels_[cluster[v]];
  gather_vertices();
  // The means of the coarse mesh hide some of the noise that the borders are judged by.
  parallel_for(surfaces_.size(), 1, [&](std::size_t begin, std::size_t end) {
    for (std::size_t i = begin; i < end; ++i) {
      if (surfaces_[i].vertices.size() > 12) refit(surfaces_[i], true);
    }
  });
  compete();
  if (!grow_from(seeds(), {4 * options_.seed_patch, options_.seed_patch}, task)) return cancelled();
  tell_bands();
  compete();
  fill_specks();
  return Done{};
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
  gather_vertices();
}

void Grower::gather_vertices() {
  for (Candidate& c : surfaces_) c.vertices.clear();
  for (std::size_t v = 0; v < labels_.size(); ++v) {
    if (labels_[v] >= 0)
      surfaces_[static_cast<std::size_t>(labels_[v])].vertices.push_back(
          static_cast<std::uint32_t>(v));
  }
}

void Grower::take_labels() {
  std::fill(labels_.begin(), labels_.end(), -1);
  for (std::size_t i = 0; i < surfaces_.size(); ++i) {
    for (const std::uint32_t v : surfaces_[i].vertices) labels_[v] = static_cast<int>(i);
  }
}

std::map<std::pair<int, int>, std::size_t> Grower::contacts() const {
  std::map<std::pair<int, int>, std::size_t> contacts;
  for (std::size_t v = 0; v < labels_.size(); ++v) {
    if (labels_[v] < 0) continue;
    for (const std::uint32_t other : topology_.vertex_neighbours[v]) {
      if (labels_[other] > labels_[v]) ++contacts[{labels_[v], labels_[other]}];
    }
  }
  return contacts;
}

void Grower::merge_same() {
  for (const auto& [pair, count] : contacts()) {
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
