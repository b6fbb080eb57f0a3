// Meshes: what welding, topology, extraction, selection and coarsening keep, whatever the order of
// triangles and the size of the part.
#include "scan/mesh.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <cstring>
#include <numbers>
#include <numeric>
#include <random>
#include <set>

#include "base/parallel.h"
#include "io/weld.h"
#include "scan/selection.h"
#include "survey/coarse.h"

namespace lostline::scan {
namespace {

/// A closed torus of n times m squares about z: one component, Euler characteristic 0.
Mesh ring(double size, std::uint32_t n = 60, std::uint32_t m = 24) {
  Mesh mesh;
  for (std::uint32_t i = 0; i < n; ++i) {
    for (std::uint32_t j = 0; j < m; ++j) {
      const double a = 2 * std::numbers::pi * i / n;
      const double b = 2 * std::numbers::pi * j / m;
      const double rho = 30 + 8 * std::cos(b);
      mesh.vertices.push_back(size * Vec3(rho * std::cos(a), rho * std::sin(a), 8 * std::sin(b)));
      const std::uint32_t right = (i + 1) % n * m + j;
      const std::uint32_t up = i * m + (j + 1) % m;
      const std::uint32_t both = (i + 1) % n * m + (j + 1) % m;
      mesh.triangles.push_back({i * m + j, right, both});
      mesh.triangles.push_back({i * m + j, both, up});
    }
  }
  return mesh;
}

double volume_of(const Mesh& mesh) {
  double sum = 0;
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t)
    sum += mesh.corner(t, 0).dot(mesh.area_vector(t)) / 6;
  return sum;
}

double area_of(const Mesh& mesh) {
  double sum = 0;
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) sum += 0.5 * mesh.area_vector(t).norm();
  return sum;
}

/// The triangles of a mesh as a file of three times three floats holds them.
std::vector<char> soup_of(const Mesh& mesh) {
  std::vector<char> bytes(mesh.triangles.size() * 36);
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    for (int k = 0; k < 3; ++k) {
      const Eigen::Vector3f p = mesh.corner(t, k).cast<float>();
      std::memcpy(bytes.data() + 36 * t + 12 * static_cast<std::size_t>(k), p.data(), 12);
    }
  }
  return bytes;
}

Mesh shuffled(Mesh mesh, unsigned seed) {
  std::mt19937_64 random(seed);
  std::vector<std::uint32_t> order(mesh.vertices.size());
  std::iota(order.begin(), order.end(), 0U);
  std::shuffle(order.begin(), order.end(), random);
  Mesh result = mesh;
  for (std::uint32_t v = 0; v < order.size(); ++v) result.vertices[order[v]] = mesh.vertices[v];
  for (Triangle& t : result.triangles) {
    for (std::uint32_t& v : t) v = order[v];
    std::rotate(t.begin(), t.begin() + static_cast<int>(random() % 3), t.end());
  }
  std::shuffle(result.triangles.begin(), result.triangles.end(), random);
  return result;
}

TEST(Weld, ASoupBecomesTheMeshItCameFromInAnyOrder) {
  for (const double size : {0.02, 1.0, 15.0}) {
    const Mesh whole = ring(size);
    for (unsigned seed = 1; seed <= 4; ++seed) {
      const Mesh mixed = shuffled(whole, seed);
      const std::vector<char> bytes = soup_of(mixed);
      const auto loaded = io::weld_soup(bytes.data(), mixed.triangles.size(), 36, {});
      ASSERT_TRUE(loaded);
      EXPECT_EQ(loaded->mesh.vertices.size(), whole.vertices.size());
      EXPECT_EQ(loaded->mesh.triangles.size(), whole.triangles.size());
      EXPECT_EQ(loaded->skipped_triangles, 0U);
      EXPECT_NEAR(volume_of(loaded->mesh), volume_of(whole), 1e-5 * volume_of(whole));
      const Topology topology = build_topology(loaded->mesh);
      EXPECT_EQ(topology.open_edges, 0U);
      EXPECT_EQ(topology.non_manifold_edges, 0U);
      // Welding what is welded changes nothing.
      const auto again = io::welded(*loaded, {});
      ASSERT_TRUE(again);
      EXPECT_EQ(again->mesh.triangles, loaded->mesh.triangles);
    }
  }
}

