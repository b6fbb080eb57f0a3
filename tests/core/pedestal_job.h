#pragma once

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

#include "project/edits.h"
#include "project/sketch_plane.h"
#include "reading/evidence.h"
#include "simulate/parts.h"

namespace lostline::testing {

/// Number of the region whose fit satisfies `wanted`, largest first; 0 when there is none.
template <class Wanted>
std::uint32_t region_where(const project::Document& document, Wanted wanted) {
  for (const survey::Region& r : document.survey->regions) {
    if (r.fit && wanted(*r.fit)) return r.id;
  }
  return 0;
}

inline std::uint32_t cylinder_region(const project::Document& document, double radius,
                                     int which = 0) {
  return region_where(document, [&](const fit::SurfaceFit& f) {
    return f.surface.kind == fit::Kind::Cylinder && f.surface.hollow &&
           std::abs(f.surface.radius - radius) < 0.3 && which-- == 0;
  });
}

/// The frame a designer would choose: foot on z = 0, bore axis as origin, x along the holes' long
/// side.
inline project::DatumFrame pedestal_frame(const project::Document& document) {
  project::DatumFrame spec;
  spec.primary.region = region_where(
      document, [](const fit::SurfaceFit& f) { return f.surface.kind == fit::Kind::Plane; });
  spec.primary_axis = datum::Axis::MinusZ;
  // Two holes on one long side: neighbours 140 apart.
  const simulate::PedestalDesign design;
  std::uint32_t first = cylinder_region(document, design.hole_diameter / 2, 0);
  const Vec3 p = document.fit_of({first, 0})->surface.point;
  for (int k = 1; k < 4; ++k) {
    const std::uint32_t other = cylinder_region(document, design.hole_diameter / 2, k);
    const Vec3 axis = document.fit_of({first, 0})->surface.axis;
    Vec3 d = document.fit_of({other, 0})->surface.point - p;
    d -= d.dot(axis) * axis;
    if (std::abs(d.norm() - design.hole_pitch_x) < 1) spec.secondary = {{first, 0}, {other, 0}};
  }
  spec.secondary_axis = datum::Axis::X;
  spec.origin = {{cylinder_region(document, design.bore_diameter / 2), 0}};
  return spec;
}

inline project::TracedSketch traced(const project::Document& document, project::DatumPlane plane,
                                    double level, double tolerance, const std::string& name) {
  project::TracedSketch t;
  t.name = name;
  t.plane = plane;
  t.base = project::datum_placement(plane);
  t.level = level;
  t.tolerance = tolerance;
  const section::Section cut = project::cut_scan(document, t.base, level);
  t.sketch = sketch::sketch_from_section(cut, tolerance, document.scan->health.spacing);
  for (const sketch::Constraint& c : sketch::suggest_constraints(t.sketch))
    t.sketch.add_constraint(c.type, c.first, c.second);
  return t;
}

/// The corners that make closed triangles of the middle section's outline: each slanted rib line
/// runs on to the bore's wall and to the foot's underside, so that the ribs end inside boss and
/// foot.
inline std::vector<std::pair<sketch::Id, sketch::Id>> buried_rib_corners(const sketch::Sketch& s) {
  std::vector<std::pair<sketch::Id, sketch::Id>> corners;
  for (const double side : {-1.0, 1.0}) {
    sketch::Id slope = 0;
    sketch::Id wall = 0;
    sketch::Id underside = 0;
    double nearest = 1e9;
    for (const sketch::Entity& e : s.entities) {
      if (e.type != sketch::EntityType::Line) continue;
      const Vec2 a = s.position(e.a);
      const Vec2 b = s.position(e.b);
      const Vec2 d = (b - a).normalized();
      const Vec2 m = 0.5 * (a + b);
      if (m.x() * side < 0) continue;
      if (std::abs(d.x()) > 0.3 && std::abs(d.y()) > 0.3 && (b - a).norm() > 20) slope = e.id;
      if (std::abs(d.x()) < 0.1 && std::abs(m.x()) < nearest) {
        nearest = std::abs(m.x());
        wall = e.id;
      }
      if (std::abs(d.y()) < 0.1 && std::abs(m.y()) < 1) underside = e.id;
    }
    corners.emplace_back(slope, wall);
    corners.emplace_back(slope, underside);
  }
  return corners;
}

inline sketch::Sketch buried_ribs(sketch::Sketch s) {
  for (const auto& [slope, other] : buried_rib_corners(s)) {
    const auto made = sketch::make_corner(s, slope, other, 0);
    EXPECT_TRUE(made) << made.error().message;
    if (made) s = *made;
  }
  return s;
}

}  // namespace lostline::testing
