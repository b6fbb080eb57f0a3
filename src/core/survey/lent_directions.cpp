#include "survey/lent_directions.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <set>

#include "base/parallel.h"
#include "survey/bands.h"
#include "survey/plane_profile.h"

namespace lostline::survey {
namespace {

constexpr double kTold = 0.0012;    // rad: a direction as certain as this needs no help
constexpr double kVague = 0.12;     // rad: one as uncertain as this agrees with anything
constexpr double kGuess = 0.15;     // share of a radius by which an uncertain one is a guess
constexpr double kBetter = 3;       // how much better a lender must know it
constexpr double kFamily = 0.0035;  // rad within which directions are one
/// 99 % point of chi-squared with two freedoms, what holding a direction may cost.
constexpr double kMostRise = 9.21;

bool is_plane(const Region& r) { return fit::is_flat(r.fit->surface.kind); }

double off_axis(const fit::Surface& axis, const Vec3& p) {
  const Vec3 d = p - axis.point;
  return (d - d.dot(axis.axis) * axis.axis).norm();
}

/// How one region may hold another's direction.
struct Offer {
  std::uint32_t lender = 0;
  fit::DirectionRule rule;
  int rank = 0;       ///< the lower the closer the bond
  double weight = 0;  ///< area, among offers of one rank
};

class Lending {
 public:
  Lending(const Survey& survey, const scan::Topology& topology, double spacing)
      : survey_(survey), spacing_(spacing), family_(survey.regions.size(), 0) {
    for (const Region& r : survey.regions) {
      if (!lends_direction(r)) continue;
      area_ += r.area;
      for (const Region& other : survey.regions)
        if (lends_direction(other) &&
            fit::angle_between(r.fit->surface.axis, other.fit->surface.axis) < kFamily)
          family_[r.id - 1] += other.area;
    }
    for (std::size_t e = 0; e < topology.across.size(); ++e) {
      const std::uint32_t other = topology.across[e];
      if (other == scan::kNone) continue;
      const std::uint32_t a = survey.triangle_region[e / 3];
      const std::uint32_t b = survey.triangle_region[other];
      if (a != 0 && b != 0 && a != b) touching_.insert({a, b});
    }
  }

  /// The region's fit with a direction that another lends it, and who lends it.
  [[nodiscard]] std::optional<std::pair<fit::SurfaceFit, std::uint32_t>> held(
      const Region& r, const Patch& patch) const {
    std::vector<Offer> offers;
    for (const Region& lender : survey_.regions) {
      if (lender.id == r.id || !lends_direction(lender) ||
          lender.fit->u_angle * kBetter > r.fit->u_angle)
        continue;
      if (auto offer = offer_of(lender, r)) offers.push_back(*offer);
    }
    if (const auto edge = edge_of_planes(r)) offers.push_back(*edge);
    std::stable_sort(offers.begin(), offers.end(), [](const Offer& a, const Offer& b) {
      return a.rank != b.rank ? a.rank < b.rank : a.weight > b.weight;
    });
    if (offers.size() > 4) offers.resize(4);
    for (const Offer& offer : offers) {
      fit::SurfaceFitOptions options;
      options.hopeless = 0;
      options.direction = offer.rule;
      const auto fitted = fit_patch(r.fit->surface.kind, patch, r.fit->surface, options);
      if (!fitted || static_cast<double>(fitted->used) < 0.9 * static_cast<double>(r.fit->used))
        continue;
      if (rise(patch, *r.fit, fitted->surface) > kMostRise * r.fit->inflation) continue;
      fit::SurfaceFit result = *fitted;
      result.u_angle = r.fit->u_angle;  // what its own evidence says
      return std::pair{result, offer.lender};
    }
    return std::nullopt;
  }

  /// A narrow band as a wall square to a plane that it touches, and that plane; empty where it is
  /// none. Its normals, which the edges beside it have turned, are not asked.
  [[nodiscard]] std::optional<std::pair<fit::SurfaceFit, std::uint32_t>> wall(
      const Region& r, const Patch& whole) const {
    const Patch away = away_from_planes(r, whole);
    const Patch& band = r.fit && away.points.cols() < 24 ? whole : away;
    std::optional<std::pair<fit::SurfaceFit, std::uint32_t>> best;
    if (band.points.cols() < 24) return best;
    for (const Region& lender : survey_.regions) {
      if (!lends_direction(lender) || !is_plane(lender) || !touching_.contains({r.id, lender.id}))
        continue;
      const Vec3& across = lender.fit->surface.axis;
      for (const auto& [start, rule] : walls_through(band, across)) {
        fit::SurfaceFitOptions options;
        options.hopeless = 0;
        options.direction = {rule, across};
        auto fitted = fit::fit_surface(start.kind, band.points, band.normals, start, options);
        // As good as a surface holds that scan, and nearly all of the band.
        if (!fitted || fitted->sigma > 2.5 * survey_.noise_sigma ||
            static_cast<double>(fitted->used) < 0.8 * static_cast<double>(fitted->points))
          continue;
        // A circle must hold the band clearly better than a line.
        if (best && fitted->sigma > best->first.sigma / 1.15) continue;
        best = {*std::move(fitted), lender.id};
        add_rounding(best->first, band, spacing_);
      }
    }
    return best;
  }

