// Bare points: how dense, which way they look, and the surface through them.
#include <gtest/gtest.h>

#include <numbers>
#include <random>

#include "cloud/mesh_cloud.h"
#include "cloud/neighbours.h"
#include "scan/mesh_index.h"

namespace lostline {
namespace {

/// A surface to sample: a place and its outward normal for two numbers between 0 and 1.
using Surface = std::function<std::pair<Vec3, Vec3>(double, double)>;

scan::PointCloud sampled(const Surface& surface, std::size_t count, double noise, unsigned seed) {
  std::mt19937 rng(seed);
  std::uniform_real_distribution<double> share(0, 1);
  std::normal_distribution<double> normal(0, noise);
  scan::PointCloud cloud;
  for (std::size_t i = 0; i < count; ++i) {
    const auto [at, out] = surface(share(rng), share(rng));
    cloud.points.emplace_back(at + normal(rng) * out);
  }
  return cloud;
}

/// Three quarters of a sphere: the cap above z = 0.5 R is missing.
Surface bowl(double radius) {
  return [radius](double a, double b) -> std::pair<Vec3, Vec3> {
    const double z = -1 + 1.5 * a;
    const double angle = 2 * std::numbers::pi * b;
    const double across = std::sqrt(std::max(0.0, 1 - z * z));
    const Vec3 n(across * std::cos(angle), across * std::sin(angle), z);
    return {radius * n, n};
  };
}

/// The six faces of a box, by area.
Surface box(const Vec3& half) {
  return [half](double a, double b) -> std::pair<Vec3, Vec3> {
    const double xy = half.x() * half.y();
    const double yz = half.y() * half.z();
    const double zx = half.z() * half.x();
    double pick = a * 2 * (xy + yz + zx);
    for (int axis = 0; axis < 3; ++axis) {
      const double area = axis == 2 ? xy : axis == 0 ? yz : zx;
      for (const double sign : {1.0, -1.0}) {
        if (pick > area) {
          pick -= area;
          continue;
        }
        const double u = 2 * pick / area - 1;
        const double v = 2 * b - 1;
        Vec3 p;
        p[axis] = sign * half[axis];
        p[(axis + 1) % 3] = u * half[(axis + 1) % 3];
        p[(axis + 2) % 3] = v * half[(axis + 2) % 3];
        return {p, sign * Vec3::Unit(axis)};
      }
    }
    return {half, Vec3::UnitZ()};
  };
}

double area_of(const scan::Mesh& mesh) {
  double area = 0;
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) area += 0.5 * mesh.area_vector(t).norm();
  return area;
}

TEST(Cloud, TheSpacingOfAGridIsItsStep) {
  for (const double step : {0.02, 0.7, 40.0}) {
    std::vector<Vec3> points;
    for (int i = 0; i < 60; ++i) {
      for (int j = 0; j < 60; ++j) points.emplace_back(i * step, j * step, 1e3 * step);
    }
    EXPECT_NEAR(cloud::spacing_of(points), step, 1e-9 * step);
    points.insert(points.end(), points.begin(), points.end());  // every point twice
    EXPECT_NEAR(cloud::spacing_of(points), step, 1e-9 * step);
    EXPECT_EQ(cloud::thinned(points, 0).size(), 3600U);
  }
}

TEST(Cloud, ThinnedPointsKeepTheirDistanceAndCoverTheRest) {
  const scan::PointCloud cloud = sampled(bowl(30), 20000, 0.05, 3);
  const double distance = 0.9;
  const auto kept = cloud::thinned(cloud.points, distance);
  std::vector<Vec3> few;
  for (const std::uint32_t i : kept) few.push_back(cloud.points[i]);
  const PointGrid grid(few, distance);
  for (std::size_t i = 0; i < few.size(); ++i) {
    grid.near(few[i], 0.999 * distance, [&](std::size_t j, double) { EXPECT_EQ(i, j); });
  }
  for (const Vec3& p : cloud.points) {
    bool covered = false;
    grid.near(p, distance, [&](std::size_t, double) { covered = true; });
    EXPECT_TRUE(covered);
  }
}

TEST(Cloud, NormalsLookOutOfClosedThinAndEdgedThings) {
  for (const Vec3& half : {Vec3(20, 15, 10), Vec3(30, 20, 0.8)}) {
    const Surface surface = box(half);
    std::mt19937 rng(5);
    std::uniform_real_distribution<double> share(0, 1);
    std::vector<Vec3> points;
    std::vector<Vec3> truth;
    for (int i = 0; i < 60000; ++i) {
      const auto [at, out] = surface(share(rng), share(rng));
      points.push_back(at);
      truth.push_back(out);
    }
    const double reach = 4 * cloud::spacing_of(points);
    const PointGrid grid(points, reach);
    auto normals = cloud::normals_of(points, grid, points, reach);
    cloud::orient(points, normals, reach, {});
    std::size_t against = 0;
    for (std::size_t i = 0; i < points.size(); ++i) against += normals[i].dot(truth[i]) < 0 ? 1 : 0;
    EXPECT_LT(against, points.size() / 100) << half.transpose();
  }
}

/// Share of points of the true surface that the mesh lies next to, and of the mesh's area that lies
/// where no point was.
struct Cover {
  double covered;
  double invented;
};
Cover cover_of(const scan::Mesh& mesh, const scan::PointCloud& cloud, double spacing) {
  const scan::MeshIndex index(mesh);
  std::size_t covered = 0;
  for (const Vec3& p : cloud.points) covered += index.nearest(p, 0.75 * spacing) ? 1 : 0;
  const PointGrid grid(cloud.points, 2 * spacing);
  double invented = 0;
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    bool near = false;
    grid.near(mesh.centroid(t), 1.5 * spacing, [&](std::size_t, double) { near = true; });
    if (!near) invented += 0.5 * mesh.area_vector(t).norm();
  }
  return {static_cast<double>(covered) / static_cast<double>(cloud.points.size()),
          invented / area_of(mesh)};
}

