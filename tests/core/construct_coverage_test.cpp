// The stated uncertainty of constructed datum features holds as often as it says.
#include <gtest/gtest.h>

#include <cmath>
#include <random>

#include "datum/construct.h"
#include "fit/surface_kind.h"
#include "fit/uncertainty.h"
#include "support/rounds.h"

namespace lostline::datum {
namespace {

using fit::Kind;
using fit::SurfaceFit;

SurfaceFit truth(Kind kind, const Vec3& point, const Vec3& axis, double u_offset, double u_angle) {
  SurfaceFit f;
  f.surface.kind = kind;
  f.surface.point = f.centroid = point;
  f.surface.axis = axis.normalized();
  f.surface.radius = 5;
  f.surface.minor_radius = 1;
  f.u_offset = u_offset;
  f.u_angle = u_angle;
  return f;
}

/// A fit as another scan of the same part would give it.
SurfaceFit drawn(const SurfaceFit& f, std::mt19937& random) {
  std::normal_distribution<double> normal;
  using Shifts = fit::SurfaceKind::Shifts;
  const fit::SurfaceKind& kind = fit::about(f.surface.kind);
  const Vec3 u = any_perpendicular(f.surface.axis);
  const Vec3 v = f.surface.axis.cross(u);
  SurfaceFit other = f;
  const double turn = f.u_angle / fit::coverage_factor(2);
  if (kind.direction != nullptr)
    other.surface.axis =
        (f.surface.axis + turn * (normal(random) * u + normal(random) * v)).normalized();
  const int dimensions = kind.shifts == Shifts::Along ? 1 : kind.shifts == Shifts::Across ? 2 : 3;
  const double place = f.u_offset / fit::coverage_factor(dimensions);
  if (kind.shifts != Shifts::Along)
    other.surface.point += place * (normal(random) * u + normal(random) * v);
  if (kind.shifts != Shifts::Across) other.surface.point += place * normal(random) * f.surface.axis;
  return other;
}

struct Share {
  double place = 0;
  double direction = 0;
};

template <class Make>
Share coverage(const std::vector<SurfaceFit>& fits, const Make& make) {
  const auto ideal = make(fits);
  EXPECT_TRUE(ideal);
  std::mt19937 random(815);
  const int rounds = lostline::testing::rounds(20000, 4000, 400);
  Share share;
  for (int k = 0; k < rounds; ++k) {
    std::vector<SurfaceFit> other;
    for (const SurfaceFit& f : fits) other.push_back(drawn(f, random));
    const auto made = make(other);
    EXPECT_TRUE(made);
    const fit::Surface& s = made->surface;
    const Vec3 p = ideal->surface.point;
    const Vec3 d = s.point - p;
    double off = d.norm();
    if (s.kind == Kind::Plane) off = std::abs(ideal->surface.axis.dot(s.point - p));
    if (s.kind == Kind::Line) off = (d - d.dot(s.axis) * s.axis).norm();
    share.place += off <= made->u_offset ? 1.0 / rounds : 0;
    share.direction +=
        fit::angle_between(s.axis, ideal->surface.axis) <= made->u_angle ? 1.0 / rounds : 0;
  }
  return share;
}

/// How far the effective number of freedoms, which is between whole ones, may lead from 95.45 %
/// (checked against sampling, no source).
constexpr double kEffective = 0.01;

/// 95.45 % within what chance allows.
void expect_stated(double share, const char* what) {
  const double n = lostline::testing::rounds(20000, 4000, 400);
  EXPECT_NEAR(share, 0.9545, lostline::testing::stray(static_cast<int>(n), 0.9545) / n + kEffective)
      << what;
}

TEST(ConstructCoverage, MidplanesOfParallelAndSlantedFaces) {
  for (const double slant : {0.0, 0.2}) {
    const std::vector<SurfaceFit> faces{
        truth(Kind::Plane, {0, 3, 10}, {0, std::sin(slant), std::cos(slant)}, 0.02, 0.0008),
        truth(Kind::Plane, {4, -2, -8}, {0, std::sin(slant), -std::cos(slant)}, 0.01, 0.0015)};
    const Share share = coverage(faces, [](const auto& f) { return midplane(f[0], f[1]); });
    expect_stated(share.place, "place");
    expect_stated(share.direction, "direction");
  }
}

TEST(ConstructCoverage, LinesThroughTwoCentres) {
  const std::vector<SurfaceFit> holes{truth(Kind::Cylinder, {0, 0, 0}, {0, 0, 1}, 0.01, 0.002),
                                      truth(Kind::Cylinder, {80, 10, 0}, {0, 0, 1}, 0.02, 0.002)};
  const Share share = coverage(holes, [](const auto& f) { return axis_of_two(f[0], f[1]); });
  expect_stated(share.place, "place");
  expect_stated(share.direction, "direction");
}

TEST(ConstructCoverage, PointsWherePlanesAndAxesMeet) {
  const SurfaceFit base = truth(Kind::Plane, {5, 5, 0}, {0, 0, 1}, 0.01, 0.0005);
  const std::vector<SurfaceFit> corner{base,
                                       truth(Kind::Plane, {0, 9, 4}, {1, 0.2, 0}, 0.02, 0.0005),
                                       truth(Kind::Plane, {8, 0, 3}, {0, 1, 0.3}, 0.015, 0.0005)};
  expect_stated(coverage(corner, intersection).place, "three planes");
  const std::vector<SurfaceFit> pierced{
      base, truth(Kind::Cylinder, {20, 10, 15}, {0.3, 0, 1}, 0.02, 0.001)};
  expect_stated(coverage(pierced, intersection).place, "plane and axis");
  const std::vector<SurfaceFit> crossed{truth(Kind::Cylinder, {-10, 0, 0}, {1, 0, 0}, 0.02, 0.001),
                                        truth(Kind::Line, {0, 12, 0}, {0.2, 1, 0}, 0.01, 0.001)};
  expect_stated(coverage(crossed, intersection).place, "two axes");
}

TEST(ConstructCoverage, TheCommonAxisOfBores) {
  std::vector<SurfaceFit> bores;
  for (const double z : {0.0, 40.0, 90.0})
    bores.push_back(truth(Kind::Cylinder, {0, 0, z}, {0, 0, 1}, 0.01 + z * 1e-4, 0.002));
  const Share share = coverage(bores, common_axis);
  // Few axes that happen to scatter more than they say only widen it.
  EXPECT_GE(share.place, 0.94);
  EXPECT_GE(share.direction, 0.94);
}

}  // namespace
}  // namespace lostline::datum
