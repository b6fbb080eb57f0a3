#include "store/bulk.h"

#include <gtest/gtest.h>

#include <fstream>

#include "io/files.h"
#include "project/edits.h"
#include "store/project_file.h"
#include "support/places.h"

namespace lostline {
namespace {

namespace fs = std::filesystem;

/// What lies in a folder: names with the times at which they were written.
std::map<std::string, fs::file_time_type> listed(const fs::path& folder) {
  std::map<std::string, fs::file_time_type> files;
  for (const auto& file : fs::directory_iterator(folder))
    files[file.path().filename().string()] = file.last_write_time();
  return files;
}

class Beside : public ::testing::Test {
 protected:
  void SetUp() override {
    fs::create_directories(folder_);
    document_ = project::with_scan({}, scan(0.001));
    document_.title = "plate";
  }
  void TearDown() override { fs::remove_all(folder_); }
  static std::shared_ptr<const project::Scan> scan(double bow) {
    scan::Mesh mesh;
    for (int i = 0; i < 60; ++i) {
      for (int j = 0; j < 60; ++j) mesh.vertices.emplace_back(i, j, bow * i * j);
    }
    for (std::uint32_t i = 0; i < 59; ++i) {
      for (std::uint32_t j = 0; j < 59; ++j) {
        mesh.triangles.push_back({60 * i + j, 60 * (i + 1) + j, 60 * i + j + 1});
        mesh.triangles.push_back({60 * i + j + 1, 60 * (i + 1) + j, 60 * (i + 1) + j + 1});
      }
    }
    return *project::prepare_scan(mesh, "plate", "plate.stl", Unit::Millimetre);
  }
  fs::path folder_ = testing::scratch() / "beside";
  fs::path path_ = folder_ / "copy.lostline";
  fs::path data_ = store::BulkFolder::of(path_);
  project::Document document_;
};

TEST_F(Beside, AnEditWritesTheManifestAlone) {
  store::BulkFolder bulk(path_);
  ASSERT_TRUE(store::save_beside(path_, document_, bulk));
  const auto before = listed(data_);
  EXPECT_EQ(before.size(), 2U);
  for (int edit = 0; edit < 3; ++edit) {
    project::Document next = document_;
    next.title = "plate " + std::to_string(edit);
    ASSERT_TRUE(store::save_beside(path_, next, bulk));
    EXPECT_EQ(listed(data_), before);
    EXPECT_LT(fs::file_size(path_), 3000U);  // the scan has 250 000
    const auto back = store::load_project(path_);
    ASSERT_TRUE(back) << back.error().message;
    EXPECT_EQ(back->title, next.title);
    EXPECT_EQ(back->scan->mesh->vertices, document_.scan->mesh->vertices);
    EXPECT_EQ(back->scan->mesh->triangles, document_.scan->mesh->triangles);
  }
  // Another program that finds the folder writes nothing twice either.
  store::BulkFolder again(path_);
  ASSERT_TRUE(store::save_beside(path_, document_, again));
  EXPECT_EQ(listed(data_), before);
}

TEST_F(Beside, WhatIsNoLongerNamedGoesAndWhatWentIsWrittenAgain) {
  store::BulkFolder bulk(path_);
  ASSERT_TRUE(store::save_beside(path_, document_, bulk));
  const auto before = listed(data_);
  const project::Document other = project::with_scan({}, scan(0.002));
  ASSERT_TRUE(store::save_beside(path_, other, bulk));
  const auto after = listed(data_);
  EXPECT_EQ(after.size(), 2U);  // other places, the same triangles
  EXPECT_NE(after, before);
  fs::remove_all(data_);
  ASSERT_TRUE(store::save_beside(path_, other, bulk));
  const auto back = store::load_project(path_);
  ASSERT_TRUE(back) << back.error().message;
  EXPECT_EQ(back->scan->mesh->vertices, other.scan->mesh->vertices);
}

TEST_F(Beside, DataThatAreDamagedMissingOrElsewhereAreRefused) {
  store::BulkFolder bulk(path_);
  ASSERT_TRUE(store::save_beside(path_, document_, bulk));
  for (const auto& [name, time] : listed(data_)) {
    const auto file = data_ / name;
    std::string content;
    {
      std::ifstream in(file, std::ios::binary);
      content = {std::istreambuf_iterator<char>(in), {}};
    }
    std::string bad = content;
    bad[bad.size() / 2] = static_cast<char>(bad[bad.size() / 2] ^ 4);
    std::ofstream(file, std::ios::binary | std::ios::trunc) << bad;
    const auto damaged = store::load_project(path_);
    ASSERT_FALSE(damaged);
    EXPECT_NE(damaged.error().message.find("scan data is incomplete"), std::string::npos);
    fs::remove(file);
    EXPECT_FALSE(store::load_project(path_));
    std::ofstream(file, std::ios::binary | std::ios::trunc) << content;
    EXPECT_TRUE(store::load_project(path_));
  }
  EXPECT_FALSE(store::BulkFolder::is_name("../../etc/passwd"));
  EXPECT_FALSE(store::BulkFolder::is_name(""));
  EXPECT_TRUE(store::BulkFolder::is_name(store::BulkFolder::name_of("abc")));
}

}  // namespace
}  // namespace lostline