TEST(Cloud, AMeshCoversWhatWasSeenAndInventsNothing) {
  struct Case {
    const char* name;
    Surface surface;
    double area;
  };
  const double scale_of[] = {0.1, 1, 15};
  for (const double scale : scale_of) {
    const std::vector<Case> cases{
        {"bowl", bowl(30 * scale), 0.75 * 4 * std::numbers::pi * 900 * scale * scale},
        {"block", box(scale * Vec3(30, 20, 12)), scale * scale * 8 * (600 + 240 + 360)},
        {"sheet", box(scale * Vec3(40, 30, 0.6)), scale * scale * 8 * (1200 + 18 + 24)}};
    for (const Case& c : cases) {
      const double spacing = 0.4 * scale;  // as many points as a scanner of that step gives
      const auto count = static_cast<std::size_t>(c.area / (spacing * spacing));
      const double noise = 0.03 * scale;
      const scan::PointCloud cloud = sampled(c.surface, count, noise, 11);
      const auto meshed = cloud::mesh_cloud(cloud);
      ASSERT_TRUE(meshed) << c.name << ": " << meshed.error().message;
      const Cover cover = cover_of(meshed->mesh, cloud, spacing);
      EXPECT_GT(cover.covered, 0.98) << c.name << " " << scale;
      EXPECT_LT(cover.invented, 0.005) << c.name << " " << scale;
      EXPECT_NEAR(area_of(meshed->mesh), c.area, 0.03 * c.area) << c.name << " " << scale;
      const scan::Topology topology = scan::build_topology(meshed->mesh);
      EXPECT_EQ(topology.non_manifold_edges, 0U) << c.name << " " << scale;
      EXPECT_NEAR(meshed->noise, noise, 0.3 * noise) << c.name << " " << scale;
      std::printf(
          "%s x %g: %zu points, %zu triangles, covered %.4f, invented %.4f, area %.4f, %zu open "
          "edges, noise %.4f\n",
          c.name, scale, cloud.points.size(), meshed->mesh.triangles.size(), cover.covered,
          cover.invented, area_of(meshed->mesh) / c.area, topology.open_edges,
          meshed->noise / noise);
    }
  }
}

TEST(Cloud, NoiseIsAveragedAndRadiiAreKept) {
  const double radius = 30;
  const double noise = 0.05;
  const scan::PointCloud cloud = sampled(bowl(radius), 40000, noise, 17);
  const auto meshed = cloud::mesh_cloud(cloud);
  ASSERT_TRUE(meshed);
  double squares = 0;
  double sum = 0;
  std::size_t inside = 0;
  for (std::size_t v = 0; v < meshed->mesh.vertices.size(); ++v) {
    const double off = meshed->mesh.vertices[v].norm() - radius;
    squares += off * off;
    sum += off;
    inside += std::abs(off) < static_cast<double>(meshed->u[v]) ? 1 : 0;
  }
  const auto n = static_cast<double>(meshed->mesh.vertices.size());
  EXPECT_LT(std::sqrt(squares / n), 0.6 * noise);
  EXPECT_LT(std::abs(sum / n), 0.05 * noise);
  // U of each vertex holds it about as often as it says.
  EXPECT_NEAR(static_cast<double>(inside) / n, 0.95, 0.04);
  // Kept as they are where nothing is to be averaged.
  cloud::MeshingOptions as_is;
  as_is.smooth = 0;
  const auto plain = cloud::mesh_cloud(cloud, as_is);
  ASSERT_TRUE(plain);
  const PointGrid grid(cloud.points, 1);
  for (std::size_t v = 0; v < plain->mesh.vertices.size(); v += 50) {
    bool same = false;
    grid.near(plain->mesh.vertices[v], 1e-12, [&](std::size_t, double) { same = true; });
    EXPECT_TRUE(same);
  }
}

