#include "survey/hand.h"

#include <algorithm>
#include <cmath>
#include <set>

#include "survey/finish.h"
#include "survey/lent_directions.h"

namespace lostline::survey {
namespace {

Error locked(std::uint32_t region) {
  return {ErrorCode::InvalidInput,
          "Region " + std::to_string(region) + " is locked. Unlock it first."};
}
Error unknown(std::uint32_t region) {
  return {ErrorCode::InvalidInput, "There is no region " + std::to_string(region) + "."};
}

bool known(const Survey& survey, std::uint32_t region) {
  return region > 0 && region <= survey.regions.size();
}

/// Robust rounds may have left out a part of the patch: that is no fit of it.
bool covers(const fit::SurfaceFit& f) {
  return static_cast<double>(f.used) >= 0.9 * static_cast<double>(f.points);
}

/// Regions that hold a direction of one that changes must ask again who lends them theirs. Who
/// lends does not borrow, so one look suffices.
std::set<std::uint32_t> with_borrowers(const Survey& survey, std::set<std::uint32_t> changed) {
  for (const Region& r : survey.regions)
    if (!r.locked && r.direction_of != 0 && changed.contains(r.direction_of)) changed.insert(r.id);
  return changed;
}

/// Area, centre and fit of some regions from their triangles; then what depends on all of them.
void settle(Survey& survey, const scan::Mesh& mesh, const scan::Topology& topology,
            const std::set<std::uint32_t>& edited) {
  const std::set<std::uint32_t> changed = with_borrowers(survey, edited);
  std::vector<Patch> patches(survey.regions.size());
  for (const std::uint32_t id : changed) {
    Region& region = survey.regions[id - 1];
    const std::vector<std::uint32_t> triangles = triangles_of(survey, id);
    region.area = 0;
    region.triangles = triangles.size();
    region.centre.setZero();
    for (const std::uint32_t t : triangles) {
      const double area = 0.5 * mesh.area_vector(t).norm();
      region.area += area;
      region.centre += area * mesh.centroid(t);
    }
    if (region.area > 0) region.centre /= region.area;
    const std::optional<fit::SurfaceFit> before = region.fit;
    region.fit.reset();
    if (triangles.size() < 20) continue;
    const Patch& patch = patches[id - 1] = patch_of(mesh, topology, triangles);
    const double limit = std::max(8 * survey.noise_sigma, 1e-6);
    std::optional<fit::SurfaceFit> best = best_fit(patch, limit);
    if (before) {
      const auto same = fit_patch(before->surface.kind, patch, before->surface);
      if (same && covers(*same) && (!best || same->rms < 2 * best->rms) && same->rms < 2 * limit)
        best = *same;
    }
    region.fit = best;
    region.direction_of = 0;
  }
  double total = 0;
  double assigned = 0;
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    const double area = 0.5 * mesh.area_vector(t).norm();
    total += area;
    const std::uint32_t r = survey.triangle_region[t];
    if (r != 0 && survey.regions[r - 1].fit) assigned += area;
  }
  survey.unassigned_area_fraction = total > 0 ? std::max(0.0, 1 - assigned / total) : 1;
  // Of an even mesh of triangles with equal sides.
  const double spacing =
      std::sqrt(2 / std::sqrt(3.0) * total / static_cast<double>(mesh.vertices.size()));
  lend_directions(survey, topology, patches, spacing);
  draw_conclusions(survey, mesh, topology);
}

std::uint32_t new_region(Survey& survey) {
  Region region;
  region.id = static_cast<std::uint32_t>(survey.regions.size() + 1);
  survey.regions.push_back(region);
  return region.id;
}

}  // namespace

std::optional<fit::SurfaceFit> best_fit(const Patch& patch, double limit) {
  std::optional<fit::SurfaceFit> best;
  for (const fit::Kind kind : {fit::Kind::Plane, fit::Kind::Cylinder, fit::Kind::Sphere,
                               fit::Kind::Cone, fit::Kind::Torus}) {
    const auto fitted = fit_patch(kind, patch);
    if (!fitted || fitted->rms > limit) continue;
    if (!covers(*fitted)) continue;
    if (!best || fitted->rms < best->rms / 1.2) best = *fitted;
  }
  return best;
}

Result<Survey> merge_regions(const Survey& survey, const scan::Mesh& mesh,
                             const scan::Topology& topology,
                             const std::vector<std::uint32_t>& regions, const Task& task) {
  const std::set<std::uint32_t> list(regions.begin(), regions.end());
  if (list.size() < 2) return Error{ErrorCode::InvalidInput, "Pick two regions or more to merge."};
  for (const std::uint32_t r : list) {
    if (!known(survey, r)) return unknown(r);
    if (survey.regions[r - 1].locked) return locked(r);
  }
  Survey next = survey;
  for (std::uint32_t& label : next.triangle_region) {
    if (list.contains(label)) label = regions.front();
  }
  if (task.stopped()) return cancelled();
  settle(next, mesh, topology, list);
  return next;
}

