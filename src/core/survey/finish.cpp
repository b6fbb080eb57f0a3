#include "survey/finish.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/parallel.h"

namespace lostline::survey {

namespace {

/// Residuals of the vertices inside fitted regions, and what of them is finer than three rings.
void measure_residuals(Survey& survey, const scan::Mesh& mesh, const scan::Topology& topology) {
  const std::size_t n = mesh.vertices.size();
  std::vector<std::uint32_t> owner(n, 0);
  std::vector<float> residual(n, 0);
  parallel_for(n, 4096, [&](std::size_t begin, std::size_t end) {
    for (std::size_t v = begin; v < end; ++v) {
      std::uint32_t region = 0;
      bool inside = true;
      for (const std::uint32_t t : topology.vertex_triangles[v]) {
        const std::uint32_t r = survey.triangle_region[t];
        inside = inside && (region == 0 || region == r);
        region = r;
      }
      if (!inside || region == 0 || !survey.regions[region - 1].fit) continue;
      owner[v] = region;
      residual[v] =
          static_cast<float>(survey.regions[region - 1].fit->surface.distance(mesh.vertices[v]));
    }
  });
  std::vector<float> smooth = residual;
  std::vector<float> next(n, 0);
  for (int pass = 0; pass < 3; ++pass) {
    parallel_for(n, 4096, [&](std::size_t begin, std::size_t end) {
      for (std::size_t v = begin; v < end; ++v) {
        if (owner[v] == 0) continue;
        float sum = smooth[v];
        float count = 1;
        for (const std::uint32_t other : topology.vertex_neighbours[v]) {
          if (owner[other] != owner[v]) continue;
          sum += smooth[other];
          count += 1;
        }
        next[v] = sum / count;
      }
    });
    smooth.swap(next);
  }
  // Independent noise keeps 0.82 of its variance after three such means of seven are taken off.
  constexpr double kKept = 0.82;
  struct Sum {
    double squares = 0;
    double count = 0;
    std::vector<std::uint32_t> vertices;
  };
  std::vector<Sum> sums(survey.regions.size());
  for (std::uint32_t v = 0; v < n; ++v) {
    if (owner[v] == 0) continue;
    Sum& s = sums[owner[v] - 1];
    const double off = residual[v] - smooth[v];
    s.vertices.push_back(v);
    if (std::abs(residual[v]) > 4 * survey.regions[owner[v] - 1].fit->sigma) continue;  // strays
    const auto ring = topology.vertex_neighbours[v];
    if (std::any_of(ring.begin(), ring.end(),
                    [&](std::uint32_t other) { return owner[other] != owner[v]; }))
      continue;  // the edge beside it is no roughness
    s.squares += off * off;
    s.count += 1;
  }
  parallel_for(sums.size(), 1, [&](std::size_t begin, std::size_t end) {
    for (std::size_t i = begin; i < end; ++i) {
      Region& region = survey.regions[i];
      region.form.reset();
      region.roughness = 0;
      if (!region.fit || sums[i].count < 30) continue;
      region.roughness = std::sqrt(sums[i].squares / sums[i].count / kKept);
      const std::size_t stride = std::max<std::size_t>(1, sums[i].vertices.size() / 20000);
      Eigen::Matrix3Xd points(
          3, static_cast<Eigen::Index>((sums[i].vertices.size() + stride - 1) / stride));
      for (Eigen::Index k = 0; k < points.cols(); ++k)
        points.col(k) = mesh.vertices[sums[i].vertices[static_cast<std::size_t>(k) * stride]];
      region.form = fit::form_of(region.fit->surface, points);
    }
  });
}

}  // namespace

double trust_of(Finish finish) {
  switch (finish) {
    case Finish::Machined:
      return 1.0;
    case Finish::Formed:
      return 0.6;
    case Finish::AsCast:
      return 0.3;
    case Finish::Unknown:  // nothing speaks against it, and all are alike
      return 1.0;
  }
  return 1.0;
}

namespace {
// Root mean square roughness beyond the scanner's noise that a surface of each finish keeps below,
// mm: about Ra 6 um for machined and Ra 13 um for rolled, drawn or die-cast surfaces.
constexpr double kMachined = 0.008;
constexpr double kFormed = 0.016;
}  // namespace

namespace {

/// A region's roughness and how many points it rests on.
struct Rough {
  double value;
  double points;
};

/// What the scanner alone contributes: the roughness of the smoothest surfaces that agree with each
/// other, however little of the part they are. Empty when no region tells its roughness.
std::optional<double> noise_floor(std::vector<Rough> all) {
  constexpr double kAlike = 1.35;  // by how much the noise of one scan varies with angle of sight
  constexpr double kEnough = 150;  // points that tell a roughness to a twentieth: 1 / sqrt(2 n)
  std::sort(all.begin(), all.end(),
            [](const Rough& a, const Rough& b) { return a.value < b.value; });
  for (std::size_t i = 0; i < all.size(); ++i) {
    double squares = 0;
    double points = 0;
    for (std::size_t j = i; j < all.size(); ++j) {
      if (points > 0 && all[j].value > kAlike * std::sqrt(squares / points)) break;
      squares += all[j].points * all[j].value * all[j].value;
      points += all[j].points;
    }
    if (points >= kEnough) return std::sqrt(squares / points);
  }
  return std::nullopt;
}

}  // namespace

void judge_finish(std::vector<Region>& regions) {
  std::vector<Rough> all;
  double roughest = 0;
  for (const Region& r : regions) {
    if (!r.fit || !(r.roughness > 0)) continue;
    all.push_back({r.roughness, 0.5 * static_cast<double>(r.triangles)});
    if (all.back().points > 60) roughest = std::max(roughest, r.roughness);
  }
  const auto floor = noise_floor(all);
  const auto excess_of = [&](double rough) {
    return std::sqrt(std::max(0.0, rough * rough - *floor * *floor));
  };
  // Where all are alike, the scan's noise may as well be the surfaces' own roughness, unless even
  // all of it would be no more than a formed surface has.
  const bool apart =
      floor && (*floor < kFormed || excess_of(roughest) > std::max(kMachined, 0.9 * *floor));
  for (Region& r : regions) {
    if (r.finish_by_hand) continue;
    if (!apart) {
      r.finish = Finish::Unknown;
    } else {
      // Too small to say: as its form lets expect.
      const double excess = excess_of(r.roughness > 0 ? r.roughness : r.fit ? r.fit->sigma : 1e300);
      r.finish = excess < std::max(kMachined, 0.6 * *floor) ? Finish::Machined
                 : excess < kFormed                         ? Finish::Formed
                                                            : Finish::AsCast;
    }
    r.trust = r.fit ? trust_of(r.finish) : 0.1;
  }
}

void find_shared(std::vector<Region>& regions) {
  const double usual = usual_departure(regions);
  const auto one_surface = [usual](const Region& a, const Region& b) {
    const fit::SurfaceFit& f = *a.fit;
    const fit::SurfaceFit& g = *b.fit;
    const fit::Surface& s = f.surface;
    const fit::Surface& t = g.surface;
    if (s.kind != t.kind || s.hollow != t.hollow) return false;
    const double turn = std::max(std::hypot(f.u_angle, g.u_angle), 0.0035);  // 0.2 degrees
    if (fit::is_flat(s.kind)) {
      if (s.axis.dot(t.axis) < std::cos(std::min(turn, 0.02))) return false;
      // Each one's middle on the other, within what their tilts leave open.
      const double far = (a.centre - b.centre).norm();
      const double limit = std::max(
          usual / 5, std::hypot(f.u_offset, g.u_offset) + far * std::min(f.u_angle, g.u_angle));
      return std::abs(s.distance(g.centroid)) < std::min(limit, usual) &&
             std::abs(t.distance(f.centroid)) < std::min(limit, usual);
    }
    if (!fit::is_turned(s.kind)) return false;
    if (fit::angle_between(s.axis, t.axis) > std::min(turn, 0.02)) return false;
    const Vec3 d = t.point - s.point;
    const double off = (d - d.dot(s.axis) * s.axis).norm();
    if (off > std::clamp(std::hypot(f.u_offset, g.u_offset), usual / 4, usual)) return false;
    const double sized = std::clamp(std::hypot(f.u_radius, g.u_radius), usual / 5, usual);
    if (s.kind == fit::Kind::Cylinder) return std::abs(s.radius - t.radius) < sized;
    return std::abs(s.half_angle - t.half_angle) < 0.01 &&
           std::abs(s.distance(g.centroid) - t.distance(g.centroid)) < sized;
  };
  for (Region& r : regions) r.shared = 0;
  for (std::size_t i = 0; i < regions.size(); ++i) {
    if (!regions[i].fit || regions[i].shared != 0) continue;
    for (std::size_t j = i + 1; j < regions.size(); ++j) {
      if (!regions[j].fit || regions[j].shared != 0 || !one_surface(regions[i], regions[j]))
        continue;
      regions[i].shared = regions[j].shared = regions[i].id;
    }
  }
}

void draw_conclusions(Survey& survey, const scan::Mesh& mesh, const scan::Topology& topology) {
  measure_residuals(survey, mesh, topology);
  judge_finish(survey.regions);
  find_shared(survey.regions);
  survey.relations = find_relations(survey.regions);
  survey.patterns = find_patterns(survey.regions);
}

std::vector<FoundRelation> find_relations(const std::vector<Region>& regions) {
  std::vector<FoundRelation> relations;
  const double usual = usual_departure(regions);
  constexpr double kLoose = 0.1 * std::numbers::pi / 180;
  for (std::size_t i = 0; i < regions.size(); ++i) {
    for (std::size_t j = i + 1; j < regions.size(); ++j) {
      if (!regions[i].fit || !regions[j].fit) continue;
      const fit::SurfaceFit& a = *regions[i].fit;
      const fit::SurfaceFit& b = *regions[j].fit;
      if (!fit::has_direction(a.surface.kind) || !fit::has_direction(b.surface.kind)) continue;
      const double angle = fit::angle_between(a.surface.axis, b.surface.axis);
      const double limit = std::max(kLoose, std::hypot(a.u_angle, b.u_angle));
      if (limit > 0.05) continue;  // too uncertain to say anything
      // A plane's direction is its normal, so plane and cylinder are parallel when normal and axis
      // are square.
      const bool mixed = (fit::is_flat(a.surface.kind)) != (fit::is_flat(b.surface.kind));
      if (angle < limit) {
        if (!fit::is_flat(a.surface.kind) && !mixed) {
          const Vec3 d = b.surface.point - a.surface.point;
          const double offset = (d - d.dot(a.surface.axis) * a.surface.axis).norm();
          if (offset < std::max(usual / 3, std::hypot(a.u_offset, b.u_offset))) {
            relations.push_back(
                {FoundRelation::Type::Coaxial, regions[i].id, regions[j].id, angle, offset});
            continue;
          }
        }
        relations.push_back(
            {mixed ? FoundRelation::Type::Perpendicular : FoundRelation::Type::Parallel,
             regions[i].id, regions[j].id, angle, 0});
      } else if (std::abs(std::numbers::pi / 2 - angle) < limit) {
        relations.push_back(
            {mixed ? FoundRelation::Type::Parallel : FoundRelation::Type::Perpendicular,
             regions[i].id, regions[j].id, std::abs(std::numbers::pi / 2 - angle), 0});
      }
    }
  }
  return relations;
}

}  // namespace lostline::survey
