#include "patch/patch.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <numbers>

#include "patch/layout.h"
#include "patch/patch_fit.h"

namespace lostline::patch {
namespace {

Area area_of(const scan::Mesh& mesh, const std::vector<std::uint32_t>& triangles) {
  Area area;
  std::vector<std::uint32_t> number(mesh.vertices.size(), scan::kNone);
  for (const std::uint32_t t : triangles) {
    scan::Triangle mine{};
    for (std::size_t k = 0; k < 3; ++k) {
      const std::uint32_t v = mesh.triangles[t][k];
      if (number[v] == scan::kNone) {
        number[v] = static_cast<std::uint32_t>(area.points.size());
        area.points.push_back(mesh.vertices[v]);
        area.vertices.push_back(v);
      }
      mine[k] = number[v];
    }
    area.triangles.push_back(mine);
  }
  return area;
}

Domain domain_of(const std::vector<Vec2>& flat, double beyond) {
  double least = 1e300;
  double best = 0;
  for (int k = 0; k < 90; ++k) {
    const Eigen::Rotation2Dd turn(-k * std::numbers::pi / 180);
    Eigen::AlignedBox2d box;
    for (const Vec2& p : flat) box.extend(Vec2(turn * p));
    if (box.sizes().prod() < least) {
      least = box.sizes().prod();
      best = -k * std::numbers::pi / 180;
    }
  }
  Eigen::AlignedBox2d box;
  for (const Vec2& p : flat) box.extend(Vec2(Eigen::Rotation2Dd(best) * p));
  if (box.sizes().y() > box.sizes().x()) {
    best += std::numbers::pi / 2;
    box.setEmpty();
    for (const Vec2& p : flat) box.extend(Vec2(Eigen::Rotation2Dd(best) * p));
  }
  const double margin = beyond * box.sizes().x();
  Domain domain;
  domain.length = box.sizes().x() + 2 * margin;
  domain.width = std::max(box.sizes().y() + 2 * margin, 1e-3 * domain.length);
  domain.at.reserve(flat.size());
  for (const Vec2& p : flat) {
    const Vec2 q = Eigen::Rotation2Dd(best) * p - box.min() + Vec2(margin, margin);
    domain.at.emplace_back(std::clamp(q.x() / domain.length, 0.0, 1.0),
                           std::clamp(q.y() / domain.width, 0.0, 1.0));
  }
  return domain;
}

/// Of the area's points the nearest to a place.
std::size_t nearest_point(const Area& area, const Vec3& place) {
  std::size_t nearest = 0;
  double least = 1e300;
  for (std::size_t i = 0; i < area.points.size(); ++i) {
    const double d = (area.points[i] - place).squaredNorm();
    if (d >= least) continue;
    least = d;
    nearest = i;
  }
  return nearest;
}

Error border_away() {
  return {ErrorCode::Degenerate,
          "The border lies away from the area. Click more of the scan beside it, or choose other "
          "curves."};
}

/// How far beyond the area the face goes on, as a share of its size: a border that is held lies on
/// it with room to spare.
Result<double> room_for(const Area& area, const std::vector<Vec2>& flat,
                        const PatchOptions& options) {
  if (options.held.empty()) return options.beyond;
  Eigen::AlignedBox2d box;
  for (const Vec2& p : flat) box.extend(p);
  double gap = 0;
  for (const HeldPlace& place : options.held)
    gap = std::max(gap, (area.points[nearest_point(area, place.at)] - place.at).norm());
  const double share = gap / box.sizes().maxCoeff();
  constexpr double kAway = 0.5;  // of the area's size: it is another place
  if (share > kAway) return border_away();
  return std::max(options.beyond, 0.02 + 1.5 * share);
}

/// Some of the points, evenly.
std::pair<Area, Domain> some_of(const Area& area, const Domain& domain) {
  constexpr std::size_t kEnough = 15000;
  const std::size_t stride = (area.points.size() + kEnough - 1) / kEnough;
  Area few;
  Domain few_at{domain.length, domain.width, {}, domain.border};
  for (std::size_t k = 0; k < area.points.size(); k += stride) {
    few.points.push_back(area.points[k]);
    few_at.at.push_back(domain.at[k]);
  }
  return {few, few_at};
}

/// Where the held border lies on a first, free face through the area.
Result<Domain> with_border(const Area& area, const Domain& domain, const PatchOptions& options,
                           const Task& task) {
  if (options.held.empty()) return domain;
  constexpr std::size_t kFirst = 5;  // spans
  PatchOptions free = options;
  free.held.clear();
  const auto [few, few_at] = some_of(area, domain);
  PatchFit first(few, few_at, free);
  if (!first.fit(kFirst, task)) {
    if (task.stopped()) return cancelled();
    return Error{ErrorCode::Degenerate, "The points of this area do not determine a face."};
  }
  Domain known = domain;
  for (const HeldPlace& place : options.held) {
    const Vec2 foot =
        first.surface().foot(place.at, first.feet()[nearest_point(few, place.at)], 30);
    constexpr double kEdge = 1e-6;
    if (foot.minCoeff() < kEdge || foot.maxCoeff() > 1 - kEdge) return border_away();
    known.border.push_back(foot);
  }
  return known;
}

}  // namespace

Result<Patch> fit_patch(const scan::Mesh& mesh, const std::vector<std::uint32_t>& triangles,
                        const PatchOptions& options, const Task& task) {
  if (!(options.tolerance >= 0) || !(options.stiffness > 0))
    return Error{ErrorCode::InvalidInput, "The tolerance must not be below zero."};
  const Area area = area_of(mesh, triangles);
  constexpr std::size_t kFewest = 16;
  if (area.points.size() < kFewest)
    return Error{ErrorCode::InvalidInput, "An area of " + std::to_string(area.points.size()) +
                                              " points is too small for a face."};
  const auto layout = lay_out(area.points, area.triangles);
  if (!layout) return layout.error();
  if (task.stopped()) return cancelled();
  const auto room = room_for(area, layout->flat, options);
  if (!room) return room.error();
  const Domain free = domain_of(layout->flat, *room);
  const auto domain = with_border(area, free, options, task);
  if (!domain) return domain.error();
  // How many spans it takes is seen on some of the points; the numbers come from all.
  const auto [few, few_at] = some_of(area, *domain);
  PatchFit fit(few, few_at, options);
  const auto count = static_cast<double>(few.points.size());
  std::size_t chosen = options.spans;
  double best_cost = 1e300;
  const auto unsolved = [&]() -> Error {
    if (task.stopped()) return cancelled();
    return {ErrorCode::Degenerate, "The points of this area do not determine a face."};
  };
  const auto held = [&] {
    const double allowed = options.tolerance > 0 ? 0.25 * options.tolerance
                           : options.noise > 0   ? 0.5 * options.noise
                                                 : 1e-4 * domain->length;
    return options.held.empty() || fit.border_off() <= allowed;
  };
  if (options.spans == 0) {
    constexpr double kFiner = 1.45;
    constexpr double kAsNoise = 1.03;  // of the noise: nearer is nobody's shape
    for (double spans = 2; static_cast<std::size_t>(spans) <= options.most_spans;
         spans = std::ceil(spans * kFiner)) {
      const auto number = static_cast<std::size_t>(spans);
      if (!fit.fit(number, task)) {
        if (best_cost < 1e300) break;
        return unsolved();
      }
      const double poles = static_cast<double>(fit.surface().poles.size());
      if (poles > 0.5 * count) break;
      if (options.tolerance > 0) {
        chosen = number;
        best_cost = 0;
        if (fit.p95() <= options.tolerance && held()) break;
      } else if (!held()) {
        chosen = number;
      } else {
        // The Schwarz criterion: a pole must pay for itself.
        const double cost =
            count * std::log(fit.rms() * fit.rms() + 1e-300) + poles * std::log(count);
        // A border bends a coarse face more than it lets it follow the points: that is no end.
        constexpr std::size_t kFine = 8;  // spans
        if (cost >= best_cost && (options.held.empty() || number >= kFine)) break;
        if (cost >= best_cost) continue;
        best_cost = cost;
        chosen = number;
        if (options.noise > 0 && fit.rms() <= kAsNoise * options.noise) break;
      }
      task.report(std::min(0.95, spans / static_cast<double>(options.most_spans)));
    }
  }
  PatchFit full(area, *domain, options);
  if (!options.held.empty() && !fit.surface().poles.empty()) full.begin_at(fit.surface());
  if (chosen == 0 || !full.fit(chosen, task)) return unsolved();
  Patch best;
  best.surface = full.surface();
  best.feet = full.feet();
  best.rms = full.rms();
  best.p95 = full.p95();
  best.greatest = full.greatest();
  best.vertices = area.vertices;
  best.border_off = full.border_off();
  best.border_turn = full.border_turn();
  best.within = options.tolerance <= 0 || best.p95 <= options.tolerance;
  constexpr double kBelowNoise = 0.85;
  best.follows_noise = options.noise > 0 && best.rms < kBelowNoise * options.noise;
  return best;
}

std::vector<std::uint32_t> smooth_area(const scan::Mesh& mesh, const scan::Topology& topology,
                                       const std::vector<std::uint32_t>& seeds, double crease) {
  // On one side of an edge: a triangle with its neighbours there, so that noise averages out and a
  // crease does not.
  const auto normal = [&](std::uint32_t t, std::uint32_t beyond) -> Vec3 {
    Vec3 sum = mesh.area_vector(t).normalized();
    for (std::size_t e = 0; e < 3; ++e) {
      const std::uint32_t next = topology.across[3 * t + e];
      if (next != scan::kNone && next != beyond) sum += mesh.area_vector(next).normalized();
    }
    return sum.normalized();
  };
  std::vector<char> taken(mesh.triangles.size(), 0);
  std::vector<std::uint32_t> area;
  for (const std::uint32_t seed : seeds) {
    if (seed >= taken.size() || taken[seed] != 0) continue;
    taken[seed] = 1;
    area.push_back(seed);
  }
  const double least = std::cos(crease);
  for (std::size_t k = 0; k < area.size(); ++k) {
    for (std::size_t e = 0; e < 3; ++e) {
      const std::uint32_t next = topology.across[3 * area[k] + e];
      if (next == scan::kNone || taken[next] != 0 ||
          !(normal(next, area[k]).dot(normal(area[k], next)) >= least))
        continue;
      taken[next] = 1;
      area.push_back(next);
    }
  }
  return area;
}

}  // namespace lostline::patch