TEST(Cloud, AMeshMovesWithItsPoints) {
  const scan::PointCloud cloud = sampled(box(Vec3(20, 14, 9)), 20000, 0.02, 23);
  const auto meshed = cloud::mesh_cloud(cloud);
  ASSERT_TRUE(meshed);
  Transform motion(Eigen::AngleAxisd(0.7, Vec3(1, 2, -1).normalized()));
  motion.pretranslate(Vec3(300, -40, 12));
  scan::PointCloud moved = cloud;
  for (Vec3& p : moved.points) p = motion * p;
  const auto again = cloud::mesh_cloud(moved);
  ASSERT_TRUE(again);
  // Rounding turns a few diagonals of four points on a circle.
  EXPECT_NEAR(area_of(again->mesh), area_of(meshed->mesh), 1e-3 * area_of(meshed->mesh));
  EXPECT_NEAR(static_cast<double>(again->mesh.triangles.size()),
              static_cast<double>(meshed->mesh.triangles.size()), 10);
}

TEST(Cloud, NormalsOfTheFileTellTheOutside) {
  // The inside of a bowl, which bare points would be taken for the outside of.
  const double radius = 30;
  scan::PointCloud cloud = sampled(bowl(radius), 20000, 0.02, 31);
  for (const Vec3& p : cloud.points) cloud.normals.emplace_back(-p.normalized());
  const auto facing = [&](const scan::PointCloud& c) {
    const auto meshed = cloud::mesh_cloud(c);
    EXPECT_TRUE(meshed);
    double flux = 0;
    for (std::size_t t = 0; t < meshed->mesh.triangles.size(); ++t)
      flux += meshed->mesh.area_vector(t).dot(meshed->mesh.centroid(t));
    return flux;
  };
  EXPECT_LT(facing(cloud), 0);
  // Normals that are all missing are as good as none.
  cloud.normals.assign(cloud.points.size(), Vec3::Zero());
  EXPECT_GT(facing(cloud), 0);
}

TEST(Cloud, WhatAScannerSawLooksToIt) {
  for (const double radius : {2.0, 30.0, 900.0}) {
    // A bowl scanned from within, and once more as if the scanner had stood beyond it.
    scan::PointCloud cloud = sampled(bowl(radius), 20000, 7e-4 * radius, 37);
    const auto facing = [&](const Vec3& eye) {
      cloud.eyes = {Vec3(1e4, 0, 0), eye};
      cloud.seen.assign(cloud.points.size(), 1);
      const auto meshed = cloud::mesh_cloud(cloud);
      EXPECT_TRUE(meshed);
      double flux = 0;
      for (std::size_t t = 0; t < meshed->mesh.triangles.size(); ++t)
        flux += meshed->mesh.area_vector(t).dot(meshed->mesh.centroid(t));
      return flux;
    };
    EXPECT_LT(facing(0.1 * radius * Vec3(1, 2, -1)), 0);
    // From the side half of it would look away: the place cannot be where it stood.
    EXPECT_GT(facing(Vec3(9 * radius, 0, 0)), 0);
  }
}

TEST(Cloud, ALargeGapStaysOpen) {
  scan::PointCloud cloud = sampled(box(Vec3(25, 25, 5)), 60000, 0.01, 29);
  const double spacing = cloud::spacing_of(cloud.points);
  const Vec3 centre(0, 0, 5);
  const double hole = 6;
  std::erase_if(cloud.points, [&](const Vec3& p) { return (p - centre).norm() < hole; });
  const auto meshed = cloud::mesh_cloud(cloud);
  ASSERT_TRUE(meshed);
  const scan::MeshIndex index(meshed->mesh);
  const auto nearest = index.nearest(centre, hole - 3 * spacing);
  EXPECT_FALSE(nearest);
  EXPECT_GT(scan::build_topology(meshed->mesh).open_edges, 20U);
}

TEST(Cloud, BadInputIsRefusedWithAReason) {
  scan::PointCloud few;
  few.points = {Vec3::Zero(), Vec3::UnitX(), Vec3::UnitY()};
  EXPECT_EQ(cloud::mesh_cloud(few).error().code, ErrorCode::InvalidInput);
  scan::PointCloud one;
  one.points.assign(100, Vec3(1, 2, 3));
  EXPECT_EQ(cloud::mesh_cloud(one).error().code, ErrorCode::Degenerate);
  scan::PointCloud line;
  for (int i = 0; i < 1000; ++i) line.points.emplace_back(0.1 * i, 0, 0);
  EXPECT_EQ(cloud::mesh_cloud(line).error().code, ErrorCode::Degenerate);
  scan::PointCloud broken = sampled(bowl(10), 1000, 0, 1);
  broken.points[7].y() = std::nan("");
  EXPECT_EQ(cloud::mesh_cloud(broken).error().code, ErrorCode::InvalidInput);
  std::stop_source stop;
  stop.request_stop();
  EXPECT_EQ(
      cloud::mesh_cloud(sampled(bowl(10), 5000, 0, 1), {}, Task(stop.get_token())).error().code,
      ErrorCode::Cancelled);
}

}  // namespace
}  // namespace lostline