TEST(Weld, WhatIsNoTriangleIsCountedAndTheRestStays) {
  Mesh mesh = ring(1);
  const std::size_t good = mesh.triangles.size();
  mesh.vertices.emplace_back(std::nan(""), 0, 0);
  mesh.vertices.emplace_back(0, std::numeric_limits<double>::infinity(), 0);
  const auto bad = static_cast<std::uint32_t>(mesh.vertices.size() - 2);
  mesh.triangles.insert(mesh.triangles.begin() + 7, {bad, 0, 1});
  mesh.triangles.push_back({1, 2, bad + 1});
  mesh.triangles.push_back({4, 4, 9});
  mesh.vertices.push_back(mesh.vertices[5]);  // the same place twice
  mesh.triangles.push_back({5, bad + 2, 11});
  io::LoadedMesh loaded;
  loaded.mesh = mesh;
  const auto result = io::welded(loaded, {});
  ASSERT_TRUE(result);
  EXPECT_EQ(result->skipped_not_finite, 2U);
  EXPECT_EQ(result->skipped_triangles, 2U);
  EXPECT_EQ(result->mesh.triangles.size(), good);
}

TEST(Topology, NeighboursKnowEachOtherAndEulersNumberHolds) {
  const Mesh mesh = shuffled(ring(1), 9);
  const Topology topology = build_topology(mesh);
  std::size_t edges = 0;
  for (std::uint32_t t = 0; t < mesh.triangles.size(); ++t) {
    for (std::uint32_t k = 0; k < 3; ++k) {
      const std::uint32_t other = topology.across[3 * t + k];
      ASSERT_NE(other, kNone);
      edges += other > t ? 1 : 0;
      const auto* back = topology.across.data() + 3 * static_cast<std::size_t>(other);
      EXPECT_EQ(std::count(back, back + 3, t), 1);
    }
  }
  EXPECT_EQ(mesh.vertices.size() + mesh.triangles.size(), edges);  // of a torus
  for (std::uint32_t v = 0; v < mesh.vertices.size(); ++v) {
    const auto near = topology.vertex_neighbours[v];
    EXPECT_TRUE(std::is_sorted(near.begin(), near.end()));
    EXPECT_EQ(near.size(), topology.vertex_triangles[v].size());  // closed about every vertex
    for (const std::uint32_t other : near) {
      const auto theirs = topology.vertex_neighbours[other];
      EXPECT_TRUE(std::binary_search(theirs.begin(), theirs.end(), v));
    }
  }
}

TEST(Mesh, MovingKeepsAreaAndMirroringKeepsTheOutsideOut) {
  const Mesh mesh = ring(1);
  Transform move = Transform::Identity();
  move.linear() = Eigen::AngleAxisd(1.1, Vec3(1, -2, 3).normalized()).toRotationMatrix();
  move.translation() = Vec3(1000, -2000, 3000);
  const Mesh moved = transformed(mesh, move);
  EXPECT_NEAR(area_of(moved), area_of(mesh), 1e-6 * area_of(mesh));
  EXPECT_NEAR(volume_of(moved), volume_of(mesh), 1e-6 * volume_of(mesh));
  Transform mirror = Transform::Identity();
  mirror.linear() = Vec3(-2, 2, 2).asDiagonal();
  EXPECT_NEAR(volume_of(transformed(mesh, mirror)), 8 * volume_of(mesh), 1e-6);
}