Result<Survey> repaint(const Survey& survey, const scan::Mesh& mesh, const scan::Topology& topology,
                       const std::vector<std::uint32_t>& triangles, std::uint32_t to,
                       const Task& task) {
  if (triangles.empty()) return Error{ErrorCode::InvalidInput, "Nothing is selected."};
  if (to != 0 && !known(survey, to)) return unknown(to);
  if (to != 0 && survey.regions[to - 1].locked) return locked(to);
  Survey next = survey;
  const std::uint32_t target = to != 0 ? to : new_region(next);
  std::set<std::uint32_t> changed{target};
  for (const std::uint32_t t : triangles) {
    std::uint32_t& label = next.triangle_region[t];
    if (label != 0 && next.regions[label - 1].locked) continue;
    if (label != 0) changed.insert(label);
    label = target;
  }
  if (task.stopped()) return cancelled();
  settle(next, mesh, topology, changed);
  return next;
}

Result<Survey> split_region(const Survey& survey, const scan::Mesh& mesh,
                            const scan::Topology& topology, std::uint32_t region,
                            const Vec3& on_plane, const Vec3& normal, const Task& task) {
  if (!known(survey, region)) return unknown(region);
  if (survey.regions[region - 1].locked) return locked(region);
  std::vector<std::uint32_t> beyond;
  const std::vector<std::uint32_t> all = triangles_of(survey, region);
  for (const std::uint32_t t : all) {
    if ((mesh.centroid(t) - on_plane).dot(normal) > 0) beyond.push_back(t);
  }
  if (beyond.empty() || beyond.size() == all.size())
    return Error{ErrorCode::InvalidInput,
                 "The line does not cross region " + std::to_string(region) + ". Draw it across."};
  return repaint(survey, mesh, topology, beyond, 0, task);
}

Result<Survey> grow_region(const Survey& survey, const scan::Mesh& mesh,
                           const scan::Topology& topology, std::uint32_t region, bool more,
                           const Task& task) {
  if (!known(survey, region)) return unknown(region);
  if (survey.regions[region - 1].locked) return locked(region);
  std::vector<char> at_vertex(mesh.vertices.size(), 0);
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    const bool own = survey.triangle_region[t] == region;
    if (own != more) continue;
    for (const std::uint32_t v : mesh.triangles[t]) at_vertex[v] = 1;
  }
  std::vector<std::uint32_t> ring;
  std::size_t own = 0;
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    const bool in = survey.triangle_region[t] == region;
    own += in ? 1 : 0;
    if (in == more) continue;
    const scan::Triangle& c = mesh.triangles[t];
    if (at_vertex[c[0]] != 0 || at_vertex[c[1]] != 0 || at_vertex[c[2]] != 0)
      ring.push_back(static_cast<std::uint32_t>(t));
  }
  if (more) return repaint(survey, mesh, topology, ring, region, task);
  if (ring.size() == own)
    return Error{ErrorCode::InvalidInput,
                 "Region " + std::to_string(region) + " is too narrow to shrink."};
  Survey next = survey;
  for (const std::uint32_t t : ring) next.triangle_region[t] = 0;
  settle(next, mesh, topology, {region});
  return next;
}

Result<Survey> split_again(const Survey& survey, const scan::Mesh& mesh,
                           const scan::Topology& topology,
                           const std::vector<std::uint32_t>& triangles,
                           const SurveyOptions& options, const Task& task) {
  std::vector<char> keep(mesh.triangles.size(), 0);
  for (const std::uint32_t t : triangles) {
    const std::uint32_t r = survey.triangle_region[t];
    keep[t] = r == 0 || !survey.regions[r - 1].locked ? 1 : 0;
  }
  std::vector<std::uint32_t> old_of;
  const scan::Mesh part = scan::extract(mesh, keep, &old_of);
  const auto found = split_into_regions(part, scan::build_topology(part), options, task);
  if (!found) return found.error();
  Survey next = survey;
  std::set<std::uint32_t> changed;
  const auto base = static_cast<std::uint32_t>(next.regions.size());
  for (Region r : found->regions) {
    r.id += base;
    if (r.direction_of != 0) r.direction_of += base;
    next.regions.push_back(r);
  }
  for (std::size_t i = 0; i < old_of.size(); ++i) {
    std::uint32_t& label = next.triangle_region[old_of[i]];
    if (label != 0) changed.insert(label);
    label = found->triangle_region[i] == 0 ? 0 : found->triangle_region[i] + base;
  }
  settle(next, mesh, topology, changed);
  return next;
}

}  // namespace lostline::survey
