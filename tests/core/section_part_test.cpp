// Sections through a part of the scan, and through several scans.
#include <gtest/gtest.h>

#include <filesystem>
#include <fstream>
#include <numeric>

#include "part_builder.h"
#include "plate_scan.h"
#include "project/sketch_plane.h"
#include "simulate/scanner.h"
#include "store/project_file.h"
#include "support/places.h"

namespace lostline {
namespace {

using testing::PlateScan;

class SectionPart : public testing::PlateJob {
 protected:
  static double length(const section::Section& s) {
    return std::accumulate(s.polylines.begin(), s.polylines.end(), 0.0,
                           [](double sum, const auto& line) { return sum + line.length(); });
  }
  static project::TracedSketch through(const std::vector<std::uint32_t>& regions) {
    project::TracedSketch t = half_height();
    const auto part = project::part_of_regions(*framed_, regions);
    EXPECT_TRUE(part);
    t.part = *part;
    return t;
  }
};

TEST_F(SectionPart, OneWallIsOneRunAndTheBoreClosesAsInTheWhole) {
  const section::Section wall = project::cut_scan(*framed_, through({region({1, 0, 0})}));
  ASSERT_EQ(wall.polylines.size(), 1U);
  EXPECT_FALSE(wall.polylines[0].closed);
  EXPECT_NEAR(wall.polylines[0].length(), PlateScan::kWidth, 2);
  const section::Section round = project::cut_scan(*framed_, through({bore()}));
  ASSERT_EQ(round.polylines.size(), 1U);
  EXPECT_TRUE(round.polylines[0].closed);
  EXPECT_NEAR(round.polylines[0].length(), 2 * std::numbers::pi * PlateScan::kRadius, 0.5);
  // A plane that the chosen regions do not reach misses them.
  project::TracedSketch above = through({bore()});
  above.level = 50;
  EXPECT_TRUE(project::cut_scan(*framed_, above).polylines.empty());
}

TEST(SectionLevel, WhereItRunsAlongAFaceIsToldWithTheNearestThatDoesNot) {
  // A plate with a boss, at any size and wherever it lies: its top is a level that noise decides.
  for (const double size : {0.1, 1.0, 20.0}) {
    testing::PartBuilder part;
    part.box(size * Vec2(-60, -40), size * Vec2(60, 40), 0, size * 14)
        .disc({0, 0}, size * 20, size * 14, size * 28);
    simulate::ScanOptions options;
    options.spacing = size;
    options.noise = 0.02 * size;
    options.seed = 11 + static_cast<std::uint64_t>(size);
    const auto scan = simulate::simulate_scan(part.solid(), {}, options);
    ASSERT_TRUE(scan) << scan.error().message;
    const auto prepared = project::prepare_scan(scan->mesh, "plate", "", Unit::Millimetre);
    ASSERT_TRUE(prepared) << prepared.error().message;
    const project::Document document = project::with_scan({}, *prepared);
    project::TracedSketch traced;
    const Transform& pose = scan->pose;
    traced.base = {pose.translation(), pose.linear().col(0), pose.linear().col(1),
                   pose.linear().col(2)};
    for (const double level : {7.0, 20.0}) {
      traced.level = size * level;
      EXPECT_FALSE(project::along_face(document, traced)) << size << " " << level;
    }
    traced.level = size * 14;
    const auto along = project::along_face(document, traced);
    ASSERT_TRUE(along) << size;
    EXPECT_GT(along->runs, 30U);
    ASSERT_TRUE(along->better) << size;
    traced.level = *along->better;
    EXPECT_FALSE(project::along_face(document, traced)) << size;
    // One of the levels of several is enough, and it is told which.
    traced.level = size * 7;
    traced.more_levels = {size * 20, size * 14};
    const auto among = project::along_face(document, traced);
    ASSERT_TRUE(among);
    EXPECT_EQ(among->level, size * 14);
    traced.silhouette = project::Silhouette{};
    EXPECT_FALSE(project::along_face(document, traced)) << "an outline cuts nothing";
  }
}

TEST_F(SectionPart, APartAndTheRestMakeTheWhole) {
  // Whatever the part is: no stretch is there twice, and none is lost but gaps between the two.
  const std::size_t triangles = framed_->scan->mesh->triangles.size();
  const Placement plane = {{30, 20, 5}, Vec3::UnitX(), Vec3::UnitY(), Vec3::UnitZ()};
  section::SectionOptions options;
  options.fewest_points = 2;
  const section::Section whole = framed_->scan->sections->cut(plane, options);
  double gaps = 0;
  for (const section::Polyline& line : whole.polylines) {
    for (const std::size_t g : line.gaps)
      gaps += (line.points[(g + 1) % line.points.size()] - line.points[g]).norm();
  }
  EXPECT_LT(gaps, 0.2);  // between the patches that the plate is made of
  for (unsigned seed = 1; seed <= 8; ++seed) {
    std::mt19937_64 random(seed);
    auto part = std::make_shared<std::vector<bool>>(triangles);
    auto rest = std::make_shared<std::vector<bool>>(triangles);
    const unsigned longest = 1 + random() % 400;
    for (std::size_t t = 0; t < triangles;) {
      const bool in = random() % 2 == 0;
      for (unsigned k = 1 + random() % longest; k > 0 && t < triangles; --k, ++t) {
        (*part)[t] = in;
        (*rest)[t] = !in;
      }
    }
    options.part = part;
    const section::Section one = framed_->scan->sections->cut(plane, options);
    options.part = rest;
    const section::Section other = framed_->scan->sections->cut(plane, options);
    EXPECT_LE(length(one) + length(other), length(whole) + 1e-9) << seed;
    EXPECT_GE(length(one) + length(other), length(whole) - gaps - 1e-9) << seed;
    for (const section::Polyline& line : one.polylines) {
      ASSERT_EQ(line.triangles.size(), line.points.size());
      for (std::size_t i = 0; i + 1 < line.points.size(); ++i) {
        if (std::find(line.gaps.begin(), line.gaps.end(), i) != line.gaps.end()) continue;
        ASSERT_NE(line.triangles[i], scan::kNone);
        EXPECT_TRUE((*part)[line.triangles[i]]);
      }
    }
    options.part = std::make_shared<std::vector<bool>>(triangles, true);
    const section::Section all = framed_->scan->sections->cut(plane, options);
    ASSERT_EQ(all.polylines.size(), whole.polylines.size());
    for (std::size_t i = 0; i < all.polylines.size(); ++i)
      EXPECT_EQ(all.polylines[i].points, whole.polylines[i].points);
    options.part = nullptr;
  }
}

TEST_F(SectionPart, IsSaidInTheNameSavedAndCutAgain) {
  project::TracedSketch t = through({bore()});
  EXPECT_EQ(project::section_name(*framed_, t), "xy + 5, in part");
  auto d = project::with_other_scan(*framed_, framed_->scan);
  t.also = {d.other_scans[0]->name};
  t.sketch =
      sketch::sketch_from_section(project::cut_scan(d, t), t.tolerance, d.scan->health.spacing);
  const auto added = project::add_sketch(d, t);
  ASSERT_TRUE(added) << added.error().message;
  const auto path = testing::scratch() / "lostline-section-part.lostline";
  ASSERT_TRUE(store::save_project(path, added->document));
  const auto back = store::load_project(path);
  ASSERT_TRUE(back) << back.error().message;
  const project::TracedSketch& found = *back->sketches.back();
  ASSERT_NE(found.part, nullptr);
  EXPECT_EQ(*found.part, *t.part);
  EXPECT_EQ(found.also, t.also);
  EXPECT_EQ(found.section.polylines.size(), project::cut_scan(d, t).polylines.size());

  // A list that names what the scan does not have is refused.
  auto stray = std::make_shared<project::TracedSketch>(*added->document.sketches.back());
  stray->part = std::make_shared<const std::vector<std::uint32_t>>(
      std::vector<std::uint32_t>{1, 1000000000U});
  project::Document bad = added->document;
  bad.sketches.back() = stray;
  ASSERT_TRUE(store::save_project(path, bad));
  const auto refused = store::load_project(path);
  ASSERT_FALSE(refused);
  EXPECT_NE(refused.error().message.find("triangles that the scan does not have"),
            std::string::npos)
      << refused.error().message;
  std::filesystem::remove(path);
}

TEST_F(SectionPart, SeveralScansAreCutTogether) {
  project::Document d = project::with_other_scan(*framed_, framed_->scan);
  project::TracedSketch t = half_height();
  const double once = length(project::cut_scan(d, t));
  t.also = {d.other_scans[0]->name};
  const section::Section both = project::cut_scan(d, t);
  EXPECT_NEAR(length(both), 2 * once, 1e-9 * once);
  // Only the first scan's runs name its triangles.
  const auto known = std::count_if(both.polylines.begin(), both.polylines.end(),
                                   [](const auto& line) { return !line.triangles.empty(); });
  EXPECT_EQ(2 * known, static_cast<std::ptrdiff_t>(both.polylines.size()));
  t.also = {"another"};
  EXPECT_NEAR(length(project::cut_scan(d, t)), once, 1e-9);
}

TEST_F(SectionPart, StaysOnItsFacesWhenTheScanIsMeasuredAnew) {
  const project::TracedSketch t = through({bore()});
  // Another scan of the same part: other noise, other points.
  const auto finer = project::prepare_scan(testing::plate_mesh(kNoise, 9, 2), "plate", "plate.stl",
                                           Unit::Millimetre);
  ASSERT_TRUE(finer);
  project::Document d = *framed_;
  d.sketches.push_back(std::make_shared<const project::TracedSketch>(t));
  const project::Document next = project::with_changed_scan(d, *finer);
  ASSERT_NE(next.sketches.back()->part, nullptr);
  ASSERT_FALSE(next.sketches.back()->part->empty());
  for (const std::uint32_t triangle : *next.sketches.back()->part) {
    const Vec3 p = (*finer)->mesh->corner(triangle, 0);
    EXPECT_NEAR(std::hypot(p.x() - 30, p.y() - 20), PlateScan::kRadius, 1.5);
  }
  const section::Section round = project::cut_scan(next, *next.sketches.back());
  ASSERT_EQ(round.polylines.size(), 1U);
  EXPECT_NEAR(round.polylines[0].length(), 2 * std::numbers::pi * PlateScan::kRadius, 0.5);
  // Scaled, the triangles are the same.
  scan::Mesh larger = *framed_->scan->mesh;
  for (Vec3& v : larger.vertices) v *= 25.4;
  const auto scaled = project::prepare_scan(std::move(larger), "plate", "plate.stl", Unit::Inch);
  ASSERT_TRUE(scaled);
  EXPECT_EQ(*project::with_changed_scan(d, *scaled).sketches.back()->part, *t.part);
}

TEST_F(SectionPart, ARegionThatIsNotThereIsRefused) {
  const auto count = static_cast<std::uint32_t>(framed_->survey->regions.size());
  for (const std::uint32_t number : {0U, count + 1}) {
    const auto part = project::part_of_regions(*framed_, {1, number});
    ASSERT_FALSE(part);
    EXPECT_NE(part.error().message.find("no region " + std::to_string(number)), std::string::npos);
  }
  project::Document without = *framed_;
  without.survey = nullptr;
  EXPECT_FALSE(project::part_of_regions(without, {1}));
}

}  // namespace
}  // namespace lostline