TEST(Mesh, NormalsOfAClosedSurfaceLookOutwardsAndTurnWithIt) {
  const Mesh mesh = ring(1);
  const std::vector<Vec3> normals = vertex_normals(mesh);
  const Transform turn(Eigen::AngleAxisd(0.7, Vec3(3, 1, 2).normalized()));
  const std::vector<Vec3> turned = vertex_normals(transformed(mesh, turn));
  for (std::size_t v = 0; v < normals.size(); ++v) {
    const Vec3 across(mesh.vertices[v].x(), mesh.vertices[v].y(), 0);
    const Vec3 outward = (mesh.vertices[v] - 30 * across.normalized()).normalized();
    EXPECT_GT(normals[v].dot(outward), 0.99);
    EXPECT_LT((turned[v] - turn.linear() * normals[v]).norm(), 1e-9);
  }
}

TEST(Mesh, WhatIsExtractedAndWhatIsLeftAreTheWhole) {
  const Mesh mesh = ring(1);
  std::mt19937_64 random(3);
  for (const double share : {0.0, 0.1, 0.5, 1.0}) {
    std::vector<char> keep(mesh.triangles.size());
    for (char& k : keep) k = std::bernoulli_distribution(share)(random) ? 1 : 0;
    std::vector<char> rest = inverted(keep);
    std::vector<std::uint32_t> kept;
    const Mesh part = extract(mesh, keep, &kept);
    const Mesh other = extract(mesh, rest);
    EXPECT_EQ(part.triangles.size() + other.triangles.size(), mesh.triangles.size());
    EXPECT_NEAR(area_of(part) + area_of(other), area_of(mesh), 1e-9 * area_of(mesh));
    ASSERT_EQ(kept.size(), part.triangles.size());
    for (std::size_t t = 0; t < kept.size(); ++t)
      EXPECT_EQ(part.centroid(t), mesh.centroid(kept[t]));
    std::set<std::uint32_t> used;
    for (const Triangle& t : part.triangles) used.insert(t.begin(), t.end());
    EXPECT_EQ(used.size(), part.vertices.size());  // none is left over
  }
}

TEST(Selection, GrowingAndShrinkingBoundEachOther) {
  const Mesh mesh = ring(1);
  const Topology topology = build_topology(mesh);
  Selection some(mesh.triangles.size(), 0);
  for (const std::uint32_t t : patch_around(mesh, topology, 40, mesh.centroid(40), 9)) some[t] = 1;
  const auto count = [](const Selection& s) { return std::count(s.begin(), s.end(), 1); };
  const auto within = [](const Selection& inner, const Selection& outer) {
    for (std::size_t t = 0; t < inner.size(); ++t)
      if (inner[t] != 0 && outer[t] == 0) return false;
    return true;
  };
  ASSERT_GT(count(some), 50);
  const Selection more = grown(mesh, some);
  const Selection less = shrunk(mesh, some);
  EXPECT_TRUE(within(some, more));
  EXPECT_TRUE(within(less, some));
  EXPECT_GT(count(more), count(some));
  EXPECT_LT(count(less), count(some));
  EXPECT_TRUE(within(some, shrunk(mesh, more)));
  EXPECT_TRUE(within(grown(mesh, less), some));
  // What is not selected grows where the selection shrinks.
  EXPECT_EQ(inverted(grown(mesh, inverted(some))), less);
  EXPECT_EQ(inverted(inverted(some)), some);
  const auto numbers = indices_of(some);
  EXPECT_EQ(static_cast<std::ptrdiff_t>(numbers.size()), count(some));
  EXPECT_TRUE(std::is_sorted(numbers.begin(), numbers.end()));
}

