// Files of points: columns of text guessed right, scanner positions, and E57 as its standard has
// it.
#include <gtest/gtest.h>
#include <unistd.h>

#include <cstring>
#include <filesystem>
#include <fstream>
#include <random>

#include "io/formats.h"
#include "support/e57_writer.h"
#include "support/places.h"

namespace lostline {
namespace {

namespace fs = std::filesystem;
using testing::E57Writer;

class CloudFiles : public ::testing::Test {
 protected:
  void SetUp() override {
    folder_ = testing::scratch() / "cloud";
    fs::create_directories(folder_);
  }
  void TearDown() override { fs::remove_all(folder_); }
  fs::path write(const std::string& name, const std::string& content) {
    std::ofstream(folder_ / name, std::ios::binary) << content;
    return folder_ / name;
  }
  fs::path folder_;
};

TEST_F(CloudFiles, ColumnsOfTextAreToldByNamesAndValues) {
  struct Case {
    const char* name;
    const char* content;
    const char* columns;
    Vec3 second;
  };
  const std::vector<Case> cases{
      {"plain.xyz", "1 2 3\n4 5 6\n", "x y z", {4, 5, 6}},
      {"comma.asc", "1.5,2.5,3.5\n4,5,6\n", "x y z", {4, 5, 6}},
      {"semicolon.txt", "1,5;2,5;3,5\n4,25;5;6\n", "x y z", {4.25, 5, 6}},
      {"count.pts",
       "2\n1 2 3 -1200 10 20 30\n4 5 6 88 255 0 7\n",
       "x y z intensity red green blue",
       {4, 5, 6}},
      {"names.txt", "# y x z intensity\n1 2 3 0.4\n5 4 6 0.5\n", "y x z intensity", {4, 5, 6}},
      {"heads.txt",
       "\"X\",\"Y\",\"Z\",\"nx\",\"ny\",\"nz\"\n1,2,3,0,0,1\n4,5,6,0,0.6,0.8\n",
       "x y z nx ny nz",
       {4, 5, 6}},
      {"normals.xyz", "1 2 3 0 0 1\n4 5 6 0.6 0 0.8\n", "x y z nx ny nz", {4, 5, 6}},
      {"colours.xyz", "1 2 3 12 200 0\n4 5 6 1 1 1\n", "x y z red green blue", {4, 5, 6}},
      {"crlf.xyz", "// made somewhere\r\n1 2 3\r\n+4 5e0 6.0\r\n", "x y z", {4, 5, 6}},
  };
  for (const Case& c : cases) {
    const auto loaded = io::read_points(write(c.name, c.content));
    ASSERT_TRUE(loaded) << c.name << ": " << loaded.error().message;
    EXPECT_EQ(loaded->columns, c.columns) << c.name;
    ASSERT_EQ(loaded->cloud.points.size(), 2U) << c.name;
    EXPECT_EQ(loaded->cloud.points[1], c.second) << c.name;
    if (std::string(c.columns).find("nx") != std::string::npos) {
      ASSERT_EQ(loaded->cloud.normals.size(), 2U) << c.name;
      EXPECT_NEAR(loaded->cloud.normals[1].z(), 0.8, 1e-12);
    }
  }
}

TEST_F(CloudFiles, PointsComeBackFromEveryFormatThatWritesThem) {
  scan::PointCloud cloud;
  std::mt19937 rng(2);
  std::normal_distribution<double> normal(0, 1);
  for (int i = 0; i < 500; ++i) {
    cloud.points.emplace_back(100 * normal(rng), normal(rng), 1e-3 * normal(rng));
    cloud.normals.emplace_back(Vec3(normal(rng), normal(rng), normal(rng)).normalized());
  }
  int written = 0;
  for (const io::Format& f : io::formats()) {
    if (!io::writes_points(f)) continue;
    for (const std::string extension : f.extensions) {
      const fs::path path = folder_ / ("cloud" + extension);
      ASSERT_TRUE(io::write_points(path, cloud));
      const auto back = io::read_points(path);
      ASSERT_TRUE(back) << back.error().message;
      ASSERT_EQ(back->cloud.points.size(), cloud.points.size());
      for (std::size_t i = 0; i < cloud.points.size(); ++i) {
        EXPECT_EQ(back->cloud.points[i], cloud.points[i]);
        EXPECT_LT((back->cloud.normals[i] - cloud.normals[i]).norm(), 1e-12);
      }
      ++written;
    }
  }
  EXPECT_GE(written, 5);
}

TEST_F(CloudFiles, ScannerPositionsArePlacedByTheirTransforms) {
  // Two positions: one as it is, one turned by a quarter about z and shifted by 10 along x.
  const auto path = write("two.ptx",
                          "1\n2\n0 0 0\n1 0 0\n0 1 0\n0 0 1\n1 0 0 0\n0 1 0 0\n0 0 1 0\n0 0 0 1\n"
                          "1 2 3 0.5\n0 0 0 0.5\n"
                          "1\n1\n10 0 0\n0 1 0\n-1 0 0\n0 0 1\n0 1 0 0\n-1 0 0 0\n0 0 1 0\n10 0 0 "
                          "1\n1 0 0 0.5\n");
  const auto loaded = io::read_points(path);
  ASSERT_TRUE(loaded) << loaded.error().message;
  ASSERT_EQ(loaded->cloud.points.size(), 2U);
  EXPECT_EQ(loaded->skipped, 1U);
  EXPECT_LT((loaded->cloud.points[0] - Vec3(1, 2, 3)).norm(), 1e-12);
  EXPECT_LT((loaded->cloud.points[1] - Vec3(10, 1, 0)).norm(), 1e-12);
  ASSERT_EQ(loaded->cloud.eyes.size(), 2U);
  EXPECT_LT((loaded->cloud.eyes[1] - Vec3(10, 0, 0)).norm(), 1e-12);
  EXPECT_EQ(loaded->cloud.seen, (std::vector<std::uint16_t>{0, 1}));
}

TEST_F(CloudFiles, E57IsReadInMillimetresWhereItsPosePutsIt) {
  std::mt19937 rng(4);
  std::uniform_real_distribution<double> metre(-0.2, 0.2);
  std::vector<Vec3> metres;
  for (int i = 0; i < 3001; ++i) metres.emplace_back(metre(rng), metre(rng), metre(rng));
  for (const unsigned bits : {0U, 13U, 21U}) {
    for (const std::size_t per_packet : {97U, 4000U}) {
      const auto path = write(
          "scan.e57", E57Writer::file({{metres, bits, per_packet - (bits == 0 ? per_packet % 8 : 0),
                                        Vec3(1, 0, 0)}}));
      const auto loaded = io::read_points(path);
      ASSERT_TRUE(loaded) << bits << ": " << loaded.error().message;
      EXPECT_TRUE(loaded->in_millimetres);
      ASSERT_EQ(loaded->cloud.points.size(), metres.size());
      // A quarter turn about z and a metre along x.
      double worst = 0;
      for (std::size_t i = 0; i < metres.size(); ++i)
        worst = std::max(worst, (loaded->cloud.points[i] -
                                 1000 * Vec3(1 - metres[i].y(), metres[i].x(), metres[i].z()))
                                    .cwiseAbs()
                                    .maxCoeff());
      EXPECT_LT(worst, bits == 0 ? 1e-9 : 0.0501) << bits;
    }
  }
}

TEST_F(CloudFiles, E57SaysWhereItsScannersStood) {
  const std::vector<Vec3> metres{{0.1, 0, 0}, {0, 0.1, 0}};
  const std::vector<testing::E57Scan> stood{{metres, 0, 4000, Vec3(1, 0, 0)},
                                            {metres, 21, 4000, Vec3(0, -2, 0.5)}};
  const auto loaded = io::read_points(write("stood.e57", E57Writer::file(stood)));
  ASSERT_TRUE(loaded) << loaded.error().message;
  ASSERT_EQ(loaded->cloud.eyes.size(), 2U);
  EXPECT_LT((loaded->cloud.eyes[0] - Vec3(1000, 0, 0)).norm(), 1e-6);
  EXPECT_LT((loaded->cloud.eyes[1] - Vec3(0, -2000, 500)).norm(), 1e-6);
  EXPECT_EQ(loaded->cloud.seen, (std::vector<std::uint16_t>{0, 0, 1, 1}));
  // Of one scan it is not known: then of none, since a point without an eye has no side.
  auto some = stood;
  some.push_back({metres, 0, 4000, {}});
  const auto partly = io::read_points(write("partly.e57", E57Writer::file(some)));
  ASSERT_TRUE(partly) << partly.error().message;
  EXPECT_EQ(partly->cloud.points.size(), 6U);
  // A set-up that saw nothing takes nothing away from the others.
  auto empty = stood;
  empty.push_back({{}, 0, 4000, Vec3(0, 0, 3)});
  const auto rest = io::read_points(write("empty.e57", E57Writer::file(empty)));
  ASSERT_TRUE(rest) << rest.error().message;
  EXPECT_EQ(rest->cloud.points.size(), 4U);
  EXPECT_EQ(rest->cloud.eyes.size(), 2U);
  EXPECT_TRUE(partly->cloud.seen.empty());
}

TEST_F(CloudFiles, APageOfE57WhoseChecksumDoesNotMatchIsRefused) {
  using Checksums = E57Writer::Checksums;
  // RFC 3720, appendix B.4: 32 bytes of zeros, 32 of ones.
  ASSERT_EQ(testing::crc32c(std::string(32, '\0')), 0x8A9136AAU);
  ASSERT_EQ(testing::crc32c(std::string(32, '\xFF')), 0x62A8AB43U);
  std::vector<Vec3> metres;
  for (int i = 0; i < 500; ++i) metres.emplace_back(0.001 * i, 0.02, 0.03);
  for (const Checksums order : {Checksums::BigEndian, Checksums::LittleEndian}) {
    const std::string whole = E57Writer::file({{metres, 0, 4000, {}}}, order);
    ASSERT_TRUE(io::read_points(write("whole.e57", whole)));
    // One bit of a coordinate: the number would be another one, and nothing else would tell.
    std::string flipped = whole;
    flipped[3000] = static_cast<char>(flipped[3000] ^ 0x10);
    const auto refused = io::read_points(write("flipped.e57", flipped));
    ASSERT_FALSE(refused);
    EXPECT_EQ(refused.error().code, ErrorCode::InvalidInput);
    EXPECT_NE(refused.error().message.find("byte 2048"), std::string::npos)
        << refused.error().message;
  }
  // A writer that leaves them out is not called damaged.
  EXPECT_TRUE(io::read_points(
      write("without.e57", E57Writer::file({{metres, 0, 4000, {}}}, Checksums::Zero))));
}

TEST_F(CloudFiles, WhatAnE57DescriptionAnnouncesIsNotBelieved) {
  const auto refused = [&](const std::string& points, const std::string& says) {
    const auto loaded = io::read_points(
        write("odd.e57", E57Writer::with_description(std::string(48, '\0'),
                                                     "<e57Root><data3D><vectorChild>" + points +
                                                         "</vectorChild></data3D></e57Root>")));
    ASSERT_FALSE(loaded) << points;
    EXPECT_NE(loaded.error().message.find(says), std::string::npos) << loaded.error().message;
  };
  const std::string columns =
      "<prototype><cartesianX type=\"Float\"/><cartesianY type=\"Float\"/><cartesianZ "
      "type=\"Float\"/></prototype></points>";
  for (const char* count : {"nan", "-5", "1e300", "99999999999999999999999", "many"})
    refused("<points fileOffset=\"48\" recordCount=\"" + std::string(count) + "\">" + columns,
            "recordCount");
  refused("<points recordCount=\"1\">" + columns, "fileOffset");
  std::string deep;
  for (int k = 0; k < 100000; ++k) deep += "<a>";
  refused(deep, "damaged");
}

TEST_F(CloudFiles, BadFilesAreRefusedWithTheReason) {
  const auto refused = [&](const fs::path& path, ErrorCode code, const std::string& says) {
    const auto loaded = io::read_points(path);
    ASSERT_FALSE(loaded) << path;
    EXPECT_EQ(loaded.error().code, code) << loaded.error().message;
    EXPECT_NE(loaded.error().message.find(says), std::string::npos) << loaded.error().message;
  };
  refused(folder_ / "none.xyz", ErrorCode::Io, "none.xyz");
  refused(write("words.xyz", "a list of words\nand no numbers\n"), ErrorCode::InvalidInput,
          "three numbers");
  refused(write("short.xyz", "1 2 3\n4 5\n"), ErrorCode::InvalidInput, "line 2");
  refused(write("binary.xyz", std::string("1 2 3\n\0\1\2", 9)), ErrorCode::InvalidInput, "no text");
  refused(write("cut.ptx",
                "2\n2\n0 0 0\n1 0 0\n0 1 0\n0 0 1\n1 0 0 0\n0 1 0 0\n0 0 1 0\n0 0 0 1\n"
                "1 2 3 0.5\n"),
          ErrorCode::InvalidInput, "ends after 1 of 4");
  refused(write("huge.ptx", "100000\n100000\n0 0 0\n"), ErrorCode::InvalidInput, "more points");
  refused(write("none.e57", "something else that is long enough to be a head of a file, or not"),
          ErrorCode::InvalidInput, "no E57");
  const std::string whole = E57Writer::file({{{Vec3(0.1, 0.2, 0.3), Vec3(0, 0, 0)}, 16, 100, {}}});
  refused(write("cut.e57", whole.substr(0, 300)), ErrorCode::InvalidInput, "truncated");
}

TEST_F(CloudFiles, ReadersSurviveGarbledBytes) {
  std::vector<Vec3> metres;
  for (int i = 0; i < 400; ++i) metres.emplace_back(0.001 * i, 0.02, 0.03);
  const std::vector<std::pair<std::string, std::string>> files{
      {"a.e57", E57Writer::file({{metres, 17, 200, {}}}, E57Writer::Checksums::Zero)},
      {"b.e57", E57Writer::file({{metres, 17, 200, {}}})},
      {"a.ptx",
       "1\n2\n0 0 0\n1 0 0\n0 1 0\n0 0 1\n1 0 0 0\n0 1 0 0\n0 0 1 0\n0 0 0 1\n1 2 3 0.5\n4 "
       "5 6 0.5\n"},
      {"a.pts", "2\n1 2 3 -1200 10 20 30\n4 5 6 88 255 0 7\n"}};
  std::mt19937 rng(11);
  for (const auto& [name, content] : files) {
    for (int round = 0; round < 400; ++round) {
      std::string garbled = content;
      const int changes = 1 + static_cast<int>(rng() % 8);
      for (int k = 0; k < changes; ++k) garbled[rng() % garbled.size()] = static_cast<char>(rng());
      if (rng() % 4 == 0) garbled.resize(rng() % garbled.size() + 1);
      const auto loaded = io::read_points(write(name, garbled));
      if (!loaded) {
        EXPECT_FALSE(loaded.error().message.empty());
        continue;
      }
      for (const Vec3& p : loaded->cloud.points) ASSERT_TRUE(p.allFinite());
    }
  }
}

}  // namespace
}  // namespace lostline
