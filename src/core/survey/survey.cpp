#include "survey/survey.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <numeric>

#include "base/parallel.h"
#include "survey/bands.h"
#include "survey/coarse.h"
#include "survey/finish.h"
#include "survey/grower.h"
#include "survey/lent_directions.h"
#include "survey/seams.h"
#include "survey/shared_rows.h"
#include "survey/strips.h"

namespace lostline::survey {
namespace {

/// Vertices above which surfaces are grown on a coarser copy: it tells them as well, in a sixth of
/// the time.
constexpr std::size_t kCoarsenAbove = 250000;

/// A triangle belongs to the part of a surface that two of its corners lie on.
std::uint32_t triangle_part(const scan::Triangle& t, const std::vector<std::uint32_t>& parts) {
  const std::uint32_t a = parts[t[0]];
  const std::uint32_t b = parts[t[1]];
  const std::uint32_t c = parts[t[2]];
  if (a == b || a == c) return a;
  return b == c ? b : scan::kNone;
}

/// Vertices of one label that hang together by edges of the mesh get one number. By edges and not
/// by triangles: a wall of two rows of points is one wall although some of its triangles have two
/// corners beyond an edge.
std::vector<std::uint32_t> connected_parts(const scan::Topology& topology,
                                           const std::vector<int>& labels) {
  std::vector<std::uint32_t> parts(labels.size(), scan::kNone);
  std::uint32_t count = 0;
  std::vector<std::uint32_t> queue;
  for (std::uint32_t seed = 0; seed < labels.size(); ++seed) {
    if (labels[seed] < 0 || parts[seed] != scan::kNone) continue;
    queue.assign(1, seed);
    parts[seed] = count;
    for (std::size_t i = 0; i < queue.size(); ++i) {
      for (const std::uint32_t other : topology.vertex_neighbours[queue[i]]) {
        if (parts[other] != scan::kNone || labels[other] != labels[seed]) continue;
        parts[other] = count;
        queue.push_back(other);
      }
    }
    ++count;
  }
  return parts;
}

struct Piece {
  int label = -1;  ///< of its surface; -1: of none
  std::vector<std::uint32_t> triangles;
  double area = 0;
};

/// The parts of surfaces, and what lies between them in connected pieces.
std::vector<Piece> pieces_of(const scan::Mesh& mesh, const scan::Topology& topology,
                             const std::vector<int>& labels) {
  const std::vector<std::uint32_t> parts = connected_parts(topology, labels);
  std::vector<Piece> pieces;
  std::vector<std::uint32_t> piece_of_part;
  std::vector<char> between(mesh.triangles.size(), 0);
  for (std::uint32_t t = 0; t < mesh.triangles.size(); ++t) {
    const scan::Triangle& corners = mesh.triangles[t];
    const std::uint32_t part = triangle_part(corners, parts);
    between[t] = part == scan::kNone ? 1 : 0;
    if (part == scan::kNone) continue;
    if (part >= piece_of_part.size()) piece_of_part.resize(part + 1, scan::kNone);
    if (piece_of_part[part] == scan::kNone) {
      piece_of_part[part] = static_cast<std::uint32_t>(pieces.size());
      pieces.push_back({labels[parts[corners[0]] == part ? corners[0] : corners[1]], {}, 0});
    }
    pieces[piece_of_part[part]].triangles.push_back(t);
  }
  for (std::uint32_t seed = 0; seed < between.size(); ++seed) {
    if (between[seed] == 0) continue;
    Piece piece;
    piece.triangles = {seed};
    between[seed] = 0;
    for (std::size_t i = 0; i < piece.triangles.size(); ++i) {
      for (std::size_t k = 0; k < 3; ++k) {
        const std::uint32_t other = topology.across[3 * piece.triangles[i] + k];
        if (other == scan::kNone || between[other] == 0) continue;
        between[other] = 0;
        piece.triangles.push_back(other);
      }
    }
    pieces.push_back(std::move(piece));
  }
  for (Piece& piece : pieces) {
    for (const std::uint32_t t : piece.triangles) piece.area += 0.5 * mesh.area_vector(t).norm();
  }
  return pieces;
}

/// Numbers regions in order of falling area; what the seams have left of a free-form one and is
/// smaller than `smallest_area` goes.
void number_by_area(Survey& survey, double smallest_area) {
  std::vector<Region> old = std::move(survey.regions);
  std::vector<std::uint32_t> order(old.size());
  std::iota(order.begin(), order.end(), 0U);
  std::erase_if(order, [&](std::uint32_t i) {
    return old[i].triangles == 0 || (!old[i].fit && old[i].area < smallest_area);
  });
  std::stable_sort(order.begin(), order.end(),
                   [&](std::uint32_t a, std::uint32_t b) { return old[a].area > old[b].area; });
  std::vector<std::uint32_t> number(old.size() + 1, 0);
  survey.regions.clear();
  for (const std::uint32_t i : order) {
    survey.regions.push_back(std::move(old[i]));
    survey.regions.back().id = number[i + 1] = static_cast<std::uint32_t>(survey.regions.size());
  }
  for (std::uint32_t& label : survey.triangle_region) label = number[label];
  for (Region& r : survey.regions) r.direction_of = number[r.direction_of];
}

}  // namespace

const char* finish_name(Finish finish) {
  switch (finish) {
    case Finish::Machined:
      return "machined";
    case Finish::AsCast:
      return "as-cast";
    case Finish::Formed:
      return "formed";
    case Finish::Unknown:
      return "not told";
  }
  return "";
}

const char* relation_name(FoundRelation::Type type) {
  switch (type) {
    case FoundRelation::Type::Parallel:
      return "parallel";
    case FoundRelation::Type::Perpendicular:
      return "perpendicular";
    case FoundRelation::Type::Coaxial:
      return "coaxial";
  }
  return "";
}

Result<Survey> split_into_regions(const scan::Mesh& mesh, const scan::Topology& topology,
                                  const SurveyOptions& options, const Task& task) {
  if (mesh.triangles.size() < 100) {
    return Error{ErrorCode::InvalidInput, "The scan has only " +
                                              std::to_string(mesh.triangles.size()) +
                                              " triangles; a survey needs at least 100."};
  }
  double total_area = 0;
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t)
    total_area += 0.5 * mesh.area_vector(t).norm();
  const double smallest_area =
      total_area * std::pow(10.0, -2.3 - 2 * std::clamp(options.sensitivity, 0.0, 1.0));
  const double per_vertex = total_area / static_cast<double>(mesh.vertices.size());
  const auto smallest = static_cast<std::size_t>(std::max(30.0, 0.7 * smallest_area / per_vertex));
  Grower grower(mesh, topology, options, smallest);
  if (mesh.vertices.size() > kCoarsenAbove) {
    const Coarse coarse = coarsen(mesh, topology, grower.normals());
    const scan::Topology joined = scan::build_topology(coarse.mesh);
    const double share = static_cast<double>(coarse.mesh.vertices.size()) /
                         static_cast<double>(mesh.vertices.size());
    Grower first(coarse.mesh, joined, options,
                 static_cast<std::size_t>(std::max(30.0, share * static_cast<double>(smallest))));
    if (const Status status = first.run(task.part(0.2, 0.7)); !status) return status.error();
    if (const Status status = grower.refine(first, coarse.cluster, task.part(0.7, 0.8)); !status)
      return status.error();
  } else if (const Status status = grower.run(task.part(0, 0.8)); !status) {
    return status.error();
  }

