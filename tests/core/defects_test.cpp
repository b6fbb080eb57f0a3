// Triangles that no part has, edges made even, and where the next scan sees most: on balls of which
// everything is known, damaged where the test knows.
#include "scan/defects.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <numbers>
#include <random>

#include "ball_mesh.h"
#include "scan/next_view.h"

namespace lostline::scan {
namespace {

Mesh ball(double radius, const Vec3& middle = Vec3::Zero()) {
  return testing::ball_mesh(radius, 40, 80, middle);
}

double enclosed(const Mesh& mesh) {
  double sum = 0;
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t)
    sum += mesh.corner(t, 0).dot(mesh.corner(t, 1).cross(mesh.corner(t, 2))) / 6;
  return sum;
}

TEST(DefectsOfScans, ASoundBallHasNone) {
  for (const double size : {0.1, 20.0, 1500.0}) {
    const Mesh mesh = ball(size, Vec3(3, -8, 2) * size);
    const auto found = find_defects(mesh, build_topology(mesh));
    ASSERT_TRUE(found);
    EXPECT_TRUE(found->all().empty()) << size;
  }
}

TEST(DefectsOfScans, AVertexPulledThroughTheOtherSideCrosses) {
  for (const double size : {0.1, 20.0, 1500.0}) {
    Mesh mesh = ball(size);
    const std::size_t pulled = 1 + 20 * 80 + 3;
    mesh.vertices[pulled] *= -1.3;  // out on the far side
    const Topology topology = build_topology(mesh);
    const auto found = find_defects(mesh, topology);
    ASSERT_TRUE(found);
    EXPECT_GE(found->crossing.size(), 7U);  // the six around it, and what they run through
    const auto mended = mend(mesh, topology, found->all());
    ASSERT_TRUE(mended) << mended.error().message;
    const Topology after = build_topology(mended->mesh);
    EXPECT_EQ(after.open_edges, 0U);
    EXPECT_NEAR(enclosed(mended->mesh), enclosed(ball(size)), 0.003 * enclosed(ball(size)));
    EXPECT_TRUE(find_defects(mended->mesh, after)->all().empty());
  }
}

TEST(DefectsOfScans, ASecondSkinIsTakenOff) {
  Mesh mesh = ball(20);
  // A cap of a slightly larger ball lies over it.
  const Mesh over = ball(20.4);
  const auto first = static_cast<std::uint32_t>(mesh.vertices.size());
  const std::size_t sound = mesh.triangles.size();
  mesh.vertices.insert(mesh.vertices.end(), over.vertices.begin(), over.vertices.end());
  std::size_t caps = 0;
  for (std::size_t t = 0; t < over.triangles.size(); ++t) {
    if (over.centroid(t).z() < 15) continue;
    const auto [a, b, c] = over.triangles[t];
    mesh.triangles.push_back({a + first, b + first, c + first});
    ++caps;
  }
  const Topology topology = build_topology(mesh);
  const auto found = find_defects(mesh, topology);
  ASSERT_TRUE(found);
  EXPECT_EQ(found->doubled.size(), caps);
  for (const std::uint32_t t : found->doubled) EXPECT_GE(t, sound);
  const auto mended = mend(mesh, topology, found->all());
  ASSERT_TRUE(mended);
  EXPECT_NEAR(enclosed(mended->mesh), enclosed(ball(20)), 1e-6 * enclosed(mended->mesh));
}

TEST(DefectsOfScans, HolesThatWereThereStay) {
  Mesh mesh = ball(20);
  std::vector<char> keep(mesh.triangles.size(), 1);
  for (std::size_t t = 0; t < keep.size(); ++t) keep[t] = mesh.centroid(t).z() < 17 ? 1 : 0;
  mesh = extract(mesh, keep);
  const std::size_t open = build_topology(mesh).open_edges;
  ASSERT_GT(open, 20U);
  // A vertex of the belt pulled through the other side, far from the hole.
  const auto belt = std::find_if(mesh.vertices.begin(), mesh.vertices.end(),
                                 [](const Vec3& v) { return std::abs(v.z()) < 1; });
  ASSERT_NE(belt, mesh.vertices.end());
  *belt *= -1.2;
  const Topology topology = build_topology(mesh);
  const auto found = find_defects(mesh, topology);
  ASSERT_TRUE(found);
  ASSERT_FALSE(found->all().empty());
  const auto mended = mend(mesh, topology, found->all());
  ASSERT_TRUE(mended);
  EXPECT_EQ(build_topology(mended->mesh).open_edges, open);
}

TEST(EvenEdges, HaveAboutTheLengthWantedOnTheSameSurface) {
  const Mesh mesh = ball(20);  // long at its belt, short at the poles
  for (const double length : {1.0, 2.5}) {
    const auto made = remesh(mesh, {}, length);
    ASSERT_TRUE(made) << made.error().message;
    EXPECT_EQ(build_topology(made->mesh).open_edges, 0U);
    std::size_t good = 0;
    std::size_t all = 0;
    for (std::size_t t = 0; t < made->mesh.triangles.size(); ++t) {
      for (int k = 0; k < 3; ++k) {
        const double edge = (made->mesh.corner(t, (k + 1) % 3) - made->mesh.corner(t, k)).norm();
        good += edge > 0.6 * length && edge < 1.5 * length ? 1 : 0;
        ++all;
      }
    }
    EXPECT_GT(static_cast<double>(good), 0.95 * static_cast<double>(all));
    for (const Vec3& v : made->mesh.vertices) EXPECT_NEAR(v.norm(), 20, 0.1);
  }
  // A part of it only: the rest keeps its triangles.
  Selection upper(mesh.triangles.size(), 0);
  std::size_t below = 0;
  for (std::size_t t = 0; t < upper.size(); ++t) {
    upper[t] = mesh.centroid(t).z() > 0 ? 1 : 0;
    below += upper[t] == 0 ? 1 : 0;
  }
  const auto half = remesh(mesh, upper, 3);
  ASSERT_TRUE(half) << half.error().message;
  std::size_t stayed = 0;
  for (std::size_t t = 0; t < half->mesh.triangles.size(); ++t)
    stayed += half->mesh.centroid(t).z() < -1.7 ? 1 : 0;
  EXPECT_GT(static_cast<double>(stayed), 0.85 * static_cast<double>(below));
  EXPECT_FALSE(remesh(mesh, {}, 0));
  EXPECT_FALSE(remesh(mesh, {}, std::nan("")));
}

TEST(CurvedFilling, CarriesTheCurvatureOn) {
  const Mesh whole = ball(20);
  std::vector<char> keep(whole.triangles.size(), 1);
  for (std::size_t t = 0; t < keep.size(); ++t) keep[t] = whole.centroid(t).z() < 16 ? 1 : 0;
  const Mesh open = extract(whole, keep);
  const auto filled = fill_holes(open, Filling::Curved, 500);
  ASSERT_TRUE(filled);
  EXPECT_EQ(build_topology(filled->mesh).open_edges, 0U);
  // Flat the cap would lose its rise of four millimetres; the ball carries on.
  EXPECT_NEAR(enclosed(filled->mesh), enclosed(whole), 0.004 * enclosed(whole));
  double top = 0;
  for (const Vec3& v : filled->mesh.vertices) top = std::max(top, v.z());
  EXPECT_NEAR(top, 20, 1.2);
}

TEST(NextViews, LookAtWhatIsOpen) {
  std::mt19937 random(3);
  std::normal_distribution<double> any(0, 1);
  for (int k = 0; k < 6; ++k) {
    const Vec3 hole = Vec3(any(random), any(random), any(random)).normalized();
    Mesh mesh = ball(20);
    std::vector<char> keep(mesh.triangles.size(), 1);
    for (std::size_t t = 0; t < keep.size(); ++t)
      keep[t] = mesh.centroid(t).normalized().dot(hole) < 0.9 ? 1 : 0;
    mesh = extract(mesh, keep);
    const auto view = next_view(mesh, build_topology(mesh), MeshIndex(mesh));
    ASSERT_TRUE(view) << view.error().message;
    EXPECT_GT(view->from.dot(hole), 0.8);
    EXPECT_GT(view->seen, 0.95);
  }
  const Mesh closed = ball(20);
  EXPECT_EQ(next_view(closed, build_topology(closed), MeshIndex(closed)).error().code,
            ErrorCode::NotFound);
}

}  // namespace
}  // namespace lostline::scan
