#include "survey/strips.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>
#include <set>
#include <utility>

#include "survey/bands.h"
#include "survey/lent_directions.h"
#include "survey/plane_profile.h"
#include "survey/seams.h"

namespace lostline::survey {
namespace {

/// Spacings beside an edge within which its round may have moved a point: the
/// spot of the scanner and what its triangles average reach as far as one; less
/// where a strip is too narrow for that.
constexpr std::array kRounded = {1.0, 0.8, 0.6};
constexpr double kBeside = 0.35;  // spacings that the round of an edge stands off at most
constexpr double kReach = 3.5;    // of the noise, within which a point lies on a strip
constexpr double kScatter = 2.5;  // of the noise, that the points of a strip have at most
constexpr double kCertain =
    0.015;                     // rad: a line as certain as this needs no points nearer to edges
constexpr double kHeld = 0.8;  // share of the points beside a strip that lie on it
constexpr std::size_t kFewest = 14;      // points that a strip rests on
constexpr std::size_t kSeeds = 48;       // places of a band where a strip is looked for
constexpr std::size_t kAlongPlane = 60;  // points of a first guess square to a plane
constexpr std::size_t kAboutAxis = 400;  // about an axis: the whole ring has one profile
constexpr double kRows = 6;              // of points, that a band has at most
constexpr double kLevel = 0.1;           // sine within which a profile runs along or across
const double kTurned = std::cos(0.6);    // of normals of one strip, which its edges have turned
const double kFacing = std::cos(0.8);    // of the normals of points beside it

/// A surface whose direction a strip may share, and how it then looks in two
/// dimensions.
struct Lender {
  std::uint32_t region = 0;
  bool turned = false;  ///< about the axis; else along the normal of a plane
  Placement plane;      ///< normal: that direction

  [[nodiscard]] Vec2 place(const Vec3& p) const {
    if (!turned) return plane.to_plane(p);
    const Vec3 d = p - plane.origin;
    const double z = d.dot(plane.normal);
    return {(d - z * plane.normal).norm(), z};
  }
  /// A normal as it looks there; zero where it tells nothing.
  [[nodiscard]] Vec2 facing(const Vec3& p, const Vec3& normal) const {
    Vec2 seen(normal.dot(plane.x), normal.dot(plane.y));
    if (turned) {
      const Vec3 d = p - plane.origin;
      const Vec3 out = (d - d.dot(plane.normal) * plane.normal).normalized();
      seen = Vec2(normal.dot(out), normal.dot(plane.normal));
    }
    return seen.norm() > 0.5 ? Vec2(seen.normalized()) : Vec2(0, 0);
  }
};

/// A straight piece of a profile.
struct Line {
  Vec2 mean = Vec2::Zero(), along = Vec2::UnitX(), out = Vec2::UnitY();
  [[nodiscard]] double off(const Vec2& p) const { return out.dot(p - mean); }
};

struct Strip {
  Line line;
  std::size_t lender = 0;
  double certainty = 0;                ///< the noise over this is how well the line's
                                       ///< direction is told, rad; mm
  std::vector<std::uint32_t> members;  ///< vertices beside it, its edges among them
  std::vector<std::uint32_t> on;       ///< those that it rests on
};

bool has_fit(const Survey& survey, std::uint32_t triangle) {
  const std::uint32_t label = survey.triangle_region[triangle];
  return label != 0 && survey.regions[label - 1].fit.has_value();
}

/// What no surface holds, in parts that hang together by their vertices: seams
/// that were too small to be regions join what they part.
std::vector<std::vector<std::uint32_t>> bands_of(const Survey& survey, const scan::Mesh& mesh,
                                                 const scan::Topology& topology,
                                                 const std::vector<std::uint32_t>& triangles) {
  std::vector<char> free(mesh.triangles.size(), 0);
  for (const std::uint32_t t : triangles) free[t] = has_fit(survey, t) ? 0 : 1;
  std::vector<std::vector<std::uint32_t>> bands;
  for (const std::uint32_t seed : triangles) {
    if (std::exchange(free[seed], 0) == 0) continue;
    std::vector<std::uint32_t> band{seed};
    for (std::size_t i = 0; i < band.size(); ++i) {
      for (const std::uint32_t v : mesh.triangles[band[i]])
        for (const std::uint32_t t : topology.vertex_triangles[v])
          if (std::exchange(free[t], 0) != 0) band.push_back(t);
    }
    bands.push_back(std::move(band));
  }
  return bands;
}

class Band {
 public:
  Band(const Survey& survey, const scan::Mesh& mesh, const scan::Topology& topology,
       const std::vector<Vec3>& normals, double spacing,
       const std::vector<std::uint32_t>& triangles)
      : survey_(survey), mesh_(mesh), topology_(topology), normals_(normals), spacing_(spacing) {
    for (const std::uint32_t t : triangles)
      vertices_.insert(vertices_.end(), mesh.triangles[t].begin(), mesh.triangles[t].end());
    std::sort(vertices_.begin(), vertices_.end());
    vertices_.erase(std::unique(vertices_.begin(), vertices_.end()), vertices_.end());
    std::set<std::uint32_t> near;
    for (const std::uint32_t v : vertices_)
      for (const std::uint32_t t : topology.vertex_triangles[v])
        if (has_fit(survey, t)) near.insert(survey.triangle_region[t]);
    for (const std::uint32_t id : near) {
      const Region& r = survey.regions[id - 1];
      touching_.push_back(&r);
      const fit::Surface& s = r.fit->surface;
      if (!lends_direction(r)) continue;
      Lender lender{id, !fit::is_flat(s.kind), {}};
      if (lender.turned && !(s.radius > 0)) continue;
      lender.plane.origin = s.point;
      lender.plane.normal = s.axis;
      lender.plane.x = any_perpendicular(s.axis);
      lender.plane.y = s.axis.cross(lender.plane.x);
      lenders_.push_back(lender);
    }
    mark_.assign(vertices_.size(), 0);
  }

