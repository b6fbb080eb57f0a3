// Files are read as they are and written whole or not at all.
#include <gtest/gtest.h>
#include <unistd.h>

#include <filesystem>
#include <fstream>
#include <iterator>
#include <string>

#include "io/files.h"
#include "support/places.h"

namespace lostline::io {
namespace {

namespace fs = std::filesystem;

class SafeFiles : public ::testing::Test {
 protected:
  void SetUp() override {
    folder_ = testing::scratch() / "safe";
    fs::create_directories(folder_);
  }
  void TearDown() override { fs::remove_all(folder_); }
  static std::string content(const fs::path& path) {
    std::ifstream file(path, std::ios::binary);
    return {std::istreambuf_iterator<char>(file), {}};
  }
  [[nodiscard]] std::size_t files() const {
    return static_cast<std::size_t>(
        std::distance(fs::directory_iterator(folder_), fs::directory_iterator()));
  }
  fs::path folder_;
};

TEST_F(SafeFiles, WhatIsWrittenIsReadAndNothingElseIsLeft) {
  const fs::path path = folder_ / "part \u2300 40.txt";
  for (const std::size_t size : {std::size_t{1}, std::size_t{4096}, std::size_t{3000001}}) {
    std::string text(size, 'x');
    for (std::size_t i = 0; i < size; i += 7) text[i] = static_cast<char>(i % 251);
    ASSERT_TRUE(write_file_atomically(path, text));
    EXPECT_EQ(content(path), text);
    auto mapped = MappedFile::open(path);
    ASSERT_TRUE(mapped);
    EXPECT_EQ(mapped->text(), text);
    EXPECT_EQ(mapped->size(), size);
    EXPECT_EQ(files(), 1U);
  }
}

TEST_F(SafeFiles, AFailureLeavesTheOldFileAndNoPieces) {
  const fs::path path = folder_ / "kept.txt";
  ASSERT_TRUE(write_file_atomically(path, "before"));
  const Status failed = write_through_temporary(path, [&](const fs::path& temporary) -> Status {
    std::ofstream(temporary) << "half of it";
    return Error{ErrorCode::Io, "The disk is full."};
  });
  ASSERT_FALSE(failed);
  EXPECT_EQ(failed.error().message, "The disk is full.");
  EXPECT_EQ(content(path), "before");
  EXPECT_EQ(files(), 1U);
  const Status done = write_through_temporary(path, [&](const fs::path& temporary) -> Status {
    EXPECT_NE(temporary, path);
    EXPECT_EQ(temporary.parent_path(), path.parent_path());  // one file system
    std::ofstream(temporary) << "after";
    return Done{};
  });
  ASSERT_TRUE(done);
  EXPECT_EQ(content(path), "after");
  EXPECT_EQ(files(), 1U);
}

TEST_F(SafeFiles, WhatCannotBeReadOrWrittenIsSaidWithItsName) {
  const fs::path missing = folder_ / "missing.stl";
  const auto none = MappedFile::open(missing);
  ASSERT_FALSE(none);
  EXPECT_EQ(none.error().code, ErrorCode::Io);
  EXPECT_NE(none.error().message.find("missing.stl"), std::string::npos) << none.error().message;
  const auto folder = MappedFile::open(folder_);
  ASSERT_FALSE(folder);
  EXPECT_EQ(folder.error().code, ErrorCode::Io);
  const fs::path empty = folder_ / "empty.stl";
  std::ofstream{empty};
  const auto nothing = MappedFile::open(empty);
  ASSERT_FALSE(nothing);
  EXPECT_EQ(nothing.error().code, ErrorCode::InvalidInput);
  const Status nowhere = write_file_atomically(folder_ / "no" / "such" / "folder.txt", "x");
  ASSERT_FALSE(nowhere);
  EXPECT_EQ(nowhere.error().code, ErrorCode::Io);
  EXPECT_FALSE(nowhere.error().message.empty());
}

TEST_F(SafeFiles, AMappedFileCanBeHandedOn) {
  const fs::path path = folder_ / "one.txt";
  const fs::path second = folder_ / "two.txt";
  ASSERT_TRUE(write_file_atomically(path, "one"));
  ASSERT_TRUE(write_file_atomically(second, "two"));
  MappedFile a = *MappedFile::open(path);
  MappedFile b = std::move(a);
  EXPECT_EQ(b.text(), "one");
  b = *MappedFile::open(second);
  EXPECT_EQ(b.text(), "two");
  // What is mapped stays what it was when the name is given to another file.
  ASSERT_TRUE(write_file_atomically(second, "changed"));
  EXPECT_EQ(b.text(), "two");
}

}  // namespace
}  // namespace lostline::io