  std::vector<Piece> pieces = pieces_of(mesh, topology, grower.labels());
  std::erase_if(pieces, [&](const Piece& p) { return p.area < smallest_area; });
  std::stable_sort(pieces.begin(), pieces.end(),
                   [](const Piece& a, const Piece& b) { return a.area > b.area; });

  Survey survey;
  survey.noise_sigma = grower.noise();
  survey.triangle_region.assign(mesh.triangles.size(), 0);
  survey.regions.resize(pieces.size());
  task.report(0.85);
  std::vector<Patch> patches(pieces.size());
  parallel_for(pieces.size(), 1, [&](std::size_t begin, std::size_t end) {
    for (std::size_t i = begin; i < end && !task.stopped(); ++i) {
      Region& region = survey.regions[i];
      const Piece& piece = pieces[i];
      region.id = static_cast<std::uint32_t>(i + 1);
      if (piece.label < 0) {
        // A wall that no surface was grown on, with the rounded edges beside it.
        if (is_band(mesh, piece.triangles, 6)) {
          patches[i] =
              patch_of(mesh, topology, piece.triangles, [](std::uint32_t) { return true; });
          patches[i].narrow = patches[i].band = true;
        }
        continue;
      }
      Patch& patch = patches[i] = patch_of(mesh, topology, piece.triangles, [&](std::uint32_t v) {
        return grower.labels()[v] == piece.label;
      });
      leave_out_shared_rows(patch, piece.label, grower, topology, options);
      patches[i].band = is_band(mesh, piece.triangles, 6);
      const Grower::Candidate& grown = grower.surfaces()[static_cast<std::size_t>(piece.label)];
      const fit::Surface& start = grown.surface;
      fit::SurfaceFitOptions fitting;
      fitting.hopeless = 0;  // the growing has shown that the surface holds
      if (patch.points.cols() > 10000) {
        fitting.max_rounds = 3;
        fitting.relative_step = 1e-6;  // a millionth of the scatter
      }
      const auto fitted = fit_patch(start.kind, patch, start, fitting);
      if (fitted) {
        // A sharp edge that the scanner has rounded looks round, but holds no surface well.
        if (fitted->sigma < 2 * grower.noise() ||
            (fitted->sigma < 2 * grown.sigma && !is_band(mesh, piece.triangles, 3)))
          region.fit = *fitted;
        if (region.fit && start.kind == fit::Kind::Cone) take_as_cylinder(*region.fit, patch);
        if (region.fit && is_band(mesh, piece.triangles, 10))
          take_as_cone(*region.fit, patch, grower.noise());
        continue;
      }
      // It holds as another kind where the kind that it grew as does not: a flat strip as a plane,
      // when it grew as a steep cone.
      for (const fit::Kind kind : {fit::Kind::Plane, fit::Kind::Cylinder, fit::Kind::Cone}) {
        const auto other = fit_patch(kind, patch, {}, fitting);
        if (!other || other->sigma > 1.5 * grower.noise()) continue;
        region.fit = *other;
        break;
      }
    }
  });
  if (task.stopped()) return cancelled();
  for (std::size_t i = 0; i < pieces.size(); ++i) {
    for (const std::uint32_t t : pieces[i].triangles)
      survey.triangle_region[t] = survey.regions[i].id;
  }
  close_seams(survey, mesh, topology, grower.spacing());
  measure_regions(survey, mesh);
  lend_directions(survey, topology, patches, grower.spacing());
  find_strips(survey, mesh, topology, grower.normals(), grower.spacing(), smallest_area, task);
  if (task.stopped()) return cancelled();
  number_by_area(survey, smallest_area);
  double assigned = 0;
  for (const Region& r : survey.regions) assigned += r.fit ? r.area : 0;
  survey.unassigned_area_fraction = total_area > 0 ? std::max(0.0, 1 - assigned / total_area) : 1.0;
  draw_conclusions(survey, mesh, topology);
  task.report(1.0);
  return survey;
}

}  // namespace lostline::survey
