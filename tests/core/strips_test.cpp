// Walls of two or three rows of points, and rows that two surfaces which blend share.
#include <cmath>
#include <numbers>

#include "part_builder.h"
#include "support/rounds.h"
#include "surveyed.h"

namespace lostline {
namespace {

using testing::PartBuilder;
using testing::Surveyed;

/// Without islands of the scanner's.
Surveyed seen_whole(const model::Model& solid, double spacing, std::uint64_t seed,
                    double noise = 0.02) {
  simulate::ScanOptions options;
  options.spacing = spacing;
  options.noise = noise;
  options.seed = seed;
  options.strays = 0;
  return testing::surveyed(solid, options);
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
    const Surveyed found = seen_whole(part.solid(), 0.9 * size, 4, 0.02 * size);
    // One of them may come in two halves.
    int low = 0;
    int high = 0;
    for (const survey::Region& r : found.survey.regions) {
      if (!r.fit || r.fit->surface.kind != fit::Kind::Plane) continue;
      const Vec3 axis = found.scan.pose.linear().transpose() * r.fit->surface.axis;
      const double height = (found.scan.pose.inverse() * r.fit->surface.point).z();
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
    const Surveyed s = seen_whole(part.solid(), 0.9, seed);
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
    const Surveyed s = seen_whole(part.solid(), 0.9, seed);
    for (const survey::Region& r : s.survey.regions) {
      if (!r.fit || r.fit->surface.kind != fit::Kind::Plane) continue;
      const Vec3 axis = s.scan.pose.linear().transpose() * r.fit->surface.axis;
      EXPECT_GT(axis.cwiseAbs().maxCoeff(), 0.999) << "region " << r.id;
    }
  }
}

TEST(SharedRows, AShortRoundThatBlendsIntoWallsKeepsItsRadius) {
  // An eighth of a turn: a row of a wall taken for the round, or of the round for the wall, moves
  // its radius one way. With the rows that both share it is 0.05 mm too small on the mean of these
  // corners.
  double sum = 0;
  int count = 0;
  int held = 0;
  for (int seed = 0; seed < testing::rounds(20, 5, 1); ++seed) {
    PartBuilder part;
    const std::vector<Vec2> corners{{20, 0},  {60, 0},  {80, 20}, {80, 60},
                                    {60, 80}, {20, 80}, {0, 60},  {0, 20}};
    part.extrude(corners, 0, 11);
    for (const Vec2& corner : corners) part.fillet({corner.x(), corner.y(), 5}, 15);
    const Surveyed s = seen_whole(part.solid(), 0.9, static_cast<std::uint64_t>(300 + seed));
    for (const survey::Region& r : s.survey.regions) {
      if (!r.fit || r.fit->surface.kind != fit::Kind::Cylinder || r.area < 30) continue;
      const double off = r.fit->surface.radius - 15;
      sum += off;
      held += std::abs(off) <= r.fit->u_radius ? 1 : 0;
      ++count;
    }
  }
  ASSERT_GE(count, 8);
  if (count >= 60) {
    EXPECT_LT(std::abs(sum / count), 0.03);
  }
  EXPECT_GE(held, 0.85 * count) << held << " of " << count;
}

}  // namespace
}  // namespace lostline
