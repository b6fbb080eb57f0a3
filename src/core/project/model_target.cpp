#include "project/model_target.h"

#include "model/faces.h"

namespace lostline::project {

Result<datum::Target> target_of(const model::Solid& solid) {
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

std::vector<float> trust_of(const survey::Survey& survey) {
  std::vector<float> trust(survey.triangle_region.size(), 0.1F);
  for (std::size_t t = 0; t < trust.size(); ++t) {
    const std::uint32_t region = survey.triangle_region[t];
    if (region != 0) trust[t] = static_cast<float>(survey.regions[region - 1].trust);
  }
  return trust;
}

}  // namespace lostline::project