  [[nodiscard]] const Lender& lender(const Strip& strip) const { return lenders_[strip.lender]; }

  /// The strip whose direction is told best, away from the edges as far as that
  /// can be.
  std::optional<Strip> best() {
    std::optional<Strip> found;
    for (const double rounded : kRounded) {
      away_.resize(vertices_.size());
      for (std::size_t i = 0; i < vertices_.size(); ++i)
        away_[i] = std::none_of(touching_.begin(), touching_.end(), [&](const Region* r) {
          return std::abs(r->fit->surface.distance(mesh_.vertices[vertices_[i]])) <
                 rounded * spacing_;
        });
      auto here = best_of_away();
      if (here && (!found || here->certainty > found->certainty)) found = std::move(here);
      if (found && found->certainty * kCertain > survey_.noise_sigma) break;
    }
    return found;
  }

 private:
  std::optional<Strip> best_of_away() {
    std::optional<Strip> found;
    std::vector<std::size_t> seeds;
    for (std::size_t i = 0; i < vertices_.size(); ++i)
      if (away_[i]) seeds.push_back(i);
    const std::size_t step = std::max<std::size_t>(1, seeds.size() / kSeeds);
    for (std::size_t k = 0; k < lenders_.size(); ++k) {
      for (std::size_t s = 0; s < seeds.size(); s += step) {
        auto strip = strip_at(seeds[s], k);
        if (strip && (!found || strip->certainty > found->certainty)) found = std::move(strip);
      }
    }
    return found;
  }
  /// Vertices of the band that `belongs` says yes to and that hang together
  /// with the seed.
  template <class Belongs>
  std::vector<std::size_t> reached(std::size_t seed, std::size_t most, const Belongs& belongs) {
    ++stamp_;
    std::vector<std::size_t> found{seed};
    mark_[seed] = stamp_;
    for (std::size_t i = 0; i < found.size() && found.size() < most; ++i) {
      for (const std::uint32_t other : topology_.vertex_neighbours[vertices_[found[i]]]) {
        const auto at = std::lower_bound(vertices_.begin(), vertices_.end(), other);
        if (at == vertices_.end() || *at != other) continue;
        const auto k = static_cast<std::size_t>(at - vertices_.begin());
        if (mark_[k] == stamp_) continue;
        mark_[k] = stamp_;
        if (belongs(k)) found.push_back(k);
      }
    }
    return found;
  }

