#include "project/model_target.h"

#include <algorithm>

#include "model/faces.h"

namespace lostline::project {

Result<datum::Target> target_of(const model::Model& solid) {
  if (solid.empty())
    return Error{ErrorCode::InvalidInput, "There is no model to bring the scan upon."};
  auto tessellation = model::tessellate(solid, {0.01, 0.1});
  if (!tessellation) return tessellation.error();
  datum::Target target;
  for (std::size_t f = 0; f < solid.face_count(); ++f)
    target.faces.push_back(model::surface_of_face(solid, f));
  target.mesh = tessellation->mesh;
  target.triangle_face = tessellation->triangle_face;
  target.settle();
  return target;
}

std::vector<datum::Found> found_of(const survey::Survey& survey) {
  std::vector<datum::Found> found;
  for (const survey::Region& r : survey.regions) {
    if (r.fit && r.triangles > 0) found.push_back({r.fit->surface, r.area, r.centre, r.trust});
  }
  return found;
}

std::vector<float> trust_of(const survey::Survey& survey, const scan::Mesh& mesh) {
  constexpr float kLittle = 0.1F;
  constexpr std::uint32_t kUnseen = ~0U;
  // Label of the triangles about each vertex; of a border where they differ.
  std::vector<std::uint32_t> about(mesh.vertices.size(), kUnseen);
  std::vector<char> border(mesh.vertices.size(), 0);
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    for (const std::uint32_t v : mesh.triangles[t]) {
      if (about[v] != kUnseen && about[v] != survey.triangle_region[t]) border[v] = 1;
      about[v] = survey.triangle_region[t];
    }
  }
  std::vector<float> trust(survey.triangle_region.size(), kLittle);
  for (std::size_t t = 0; t < trust.size(); ++t) {
    const std::uint32_t region = survey.triangle_region[t];
    const auto& corners = mesh.triangles[t];
    if (region != 0 && border[corners[0]] + border[corners[1]] + border[corners[2]] == 0)
      trust[t] = static_cast<float>(survey.regions[region - 1].trust);
  }
  return trust;
}

Result<std::vector<datum::Candidate>> place_scan(const scan::Mesh& mesh,
                                                 const survey::Survey& survey,
                                                 const datum::Target& target,
                                                 const PlaceRequest& request, const Task& task) {
  const datum::Cloud cloud = datum::cloud_of(mesh, trust_of(survey, mesh), 200000);
  datum::PlaceOptions options;
  options.fit.search = request.search;
  options.fit.noise = std::max(0.5 * survey.noise_sigma, 1e-4);
  if (request.pairs.empty())
    return datum::place_on(target, found_of(survey), cloud, options, task, request.hint);
  const auto placed = datum::place_by_pairs(request.pairs, target.size);
  if (!placed) return placed.error();
  task.report(0.2);
  const auto fitted =
      datum::best_fit(target, cloud, placed->motion, options.fit, task.part(0.2, 1));
  if (!fitted) return fitted.error();
  return std::vector<datum::Candidate>{{*fitted, fitted->used_fraction}};
}

}  // namespace lostline::project
