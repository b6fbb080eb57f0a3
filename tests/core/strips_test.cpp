// Walls of two or three rows of points, and rows that two surfaces which blend share.
#include <cmath>
#include <numbers>

#include "part_builder.h"
#include "simulate/scanner.h"
#include "support/rounds.h"
#include "survey/survey.h"

namespace lostline {
namespace {

using testing::PartBuilder;

struct Surveyed {
  simulate::SimulatedScan scan;
  survey::Survey survey;
};

Surveyed surveyed(const model::Model& solid, double spacing, std::uint64_t seed) {
  simulate::ScanOptions options;
  options.spacing = spacing;
  options.seed = seed;
  options.strays = 0;
  auto scan = simulate::simulate_scan(solid, {}, options);
  EXPECT_TRUE(scan);
  auto found = survey::split_into_regions(scan->mesh, scan::build_topology(scan->mesh));
  EXPECT_TRUE(found);
  return {*std::move(scan), *std::move(found)};
}

/// The plane that looks along `out` through `on` (coordinates of the part), if the survey has it
/// within 0.06 mm and what it says of its direction, 2 degrees at most.
const survey::Region* plane_at(const Surveyed& s, const Vec3& on, const Vec3& out) {
  for (const survey::Region& r : s.survey.regions) {
    if (!r.fit || r.fit->surface.kind != fit::Kind::Plane) continue;
    const Vec3 axis = s.scan.pose.linear().transpose() * r.fit->surface.axis;
    const double turn = std::acos(std::clamp(axis.dot(out), -1.0, 1.0));
    const Vec3 centre = s.scan.pose.inverse() * r.centre;
    if (turn < std::clamp(r.fit->u_angle, 0.01, 0.035) &&
        std::abs(r.fit->surface.distance(s.scan.pose * on)) < 0.06 && (centre - on).norm() < 15)
      return &r;
  }
  return nullptr;
}

TEST(Strips, TheEndsOfATubeAreSquareToItsAxis) {
  // At any size: a wall of 2.8 spacings.
  for (const double size : {0.2, 1.0, 12.0}) {
    PartBuilder part;
    part.disc({0, 0}, 12 * size, 0, 60 * size)
        .disc({0, 0}, 9.5 * size, -size, 61 * size, model::Operation::Cut);
    simulate::ScanOptions options;
    options.spacing = 0.9 * size;
    options.noise = 0.02 * size;
    options.seed = 4;
    options.strays = 0;
    const auto scan = simulate::simulate_scan(part.solid(), {}, options);
    ASSERT_TRUE(scan);
    const auto found = survey::split_into_regions(scan->mesh, scan::build_topology(scan->mesh));
    ASSERT_TRUE(found);
    // One of them may come in two halves.
    int low = 0;
    int high = 0;
    for (const survey::Region& r : found->regions) {
      if (!r.fit || r.fit->surface.kind != fit::Kind::Plane) continue;
      const Vec3 axis = scan->pose.linear().transpose() * r.fit->surface.axis;
      const double height = (scan->pose.inverse() * r.fit->surface.point).z();
      if (axis.z() < -0.9999 && std::abs(height) < 0.06 * size) ++low;
      if (axis.z() > 0.9999 && std::abs(height - 60 * size) < 0.06 * size) ++high;
    }
    EXPECT_TRUE(low >= 1 && low <= 2) << size << ": " << low;
    EXPECT_TRUE(high >= 1 && high <= 2) << size << ": " << high;
  }
}

TEST(Strips, TheRimOfAThinWallIsFoundWhereNoSurfaceGrows) {
  int found = 0;
  int wanted = 0;
  for (const std::uint64_t seed : {3U, 14U, 25U}) {
    PartBuilder part;
    part.box({0, 0}, {80, 50}, 0, 12).box({20, 24}, {60, 26.6}, 12, 32);
    const Surveyed s = surveyed(part.solid(), 0.9, seed);
    const std::array walls{std::pair(Vec3(20, 25.3, 22), Vec3(-1, 0, 0)),
                           std::pair(Vec3(60, 25.3, 22), Vec3(1, 0, 0)),
                           std::pair(Vec3(40, 25.3, 32), Vec3(0, 0, 1))};
    for (const auto& [on, out] : walls) {
      ++wanted;
      const survey::Region* r = plane_at(s, on, out);
      if (r == nullptr) continue;
      ++found;
      // Its direction is held to that of a neighbour, which is said.
      EXPECT_NE(r->direction_of, 0U);
    }
  }
  // Before strips were looked for: none or one of them.
  EXPECT_GE(3 * found, 2 * wanted) << found;
}

TEST(Strips, ARoundEdgeIsNoStrip) {
  // All edges along a side are rounded with less than a spacing and a half: nothing flat there.
  for (const std::uint64_t seed : {5U, 6U}) {
    PartBuilder part;
    part.box({0, 0}, {60, 40}, 0, 20);
    for (const double y : {0.0, 40.0}) part.fillet({30, y, 20}, 1.2);
    const Surveyed s = surveyed(part.solid(), 0.9, seed);
    for (const survey::Region& r : s.survey.regions) {
      if (!r.fit || r.fit->surface.kind != fit::Kind::Plane) continue;
      const Vec3 axis = s.scan.pose.linear().transpose() * r.fit->surface.axis;
      EXPECT_GT(axis.cwiseAbs().maxCoeff(), 0.999) << "region " << r.id;
    }
  }
}

TEST(SharedRows, ARoundThatBlendsIntoWallsKeepsItsRadius) {
  // A row of a wall taken for the round, or of the round for the wall, moves the radius one way:
  // the mean over many corners shows it.
  double sum = 0;
  double squares = 0;
  int count = 0;
  int held = 0;
  for (int seed = 0; seed < testing::rounds(20, 4, 1); ++seed) {
    PartBuilder part;
    part.box({0, 0}, {80, 60}, 0, 11);
    for (const Vec2& corner : {Vec2(0, 0), Vec2(80, 0), Vec2(0, 60), Vec2(80, 60)})
      part.fillet({corner.x(), corner.y(), 5}, 9);
    const Surveyed s = surveyed(part.solid(), 0.9, static_cast<std::uint64_t>(900 + seed));
    for (const survey::Region& r : s.survey.regions) {
      if (!r.fit || r.fit->surface.kind != fit::Kind::Cylinder || r.area < 60) continue;
      const double off = r.fit->surface.radius - 9;
      sum += off;
      squares += off * off;
      held += std::abs(off) <= r.fit->u_radius ? 1 : 0;
      ++count;
    }
  }
  const double mean = sum / count;
  const double error = std::sqrt((squares / count - mean * mean) / count);
  ASSERT_GE(count, 4);
  EXPECT_LT(std::abs(mean), 0.02 + 3 * error) << mean << " +- " << error;
  EXPECT_GE(held, 0.85 * count) << held << " of " << count;
}

}  // namespace
}  // namespace lostline