  std::optional<Strip> strip_at(std::size_t seed, std::size_t which) {
    const Lender& lender = lenders_[which];
    const auto place = [&](std::size_t k) { return lender.place(mesh_.vertices[vertices_[k]]); };
    const auto facing = [&](std::size_t k) {
      return lender.facing(mesh_.vertices[vertices_[k]], normals_[vertices_[k]]);
    };
    const Vec2 front = facing(seed);
    if (front.isZero()) return std::nullopt;
    std::vector<std::size_t> near =
        reached(seed, lender.turned ? kAboutAxis : kAlongPlane,
                [&](std::size_t k) { return facing(k).dot(front) > kTurned; });
    std::vector<std::size_t> on;
    std::copy_if(near.begin(), near.end(), std::back_inserter(on),
                 [&](std::size_t k) { return away_[k]; });
    Line line;
    const double reach = kReach * survey_.noise_sigma;
    for (const double within : {kBeside * spacing_, reach, reach}) {
      if (on.size() < kFewest / 2) return std::nullopt;
      std::vector<Vec2> profile;
      Vec2 out = Vec2::Zero();
      for (const std::size_t k : on) {
        profile.push_back(place(k));
        out += facing(k);
      }
      const auto [mean, along] = line_through(profile);
      line.mean = mean;
      line.along = along;
      line.out = Vec2(-along.y(), along.x());
      if (line.out.dot(out) < 0) line.out = -line.out;
      near = reached(seed, vertices_.size(), [&](std::size_t k) {
        return std::abs(line.off(place(k))) < kBeside * spacing_ &&
               facing(k).dot(line.out) > kFacing;
      });
      on.clear();
      for (const std::size_t k : near)
        if (away_[k] && std::abs(line.off(place(k))) < within) on.push_back(k);
    }
    const auto beside = static_cast<double>(
        std::count_if(near.begin(), near.end(), [&](std::size_t k) { return away_[k]; }));
    if (on.size() < kFewest || static_cast<double>(on.size()) < kHeld * beside) return std::nullopt;
    Strip strip;
    strip.line = line;
    strip.lender = which;
    double squares = 0;
    for (const std::size_t k : on) squares += std::pow((place(k) - line.mean).dot(line.along), 2);
    strip.certainty = std::sqrt(squares);
    for (const std::size_t k : near) strip.members.push_back(vertices_[k]);
    for (const std::size_t k : on) strip.on.push_back(vertices_[k]);
    return strip;
  }

