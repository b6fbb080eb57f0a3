// The survey against a family of parts of which every surface is known.
#include <cstdio>

#include "deviation/deviation.h"
#include "part_family.h"
#include "simulate/scanner.h"
#include "survey/survey.h"

namespace lostline {
namespace {

/// What the survey made of one part.
struct Score {
  int faces = 0;    ///< analytic, above 0.2 % of the area
  int found = 0;    ///< with the right type, place and direction
  int regions = 0;  ///< with a fit, above 0.2 % of the area
  int wrong = 0;    ///< of another type than the face they lie on
};

Score judge(const model::Solid& solid, const Transform& to_model, const survey::Survey& survey,
            const scan::Mesh& scan) {
  const auto tessellation = model::tessellate(solid, {0.01, 0.1});
  EXPECT_TRUE(tessellation);
  std::vector<double> area(solid.face_count(), 0);
  std::vector<std::vector<Vec3>> nodes(solid.face_count());
  double whole = 0;
  for (std::size_t t = 0; t < tessellation->mesh.triangles.size(); ++t) {
    const double a = 0.5 * tessellation->mesh.area_vector(t).norm();
    area[tessellation->triangle_face[t]] += a;
    whole += a;
    for (const std::uint32_t v : tessellation->mesh.triangles[t])
      nodes[tessellation->triangle_face[t]].push_back(tessellation->mesh.vertices[v]);
  }
  std::vector<fit::Surface> surfaces;
  for (const auto& r : survey.regions) {
    if (r.fit) surfaces.push_back(fit::transformed(r.fit->surface, to_model));
  }
  Score score;
  std::vector<std::optional<fit::Surface>> truth(solid.face_count());
  for (std::size_t f = 0; f < solid.face_count(); ++f) {
    model::Reference reference;
    reference.face = solid.face_name(f);
    if (const auto s = model::resolve(reference, solid)) truth[f] = *s;
    if (area[f] < 0.002 * whole || !truth[f]) continue;  // fillets are judged elsewhere
    ++score.faces;
    bool found = false;
    double nearest = 999;
    for (const fit::Surface& s : surfaces) {
      if (s.kind != truth[f]->kind) continue;
      double off = 0;
      for (const Vec3& p : nodes[f]) off = std::max(off, std::abs(s.distance(p)));
      nearest = std::min(nearest, off);
      const bool turned = s.kind != fit::Kind::Plane;
      // 0.15 degrees over the face, and 0.03 mm of radius.
      double reach = 0;
      for (const Vec3& p : nodes[f]) reach = std::max(reach, (p - nodes[f].front()).norm());
      const bool direction =
          fit::angle_between(s.axis, truth[f]->axis) < 0.15 * std::numbers::pi / 180;
      const bool size =
          s.kind != fit::Kind::Cylinder || std::abs(s.radius - truth[f]->radius) < 0.03;
      found = found || (direction && size && off < (turned ? 0.05 : 0.03) + reach * 0.0005);
    }
    score.found += found ? 1 : 0;
    if (!found)
      std::printf("    not found: %s (%s, %.2f %%); nearest of its kind %.3f mm off\n",
                  solid.face_name(f).c_str(), fit::kind_name(truth[f]->kind), 100 * area[f] / whole,
                  nearest);
  }
  const auto comparator = deviation::Comparator::build(solid);
  EXPECT_TRUE(comparator);
  for (const auto& r : survey.regions) {
    if (!r.fit || r.area < 0.002 * whole) continue;
    ++score.regions;
    std::map<std::uint32_t, int> votes;
    int seen = 0;
    for (std::size_t t = 0; t < scan.triangles.size(); ++t) {
      if (survey.triangle_region[t] != r.id || ++seen % 7 != 0) continue;
      ++votes[comparator->at(to_model * scan.centroid(t)).face];
    }
    const auto most = std::max_element(votes.begin(), votes.end(),
                                       [](auto& a, auto& b) { return a.second < b.second; });
    if (most == votes.end() || most->first >= truth.size()) continue;
    const auto& on = truth[most->first];
    const bool doubly =
        r.fit->surface.kind == fit::Kind::Torus || r.fit->surface.kind == fit::Kind::Sphere;
    if (on ? r.fit->surface.kind != on->kind : !doubly) {
      ++score.wrong;
      std::printf("    wrong: region %u is a %s on %s\n", r.id, fit::kind_name(r.fit->surface.kind),
                  solid.face_name(most->first).c_str());
    }
  }
  return score;
}

TEST(SurveyParts, FacesOfVariedPartsAreFoundWithTheRightType) {
  Score all;
  for (const testing::Part& part : testing::part_family()) {
    simulate::ScanOptions options;
    options.spacing = 0.9;
    options.noise = 0.02;
    options.seed = 7;
    const auto scan = simulate::simulate_scan(part.solid, {}, options);
    ASSERT_TRUE(scan) << scan.error().message;
    const scan::Topology topology = scan::build_topology(scan->mesh);
    const auto found = survey::split_into_regions(scan->mesh, topology);
    ASSERT_TRUE(found) << found.error().message;
    const Score s = judge(part.solid, scan->pose.inverse(), *found, scan->mesh);
    std::printf("%-16s %6zu triangles: %2d of %2d faces found, %d of %d fits wrong\n",
                part.name.c_str(), scan->mesh.triangles.size(), s.found, s.faces, s.wrong,
                s.regions);
    all.faces += s.faces;
    all.found += s.found;
    all.regions += s.regions;
    all.wrong += s.wrong;
  }
  std::printf("all: %d of %d faces found, %d of %d fits wrong\n", all.found, all.faces, all.wrong,
              all.regions);
  EXPECT_GE(all.found, 0.9 * all.faces);
  EXPECT_LE(all.wrong, 0.05 * all.regions);
}

}  // namespace
}  // namespace lostline
