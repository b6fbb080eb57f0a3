#include "survey/survey.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <numeric>

#include "base/parallel.h"
#include "survey/coarse.h"
#include "survey/finish.h"
#include "survey/grower.h"
#include "survey/lent_directions.h"
#include "survey/seams.h"

namespace lostline::survey {
namespace {

/// Vertices above which surfaces are grown on a coarser copy: it tells them as well, in a sixth of
/// the time.
constexpr std::size_t kCoarsenAbove = 250000;

/// A triangle belongs to the label two of its corners share.
int triangle_label(const scan::Triangle& t, const std::vector<int>& labels) {
  const int a = labels[t[0]];
  const int b = labels[t[1]];
  const int c = labels[t[2]];
  if (a == b || a == c) return a;
  return b == c ? b : -1;
}

struct Piece {
  int label;
  std::vector<std::uint32_t> triangles;
  double area = 0;
};

std::vector<Piece> connected_pieces(const scan::Mesh& mesh, const scan::Topology& topology,
                                    const std::vector<int>& triangle_labels) {
  std::vector<Piece> pieces;
  std::vector<char> seen(mesh.triangles.size(), 0);
  for (std::size_t seed = 0; seed < seen.size(); ++seed) {
    if (seen[seed] != 0) continue;
    Piece piece{triangle_labels[seed], {static_cast<std::uint32_t>(seed)}, 0};
    seen[seed] = 1;
    for (std::size_t i = 0; i < piece.triangles.size(); ++i) {
      const std::uint32_t t = piece.triangles[i];
      piece.area += 0.5 * mesh.area_vector(t).norm();
      for (std::size_t k = 0; k < 3; ++k) {
        const std::uint32_t other = topology.across[3 * t + k];
        if (other == scan::kNone || seen[other] != 0 || triangle_labels[other] != piece.label)
          continue;
        seen[other] = 1;
        piece.triangles.push_back(other);
      }
    }
    pieces.push_back(std::move(piece));
  }
  return pieces;
}

/// A fit of a patch of any size. Of a large one every k-th point settles where the surface lies and
/// what is left out; all points then need a few rounds only.
Result<fit::SurfaceFit> fit_large(const Patch& patch, fit::Surface start,
                                  fit::SurfaceFitOptions options) {
  constexpr Eigen::Index kEnough = 5000;
  if (const Eigen::Index stride = patch.points.cols() / kEnough; stride > 2) {
    const auto every = Eigen::seq(0, Eigen::last, stride);
    fit::SurfaceFitOptions rough = options;
    rough.correlate = false;
    rough.relative_step = 1e-6;
    const auto sample =
        fit::fit_surface(start.kind, Eigen::Matrix3Xd(patch.points(Eigen::all, every)),
                         Eigen::Matrix3Xd(patch.normals(Eigen::all, every)), start, rough);
    if (sample) {
      start = sample->surface;
      options.max_rounds = 3;
      options.relative_step = 1e-6;  // a millionth of the scatter
    }
  }
  return fit::fit_surface(start.kind, patch.points, patch.normals, start, options);
}

/// Whether a piece is a strip of at most three vertices: those of a wider one have more triangles.
bool is_strip(const scan::Mesh& mesh, const std::vector<std::uint32_t>& triangles) {
  std::vector<std::uint32_t> vertices;
  for (const std::uint32_t t : triangles)
    vertices.insert(vertices.end(), mesh.triangles[t].begin(), mesh.triangles[t].end());
  std::sort(vertices.begin(), vertices.end());
  const auto count = std::unique(vertices.begin(), vertices.end()) - vertices.begin();
  return static_cast<double>(triangles.size()) < 1.35 * static_cast<double>(count);
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

  std::vector<int> labels(mesh.triangles.size());
  for (std::size_t t = 0; t < labels.size(); ++t) {
    labels[t] = triangle_label(mesh.triangles[t], grower.labels());
  }
  std::vector<Piece> pieces = connected_pieces(mesh, topology, labels);
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
      if (piece.label < 0) continue;
      const Patch& patch = patches[i] = patch_of(mesh, topology, piece.triangles);
      const fit::Surface& start = grower.surfaces()[static_cast<std::size_t>(piece.label)].surface;
      fit::SurfaceFitOptions fitting;
      fitting.hopeless = 0;  // the growing has shown that the surface holds
      const auto fitted = fit_large(patch, start, fitting);
      if (fitted) {
        // A sharp edge that the scanner has rounded looks round, but holds no surface well.
        if (fitted->sigma < 2 * grower.noise() || !is_strip(mesh, piece.triangles))
          region.fit = *fitted;
        continue;
      }
      // It holds as another kind where the kind that it grew as does not: a flat strip as a plane,
      // when it grew as a steep cone.
      for (const fit::Kind kind : {fit::Kind::Plane, fit::Kind::Cylinder, fit::Kind::Cone}) {
        const auto other = fit::fit_surface(kind, patch.points, patch.normals, {}, fitting);
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
  lend_directions(survey, topology, patches);
  number_by_area(survey, smallest_area);
  double assigned = 0;
  for (const Region& r : survey.regions) assigned += r.fit ? r.area : 0;
  survey.unassigned_area_fraction = total_area > 0 ? std::max(0.0, 1 - assigned / total_area) : 1.0;
  draw_conclusions(survey, mesh, topology);
  task.report(1.0);
  return survey;
}

}  // namespace lostline::survey
