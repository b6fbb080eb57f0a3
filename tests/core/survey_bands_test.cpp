// Faces two to five points wide, tubes, and whether what the survey says of its fits holds.
#include "part_family.h"
#include "random_parts.h"
#include "support/rounds.h"
#include "survey_score.h"
#include "surveyed.h"

namespace lostline {
namespace {

using testing::PartBuilder;
using testing::Surveyed;
using testing::surveyed;

/// A plate with holes on a grid.
model::Model plate(double thickness, double radius) {
  PartBuilder part;
  part.box({0, 0}, {90, 60}, 0, thickness);
  std::vector<Vec2> centres;
  for (const double x : {15.0, 35.0, 55.0, 75.0}) {
    for (const double y : {15.0, 30.0, 45.0}) centres.emplace_back(x, y);
  }
  part.holes(centres, 2 * radius);
  return part.solid();
}

TEST(SurveyBands, HolesAndSidesOfAThinPlateStandSquareToIt) {
  for (const double thickness : {2.5, 3.5}) {
    const Surveyed s = surveyed(plate(thickness, 4), 0.9, 17);
    const Vec3 across = s.scan.pose.linear() * Vec3::UnitZ();
    std::set<std::pair<long, long>> holes;
    std::set<std::pair<long, long>> sides;
    int strange = 0;
    int outside = 0;  // of what a fit says of its direction
    for (const survey::Region& r : s.survey.regions) {
      if (!r.fit || r.area < 0.2 * thickness * 25) continue;
      const fit::Surface& f = r.fit->surface;
      const Vec3 axis = s.scan.pose.linear().transpose() * f.axis;
      if (f.kind == fit::Kind::Cylinder && f.hollow) {
        const Vec3 centre = s.scan.pose.inverse() * f.point;
        holes.insert({std::lround(centre.x()), std::lround(centre.y())});
        EXPECT_NEAR(f.radius, 4, std::max(0.03, r.fit->u_radius)) << "region " << r.id;
        // What two or three rows of points say of a direction is little, and is said so.
        EXPECT_GT(r.fit->u_angle, 0.01);
        const double off = fit::angle_between(f.axis, across);
        if (r.direction_of != 0) {
          EXPECT_LT(off, 0.003) << "region " << r.id;
        }
        outside += off > std::max(0.003, r.fit->u_angle) ? 1 : 0;
      } else if (f.kind == fit::Kind::Plane && std::abs(axis.z()) < 0.1) {
        sides.insert({std::lround(axis.x()), std::lround(axis.y())});
        EXPECT_LT(std::abs(axis.z()), 0.003) << "region " << r.id;
      } else if (f.kind != fit::Kind::Plane) {
        ++strange;
      }
    }
    EXPECT_EQ(holes.size(), 12U) << thickness;
    EXPECT_GE(sides.size(), 3U) << thickness;  // at 2.5 mm one of the four is two points wide
    EXPECT_LE(strange, 1) << thickness;
    EXPECT_LE(outside, 2) << thickness;  // of twelve intervals of 95 %
  }
}

TEST(SurveyBands, ALeaningWallOfAThinPlateIsNotHeldSquare) {
  // Sides that lean by 20 degrees: far outside of what a narrow band leaves open.
  PartBuilder part;
  part.box({0, 0}, {90, 60}, 0, 4, model::Operation::Add, 20 * std::numbers::pi / 180);
  const Surveyed s = surveyed(part.solid(), 0.9, 5);
  int leaning = 0;
  for (const survey::Region& r : s.survey.regions) {
    if (!r.fit || r.fit->surface.kind != fit::Kind::Plane || r.area < 40) continue;
    const double up = (s.scan.pose.linear().transpose() * r.fit->surface.axis).z();
    if (std::abs(up) > 0.99) continue;
    ++leaning;
    EXPECT_NEAR(std::asin(up), 20 * std::numbers::pi / 180, std::max(0.02, r.fit->u_angle))
        << "region " << r.id;
  }
  EXPECT_EQ(leaning, 4);
}

TEST(SurveyBands, ABentTubeHasItsBends) {
  int bends = 0;
  int wanted = 0;
  for (unsigned seed : {8U, 20U, 32U, 12020U, 12032U, 15020U, 15044U}) {  // see random_parts.h
    const auto made = testing::RandomPart(seed).make();
    ASSERT_STREQ(made.kind, "tube");
    const Surveyed s = surveyed(made.solid, 0.9, seed);
    for (std::size_t f = 0; f < made.solid.face_count(); ++f) {
      const auto truth = model::surface_of_face(made.solid, f);
      if (!truth || truth->kind != fit::Kind::Torus || truth->hollow) continue;
      ++wanted;
      const fit::Surface there = fit::transformed(*truth, s.scan.pose);
      const auto is = [&](const survey::Region& r) {
        return r.fit && r.fit->surface.kind == fit::Kind::Torus &&
               std::abs(r.fit->surface.minor_radius - there.minor_radius) < 0.05 &&
               std::abs(r.fit->surface.radius - there.radius) <
                   std::max(0.02 * there.radius, 2 * r.fit->u_radius) &&
               fit::angle_between(r.fit->surface.axis, there.axis) < 0.02;
      };
      bends += std::any_of(s.survey.regions.begin(), s.survey.regions.end(), is) ? 1 : 0;
    }
  }
  EXPECT_GE(wanted, 14);
  EXPECT_GE(bends, wanted - 1);
}

TEST(SurveyBands, AChamferRoundTheCornersIsPlanesAndConesAndNotOneOfThem) {
  // A chamfer follows an outline with rounded corners: where it turns it is a cone, and one steep
  // cone would hold the strip between with the beginnings of both corners.
  PartBuilder part;
  part.box({0, 0}, {130, 70}, 0, 20);
  for (const Vec2& corner : {Vec2(0, 0), Vec2(130, 0), Vec2(0, 70), Vec2(130, 70)})
    part.fillet({corner.x(), corner.y(), 10}, 15);
  part.chamfer({65, 0, 20}, 3);
  const Surveyed s = surveyed(part.solid(), 0.6, 3);
  for (const double size : {0.02, 1.0, 15.0}) {
    const scan::Mesh mesh = scan::transformed(s.scan.mesh, Transform(Eigen::Scaling(size)));
    const auto found = survey::split_into_regions(mesh, s.topology);
    ASSERT_TRUE(found);
    int flat = 0;
    int round = 0;
    for (const survey::Region& r : found->regions) {
      if (!r.fit || r.area < 40 * size * size) continue;
      const Vec3 axis = s.scan.pose.linear().transpose() * r.fit->surface.axis;
      const bool aslant = std::abs(axis.z() - std::sqrt(0.5)) < 0.01;
      flat += r.fit->surface.kind == fit::Kind::Plane && aslant ? 1 : 0;
      round += r.fit->surface.kind == fit::Kind::Cone ? 1 : 0;
    }
    EXPECT_EQ(flat, 4) << size;
    EXPECT_EQ(round, 4) << size;
  }
}

TEST(SurveyBands, WhatTheSurveySaysOfItsFitsHolds) {
  // Over parts of every kind: intervals of 95 % about radii and places. What a scanner does at
  // edges is no noise, so that somewhat fewer hold than of points at random.
  testing::Score all;
  const int parts = testing::rounds(36, 4, 1);
  for (int k = 0; k < parts; ++k) {
    const auto made = testing::RandomPart(14400 + static_cast<unsigned>(k)).make();
    const Surveyed s = surveyed(made.solid, 0.9, static_cast<std::uint64_t>(k + 3), made.surface);
    all.add(testing::judge(made.solid, s.scan.pose.inverse(), s.survey, s.scan.mesh, s.topology,
                           0.9, 0, false));
  }
  testing::Held sizes;
  for (const auto& [what, held] : all.u) {
    std::printf("%s: %d of %d\n", what.c_str(), held.held, held.of);
    if (what.ends_with("radius") || what.ends_with("tube")) {
      sizes.held += held.held;
      sizes.of += held.of;
    }
  }
  ASSERT_GT(sizes.of, parts);
  EXPECT_GE(sizes.held, 0.9 * sizes.of - testing::stray(sizes.of, 0.9));
}

}  // namespace
}  // namespace lostline
