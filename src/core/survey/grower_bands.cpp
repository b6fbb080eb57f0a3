#include <algorithm>
#include <cmath>

#include "survey/grower.h"

// Narrow bands about an axis: straight or round.

namespace lostline::survey {
namespace {

/// Second derivative of the parabola nearest to points (along, off) from `begin` to `end`, 1/mm.
double bend_of(const std::vector<std::pair<Vec2, std::uint32_t>>& points, std::size_t begin,
               std::size_t end) {
  Eigen::Matrix3d a = Eigen::Matrix3d::Zero();
  Vec3 b = Vec3::Zero();
  for (std::size_t i = begin; i < end; ++i) {
    const Vec2& p = points[i].first;
    const Vec3 row(1, p.x(), p.x() * p.x());
    a += row * row.transpose();
    b += row * p.y();
  }
  return 2 * a.ldlt().solve(b)[2];
}

}  // namespace

/// A band in the half-plane about the held axis.
struct Grower::Profile {
  Vec2 mean = Vec2::Zero();  ///< (radius, height)
  Vec2 chord, off;           ///< unit, along it and across it out of the material
  std::vector<std::pair<Vec2, std::uint32_t>> along;  ///< (along, off) and vertex, in order
  double expected = 0;                                ///< mean local noise, mm