TEST(Selection, WhatHangsTogetherIsTakenWholeAndGivenBack) {
  Mesh mesh = ring(1);
  const std::size_t one = mesh.triangles.size();
  const auto shift = static_cast<std::uint32_t>(mesh.vertices.size());
  for (const Vec3& v : ring(1).vertices) mesh.vertices.push_back(v + Vec3(200, 0, 0));
  for (const Triangle& t : ring(1).triangles)
    mesh.triangles.push_back({t[0] + shift, t[1] + shift, t[2] + shift});
  const Topology topology = build_topology(mesh);
  const Components parts = connected_components(mesh, topology);
  ASSERT_EQ(parts.sizes.size(), 2U);
  EXPECT_EQ(parts.sizes[0], one);
  Selection selection(mesh.triangles.size(), 0);
  select_connected(topology, {static_cast<std::uint32_t>(one + 5)}, true, selection);
  for (std::size_t t = 0; t < selection.size(); ++t) EXPECT_EQ(selection[t] != 0, t >= one);
  select_connected(topology, {static_cast<std::uint32_t>(one + 90)}, false, selection);
  EXPECT_EQ(std::count(selection.begin(), selection.end(), 1), 0);
}

TEST(Coarse, EveryVertexHasItsMeanAndThinWallsStayApart) {
  for (const double size : {0.02, 1.0, 15.0}) {
    // Two sheets closer to each other than their points are.
    constexpr std::uint32_t kSide = 60;
    Mesh mesh;
    for (std::uint32_t sheet = 0; sheet < 2; ++sheet) {
      const std::uint32_t first = sheet * kSide * kSide;
      for (std::uint32_t i = 0; i < kSide; ++i)
        for (std::uint32_t j = 0; j < kSide; ++j)
          mesh.vertices.push_back(size * Vec3(i, j, 0.4 * sheet));
      for (std::uint32_t i = 0; i + 1 < kSide; ++i) {
        for (std::uint32_t j = 0; j + 1 < kSide; ++j) {
          const std::uint32_t a = first + i * kSide + j;
          Triangle low{a, a + kSide, a + kSide + 1};
          Triangle high{a, a + kSide + 1, a + 1};
          if (sheet == 0) {
            std::swap(low[1], low[2]);
            std::swap(high[1], high[2]);
          }
          mesh.triangles.push_back(low);
          mesh.triangles.push_back(high);
        }
      }
    }
    const Topology topology = build_topology(mesh);
    const survey::Coarse coarse = survey::coarsen(mesh, topology, vertex_normals(mesh));
    ASSERT_EQ(coarse.cluster.size(), mesh.vertices.size());
    EXPECT_LT(coarse.mesh.vertices.size(), mesh.vertices.size() / 4);
    std::vector<Vec3> sum(coarse.mesh.vertices.size(), Vec3::Zero());
    std::vector<double> count(sum.size(), 0);
    for (std::size_t v = 0; v < mesh.vertices.size(); ++v) {
      ASSERT_LT(coarse.cluster[v], sum.size());
      sum[coarse.cluster[v]] += mesh.vertices[v];
      count[coarse.cluster[v]] += 1;
    }
    for (std::size_t c = 0; c < sum.size(); ++c) {
      ASSERT_GT(count[c], 0);
      EXPECT_LT((sum[c] / count[c] - coarse.mesh.vertices[c]).norm(), 1e-9 * size);
      // On one sheet or the other, not between them.
      const double z = coarse.mesh.vertices[c].z() / size;
      EXPECT_LT(std::min(std::abs(z), std::abs(z - 0.4)), 1e-9);
    }
  }
}

TEST(Parallel, EveryNumberComesOnceInPiecesOfAnySize) {
  for (const std::size_t count :
       {std::size_t{0}, std::size_t{1}, std::size_t{7}, std::size_t{10000}}) {
    for (const std::size_t grain : {std::size_t{1}, std::size_t{16}, std::size_t{100000}}) {
      std::vector<int> seen(count, 0);
      parallel_for(count, grain, [&](std::size_t begin, std::size_t end) {
        EXPECT_LT(begin, end);
        for (std::size_t i = begin; i < end; ++i) {
          // Loops inside loops finish before the piece does.
          parallel_for(3, 1, [&](std::size_t, std::size_t) {});
          ++seen[i];
        }
      });
      EXPECT_EQ(std::count(seen.begin(), seen.end(), 1), static_cast<std::ptrdiff_t>(count));
    }
  }
}

}  // namespace
}  // namespace lostline::scan