 private:
  /// What a surface costs beside the free fit: the weighted sum of squares that it adds, in units
  /// of the scatter's variance.
  static double rise(const Patch& patch, const fit::SurfaceFit& free, const fit::Surface& other) {
    const Eigen::VectorXd weights = row_weights(patch, free.surface.kind, free.sigma);
    double sum = 0;
    for (Eigen::Index i = 0; i < patch.points.cols(); ++i) {
      const double before = free.surface.distance(patch.points.col(i));
      if (std::abs(before) > 3.5 * free.sigma) continue;
      const double after = other.distance(patch.points.col(i));
      sum += (weights.size() == 0 ? 1.0 : weights[i]) * (after * after - before * before);
    }
    return sum / std::max(free.sigma * free.sigma, 1e-18);
  }
  /// A round runs along the edge of two planes that it joins.
  [[nodiscard]] std::optional<Offer> edge_of_planes(const Region& r) const {
    constexpr double kFlat = 0.35;  // sine of the least angle between planes that tell an edge
    if (r.fit->surface.kind != fit::Kind::Cylinder) return std::nullopt;
    std::vector<const Region*> planes;
    for (const Region& other : survey_.regions)
      if (lends_direction(other) && is_plane(other) && touching_.contains({r.id, other.id}))
        planes.push_back(&other);
    std::optional<Offer> best;
    for (std::size_t i = 0; i < planes.size(); ++i) {
      for (std::size_t k = i + 1; k < planes.size(); ++k) {
        const Vec3 edge = planes[i]->fit->surface.axis.cross(planes[k]->fit->surface.axis);
        const double u = std::hypot(planes[i]->fit->u_angle, planes[k]->fit->u_angle) / edge.norm();
        if (edge.norm() < kFlat || u * kBetter > r.fit->u_angle ||
            fit::angle_between(edge.normalized(), r.fit->surface.axis) > 1.25 * r.fit->u_angle)
          continue;
        const Region& larger = planes[i]->area > planes[k]->area ? *planes[i] : *planes[k];
        if (!best || larger.area > best->weight)
          best = Offer{
              larger.id, {fit::DirectionRule::Type::Parallel, edge.normalized()}, 0, larger.area};
      }
    }
    return best;
  }
  /// The points of a band beyond the rounding of the edges at the planes that it touches.
  [[nodiscard]] Patch away_from_planes(const Region& r, const Patch& whole) const {
    constexpr double kRounded = 0.6;  // spacings: half of one by the spot, and noise
    std::vector<Eigen::Index> kept;
    for (Eigen::Index i = 0; i < whole.points.cols(); ++i) {
      const bool near =
          std::any_of(survey_.regions.begin(), survey_.regions.end(), [&](const Region& other) {
            return touching_.contains({r.id, other.id}) && other.fit && is_plane(other) &&
                   std::abs(other.fit->surface.distance(whole.points.col(i))) < kRounded * spacing_;
          });
      if (!near) kept.push_back(i);
    }
    Patch band;
    band.points = whole.points(Eigen::all, kept);
    band.normals = whole.normals(Eigen::all, kept);
    return band;
  }
  /// Where a plane and a cylinder square to a plane would stand, to start from.
  static std::vector<std::pair<fit::Surface, fit::DirectionRule::Type>> walls_through(
      const Patch& band, const Vec3& across) {
    Placement base;
    base.normal = across;
    base.x = any_perpendicular(across);
    base.y = across.cross(base.x);
    std::vector<Vec2> profile;
    Vec3 out = Vec3::Zero();
    for (Eigen::Index i = 0; i < band.points.cols(); ++i) {
      profile.push_back(base.to_plane(band.points.col(i)));
      out += band.normals.col(i);
    }
    std::vector<std::pair<fit::Surface, fit::DirectionRule::Type>> walls;
    const auto [mean, along] = line_through(profile);
    fit::Surface flat;
    flat.kind = fit::Kind::Plane;
    flat.point = base.to_space(mean);
    flat.axis = base.to_space(Vec2(-along.y(), along.x())) - base.origin;
    if (flat.axis.dot(out) < 0) flat.axis = -flat.axis;
    walls.emplace_back(flat, fit::DirectionRule::Type::Perpendicular);
    if (const auto circle = circle_through(profile, false)) {
      fit::Surface round;
      round.kind = fit::Kind::Cylinder;
      round.point = base.to_space(circle->first);
      round.axis = across;
      round.radius = circle->second;
      double outward = 0;
      for (Eigen::Index i = 0; i < band.points.cols(); ++i)
        outward += round.normal_at(band.points.col(i)).dot(band.normals.col(i));
      round.hollow = outward < 0;
      walls.emplace_back(round, fit::DirectionRule::Type::Parallel);
    }
    return walls;
  }

