// Files of points: columns of text guessed right, scanner positions, and E57 as its standard has
// it.
#include <gtest/gtest.h>
#include <unistd.h>

#include <cstring>
#include <filesystem>
#include <fstream>
#include <random>

#include "io/formats.h"

namespace lostline {
namespace {

namespace fs = std::filesystem;

class CloudFiles : public ::testing::Test {
 protected:
  void SetUp() override {
    folder_ = fs::path(::testing::TempDir()) / ("lostline-cloud-" + std::to_string(::getpid()));
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

/// Writes E57 by the standard's layout (ASTM E2807-11, sections 9 and 10): pages of 1024 bytes with
/// four of checksum (left zero, readers that check them are stricter than is needed here), points
/// in packets of bit streams.
class E57Writer {
 public:
  /// @param bits  of each coordinate as a scaled integer of a tenth of a millimetre; 0: doubles.
  std::string file(const std::vector<Vec3>& metres, unsigned bits, std::size_t per_packet) {
    body_.assign(48, '\0');
    const std::size_t section = body_.size();
    std::string packets;
    std::array<std::string, 3> streams;
    const double least = -std::ldexp(1.0, static_cast<int>(bits) - 1);
    for (int k = 0; k < 3; ++k) {
      std::uint64_t held = 0;
      unsigned filled = 0;
      for (const Vec3& p : metres) {
        if (bits == 0) {
          const double value = p[k];
          streams[static_cast<std::size_t>(k)].append(reinterpret_cast<const char*>(&value), 8);
          continue;
        }
        held |= static_cast<std::uint64_t>(std::llround(p[k] / 1e-4 - least)) << filled;
        filled += bits;
        while (filled >= 8) {
          streams[static_cast<std::size_t>(k)] += static_cast<char>(held & 0xFFU);
          held >>= 8U;
          filled -= 8;
        }
      }
      if (filled > 0) streams[static_cast<std::size_t>(k)] += static_cast<char>(held & 0xFFU);
    }
    for (std::size_t at = 0; at < streams[0].size(); at += per_packet) {
      const std::size_t some = std::min(per_packet, streams[0].size() - at);
      std::string packet(6 + 6, '\0');
      packet[0] = 1;
      put<std::uint16_t>(packet, 4, 3);
      for (std::size_t k = 0; k < 3; ++k) {
        put<std::uint16_t>(packet, 6 + 2 * k, static_cast<std::uint16_t>(some));
        packet += streams[k].substr(at, some);
      }
      while (packet.size() % 4 != 0) packet += '\0';
      put<std::uint16_t>(packet, 2, static_cast<std::uint16_t>(packet.size() - 1));
      packets += packet;
    }
    std::string head(32, '\0');
    head[0] = 1;
    put<std::uint64_t>(head, 8, 32 + packets.size());
    put<std::uint64_t>(head, 16, physical(section + 32));
    body_ += head + packets;
    const std::string type =
        bits == 0 ? "type=\"Float\" precision=\"double\""
                  : "type=\"ScaledInteger\" minimum=\"" + std::to_string(-(1LL << (bits - 1))) +
                        "\" maximum=\"" + std::to_string((1LL << (bits - 1)) - 1) +
                        "\" scale=\"1e-4\" offset=\"0\"";
    const std::string xml =
        "<?xml version=\"1.0\" encoding=\"UTF-8\"?><e57Root type=\"Structure\"><data3D "
        "type=\"Vector\"><vectorChild type=\"Structure\"><pose type=\"Structure\"><rotation "
        "type=\"Structure\"><w type=\"Float\">0.7071067811865476</w><x type=\"Float\"/><y "
        "type=\"Float\"/><z type=\"Float\">0.7071067811865476</z></rotation><translation "
        "type=\"Structure\"><x type=\"Float\">1</x><y type=\"Float\">0</y><z "
        "type=\"Float\">0</z></translation></pose><points type=\"CompressedVector\" fileOffset=\"" +
        std::to_string(physical(section)) + "\" recordCount=\"" + std::to_string(metres.size()) +
        "\"><prototype type=\"Structure\"><cartesianX " + type + "/><cartesianY " + type +
        "/><cartesianZ " + type + "/></prototype></points></vectorChild></data3D></e57Root>";
    const std::size_t xml_at = body_.size();
    body_ += xml;
    std::memcpy(body_.data(), "ASTM-E57", 8);
    put<std::uint32_t>(body_, 8, 1);
    put<std::uint64_t>(body_, 24, physical(xml_at));
    put<std::uint64_t>(body_, 32, xml.size());
    put<std::uint64_t>(body_, 40, 1024);
    std::string pages;
    for (std::size_t at = 0; at < body_.size(); at += 1020) {
      std::string page = body_.substr(at, 1020);
      page.resize(1024, '\0');
      pages += page;
    }
    return pages;
  }

 private:
  static std::uint64_t physical(std::size_t logical) {
    return logical / 1020 * 1024 + logical % 1020;
  }
  template <class T>
  static void put(std::string& bytes, std::size_t at, T value) {
    std::memcpy(bytes.data() + at, &value, sizeof value);
  }
  std::string body_;
};

TEST_F(CloudFiles, E57IsReadInMillimetresWhereItsPosePutsIt) {
  std::mt19937 rng(4);
  std::uniform_real_distribution<double> metre(-0.2, 0.2);
  std::vector<Vec3> metres;
  for (int i = 0; i < 3001; ++i) metres.emplace_back(metre(rng), metre(rng), metre(rng));
  for (const unsigned bits : {0U, 13U, 21U}) {
    for (const std::size_t per_packet : {97U, 4000U}) {
      const auto path =
          write("scan.e57",
                E57Writer().file(metres, bits, per_packet - (bits == 0 ? per_packet % 8 : 0)));
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
  const std::string whole = E57Writer().file({Vec3(0.1, 0.2, 0.3), Vec3(0, 0, 0)}, 16, 100);
  refused(write("cut.e57", whole.substr(0, 300)), ErrorCode::InvalidInput, "truncated");
}

TEST_F(CloudFiles, ReadersSurviveGarbledBytes) {
  std::vector<Vec3> metres;
  for (int i = 0; i < 400; ++i) metres.emplace_back(0.001 * i, 0.02, 0.03);
  const std::vector<std::pair<std::string, std::string>> files{
      {"a.e57", E57Writer().file(metres, 17, 200)},
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
