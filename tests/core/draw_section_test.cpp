// Sections drawn with what the survey knows.
#include "reading/draw_section.h"

#include <gtest/gtest.h>

#include "plate_scan.h"
#include "project/sketch_plane.h"
#include "sketch/curve_kind.h"

namespace lostline {
namespace {

using testing::PlateScan;

/// The plate whose bore the scan lacks between two levels, but for `seen` degrees.
project::Document lacking(double from, double to, double seen, unsigned seed) {
  scan::Mesh mesh = testing::plate_mesh(0.01, seed);
  const Vec2 middle(PlateScan::kLength / 2, PlateScan::kWidth / 2);
  std::erase_if(mesh.triangles, [&](const auto& t) {
    const Vec3 p = (mesh.vertices[t[0]] + mesh.vertices[t[1]] + mesh.vertices[t[2]]) / 3;
    const Vec2 off = p.head<2>() - middle;
    const double turn = std::atan2(off.y(), off.x()) * 180 / std::numbers::pi;
    return std::abs(off.norm() - PlateScan::kRadius) < 0.2 && p.z() > from && p.z() < to &&
           std::abs(turn) > seen / 2;
  });
  const auto scan = project::prepare_scan(mesh, "plate", "plate.stl", Unit::Millimetre);
  EXPECT_TRUE(scan) << scan.error().message;
  project::Document d = project::with_scan({}, *scan);
  survey::SurveyOptions options;
  options.sensitivity = 0.2;
  auto found = survey::split_into_regions(*d.scan->mesh, d.scan->topology, options);
  EXPECT_TRUE(found) << found.error().message;
  return project::with_survey(d, std::make_shared<const survey::Survey>(*std::move(found)));
}

project::TracedSketch half_height(const project::Document& d) {
  project::TracedSketch t;
  t.base = project::datum_placement(project::DatumPlane::Xy);
  t.level = PlateScan::kHeight / 2;
  t.tolerance = 0.08;
  const section::Section cut = project::cut_scan(d, t);
  t.sketch = reading::draw_section(d, t, cut);
  t.section = cut;
  return t;
}

std::ptrdiff_t count(const sketch::Sketch& s, sketch::EntityType type) {
  return std::count_if(s.entities.begin(), s.entities.end(),
                       [&](const auto& e) { return e.type == type; });
}

TEST(DrawSection, ABoreThatAnotherLevelShowsWholeIsACircle) {
  for (const unsigned seed : {3U, 4U}) {
    const project::Document d = lacking(2, 8, 140, seed);
    const project::TracedSketch t = half_height(d);
    EXPECT_EQ(count(sketch::sketch_from_section(t.section, 0.08, d.scan->health.spacing),
                    sketch::EntityType::Arc),
              1)
        << "by the level alone";
    EXPECT_EQ(count(t.sketch, sketch::EntityType::Line), 4);
    EXPECT_EQ(count(t.sketch, sketch::EntityType::Arc), 0);
    ASSERT_EQ(count(t.sketch, sketch::EntityType::Circle), 1);
    for (const sketch::Entity& e : t.sketch.entities) {
      if (e.type != sketch::EntityType::Circle) continue;
      EXPECT_NEAR(e.radius, PlateScan::kRadius, 0.01);
      EXPECT_NEAR((t.sketch.position(e.centre) - Vec2(30, 20)).norm(), 0, 0.01);
    }
  }
}

TEST(DrawSection, WhatNoLevelShowsWholeStaysAnArc) {
  const project::TracedSketch t = half_height(lacking(-1, 11, 140, 5));
  EXPECT_EQ(count(t.sketch, sketch::EntityType::Circle), 0);
  EXPECT_EQ(count(t.sketch, sketch::EntityType::Arc), 1);
  // Nor is anything told without a survey.
  project::Document without = lacking(2, 8, 140, 3);
  without.survey = nullptr;
  EXPECT_EQ(count(half_height(without).sketch, sketch::EntityType::Circle), 0);
}

}  // namespace
}  // namespace lostline