  [[nodiscard]] std::optional<Offer> offer_of(const Region& lender, const Region& r) const {
    const fit::Surface& s = r.fit->surface;
    const fit::Surface& from = lender.fit->surface;
    const double turn = fit::angle_between(s.axis, from.axis);
    const bool touches = touching_.contains({r.id, lender.id});
    const double within = 1.25 * r.fit->u_angle;
    Offer offer{lender.id, {fit::DirectionRule::Type::Parallel, from.axis}, 0, lender.area};
    if (turn < within) {
      const bool axes = !is_plane(r) && !is_plane(lender);
      if (axes && off_axis(from, r.fit->centroid + offset_of(r)) <
                      std::max(0.05, 1.25 * std::hypot(r.fit->u_offset, lender.fit->u_offset)))
        return offer;
      offer.rank = 1;
      if (touches && is_plane(lender)) return offer;
      offer.rank = 2;
      if (family_[lender.id - 1] > 0.05 * area_) return offer;
      return std::nullopt;
    }
    if (!is_plane(r) || !touches || !is_plane(lender) ||
        std::abs(turn - 0.5 * std::numbers::pi) > within)
      return std::nullopt;
    offer.rank = 3;
    offer.rule.type = fit::DirectionRule::Type::Perpendicular;
    return offer;
  }

  /// From the middle of the evidence to the axis.
  static Vec3 offset_of(const Region& r) {
    const fit::Surface& s = r.fit->surface;
    const Vec3 d = s.point - r.fit->centroid;
    return d - d.dot(s.axis) * s.axis;
  }

  const Survey& survey_;
  double spacing_;
  std::vector<double> family_;  ///< area of all that lends the direction of each region
  double area_ = 0;
  std::set<std::pair<std::uint32_t, std::uint32_t>> touching_;
};

/// Whether what a region was fitted as says too little for it: nothing was grown on it, or it is a
/// narrow band with a direction that is anyone's, doubly curved, or round with a radius that hardly
/// anything tells, as a flat band between two rounded edges is.
bool may_be_wall(const Region& r, const Patch& patch) {
  if (patch.points.cols() == 0) return false;
  if (!r.fit) return patch.narrow;
  const fit::Surface& s = r.fit->surface;
  const bool round = fit::is_turned(s.kind);
  if (round && r.fit->u_radius > kGuess * s.radius) return true;
  if (s.kind == fit::Kind::Torus || s.kind == fit::Kind::Sphere) return patch.narrow || patch.band;
  return patch.narrow && r.fit->u_angle > kVague;
}

}  // namespace

bool lends_direction(const Region& r) {
  return r.fit && fit::has_direction(r.fit->surface.kind) && r.direction_of == 0 &&
         r.fit->u_angle > 0 && r.fit->u_angle < kTold;
}

void lend_directions(Survey& survey, const scan::Topology& topology,
                     const std::vector<Patch>& patches, double spacing) {
  const Lending lending(survey, topology, spacing);
  std::vector<std::optional<std::pair<fit::SurfaceFit, std::uint32_t>>> held(patches.size());
  parallel_for(held.size(), 1, [&](std::size_t begin, std::size_t end) {
    for (std::size_t i = begin; i < end; ++i) {
      const Region& r = survey.regions[i];
      if (may_be_wall(r, patches[i])) {
        held[i] = lending.wall(r, patches[i]);
        if (held[i] || !r.fit) continue;
      }
      if (patches[i].points.cols() == 0 || !r.fit || !fit::has_direction(r.fit->surface.kind) ||
          r.fit->u_angle <= kTold || r.fit->u_angle > kVague)
        continue;
      held[i] = lending.held(r, patches[i]);
    }
  });
  for (std::size_t i = 0; i < held.size(); ++i) {
    if (!held[i]) continue;
    survey.regions[i].fit = held[i]->first;
    survey.regions[i].direction_of = held[i]->second;
  }
}

}  // namespace lostline::survey
