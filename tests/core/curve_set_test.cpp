// Several sketches, curves in space and reference geometry in one file: read back by the kernel's
// readers, as any other program would, and by the project's own for what lies in a plane.
#include "project/curve_set.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <fstream>
#include <numbers>

#include "io/formats.h"
#include "model/steps/space_curve/space_curve.h"
#include "sketch/drawing.h"
#include "steps/step_trial.h"
#include "support/places.h"

namespace lostline {
namespace {

class CurveSetFile : public ::testing::Test {
 protected:
  void SetUp() override {
    folder_ = testing::scratch() / "curve_set";
    std::filesystem::create_directories(folder_);
    auto square = std::make_shared<project::TracedSketch>();
    square->id = 1;
    square->name = "square";
    EXPECT_TRUE(sketch::draw_rectangle(square->sketch, {0, {-10, -10}}, {0, {10, 10}}));
    auto round = std::make_shared<project::TracedSketch>();
    round->id = 2;
    round->name = "round";
    round->base = project::datum_placement(project::DatumPlane::Xz);
    round->level = 7;
    round->sketch.add_circle(round->sketch.add_point({5, 0}), 8);
    document_.sketches = {square, round};
    auto bore = std::make_shared<project::Fit>();
    bore->name = "bore";
    bore->result.surface.kind = fit::Kind::Cylinder;
    bore->result.surface.axis = Vec3(0, 1, 0);
    bore->result.surface.radius = 4;
    bore->result.centroid = Vec3(4, 9, 0);
    auto top = std::make_shared<project::Fit>();
    top->name = "top";
    top->result.surface.kind = fit::Kind::Plane;
    top->result.surface.axis = Vec3(0, 0, 1);
    top->result.surface.point = Vec3(0, 0, 12);
    top->result.centroid = Vec3(3, 4, 12);
    document_.fits = {bore, top};
    model::SpaceCurve line;
    line.path.corners = {{0, 0, 0}, {30, 0, 0}, {30, 40, 0}};
    line.runs = model::SpaceCurve::Runs::Straight;
    curve_ = *testing::attempt(line, {});
  }
  void TearDown() override { std::filesystem::remove_all(folder_); }
  [[nodiscard]] std::string text(const std::filesystem::path& path) const {
    std::ifstream in(path, std::ios::binary);
    return {std::istreambuf_iterator<char>(in), {}};
  }

  std::filesystem::path folder_;
  project::Document document_;
  model::Model curve_;
};

TEST_F(CurveSetFile, HoldsAllByTheirNames) {
  project::CurveChoice choice;
  choice.sketches = project::all_sketches(document_);
  choice.reference = true;
  const io::CurveSet set = project::curve_set(document_, curve_, choice);
  EXPECT_EQ(set.drawings.size(), 2U);
  EXPECT_EQ(set.curves.size(), 1U);
  EXPECT_EQ(set.reference.size(), 7U + 2U);
  EXPECT_EQ(set.reference[7].kind, io::CurveSet::Mark::Kind::Axis);
  EXPECT_TRUE(set.reference[7].at.isApprox(Vec3(0, 9, 0)));
  EXPECT_TRUE(set.reference[8].at.isApprox(Vec3(3, 4, 12)));
  const auto step = folder_ / "all.step";
  ASSERT_TRUE(io::write_curve_set(step, set));
  const std::string content = text(step);
  for (const char* name : {"square", "round", "bore", "top", "xy plane", "x axis"})
    EXPECT_TRUE(content.find(std::string("PRODUCT('") + name) != std::string::npos) << name;
  EXPECT_TRUE(content.find("ADVANCED_FACE") != std::string::npos);
  const Status iges = io::write_curve_set(folder_ / "all.igs", set);
  ASSERT_TRUE(iges) << iges.error().message;
  // A point of its own (entity 116) and lines (110) stand in the IGES directory.
  const std::string directory = text(folder_ / "all.igs");
  EXPECT_TRUE(directory.find("\n     116 ") != std::string::npos);
  EXPECT_TRUE(directory.find("\n     110 ") != std::string::npos);
}

TEST_F(CurveSetFile, KeepsPlacesInSpace) {
  // One sketch of the set reads back where it lies.
  for (const char* name : {"one.step", "one.igs"}) {
    project::CurveChoice choice;
    choice.sketches = {2};
    choice.space_curves = false;
    ASSERT_TRUE(io::write_curve_set(folder_ / name, project::curve_set(document_, curve_, choice)));
    const auto back = io::read_curves(folder_ / name);
    ASSERT_TRUE(back) << back.error().message;
    EXPECT_NEAR(std::abs(back->plane.normal.y()), 1, 1e-9);
    EXPECT_NEAR(std::abs(back->plane.origin.y()), 7, 1e-9);
  }
}

TEST_F(CurveSetFile, LaysSketchesSideBySideWhereItIsFlat) {
  project::CurveChoice choice;
  choice.sketches = project::all_sketches(document_);
  const io::CurveSet set = project::curve_set(document_, curve_, choice);
  ASSERT_TRUE(io::write_curve_set(folder_ / "all.dxf", set));
  const auto back = io::read_curves(folder_ / "all.dxf");
  ASSERT_TRUE(back) << back.error().message;
  EXPECT_EQ(back->curves.size(), 5U);
  // The circle stands right of the square.
  const sketch::Sketch sketch = sketch::sketch_of(back->curves, back->points, 1e-6);
  double right = -1e300;
  for (const sketch::Point& p : sketch.points) right = std::max(right, p.at.x());
  EXPECT_GT(right, 10);
  ASSERT_TRUE(io::write_curve_set(folder_ / "all.svg", set));
  EXPECT_THAT(text(folder_ / "all.svg"), ::testing::HasSubstr("<circle"));
}

TEST_F(CurveSetFile, SaysWhatItCannotWrite) {
  io::CurveSet none;
  EXPECT_THAT(io::write_curve_set(folder_ / "a.step", none).error().message,
              ::testing::HasSubstr("no curves"));
  EXPECT_THAT(io::write_curve_set(folder_ / "a.dxf", none).error().message,
              ::testing::HasSubstr("no sketch to write flat"));
  EXPECT_THAT(io::write_curve_set(folder_ / "a.stl", none).error().message,
              ::testing::HasSubstr(".dxf"));
  EXPECT_FALSE(std::filesystem::exists(folder_ / "a.step"));
}

}  // namespace
}  // namespace lostline
