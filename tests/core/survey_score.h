// How well a survey found the faces of a part of which every surface is known.
#pragma once

#include <cstdio>
#include <numbers>

#include "deviation/deviation.h"
#include "model/faces.h"
#include "part_family.h"
#include "simulate/scanner.h"
#include "survey/survey.h"

namespace lostline::testing {

/// What the survey made of one part.
struct Score {
  int faces = 0;    ///< analytic, above 0.2 % of the area
  int found = 0;    ///< with the right type, place and direction
  int regions = 0;  ///< with a fit, above 0.2 % of the area
  int wrong = 0;    ///< of another type than the face they lie on
};

/// @param slack  mm, departure of the real surface from the model beyond noise (warp).
inline Score judge(const model::Solid& solid, const Transform& to_model,
                   const survey::Survey& survey, const scan::Mesh& scan, double slack = 0,
                   bool tell = true) {
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
    truth[f] = model::surface_of_face(solid, f);
    if (area[f] < 0.002 * whole || !truth[f]) continue;
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
      const bool direction = !fit::has_direction(s.kind) ||
                             fit::angle_between(s.axis, truth[f]->axis) <
                                 (s.kind == fit::Kind::Torus ? 1.0 : 0.15) * std::numbers::pi / 180;
      const bool size =
          (s.kind != fit::Kind::Cylinder || std::abs(s.radius - truth[f]->radius) < 0.03) &&
          (s.kind != fit::Kind::Torus || std::abs(s.minor_radius - truth[f]->minor_radius) < 0.1);
      found = found || (direction && size && off < (turned ? 0.06 : 0.03) + reach * 0.0005 + slack);
    }
    score.found += found ? 1 : 0;
    if (!found && tell)
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
    if (!on || r.fit->surface.kind != on->kind) {
      ++score.wrong;
      if (tell)
        std::printf("    wrong: region %u is a %s on %s\n", r.id,
                    fit::kind_name(r.fit->surface.kind), solid.face_name(most->first).c_str());
    }
  }
  return score;
}

}  // namespace lostline::testing
