// What dialogs, drops, conversion and messages say about file formats follows from one list.
#include "io/formats.h"

#include <gtest/gtest.h>

#include <filesystem>
#include <fstream>
#include <set>

#include "steps/step_trial.h"
#include "support/places.h"

namespace lostline::io {
namespace {

scan::Mesh tetrahedron() {
  scan::Mesh mesh;
  mesh.vertices = {{0, 0, 0}, {10, 0, 0}, {0, 10, 0}, {0, 0, 10}};
  mesh.triangles = {{0, 2, 1}, {0, 1, 3}, {0, 3, 2}, {1, 2, 3}};
  return mesh;
}

std::string shouted(std::string text) {
  for (char& c : text) c = static_cast<char>(std::toupper(static_cast<unsigned char>(c)));
  return text;
}

class Formats : public ::testing::Test {
 protected:
  void SetUp() override { std::filesystem::create_directories(folder_); }
  void TearDown() override { std::filesystem::remove_all(folder_); }
  std::filesystem::path folder_ = testing::scratch() / "formats";
};

TEST_F(Formats, EveryExtensionIsKnownInEitherCaseAndBelongsToOne) {
  std::set<std::string> seen;
  for (const Format& f : formats()) {
    for (const std::string extension : f.extensions) {
      EXPECT_TRUE(seen.insert(extension).second) << extension;
      EXPECT_EQ(format_of("part" + extension), &f);
      EXPECT_EQ(format_of("part" + shouted(extension)), &f);
      EXPECT_TRUE(carries("a.b/part.old" + shouted(extension), f.carries));
    }
  }
  EXPECT_EQ(format_of("part.notes"), nullptr);
  EXPECT_EQ(format_of("part"), nullptr);
  EXPECT_EQ(format_of("step"), nullptr);
}

TEST_F(Formats, MeshesComeBackFromEveryFormatThatWritesThemUnderNamesInCapitals) {
  int written = 0;
  for (const Format& f : formats()) {
    if (!writes_mesh(f)) continue;
    for (const std::string extension : f.extensions) {
      const auto path = folder_ / ("PART" + shouted(extension));
      ASSERT_TRUE(write_mesh(path, tetrahedron())) << path;
      const auto back = read_mesh(path);
      ASSERT_TRUE(back) << back.error().message;
      EXPECT_EQ(back->mesh.vertices.size(), 4U);
      EXPECT_EQ(back->mesh.triangles.size(), 4U);
      ++written;
    }
  }
  EXPECT_GE(written, 3);
}

TEST_F(Formats, ModelsComeBackFromEveryFormatThatWritesThem) {
  const model::Model part = lostline::testing::bossed(1);
  for (const Format& f : formats()) {
    if (!writes_model(f)) continue;
    for (const std::string extension : f.extensions) {
      const auto path = folder_ / ("PART" + shouted(extension));
      ASSERT_TRUE(f.write_model(path, part, "part"));
      const auto back = read_model(path);
      ASSERT_TRUE(back) << back.error().message;
      EXPECT_NEAR(back->volume(), part.volume(), 1e-6 * part.volume());
      // Opened as a scan it is named for what it is, whatever its extension says.
      const auto misnamed = folder_ / "part.stl";
      std::filesystem::copy_file(path, misnamed, std::filesystem::copy_options::overwrite_existing);
      const auto scan = read_mesh(misnamed);
      ASSERT_FALSE(scan);
      EXPECT_EQ(scan.error().code, ErrorCode::Unsupported);
      EXPECT_NE(scan.error().message.find(f.name), std::string::npos);
    }
  }
}

TEST_F(Formats, WhatAFormatCannotCarryIsRefusedWithThoseThatCan) {
  const auto mesh = write_mesh(folder_ / "part.dxf", tetrahedron());
  ASSERT_FALSE(mesh);
  EXPECT_NE(mesh.error().message.find(".stl, .ply or .3mf"), std::string::npos);
  const auto curves = write_curves(folder_ / "part.stl", {}, {});
  ASSERT_FALSE(curves);
  EXPECT_NE(curves.error().message.find(".dxf or .svg"), std::string::npos);
  std::ofstream(folder_ / "part.notes") << "0 0 0";
  const auto scan = read_mesh(folder_ / "part.notes");
  ASSERT_FALSE(scan);
  EXPECT_NE(scan.error().message.find("STL, PLY, OBJ, OFF and 3MF"), std::string::npos);
  const auto model = read_model(folder_ / "part.notes");
  ASSERT_FALSE(model);
  EXPECT_NE(model.error().message.find("STEP"), std::string::npos);
}

TEST_F(Formats, DialogsOfferBothCases) {
  EXPECT_EQ(format_patterns({reads_model}), "*.step *.STEP *.stp *.STP");
  EXPECT_NE(format_patterns({reads_mesh, is_project}).find("*.lostline"), std::string::npos);
}

}  // namespace
}  // namespace lostline::io