  const Survey& survey_;
  const scan::Mesh& mesh_;
  const scan::Topology& topology_;
  const std::vector<Vec3>& normals_;
  double spacing_;
  std::vector<std::uint32_t> vertices_;  ///< in order
  std::vector<const Region*> touching_;  ///< regions with a fit
  std::vector<Lender> lenders_;
  std::vector<char> away_;  ///< from the edges, of every vertex
  std::vector<std::uint32_t> mark_;
  std::uint32_t stamp_ = 0;
};

/// The surface that a strip is, fitted to what it rests on.
std::optional<fit::SurfaceFit> fit_of(const Strip& strip, const Lender& lender,
                                      const scan::Mesh& mesh, const std::vector<Vec3>& normals,
                                      double noise, double spacing) {
  Patch patch;
  patch.points.resize(3, static_cast<Eigen::Index>(strip.on.size()));
  patch.normals.resize(3, patch.points.cols());
  for (std::size_t i = 0; i < strip.on.size(); ++i) {
    patch.points.col(static_cast<Eigen::Index>(i)) = mesh.vertices[strip.on[i]];
    patch.normals.col(static_cast<Eigen::Index>(i)) = normals[strip.on[i]];
  }
  const Line& line = strip.line;
  const Vec3& axis = lender.plane.normal;
  fit::Surface start;
  start.axis = axis;
  fit::SurfaceFitOptions options;
  options.hopeless = 0;
  options.direction = {fit::DirectionRule::Type::Parallel, axis};
  if (!lender.turned) {
    start.kind = fit::Kind::Plane;
    start.point = lender.plane.to_space(line.mean);
    start.axis = line.out.x() * lender.plane.x + line.out.y() * lender.plane.y;
    options.direction.type = fit::DirectionRule::Type::Perpendicular;
  } else {
    start.point = lender.plane.origin + line.mean.y() * axis;
    start.radius = line.mean.x();
    start.hollow = line.out.x() < 0;
    if (std::abs(line.along.y()) < kLevel) {
      start.kind = fit::Kind::Plane;
      if (line.out.y() < 0) start.axis = -axis;
      start.hollow = false;
      start.radius = 0;
    } else if (std::abs(line.along.x()) < kLevel) {
      start.kind = fit::Kind::Cylinder;
    } else {
      start.kind = fit::Kind::Cone;
      const double grows = line.along.x() / line.along.y();
      start.half_angle = std::atan(std::abs(grows));
      if (grows < 0) start.axis = -axis;
    }
  }
  const auto found = fit::fit_surface(start.kind, patch.points, patch.normals, start, options);
  std::optional<fit::SurfaceFit> fitted;
  if (found) fitted = *found;
  if (!fitted || fitted->sigma > kScatter * noise ||
      static_cast<double>(fitted->used) < kHeld * static_cast<double>(fitted->points))
    return std::nullopt;
  add_rounding(*fitted, patch, spacing);
  return fitted;
}

/// What is left of some regions hangs together no longer: each part becomes a region of its own.
void part_again(Survey& survey, const scan::Topology& topology,
                const std::set<std::uint32_t>& parted) {
  std::vector<char> is_parted(survey.regions.size() + 1, 0);
  for (const std::uint32_t region : parted) is_parted[region] = 1;
  for (std::uint32_t seed = 0; seed < survey.triangle_region.size(); ++seed) {
    const std::uint32_t region = survey.triangle_region[seed];
    if (region >= is_parted.size() || is_parted[region] == 0) continue;
    survey.regions.emplace_back();
    const auto id = static_cast<std::uint32_t>(survey.regions.size());
    survey.regions.back().id = id;
    std::vector<std::uint32_t> part{seed};
    survey.triangle_region[seed] = id;
    for (std::size_t i = 0; i < part.size(); ++i) {
      for (std::size_t k = 0; k < 3; ++k) {
        const std::uint32_t other = topology.across[3 * part[i] + k];
        if (other == scan::kNone || survey.triangle_region[other] != region) continue;
        survey.triangle_region[other] = id;
        part.push_back(other);
      }
    }
  }
}

}  // namespace

void find_strips(Survey& survey, const scan::Mesh& mesh, const scan::Topology& topology,
                 const std::vector<Vec3>& normals, double spacing, double smallest_area,
                 const Task& task) {
  std::vector<std::uint32_t> all(mesh.triangles.size());
  std::iota(all.begin(), all.end(), 0U);
  std::vector<std::vector<std::uint32_t>> bands = bands_of(survey, mesh, topology, all);
  std::set<std::uint32_t> parted;
  bool changed = false;
  while (!bands.empty() && !task.stopped()) {
    const std::vector<std::uint32_t> triangles = std::move(bands.back());
    bands.pop_back();
    if (triangles.size() < 4 * kFewest || !is_band(mesh, triangles, kRows)) continue;
    Band band(survey, mesh, topology, normals, spacing, triangles);
    const std::optional<Strip> strip = band.best();
    if (!strip) continue;
    const Lender& lender = band.lender(*strip);
    const auto fitted = fit_of(*strip, lender, mesh, normals, survey.noise_sigma, spacing);
    if (!fitted) continue;
    const std::set<std::uint32_t> members(strip->members.begin(), strip->members.end());
    std::vector<std::uint32_t> taken;
    double area = 0;
    for (const std::uint32_t t : triangles) {
      const auto in = std::count_if(mesh.triangles[t].begin(), mesh.triangles[t].end(),
                                    [&](std::uint32_t v) { return members.contains(v); });
      if (in < 2) continue;
      taken.push_back(t);
      area += 0.5 * mesh.area_vector(t).norm();
    }
    if (area < smallest_area) continue;
    Region region;
    region.id = static_cast<std::uint32_t>(survey.regions.size() + 1);
    region.fit = *fitted;
    region.direction_of = lender.region;
    for (const std::uint32_t t : taken) {
      if (survey.triangle_region[t] != 0) parted.insert(survey.triangle_region[t]);
      survey.triangle_region[t] = region.id;
    }
    survey.regions.push_back(std::move(region));
    changed = true;
    for (auto& rest : bands_of(survey, mesh, topology, triangles)) bands.push_back(std::move(rest));
  }
  part_again(survey, topology, parted);
  if (changed) measure_regions(survey, mesh);
}

}  // namespace lostline::survey
