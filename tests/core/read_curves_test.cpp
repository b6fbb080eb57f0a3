// Curves of DXF, IGES and STEP files come in as they went out; what is no drawing is refused.
#include "io/read_curves.h"

#include <gtest/gtest.h>

#include <cmath>
#include <fstream>
#include <numbers>
#include <random>

#include "io/formats.h"
#include "support/places.h"
#include "sketch/curve_kind.h"
#include "sketch/drawing.h"

namespace lostline::io {
namespace {

using sketch::Sketch;

std::filesystem::path temporary(const std::string& name) {
  return testing::scratch() / ("lostline_curves_" + name);
}

/// One of each kind.
Sketch each_kind() {
  Sketch s;
  EXPECT_TRUE(sketch::draw_rectangle(s, {0, {0, 0}}, {0, {40, 25}}, {3, 30}));
  EXPECT_TRUE(sketch::draw_slot(s, {0, {60, 5}}, {0, {85, 17}}, {60, 12}));
  s.add_circle(s.add_point({20, 60}), 8.5);
  EXPECT_TRUE(sketch::draw_ellipse(s, {0, {70, 60}}, {90, 66}, {68, 70}));
  EXPECT_TRUE(
      sketch::draw_spline(s, {{0, {0, 90}}, {0, {12, 99}}, {0, {25, 88}}, {0, {40, 95}}}, false));
  EXPECT_TRUE(sketch::draw_spline(
      s, {{0, {60, 90}}, {0, {80, 95}}, {0, {85, 110}}, {0, {70, 118}}, {0, {55, 104}}}, true));
  const sketch::EllipticForm oval{{120, 20}, Vec2(0.6, 0.8), 15, 9, 0, 2 * std::numbers::pi};
  const auto id = [&](const Vec2& p) { return s.add_point(p); };
  s.add_ellipse(id(oval.centre), id(oval.at(0)), id(oval.at(std::numbers::pi / 2)),
                id(oval.at(0.3)), id(oval.at(2.2)));
  return s;
}

double length_of(const std::vector<std::unique_ptr<sketch::PlaneCurve>>& curves) {
  double sum = 0;
  for (const auto& c : curves) {
    for (int k = 0; k < 400; ++k)
      sum += (c->at(c->range() * (k + 1) / 400) - c->at(c->range() * k / 400)).norm();
  }
  return sum;
}

/// Every place of the one lies on the other, in space.
void expect_same(const Sketch& s, const Placement& plane, const PlaneCurves& read) {
  std::vector<std::unique_ptr<sketch::PlaneCurve>> there;
  for (const sketch::Form& form : read.curves) there.push_back(sketch::piece_of(form));
  std::vector<std::unique_ptr<sketch::PlaneCurve>> here;
  for (const sketch::Entity& e : s.entities) here.push_back(sketch::placed(s, e));
  EXPECT_NEAR(length_of(there), length_of(here), 0.005);
  for (const auto& curve : here) {
    for (int k = 0; k <= 20; ++k) {
      const Vec3 p = plane.to_space(curve->at(curve->range() * k / 20));
      EXPECT_LT(std::abs(read.plane.level_of(p)), 1e-3);
      double nearest = 1e300;
      for (const auto& other : there)
        nearest = std::min(nearest, std::abs(other->drift(read.plane.to_plane(p))));
      EXPECT_LT(nearest, 2e-3);
    }
  }
}

TEST(ReadCurves, WhatWasWrittenComesBack) {
  const Sketch s = each_kind();
  section::Section section;
  for (const char* name : {"out.dxf", "OUT.DXF"}) {
    const auto path = temporary(name);
    ASSERT_TRUE(write_curves(path, s, section));
    const auto read = read_curves(path);
    ASSERT_TRUE(read) << read.error().message;
    EXPECT_EQ(read->curves.size(), s.entities.size());
    expect_same(s, {}, *read);
  }
  // In space, on a plane of its own.
  section.plane = placement_on({12, -7, 30}, Vec3(0.3, -0.5, 0.8).normalized());
  for (const char* name : {"out.igs", "out.step"}) {
    const auto path = temporary(name);
    const Status written = write_curves(path, s, section);
    ASSERT_TRUE(written) << name << ": " << written.error().message;
    const auto read = read_curves(path);
    ASSERT_TRUE(read) << name << ": " << read.error().message;
    expect_same(s, section.plane, *read);
  }
}

TEST(ReadCurves, EndsThatFallTogetherAreOnePoint) {
  const Sketch s = each_kind();
  const auto path = temporary("ends.dxf");
  ASSERT_TRUE(write_curves(path, s, {}));
  const auto read = read_curves(path);
  ASSERT_TRUE(read);
  const Sketch back = sketch::sketch_of(read->curves, read->points, 1e-4);
  EXPECT_EQ(sketch::find_loops(back).size(), sketch::find_loops(s).size());
  EXPECT_EQ(sketch::open_chains(back).size(), sketch::open_chains(s).size());
}

std::filesystem::path dxf(const std::string& name, const std::string& header,
                          const std::string& blocks, const std::string& entities) {
  const auto path = temporary(name);
  std::ofstream out(path);
  out << "0\nSECTION\n2\nHEADER\n" << header << "0\nENDSEC\n";
  if (!blocks.empty()) out << "0\nSECTION\n2\nBLOCKS\n" << blocks << "0\nENDSEC\n";
  out << "0\nSECTION\n2\nENTITIES\n" << entities << "0\nENDSEC\n0\nEOF\n";
  return path;
}

TEST(ReadCurves, PolylinesWithArcsInchesAndBlocks) {
  // A stadium: two straight sides of 2 inches and two half circles of radius 0.5 (bulge 1), by the
  // DXF reference.
  const std::string stadium =
      "0\nLWPOLYLINE\n8\n0\n90\n4\n70\n1\n10\n0\n20\n0\n10\n2\n20\n0\n42\n1\n10\n2\n20\n1\n10\n0\n2"
      "0\n1\n42\n1\n";
  const auto inches = read_dxf(dxf("inch.dxf", "9\n$INSUNITS\n70\n1\n", "", stadium));
  ASSERT_TRUE(inches) << inches.error().message;
  ASSERT_EQ(inches->curves.size(), 4U);
  const Sketch s = sketch::sketch_of(inches->curves, {}, 1e-4);
  const auto loops = sketch::find_loops(s);
  ASSERT_EQ(loops.size(), 1U);
  EXPECT_NEAR(loops[0].area, (2 + std::numbers::pi * 0.25) * 25.4 * 25.4, 1e-6);
  // The same as a block, turned and twice as large.
  const auto block =
      read_dxf(dxf("block.dxf", "9\n$INSUNITS\n70\n4\n",
                   "0\nBLOCK\n8\n0\n2\nSTADIUM\n70\n0\n10\n0\n20\n0\n30\n0\n3\nSTADIUM\n1\n\n" +
                       stadium + "0\nENDBLK\n8\n0\n",
                   "0\nINSERT\n8\n0\n2\nSTADIUM\n10\n100\n20\n50\n41\n2\n42\n2\n43\n2\n50\n90\n0\nT"
                   "EXT\n8\n0\n10\n0\n20\n0\n40\n5\n1\nNOTE\n"));
  ASSERT_TRUE(block) << block.error().message;
  ASSERT_EQ(block->curves.size(), 4U);
  const Sketch turned = sketch::sketch_of(block->curves, {}, 1e-4);
  ASSERT_EQ(sketch::find_loops(turned).size(), 1U);
  EXPECT_NEAR(sketch::find_loops(turned)[0].area, (2 + std::numbers::pi * 0.25) * 4, 1e-9);
  Eigen::AlignedBox2d box;
  for (const auto& p : turned.points) box.extend(p.at);
  EXPECT_NEAR(box.max().y(), 54, 1e-9) << "turned upright: the long side runs along y";
  ASSERT_EQ(block->left_out.size(), 1U);
  EXPECT_NE(block->left_out[0].find("text"), std::string::npos);
}

TEST(ReadCurves, WhatIsNoDrawingIsRefused) {
  EXPECT_EQ(read_dxf("/nowhere/at/all.dxf").error().code, ErrorCode::Io);
  const auto path = temporary("noise.dxf");
  std::mt19937 random(3);
  for (int round = 0; round < 40; ++round) {
    std::ofstream out(path, std::ios::binary);
    if (round % 2 == 1) out << "0\nSECTION\n2\nENTITIES\n0\nSPLINE\n71\n3\n72\n8\n73\n4\n";
    for (int k = 0; k < 2000; ++k)
      out << (round % 2 == 1 ? static_cast<char>('0' + random() % 12)
                             : static_cast<char>(random()));
    out.close();
    (void)read_dxf(path);  // it comes back
    (void)read_curves_iges(path);
    (void)read_curves_step(path);
  }
  const auto empty = read_dxf(dxf("empty.dxf", "", "", ""));
  ASSERT_FALSE(empty);
  EXPECT_NE(empty.error().message.find("no curves"), std::string::npos);
  // A block that holds itself comes to an end.
  const auto self =
      read_dxf(dxf("self.dxf", "",
                   "0\nBLOCK\n8\n0\n2\nA\n70\n0\n10\n0\n20\n0\n3\nA\n1\n\n0\nLINE\n8\n0\n10\n0\n20"
                   "\n0\n11\n1\n21\n0\n0\nINSERT\n8\n0\n2\nA\n10\n1\n20\n0\n0\nENDBLK\n8\n0\n",
                   "0\nINSERT\n8\n0\n2\nA\n10\n0\n20\n0\n"));
  ASSERT_TRUE(self);
  EXPECT_LT(self->curves.size(), 40U);
}

TEST(ReadCurves, DamagedIgesIsRefusedWithTheLine) {
  // Each of these sent a foreign reader round for ever, or through memory that is not its own.
  std::ifstream in(testing::data_dir() + "/corpus/curves.igs", std::ios::binary);
  const std::string good{std::istreambuf_iterator<char>(in), {}};
  const auto path = testing::scratch() / "damaged_curves.igs";
  const auto said = [&](const std::string& was, const std::string& is) {
    std::string bad = good;
    const std::size_t at = bad.find(was);
    EXPECT_NE(at, std::string::npos) << was;
    bad.replace(at, was.size(), is);
    std::ofstream(path, std::ios::binary) << bad;
    const auto read = io::read_curves(path);
    return read ? std::string("taken") : read.error().message;
  };
  EXPECT_THAT(said("1.E+04", "1.E604"), ::testing::HasSubstr("beyond all sizes"));
  EXPECT_THAT(said("     104       0", "     104"),
              ::testing::HasSubstr("columns where IGES has 80"));
  EXPECT_THAT(said("     104       0", "     104  0.5  "), ::testing::HasSubstr("damaged in line"));
  EXPECT_THAT(said("110,0.", "110,\xff."), ::testing::HasSubstr("ASCII"));
  EXPECT_EQ(said("110,", "110,"), "taken");
  std::filesystem::remove(path);
}

TEST(ReadCurves, CurvesInNoPlaneAreRefused) {
  Sketch s;
  s.add_line(s.add_point({0, 0}), s.add_point({10, 3}));
  const auto flat = temporary("line.step");
  ASSERT_TRUE(write_curves(flat, s, {}));
  EXPECT_TRUE(read_curves(flat));
  EXPECT_FALSE(read_curves("/nowhere.step"));
  EXPECT_EQ(read_curves("/nowhere.svg").error().code, ErrorCode::Unsupported);
}

}  // namespace
}  // namespace lostline::io
