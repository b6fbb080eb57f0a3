// How large the faces of a part are, whichever way it lies.
#include "survey/plane_sizes.h"

#include <gtest/gtest.h>

#include <numbers>
#include <random>

#include "base/hull.h"
#include "plate_scan.h"

namespace lostline {
namespace {

Vec2 box_at(const std::vector<Vec2>& points, double angle) {
  Eigen::AlignedBox2d box;
  for (const Vec2& p : points) box.extend(Vec2(Eigen::Rotation2Dd(angle) * p));
  return box.sizes();
}

TEST(Hull, HoldsEveryPointAndTurnsLeft) {
  for (unsigned seed = 1; seed <= 40; ++seed) {
    std::mt19937_64 random(seed);
    std::normal_distribution<double> normal(0, std::pow(10.0, static_cast<int>(seed % 7) - 2));
    std::vector<Vec2> points(3 + random() % 200);
    for (Vec2& p : points) p = Vec2(normal(random), normal(random));
    if (seed % 3 == 0) points.insert(points.end(), points.begin(), points.end());  // all twice
    const auto hull = convex_hull(points);
    ASSERT_GE(hull.size(), 3U) << seed;
    const double slack = 1e-12 * box_at(points, 0).squaredNorm();
    for (std::size_t i = 0; i < hull.size(); ++i) {
      const Vec2& a = hull[i];
      const Vec2& b = hull[(i + 1) % hull.size()];
      EXPECT_GT(cross(b - a, hull[(i + 2) % hull.size()] - b), 0) << seed;
      for (const Vec2& p : points) EXPECT_GE(cross(b - a, p - a), -slack) << seed;
    }
  }
  EXPECT_TRUE(convex_hull({}).empty());
  EXPECT_EQ(convex_hull({{1, 2}, {1, 2}}).size(), 1U);
  EXPECT_EQ(convex_hull({{0, 0}, {2, 2}, {1, 1}, {3, 3}}).size(), 2U);
}

TEST(Hull, NoRectangleAtAnyAngleIsSmaller) {
  for (unsigned seed = 1; seed <= 20; ++seed) {
    std::mt19937_64 random(seed);
    std::uniform_real_distribution<double> even(-1, 1);
    std::vector<Vec2> points(4 + random() % 60);
    for (Vec2& p : points) p = Vec2(5 * even(random), even(random));
    const Vec2 sides = smallest_rectangle(points);
    EXPECT_GE(sides.x(), sides.y());
    double least = 1e300;
    for (int i = 0; i < 3600; ++i)
      least = std::min(least, box_at(points, i * std::numbers::pi / 7200).prod());
    EXPECT_LE(sides.prod(), least * (1 + 1e-12)) << seed;
    EXPECT_GT(sides.prod(), 0.99 * least) << seed;  // the angles tried are close together
  }
  EXPECT_TRUE(smallest_rectangle({}).isZero());
  EXPECT_TRUE(smallest_rectangle({{1, 1}, {4, 5}, {2.5, 3}}).isApprox(Vec2(5, 0)));
}

TEST(Hull, ARectangleIsFoundInAnyDirectionAndSize) {
  for (const double size : {0.05, 1.0, 3000.0}) {
    for (unsigned seed = 1; seed <= 10; ++seed) {
      std::mt19937_64 random(seed);
      std::uniform_real_distribution<double> even(0, 1);
      const Eigen::Rotation2Dd turn(7 * even(random));
      std::vector<Vec2> points;
      for (int i = 0; i < 400; ++i)
        points.push_back(turn * Vec2(size * 6 * even(random), size * even(random)));
      for (const Vec2& corner : {Vec2(0, 0), Vec2(6, 0), Vec2(6, 1), Vec2(0, 1)})
        points.push_back(turn * (size * corner));
      EXPECT_TRUE(smallest_rectangle(points).isApprox(size * Vec2(6, 1), 1e-9)) << size << seed;
    }
  }
}

class PlaneSizes : public testing::PlateJob {};

TEST_F(PlaneSizes, AreThoseOfTheFacesWhicheverWayThePartLies) {
  const auto check = [&](const project::Document& d) {
    const auto sizes = survey::plane_sizes(*d.survey, *d.scan->mesh, d.scan->topology);
    ASSERT_EQ(sizes.size(), d.survey->regions.size() + 1);
    // A row of points beside each edge may be left to the neighbour.
    EXPECT_NEAR(sizes[region({0, 0, -1})].x(), 60, 1.6);
    EXPECT_NEAR(sizes[region({0, 0, -1})].y(), 40, 1.6);
    EXPECT_NEAR(sizes[region({1, 0, 0})].x(), 40, 1.6);
    EXPECT_NEAR(sizes[region({1, 0, 0})].y(), 10, 1.6);
    EXPECT_TRUE(sizes[bore()].isZero());
  };
  check(*plate_);
  const Transform turn(Eigen::AngleAxisd(0.9, Vec3(1, -2, 0.7).normalized()));
  scan::Mesh mesh = *plate_->scan->mesh;
  for (Vec3& v : mesh.vertices) v = turn * v;
  const auto turned = project::prepare_scan(std::move(mesh), "plate", "", Unit::Millimetre);
  ASSERT_TRUE(turned);
  project::Document d = *plate_;
  d.scan = *turned;
  auto survey = std::make_shared<survey::Survey>(*plate_->survey);
  for (survey::Region& r : survey->regions) {
    if (r.fit) r.fit->surface = fit::transformed(r.fit->surface, turn);
  }
  d.survey = survey;
  check(d);
}

}  // namespace
}  // namespace lostline