  [[nodiscard]] double width() const { return along.back().first.x() - along.front().first.x(); }
  [[nodiscard]] std::size_t first_beyond(double place) const {
    return static_cast<std::size_t>(
        std::lower_bound(along.begin(), along.end(), place,
                         [](const auto& p, double x) { return p.first.x() < x; }) -
        along.begin());
  }
};

Grower::Profile Grower::profile_of(const std::vector<std::uint32_t>& vertices) const {
  Profile band;
  std::vector<Vec2> places;
  Vec2 outward = Vec2::Zero();
  for (const std::uint32_t v : vertices) {
    const Vec3 d = mesh_.vertices[v] - held_->point;
    const double z = d.dot(held_->direction);
    const Vec3 across = d - z * held_->direction;
    const double rho = across.norm();
    places.emplace_back(rho, z);
    band.mean += places.back();
    outward +=
        Vec2(normals_[v].dot(across) / std::max(rho, 1e-9), normals_[v].dot(held_->direction));
    band.expected += local_noise_[v];
  }
  const auto n = static_cast<double>(places.size());
  band.mean /= n;
  band.expected = std::max(band.expected / n, noise_);
  Eigen::Matrix2d moment = Eigen::Matrix2d::Zero();
  for (const Vec2& p : places) moment += (p - band.mean) * (p - band.mean).transpose();
  const double turn = 0.5 * std::atan2(2 * moment(0, 1), moment(0, 0) - moment(1, 1));
  band.chord = Vec2(std::cos(turn), std::sin(turn));
  band.off = Vec2(-band.chord.y(), band.chord.x());
  if (band.off.dot(outward) < 0) band.off = -band.off;
  for (std::size_t i = 0; i < places.size(); ++i) {
    const Vec2 d = places[i] - band.mean;
    band.along.push_back({{band.chord.dot(d), band.off.dot(d)}, vertices[i]});
  }
  std::sort(band.along.begin(), band.along.end(),
            [](const auto& a, const auto& b) { return a.first.x() < b.first.x(); });
  return band;
}

std::optional<Grower::Candidate> Grower::straight_between(const Profile& band, double from,
                                                          double to) const {
  Candidate middle;
  const std::size_t end = band.first_beyond(to);
  for (std::size_t i = band.first_beyond(from); i < end; ++i)
    middle.vertices.push_back(band.along[i].second);
  middle.surface.kind = std::abs(band.chord.y()) < 0.1   ? fit::Kind::Plane
                        : std::abs(band.chord.x()) < 0.1 ? fit::Kind::Cylinder
                                                         : fit::Kind::Cone;
  if (!refit_about(middle) || middle.sigma > 1.3 * band.expected) return std::nullopt;
  const double reach = options_.reach * std::max(middle.sigma, band.expected);
  std::vector<std::uint32_t> all;
  for (const auto& [place, v] : band.along) {
    if (std::abs(middle.surface.distance(mesh_.vertices[v])) <= reach) all.push_back(v);
  }
  middle.vertices = std::move(all);
  return middle;
}

void Grower::straighten(Candidate& round) const {
  const Profile band = profile_of(round.vertices);
  // Wide enough to be told without.
  if (band.width() > 8 * spacing_) return;
  // A round bends in its middle as it does as a whole, and turns there.
  const std::size_t quarter = band.along.size() / 4;
  const std::size_t last = band.along.size() - quarter;
  const double whole_bend = bend_of(band.along, 0, band.along.size());
  const double middle_bend = bend_of(band.along, quarter, last);
  const double from = band.along[quarter].first.x();
  const double to = band.along[last - 1].first.x();
  if (middle_bend * whole_bend > 0 && std::abs(middle_bend) > 0.5 * std::abs(whole_bend) &&
      std::abs(middle_bend) * (to - from) > 0.15)
    return;
  if (std::optional<Candidate> straight = straight_between(band, from, to))
    round = *std::move(straight);
}

bool Grower::bends(const Candidate& straight) const {
  Candidate round = straight;
  round.surface.kind = fit::Kind::Torus;
  return refit_about(round) && round.sigma < 0.75 * straight.sigma;
}

std::array<std::optional<double>, 2> Grower::beyond_ends(const Profile& band, int label) const {
  std::array<Vec2, 2> sum{Vec2::Zero(), Vec2::Zero()};
  std::array<double, 2> count{0, 0};
  std::array<double, 2> open{0, 0};
  for (const auto& [place, v] : band.along) {
    const std::size_t side = place.x() > 0 ? 1 : 0;
    for (const std::uint32_t near : topology_.vertex_neighbours[v]) {
      if (labels_[near] == label) continue;
      // The seam along a rounded edge may belong to nothing: what lies behind it counts.
      for (const std::uint32_t far : topology_.vertex_neighbours[near]) {
        if (labels_[far] == label) continue;
        open[side] += 1;
        if (labels_[far] < 0) continue;
        const Vec3 d = mesh_.vertices[far] - held_->point;
        const Vec3 across = d - d.dot(held_->direction) * held_->direction;
        const Vec3 normal = surfaces_[static_cast<std::size_t>(labels_[far])].surface.normal_at(
            mesh_.vertices[far]);
        const Vec2 flat(normal.dot(across) / std::max(across.norm(), 1e-9),
                        normal.dot(held_->direction));
        sum[side] += Vec2(flat.dot(band.chord), flat.dot(band.off));
        count[side] += 1;
      }
    }
  }
  std::array<std::optional<double>, 2> ends;
  for (std::size_t side = 0; side < 2; ++side) {
    // Neighbours that look about the same way, along most of the end.
    if (count[side] >= 12 && count[side] > 0.5 * open[side] && sum[side].norm() > 0.8 * count[side])
      ends[side] = std::atan2(sum[side].x(), sum[side].y());
  }
  return ends;
}

void Grower::tell_bands() {
  std::vector<char> told(surfaces_.size(), 0);
  bool changed = false;
  for (const Axis& axis : axes_) {
    held_ = axis;
    for (std::size_t i = 0; i < surfaces_.size(); ++i) {
      Candidate& c = surfaces_[i];
      const bool round = c.surface.kind == fit::Kind::Torus || c.surface.kind == fit::Kind::Sphere;
      if (told[i] != 0 || c.vertices.size() < 40 || (!round && c.surface.kind != fit::Kind::Cone))
        continue;
      Candidate about = c;
      if (!refit_about(about) || about.sigma > 1.3 * std::max(c.sigma, noise_)) continue;
      const Profile band = profile_of(c.vertices);
      // A wide round is told by its fit; a ball may still be a straight band between two grooves.
      if (band.width() > 20 * spacing_ && c.surface.kind != fit::Kind::Sphere) continue;
      told[i] = 1;
      // Points within a spacing of a sharp edge are drawn inwards.
      const double margin =
          std::max(0.2 * band.width(), std::min(1.2 * spacing_, 0.33 * band.width()));
      const double from = band.along.front().first.x() + margin;
      const double to = band.along.back().first.x() - margin;
      const std::size_t begin = band.first_beyond(from);
      const std::size_t end = band.first_beyond(to);
      if (end < begin + 24) continue;
      const double bend = bend_of(band.along, begin, end);
      const auto ends = beyond_ends(band, static_cast<int>(i));
      // Between two neighbours that a round would blend into, it turns by the angle between them
      // and half of it on either side of its middle.
      const double turn = ends[0] && ends[1] ? *ends[1] - *ends[0] : 0;
      const bool blend = std::abs(turn) > 0.3 && std::abs(turn) < 2.5 &&
                         std::abs(*ends[1] + *ends[0]) < 0.3 * std::abs(turn) + 0.1;
      const double wanted = blend ? -2 * std::sin(0.5 * turn) / band.width() : 0;
      const double whole = bend_of(band.along, 0, band.along.size());
      const bool is_round = blend ? bend * wanted > 0 && std::abs(bend) > 0.5 * std::abs(wanted)
                                  : bend * whole > 0 && std::abs(bend) > 0.5 * std::abs(whole) &&
                                        std::abs(bend) * band.width() > 0.6;
      if (is_round == round) continue;
      if (round) {
        std::optional<Candidate> straight = straight_between(band, from, to);
        if (!straight) continue;
        c = *std::move(straight);
      } else {
        if (!blend) continue;
        about.surface.kind = fit::Kind::Torus;
        if (!refit_about(about) || about.sigma > 0.9 * c.sigma) continue;
        c = std::move(about);
      }
      changed = true;
    }
  }
  held_.reset();
  if (changed) take_labels();
}

}  // namespace lostline::survey
