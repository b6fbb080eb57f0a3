// Every reader against a kept corpus of odd and hostile files, and against seeded damage of them.
#include <gtest/gtest.h>
#include <unistd.h>

#include <filesystem>
#include <fstream>
#include <random>

#include "support/damage.h"
#include "support/places.h"

namespace lostline {
namespace {

namespace fs = std::filesystem;

std::vector<fs::path> corpus() {
  std::vector<fs::path> files;
  for (const auto& entry : fs::directory_iterator(testing::data_dir() + "/corpus")) {
    if (entry.path().extension() != ".md") files.push_back(entry.path());
  }
  std::sort(files.begin(), files.end());
  return files;
}

std::string bytes_of(const fs::path& path) {
  std::ifstream file(path, std::ios::binary);
  return {std::istreambuf_iterator<char>(file), {}};
}

/// Reads a file as what its name says; true when it was taken. What is taken must be sound.
bool read(const fs::path& path) {
  const testing::ReadFile read = testing::read_any(path);
  EXPECT_TRUE(read.sound) << path;
  EXPECT_TRUE(read.taken || !read.message.empty()) << path;
  return read.taken;
}

TEST(Corpus, EveryFileIsReadOrRefusedWithReason) {
  const auto files = corpus();
  ASSERT_GT(files.size(), 45U);
  int taken = 0;
  for (const fs::path& path : files) {
    SCOPED_TRACE(path.filename());
    taken += read(path) ? 1 : 0;
  }
  EXPECT_GT(taken, 10);
  // What is whole must be taken, what is beyond saving refused.
  const fs::path folder = testing::data_dir() + "/corpus";
  for (const char* good : {"one.stl", "binary-named-solid.stl", "ascii.stl", "binary.ply",
                           "big-endian.ply", "ascii.ply", "square.obj", "relative.obj", "tetra.off",
                           "one.3mf", "doubles.e57", "bits.e57", "with-checksums.e57"})
    EXPECT_TRUE(read(folder / good)) << good;
  for (const char* bad : {"empty.stl",
                          "count-huge.ply",
                          "count-negative.ply",
                          "no-end-header.ply",
                          "count-huge.off",
                          "no-counts.off",
                          "no-model.3mf",
                          "no-zip.3mf",
                          "itself.3mf",
                          "cut-xml.3mf",
                          "newer.lostline",
                          "no-json.lostline",
                          "wrong-types.lostline",
                          "scan-without-data.lostline",
                          "deep.lostline",
                          "cut-off.step",
                          "wrong-checksum.e57",
                          "count-beyond.e57",
                          "pose-beyond-size.e57",
                          "name-twice.step"})
    EXPECT_FALSE(read(folder / bad)) << bad;
}

TEST(Corpus, DamagedFilesAreSurvived) {
  const fs::path folder = testing::scratch() / "corpus";
  fs::create_directories(folder);
  std::mt19937_64 random(2026);
  for (const fs::path& path : corpus()) {
    if (path.extension() == ".step") continue;  // a foreign reader: tested with whole files
    const std::string good = bytes_of(path);
    for (int i = 0; i < 60; ++i) {
      const std::string bad = testing::damaged(good, random);
      const fs::path damaged = folder / ("damaged" + path.extension().string());
      std::ofstream(damaged, std::ios::binary) << bad;
      SCOPED_TRACE(path.filename().string() + " damage " + std::to_string(i));
      read(damaged);
    }
  }
  fs::remove_all(folder);
}

}  // namespace
}  // namespace lostline
