#include "survey/plane_sizes.h"

#include "base/hull.h"
#include "base/linear.h"
#include "fit/surface_kind.h"

namespace lostline::survey {

std::vector<Vec2> plane_sizes(const Survey& survey, const scan::Mesh& mesh,
                              const scan::Topology& topology) {
  const std::size_t count = survey.regions.size() + 1;
  std::vector<Placement> planes(count);
  std::vector<char> flat(count, 0);
  for (const Region& r : survey.regions) {
    if (!r.fit || !fit::is_flat(r.fit->surface.kind)) continue;
    planes[r.id] = placement_on(r.fit->surface.point, r.fit->surface.axis);
    flat[r.id] = 1;
  }
  // What lies furthest out lies on the border.
  std::vector<std::vector<Vec2>> borders(count);
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    const std::uint32_t region = survey.triangle_region[t];
    if (flat[region] == 0) continue;
    for (std::size_t k = 0; k < 3; ++k) {
      const std::uint32_t other = topology.across[3 * t + k];
      if (other != scan::kNone && survey.triangle_region[other] == region) continue;
      for (const std::size_t corner : {k, (k + 1) % 3})
        borders[region].push_back(
            planes[region].to_plane(mesh.vertices[mesh.triangles[t][corner]]));
    }
  }
  std::vector<Vec2> sizes(count, Vec2::Zero());
  for (std::size_t r = 0; r < count; ++r) sizes[r] = smallest_rectangle(borders[r]);
  return sizes;
}

}  // namespace lostline::survey
