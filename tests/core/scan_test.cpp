// Reading and judging scans, good and bad.
#include <gtest/gtest.h>
#include <unistd.h>

#include <algorithm>
#include <cmath>
#include <cstring>
#include <filesystem>
#include <fstream>
#include <numbers>
#include <random>

#include "base/text.h"
#include "core/full_disk.h"
#include "io/files.h"
#include "io/formats.h"
#include "scan/health.h"
#include "scan/mesh_index.h"
#include "scan/noise.h"
#include "section/section.h"
#include "support/places.h"

namespace lostline {
namespace {

namespace fs = std::filesystem;

/// A closed box of n x n squares a side, outward facing.
scan::Mesh box_mesh(const Vec3& size, int n = 8, const Vec3& low = Vec3::Zero()) {
  scan::Mesh soup;
  for (int axis = 0; axis < 3; ++axis) {
    for (int side = 0; side < 2; ++side) {
      for (int i = 0; i < n; ++i) {
        for (int j = 0; j < n; ++j) {
          const auto at = [&](int u, int v) {
            Vec3 p;
            p[axis] = side;
            p[(axis + 1) % 3] = static_cast<double>(u) / n;
            p[(axis + 2) % 3] = static_cast<double>(v) / n;
            return Vec3(low + p.cwiseProduct(size));
          };
          const auto base = static_cast<std::uint32_t>(soup.vertices.size());
          soup.vertices.insert(soup.vertices.end(),
                               {at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)});
          if (side == 1) {
            soup.triangles.push_back({base, base + 1, base + 2});
            soup.triangles.push_back({base, base + 2, base + 3});
          } else {
            soup.triangles.push_back({base, base + 2, base + 1});
            soup.triangles.push_back({base, base + 3, base + 2});
          }
        }
      }
    }
  }
  return soup;
}

class Files : public ::testing::Test {
 protected:
  void SetUp() override {
    folder_ = testing::scratch() / "scan";
    fs::create_directories(folder_);
  }
  void TearDown() override { fs::remove_all(folder_); }
  fs::path write(const std::string& name, const std::string& content) {
    std::ofstream(folder_ / name, std::ios::binary) << content;
    return folder_ / name;
  }
  void expect_refused(const fs::path& path, ErrorCode code, const std::string& says) {
    const auto loaded = io::read_mesh(path);
    ASSERT_FALSE(loaded) << path;
    EXPECT_EQ(loaded.error().code, code) << loaded.error().message;
    EXPECT_NE(loaded.error().message.find(says), std::string::npos) << loaded.error().message;
  }
  fs::path folder_;
};

TEST_F(Files, StlAndPlyComeBackWeldedAndClosed) {
  const scan::Mesh box = box_mesh({30, 20, 10});
  for (const char* name : {"box.stl", "box.ply"}) {
    ASSERT_TRUE(io::write_mesh(folder_ / name, box));
    const auto loaded = io::read_mesh(folder_ / name);
    ASSERT_TRUE(loaded) << loaded.error().message;
    EXPECT_EQ(loaded->mesh.triangles.size(), box.triangles.size());
    if (std::string(name) == "box.stl") {
      EXPECT_EQ(loaded->mesh.vertices.size(), 6U * 8 * 8 + 2);  // Euler: V = 2 + E - F
      EXPECT_EQ(scan::build_topology(loaded->mesh).open_edges, 0U);
    }
  }
}

TEST_F(Files, AsciiStlReadsAndSaysWhereItIsWrong) {
  const std::string facet =
      "facet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1e0 "
      "0\nendloop\nendfacet\n";
  const auto good = io::read_mesh(write("good.stl", "solid part\n" + facet + "endsolid part\n"));
  ASSERT_TRUE(good) << good.error().message;
  EXPECT_EQ(good->mesh.triangles.size(), 1U);
  expect_refused(
      write("word.stl",
            "solid part\n" + facet + "facet normal 0 0 1\nouter loop\nvertex 0 zero 0\nendsolid\n"),
      ErrorCode::InvalidInput, "line 11");
  expect_refused(
      write("cut.stl", "solid part\n" + facet + "facet normal 0 0 1\nouter loop\nvertex 0 0 0\n"),
      ErrorCode::InvalidInput, "truncated");
}

TEST_F(Files, BadFilesAreRefusedWithTheReason) {
  expect_refused(folder_ / "missing.stl", ErrorCode::Io, "missing.stl");
  expect_refused(folder_, ErrorCode::Io, "not a file");
  expect_refused(write("empty.stl", ""), ErrorCode::InvalidInput, "empty");
  expect_refused(write("text.stl", "this is no scan"), ErrorCode::InvalidInput, "no STL");
  expect_refused(write("other.notes", "0 0 0"), ErrorCode::Unsupported, "none of STL");
  std::string truncated(84, '\0');
  const std::uint32_t count = 1000;
  std::memcpy(truncated.data() + 80, &count, 4);
  expect_refused(write("truncated.stl", truncated + std::string(50 * 10, '\1')),
                 ErrorCode::InvalidInput, "hold 10");
  expect_refused(write("cloud.ply",
                       "ply\nformat ascii 1.0\nelement vertex 1\nproperty float x\nproperty float "
                       "y\nproperty float z\nend_header\n0 0 0\n"),
                 ErrorCode::Unsupported, "point cloud");
  expect_refused(write("lie.ply",
                       "ply\nformat ascii 1.0\nelement vertex 4000000000\nproperty float "
                       "x\nproperty float y\nproperty float z\nend_header\n"),
                 ErrorCode::InvalidInput, "truncated");
  expect_refused(write("index.ply",
                       "ply\nformat ascii 1.0\nelement vertex 1\nproperty float x\nproperty float "
                       "y\nproperty float z\nelement face 1\nproperty list uchar int "
                       "vertex_indices\nend_header\n0 0 0\n3 0 1 2\n"),
                 ErrorCode::InvalidInput, "names vertex 1");
  expect_refused(write("header.ply", "ply\nformat ascii 1.0\nelement vertex 1\n"),
                 ErrorCode::InvalidInput, "no end");
}

TEST_F(Files, NotFiniteAndDegenerateTrianglesAreCountedAndLeftOut) {
  scan::Mesh mesh = box_mesh({10, 10, 10}, 2);
  mesh.vertices[0].x() = std::nan("");
  mesh.vertices[5] = mesh.vertices[4];
  ASSERT_TRUE(io::write_stl(folder_ / "odd.stl", mesh));
  const auto loaded = io::read_mesh(folder_ / "odd.stl");
  ASSERT_TRUE(loaded);
  EXPECT_EQ(loaded->skipped_not_finite, 2U);
  EXPECT_GE(loaded->skipped_triangles, 1U);
  for (const Vec3& v : loaded->mesh.vertices) EXPECT_TRUE(v.allFinite());
}

TEST_F(Files, ReadersSurviveGarbledBytes) {
  // Every reader gets its own good file with random damage, hundreds of times: an answer or a
  // message, never a crash.
  const scan::Mesh box = box_mesh({30, 20, 10}, 3);
  ASSERT_TRUE(io::write_mesh(folder_ / "a.stl", box));
  ASSERT_TRUE(io::write_mesh(folder_ / "a.ply", box));
  std::mt19937_64 random(1);
  for (const char* name : {"a.stl", "a.ply"}) {
    std::ifstream file(folder_ / name, std::ios::binary);
    const std::string good((std::istreambuf_iterator<char>(file)), {});
    for (int i = 0; i < 300; ++i) {
      std::string bad = good;
      for (int k = 0; k < 1 + i % 7; ++k)
        bad[random() % std::min<std::size_t>(bad.size(), i % 2 == 0 ? 400 : bad.size())] =
            static_cast<char>(random());
      if (i % 3 == 0) bad.resize(random() % bad.size());
      const auto loaded = io::read_mesh(write(std::string("bad") + name, bad));
      if (loaded)
        EXPECT_TRUE(scan::examine(loaded->mesh, scan::build_topology(loaded->mesh)));
      else
        EXPECT_FALSE(loaded.error().message.empty());
    }
  }
}

TEST_F(Files, ObjOffAnd3mfHoldTheSameBox) {
  const scan::Mesh box = box_mesh({30, 20, 10}, 4);
  std::string obj = "# a box\no box\n";
  std::string off = "OFF\n# counts\n" + std::to_string(box.vertices.size()) + " " +
                    std::to_string(box.triangles.size()) + " 0\n";
  for (const Vec3& v : box.vertices) {
    const std::string p =
        std::to_string(v.x()) + " " + std::to_string(v.y()) + " " + std::to_string(v.z()) + "\n";
    obj += "v " + p;
    off += p;
  }
  for (const scan::Triangle& t : box.triangles) {
    obj += "f";
    off += "3";
    for (const std::uint32_t v : t) {
      obj += " " + std::to_string(v + 1) + "/1/2";
      off += " " + std::to_string(v);
    }
    obj += "\n";
    off += "\n";
  }
  write("box.obj", obj);
  write("box.off", off);
  ASSERT_TRUE(io::write_mesh(folder_ / "box.3mf", box));
  for (const char* name : {"box.obj", "box.off", "box.3mf"}) {
    const auto loaded = io::read_mesh(folder_ / name);
    ASSERT_TRUE(loaded) << loaded.error().message;
    EXPECT_EQ(loaded->mesh.triangles.size(), box.triangles.size()) << name;
    EXPECT_EQ(loaded->mesh.vertices.size(), 6U * 4 * 4 + 2) << name;  // Euler
    EXPECT_EQ(scan::build_topology(loaded->mesh).open_edges, 0U) << name;
    EXPECT_EQ(loaded->in_millimetres, std::string(name) == "box.3mf");
  }
}

TEST_F(Files, ObjCountsBackwardsAndOffSplitsPolygons) {
  const auto obj =
      io::read_mesh(write("q.obj", "v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nf -4 -3 -2 -1\n"));
  ASSERT_TRUE(obj) << obj.error().message;
  EXPECT_EQ(obj->mesh.triangles.size(), 2U);
  const auto off =
      io::read_mesh(write("q.off", "OFF 4 1 0\n0 0 0\n1 0 0\n1 1 0\n0 1 0\n4 0 1 2 3\n"));
  ASSERT_TRUE(off) << off.error().message;
  EXPECT_EQ(off->mesh.triangles.size(), 2U);
  expect_refused(write("v.obj", "v 0 zero 0\n"), ErrorCode::InvalidInput, "line 1");
  expect_refused(write("f.obj", "v 0 0 0\nf 1 2 9\n"), ErrorCode::InvalidInput, "does not exist");
  expect_refused(write("c.obj", "v 0 0 0\nv 1 0 0\n"), ErrorCode::Unsupported, "meshed first");
  expect_refused(write("e.obj", "hello\n"), ErrorCode::InvalidInput, "no OBJ");
  expect_refused(write("n.off", "NOT\n"), ErrorCode::InvalidInput, "no OFF");
  expect_refused(write("l.off", "OFF\n4000000000 1 0\n0 0 0\n"), ErrorCode::InvalidInput,
                 "announces");
  expect_refused(write("t.off", "OFF\n3 1 0\n0 0 0\n1 0 0\n0 1 0\n"), ErrorCode::InvalidInput,
                 "truncated");
  expect_refused(write("i.off", "OFF\n3 1 0\n0 0 0\n1 0 0\n0 1 0\n3 0 1 7\n"),
                 ErrorCode::InvalidInput, "does not exist");
  expect_refused(write("z.3mf", "PK no zip"), ErrorCode::InvalidInput, "no 3MF");
}

TEST_F(Files, NewReadersSurviveGarbledBytes) {
  const scan::Mesh box = box_mesh({3, 2, 1}, 3);
  ASSERT_TRUE(io::write_mesh(folder_ / "box.3mf", box));
  std::ifstream file(folder_ / "box.3mf", std::ios::binary);
  const std::string zip((std::istreambuf_iterator<char>(file)), {});
  const std::string off = "OFF 4 2 0\n0 0 0\n1 0 0\n1 1 0\n0 1 0\n3 0 1 2\n3 0 2 3\n";
  const std::string obj = "v 0 0 0\nv 1 0 0\nv 1 1 0\nf 1 2 3\n";
  std::mt19937_64 random(11);
  for (int i = 0; i < 300; ++i) {
    for (const auto& [name, good] : {std::pair<const char*, const std::string&>{"g.3mf", zip},
                                     {"g.off", off},
                                     {"g.obj", obj}}) {
      std::string bad = good;
      if (i % 4 == 0)
        bad.resize(random() % bad.size());
      else
        for (int k = 0; k < 4; ++k) bad[random() % bad.size()] = static_cast<char>(random());
      const auto loaded = io::read_mesh(write(name, bad));  // must come back, well or not
      if (!loaded) {
        EXPECT_NE(loaded.error().message.find(name), std::string::npos) << loaded.error().message;
      }
    }
  }
}

TEST_F(Files, AFailedWriteLeavesTheOldFile) {
  const fs::path path = write("kept.stl", "old");
  const Status status = io::write_through_temporary(path, [](const fs::path& temporary) -> Status {
    std::ofstream(temporary) << "half";
    return Error{ErrorCode::Io, "disk full"};
  });
  EXPECT_FALSE(status);
  std::ifstream file(path);
  std::string content;
  file >> content;
  EXPECT_EQ(content, "old");
  EXPECT_EQ(std::distance(fs::directory_iterator(folder_), {}), 1);
  EXPECT_FALSE(io::write_stl("/no/such/folder/x.stl", box_mesh({1, 1, 1}, 1)));
}

TEST_F(Files, AFullDiskIsSaidAndLeavesTheOldFile) {
  for (const char* name : {"part.stl", "part.ply"}) {
    const fs::path path = write(name, "old");
    Status status = Done{};
    {
      const testing::FullDisk full(4096);
      status = io::write_mesh(path, box_mesh({10, 10, 10}, 20));
    }
    ASSERT_FALSE(status) << name;
    EXPECT_EQ(status.error().code, ErrorCode::Io);
    EXPECT_NE(status.error().message.find(name), std::string::npos) << status.error().message;
    std::ifstream file(path);
    std::string content;
    file >> content;
    EXPECT_EQ(content, "old");
  }
  EXPECT_EQ(std::distance(fs::directory_iterator(folder_), {}), 2);  // no leftovers
}

scan::Mesh welded(const scan::Mesh& soup) {
  const fs::path path = testing::scratch() / "weld.stl";
  EXPECT_TRUE(io::write_stl(path, soup));
  auto loaded = io::read_mesh(path);
  fs::remove(path);
  return std::move(*loaded).mesh;
}

TEST(Health, FindsIslandsOpenEdgesAndInsideOut) {
  scan::Mesh mesh = box_mesh({40, 30, 20}, 20);
  const scan::Mesh crumb = box_mesh({1, 1, 1}, 1, {60, 0, 0});
  const auto offset = static_cast<std::uint32_t>(mesh.vertices.size());
  mesh.vertices.insert(mesh.vertices.end(), crumb.vertices.begin(), crumb.vertices.end());
  for (const scan::Triangle& t : crumb.triangles)
    mesh.triangles.push_back({t[0] + offset, t[1] + offset, t[2] + offset});
  mesh = welded(mesh);
  mesh.triangles.erase(mesh.triangles.begin());
  const scan::Topology topology = scan::build_topology(mesh);
  const auto health = scan::examine(mesh, topology);
  ASSERT_TRUE(health);
  EXPECT_EQ(health->components, 2U);
  EXPECT_EQ(health->islands, 1U);
  EXPECT_EQ(health->open_edges, 3U);
  EXPECT_FALSE(health->inside_out);
  EXPECT_NEAR(health->volume, 40 * 30 * 20 + 1, 60);
  const scan::Mesh clean = scan::drop_islands(mesh, topology);
  EXPECT_EQ(scan::connected_components(clean, scan::build_topology(clean)).sizes.size(), 1U);
  const scan::Mesh inverted = scan::flipped(clean);
  EXPECT_TRUE(scan::examine(inverted, scan::build_topology(inverted))->inside_out);
}

TEST(Health, NoiseIsEstimatedWithinTenPercent) {
  for (const double sigma : {0.01, 0.03}) {
    scan::Mesh mesh = welded(box_mesh({60, 60, 60}, 60));
    const std::vector<Vec3> normals = scan::vertex_normals(mesh);
    std::mt19937_64 random(3);
    std::normal_distribution<double> noise(0, sigma);
    for (std::size_t i = 0; i < mesh.vertices.size(); ++i)
      mesh.vertices[i] += noise(random) * normals[i];
    EXPECT_NEAR(scan::measure_noise(mesh, scan::build_topology(mesh)).sigma, sigma, 0.1 * sigma);
  }
}

TEST(Health, ABentMeshWithoutNoiseHasNone) {
  // Waves of ninety spacings, exact: their bending is no noise.
  scan::Mesh mesh;
  constexpr std::uint32_t kCells = 100;
  for (std::uint32_t i = 0; i <= kCells; ++i) {
    for (std::uint32_t j = 0; j <= kCells; ++j)
      mesh.vertices.emplace_back(i, j, 6 * std::sin(i / 14.0) * std::cos(j / 17.0));
  }
  for (std::uint32_t i = 0; i < kCells; ++i) {
    for (std::uint32_t j = 0; j < kCells; ++j) {
      const std::uint32_t a = i * (kCells + 1) + j;
      mesh.triangles.push_back({a, a + kCells + 1, a + kCells + 2});
      mesh.triangles.push_back({a, a + kCells + 2, a + 1});
    }
  }
  EXPECT_LT(scan::measure_noise(mesh, scan::build_topology(mesh)).sigma, 0.02);
}

/// A grid of points on a plane, a cylinder or a sphere, with noise that neighbours share: white
/// noise run through a Gaussian, so that its correlation is exp(-(r / length)^2).
scan::Mesh shared_noise(int shape, double size, double sigma, double length, unsigned seed) {
  constexpr int kSide = 170;
  const double spacing = 0.5 * size;
  std::mt19937_64 random(seed);
  std::normal_distribution<double> normal;
  std::vector<double> white(kSide * kSide);
  for (double& w : white) w = normal(random);
  std::vector<double> z = white;
  if (length > 0) {
    const double s = length / 2 / spacing;  // of the kernel, in points
    const int reach = static_cast<int>(std::ceil(4 * s));
    double squares = 0;
    for (int dy = -reach; dy <= reach; ++dy)
      for (int dx = -reach; dx <= reach; ++dx) squares += std::exp(-(dx * dx + dy * dy) / (s * s));
    for (int y = 0; y < kSide; ++y) {
      for (int x = 0; x < kSide; ++x) {
        double sum = 0;
        for (int dy = -reach; dy <= reach; ++dy) {
          for (int dx = -reach; dx <= reach; ++dx) {
            const int at = (y + dy + kSide) % kSide * kSide + (x + dx + kSide) % kSide;
            sum +=
                white[static_cast<std::size_t>(at)] * std::exp(-(dx * dx + dy * dy) / (2 * s * s));
          }
        }
        z[static_cast<std::size_t>(y * kSide + x)] = sum / std::sqrt(squares);
      }
    }
  }
  scan::Mesh mesh;
  const double radius = 80 * size;
  for (int y = 0; y < kSide; ++y) {
    for (int x = 0; x < kSide; ++x) {
      const double u = (x - kSide / 2) * spacing;
      const double v = (y - kSide / 2) * spacing;
      const double h = sigma * z[static_cast<std::size_t>(y * kSide + x)];
      if (shape == 0) mesh.vertices.emplace_back(u, v, h);
      if (shape == 1)
        mesh.vertices.emplace_back((radius + h) * std::sin(u / radius), v,
                                   (radius + h) * std::cos(u / radius));
      if (shape == 2)
        mesh.vertices.push_back(
            (radius + h) * Vec3(u, v, std::sqrt(radius * radius - u * u - v * v)).normalized());
    }
  }
  for (std::uint32_t y = 0; y + 1 < kSide; ++y) {
    for (std::uint32_t x = 0; x + 1 < kSide; ++x) {
      const std::uint32_t a = y * kSide + x;
      mesh.triangles.push_back({a, a + 1, a + kSide + 1});
      mesh.triangles.push_back({a, a + kSide + 1, a + kSide});
    }
  }
  return mesh;
}

TEST(Health, NoiseThatNeighboursShareIsToldWithHowFar) {
  for (const int shape : {0, 1, 2}) {
    for (const double size : {0.05, 1.0, 20.0}) {
      for (const double spacings : {0.0, 1.0, 2.0, 3.0, 4.0}) {
        const double sigma = 0.02 * size;
        const double length = spacings * 0.5 * size;
        const scan::Mesh mesh =
            shared_noise(shape, size, sigma, length, static_cast<unsigned>(17 + shape));
        const scan::Noise noise = scan::measure_noise(mesh, scan::build_topology(mesh));
        EXPECT_NEAR(noise.sigma, sigma, 0.2 * sigma) << shape << ' ' << size << ' ' << spacings;
        if (spacings == 0) {
          EXPECT_EQ(noise.correlation, 0);
        }
        if (spacings >= 2) {
          EXPECT_NEAR(noise.correlation, length, 0.3 * length)
              << shape << ' ' << size << ' ' << spacings;
        }
      }
    }
  }
}

TEST(Health, UnitsAreGuessedFromSizeAndSpacing) {
  EXPECT_EQ(scan::guess_unit(200, 0.5).unit, Unit::Millimetre);
  EXPECT_EQ(scan::guess_unit(0.2, 0.0005).unit, Unit::Metre);
  EXPECT_EQ(scan::guess_unit(7.9, 0.02).unit, Unit::Inch);
  EXPECT_NE(scan::guess_unit(7.9, 0.02).reason.find("inch"), std::string::npos);
}

TEST(MeshIndex, NearestPointIsExactFarFromTheOrigin) {
  const Vec3 far(10000, -10000, 10000);
  const scan::MeshIndex index(welded(box_mesh({40, 30, 20}, 10)));
  scan::Mesh away = welded(box_mesh({40, 30, 20}, 10));
  for (Vec3& v : away.vertices) v += far;
  const scan::MeshIndex far_index(away);
  std::mt19937_64 random(2);
  std::uniform_real_distribution<double> uniform(-10, 50);
  for (int i = 0; i < 2000; ++i) {
    const Vec3 p(uniform(random), uniform(random), uniform(random));
    const Vec3 clamped = p.cwiseMax(Vec3::Zero()).cwiseMin(Vec3(40, 30, 20));
    double truth = (p - clamped).norm();
    if (truth == 0) truth = std::min({p.x(), p.y(), p.z(), 40 - p.x(), 30 - p.y(), 20 - p.z()});
    EXPECT_NEAR(index.nearest(p)->distance, truth, 1e-9);
    EXPECT_NEAR(far_index.nearest(p + far)->distance, truth, 1e-9);
  }
  EXPECT_FALSE(index.nearest({0, 0, -100}, 5));
}

TEST(Section, OuterLoopsRunWithMaterialOnTheLeft) {
  const auto mesh = std::make_shared<const scan::Mesh>(welded(box_mesh({40, 30, 20}, 12)));
  const section::SectionIndex index(mesh);
  for (const double level :
       {10.0, 0.5, 19.999, 20.0 * 5 / 12}) {  // the last one lies on a row of vertices
    const section::Section cut = index.cut(placement_on({0, 0, level}, Vec3::UnitZ()));
    ASSERT_EQ(cut.polylines.size(), 1U) << level;
    EXPECT_TRUE(cut.polylines[0].closed);
    EXPECT_TRUE(cut.polylines[0].gaps.empty());
    EXPECT_NEAR(cut.polylines[0].length(), 140, 1e-6);
    double area = 0;
    const auto& p = cut.polylines[0].points;
    for (std::size_t i = 0; i < p.size(); ++i)
      area += 0.5 * (p[i].x() * p[(i + 1) % p.size()].y() - p[i].y() * p[(i + 1) % p.size()].x());
    EXPECT_NEAR(area, 1200, 1e-6);
  }
  EXPECT_TRUE(index.cut(placement_on({0, 0, 50}, Vec3::UnitZ())).polylines.empty());
}

TEST(Section, GapsAreBridgedAndMarked) {
  scan::Mesh mesh = welded(box_mesh({40, 30, 20}, 20));
  std::erase_if(mesh.triangles, [&](const scan::Triangle& t) {
    const Vec3 c = (mesh.vertices[t[0]] + mesh.vertices[t[1]] + mesh.vertices[t[2]]) / 3;
    return c.x() > 39.9 && c.y() > 10 && c.y() < 16;
  });
  const section::SectionIndex index(std::make_shared<const scan::Mesh>(mesh));
  const section::Section cut = index.cut(placement_on({0, 0, 10.3}, Vec3::UnitZ()));
  ASSERT_EQ(cut.polylines.size(), 1U);
  EXPECT_TRUE(cut.polylines[0].closed);
  EXPECT_EQ(cut.polylines[0].gaps.size(), 1U);
}

TEST(Section, ThousandsOfPiecesAreJoinedInOrder) {
  // A tube of 24 000 strips of which every eighth is missing: pieces and gaps by the thousand.
  constexpr std::uint32_t kStrips = 24000;
  scan::Mesh mesh;
  for (std::uint32_t k = 0; k < kStrips; ++k) {
    const double a = 2 * std::numbers::pi * k / kStrips;
    mesh.vertices.emplace_back(100 * std::cos(a), 100 * std::sin(a), 0);
    mesh.vertices.emplace_back(100 * std::cos(a), 100 * std::sin(a), 10);
  }
  std::size_t missing = 0;
  for (std::uint32_t k = 0; k < kStrips; ++k) {
    if (k % 8 == 3) {
      ++missing;
      continue;
    }
    const std::uint32_t next = (k + 1) % kStrips;
    mesh.triangles.push_back({2 * k, 2 * next, 2 * next + 1});
    mesh.triangles.push_back({2 * k, 2 * next + 1, 2 * k + 1});
  }
  // In any order of the triangles.
  std::mt19937 random(5);
  std::shuffle(mesh.triangles.begin(), mesh.triangles.end(), random);
  const section::SectionIndex index(std::make_shared<const scan::Mesh>(mesh));
  const section::Section cut = index.cut(placement_on({0, 0, 4.3}, Vec3::UnitZ()));
  ASSERT_EQ(cut.polylines.size(), 1U);
  const section::Polyline& round = cut.polylines.front();
  EXPECT_TRUE(round.closed);
  EXPECT_EQ(round.gaps.size(), missing);
  EXPECT_NEAR(round.length(), 2 * std::numbers::pi * 100, 0.01);
  // Each gap is named where it is: a step as long as a strip.
  for (const std::size_t gap : round.gaps) {
    const Vec2& a = round.points[gap];
    const Vec2& b = round.points[(gap + 1) % round.points.size()];
    EXPECT_NEAR((a - b).norm(), 2 * std::numbers::pi * 100 / kStrips, 1e-6);
  }
}

TEST(Text, DigitsFollowTheUncertainty) {
  EXPECT_EQ(format_reading(41.9735, 0.023), "41.97 \u00b1 0.02");
  EXPECT_EQ(format_reading(41.9735, 0.0142), "41.974 \u00b1 0.014");
  EXPECT_EQ(format_fixed(-0.0001, 2), "0.00");
  EXPECT_EQ(format_fixed(-1.5, 1), "\u22121.5");
  EXPECT_EQ(format_fixed(std::nan(""), 1), "unknown");
  EXPECT_EQ(format_trimmed(13.50), "13.5");
}

}  // namespace
}  // namespace lostline
