// Fits under relations, curves of space, and what is measured between points of the scan.
#include "fit/relations.h"

#include <cmath>
#include <numbers>
#include <random>

#include "model/steps/fillet/fillet.h"
#include "plate_scan.h"
#include "project/formula.h"
#include "project/ledger.h"
#include "project/relations.h"
#include "reading/probe.h"
#include "support/rounds.h"
#include "survey/hand.h"

namespace lostline {
namespace {

using fit::Kind;
using fit::RelationType;
using testing::PlateJob;
using testing::PlateScan;

fit::Member member(Kind kind, const Eigen::Matrix3Xd& points, const Eigen::Matrix3Xd& normals) {
  const auto f = fit::fit_surface(kind, points, normals);
  EXPECT_TRUE(f) << f.error().message;
  return {*f, points, false};
}

/// Points of a bore about `axis` through `foot`, with normals.
fit::Member bore_member(const Vec3& foot, const Vec3& axis, double radius, double noise,
                        unsigned seed) {
  std::mt19937_64 random(seed);
  std::normal_distribution<double> normal(0, noise);
  std::uniform_real_distribution<double> along(-10, 10);
  std::uniform_real_distribution<double> turn(0, 2 * std::numbers::pi);
  const Vec3 u = any_perpendicular(axis);
  const Vec3 v = axis.cross(u);
  Eigen::Matrix3Xd points(3, 1500);
  Eigen::Matrix3Xd normals(3, 1500);
  for (Eigen::Index i = 0; i < points.cols(); ++i) {
    const double a = turn(random);
    const Vec3 r = std::cos(a) * u + std::sin(a) * v;
    points.col(i) = foot + along(random) * axis + (radius + normal(random)) * r;
    normals.col(i) = -r;
  }
  return member(Kind::Cylinder, points, normals);
}

fit::Member plane_member(const Vec3& origin, const Vec3& normal, double noise, unsigned seed) {
  std::mt19937_64 random(seed);
  std::normal_distribution<double> off(0, noise);
  std::uniform_real_distribution<double> along(-20, 20);
  const Vec3 u = any_perpendicular(normal);
  const Vec3 v = normal.cross(u);
  Eigen::Matrix3Xd points(3, 800);
  for (Eigen::Index i = 0; i < points.cols(); ++i)
    points.col(i) = origin + along(random) * u + along(random) * v + off(random) * normal;
  return member(Kind::Plane, points, normal.replicate(1, points.cols()));
}

TEST(Relations, TwoBoresOnOneAxisShareItAndTheCostIsNoise) {
  const Vec3 axis = Vec3(0.1, -0.2, 1).normalized();
  const std::vector<fit::Member> members{bore_member({0, 0, 0}, axis, 8, 0.01, 1),
                                         bore_member(50 * axis, axis, 12, 0.01, 2)};
  const auto related = fit::fit_related(members, {{RelationType::Coaxial, 0, 1, 0, 0}});
  ASSERT_TRUE(related) << related.error().message;
  const auto& a = related->fits[0].surface;
  const auto& b = related->fits[1].surface;
  EXPECT_LT(fit::angle_between(a.axis, b.axis), 1e-9);
  const Vec3 d = b.point - a.point;
  EXPECT_LT((d - d.dot(a.axis) * a.axis).norm(), 1e-9);
  EXPECT_EQ(related->costs[0].freedoms, 4);
  // Two short bores far apart fix their common axis better than each its own.
  EXPECT_LT(related->fits[0].u_angle, 0.3 * members[0].fit.u_angle);
  EXPECT_LT(fit::angle_between(a.axis, axis), 2 * related->fits[0].u_angle);
}

TEST(Relations, ATrueRelationIsCalledInQuestionFiveTimesInAHundred) {
  // The 95 % point of chi-squared, with as many freedoms as one axis takes from two bores.
  const Vec3 axis = Vec3(0.1, -0.2, 1).normalized();
  const unsigned runs = static_cast<unsigned>(testing::rounds(1000, 400, 40));
  unsigned within = 0;
  for (unsigned k = 0; k < runs; ++k) {
    const std::vector<fit::Member> members{bore_member({0, 0, 0}, axis, 8, 0.01, 1 + 2 * k),
                                           bore_member(50 * axis, axis, 12, 0.01, 2 + 2 * k)};
    const auto related = fit::fit_related(members, {{RelationType::Coaxial, 0, 1, 0, 0}});
    ASSERT_TRUE(related) << related.error().message;
    within += related->costs[0].within_noise ? 1 : 0;
  }
  const double slack = testing::stray(static_cast<int>(runs), 0.95);
  std::printf("within noise in %.1f %%\n", 100.0 * within / runs);
  EXPECT_GE(within, 0.95 * runs - slack);
  EXPECT_LE(within, 0.95 * runs + slack);
}

TEST(Relations, APartThatDisagreesIsSaidBySoMuch) {
  // A plane half a degree off square: 0.0087 rad.
  const double off = 0.5 * std::numbers::pi / 180;
  const std::vector<fit::Member> members{
      plane_member({0, 0, 0}, Vec3::UnitZ(), 0.01, 3),
      plane_member({30, 0, 20}, Vec3(std::cos(off), 0, std::sin(off)), 0.01, 4)};
  const auto related = fit::fit_related(members, {{RelationType::Perpendicular, 0, 1, 0, 0}});
  ASSERT_TRUE(related) << related.error().message;
  EXPECT_NEAR(related->fits[0].surface.axis.dot(related->fits[1].surface.axis), 0, 1e-10);
  EXPECT_FALSE(related->costs[0].within_noise);
  EXPECT_NEAR(related->costs[0].departure_angle, off, 0.1 * off);
  EXPECT_GT(related->costs[0].rms_with, 3 * related->costs[0].rms_without);
}

TEST(Relations, EveryTypeHoldsAndManyHoldTogether) {
  const Vec3 z = Vec3::UnitZ();
  std::vector<fit::Member> m{plane_member({0, 0, 0}, z, 0.01, 5),            // 0
                             plane_member({60, 0, 0.0002}, z, 0.01, 6),      // 1 in its plane
                             plane_member({0, 0, 25.0002}, z, 0.01, 7),      // 2 at 25
                             bore_member({-20, 0, 10}, z, 6.0002, 0.01, 8),  // 3
                             bore_member({20, 0, 10}, z, 5.9999, 0.01, 9),   // 4
                             plane_member({0.0002, 0, 0}, Vec3::UnitX(), 0.01, 10)};  // 5 between
  const double tilt = 30 * std::numbers::pi / 180;
  m.push_back(plane_member({90, 0, 0}, Vec3(std::sin(tilt), 0, std::cos(tilt)), 0.01, 11));  // 6
  const std::vector<fit::Relation> wanted{
      {RelationType::Coplanar, 0, 1, 0, 0},      {RelationType::Distance, 0, 2, 0, 25},
      {RelationType::Perpendicular, 3, 0, 0, 0}, {RelationType::EqualSize, 3, 4, 0, 0},
      {RelationType::Size, 3, 0, 0, 6},          {RelationType::Symmetric, 3, 4, 5, 0},
      {RelationType::Angle, 0, 6, 0, tilt},      {RelationType::Parallel, 0, 2, 0, 0}};
  const auto related = fit::fit_related(m, wanted);
  ASSERT_TRUE(related) << related.error().message;
  std::vector<fit::Surface> surfaces;
  for (const auto& f : related->fits) surfaces.push_back(f.surface);
  for (const fit::Relation& r : wanted) {
    const auto left = fit::relation_residual(r, surfaces);
    ASSERT_TRUE(left);
    EXPECT_LT(left->cwiseAbs().maxCoeff(), 1e-8) << fit::relation_word(r.type);
  }
  EXPECT_DOUBLE_EQ(related->fits[4].surface.radius, related->fits[3].surface.radius);
  EXPECT_NEAR(related->fits[3].surface.radius, 6, 1e-9);
  EXPECT_NEAR(related->fits[3].u_radius, 0, 1e-12);  // decided, not read
  for (const auto& c : related->costs) EXPECT_TRUE(c.within_noise);
  // The last follows from the distance: it takes nothing.
  EXPECT_LT(related->costs.back().chi2, 1e-6);
}

TEST(Relations, FreedomsAreWhatARelationAddsToTheOthers) {
  const std::vector<fit::Member> members{bore_member({0, 0, 0}, Vec3::UnitZ(), 8, 0.01, 21),
                                         bore_member({0, 0, 50}, Vec3::UnitZ(), 12, 0.01, 22)};
  // Parallel first: one axis then takes the two shifts that are left.
  const auto related = fit::fit_related(
      members, {{RelationType::Parallel, 0, 1, 0, 0}, {RelationType::Coaxial, 0, 1, 0, 0}});
  ASSERT_TRUE(related) << related.error().message;
  EXPECT_EQ(related->costs[0].freedoms, 0);  // follows from the other
  EXPECT_TRUE(related->costs[0].within_noise);
  EXPECT_EQ(related->costs[1].freedoms, 2);
}

TEST(Relations, ASmallDepartureOfManyPointsIsSignificantAndItsSizeIsSaid) {
  // 0.01 degrees off square over 60 mm, with noise of 0.01 mm: 5 um at the ends.
  const double off = 0.01 * std::numbers::pi / 180;
  const std::vector<fit::Member> members{
      plane_member({0, 0, 0}, Vec3::UnitZ(), 0.002, 31),
      plane_member({30, 0, 20}, Vec3(std::cos(off), 0, std::sin(off)), 0.002, 32)};
  const auto related = fit::fit_related(members, {{RelationType::Perpendicular, 0, 1, 0, 0}});
  ASSERT_TRUE(related) << related.error().message;
  const fit::RelationCost& cost = related->costs[0];
  EXPECT_EQ(cost.freedoms, 1);
  EXPECT_DOUBLE_EQ(fit::chi2_limit(1), 3.841);
  EXPECT_FALSE(cost.within_noise);
  EXPECT_GT(cost.effect, 0);
  EXPECT_LT(cost.effect, 0.02);
  project::Document document;
  document.tolerance = 0.1;
  EXPECT_FALSE(project::matters(document, cost));  // far within a fifth of the tolerance
  document.tolerance = 0.005;
  EXPECT_TRUE(project::matters(document, cost));
}

TEST(Relations, TrustIsKeptUnderRelations) {
  // Half of a plane's points are trusted little and lie 0.1 too high.
  fit::Member plane = plane_member({0, 0, 0}, Vec3::UnitZ(), 0.01, 41);
  plane.weights.setOnes(plane.points.cols());
  for (Eigen::Index i = 0; i < plane.points.cols(); i += 2) {
    plane.points(2, i) += 0.1;
    plane.weights[i] = 0.02;
  }
  plane.weights /= plane.weights.mean();
  plane.fit.sigma = 0.05;
  const std::vector<fit::Member> members{plane, plane_member({0, 0, 20}, Vec3::UnitZ(), 0.01, 42)};
  const auto related = fit::fit_related(members, {{RelationType::Parallel, 0, 1, 0, 0}});
  ASSERT_TRUE(related) << related.error().message;
  EXPECT_LT(related->fits[0].surface.point.z(), 0.01);  // 0.05 were all weighed alike
}

TEST(Relations, ContradictionsAndNonsenseAreRefused) {
  const std::vector<fit::Member> m{plane_member({0, 0, 0}, Vec3::UnitZ(), 0.01, 5),
                                   plane_member({0, 0, 9}, Vec3::UnitZ(), 0.01, 6)};
  EXPECT_FALSE(fit::fit_related(m, {{RelationType::Coaxial, 0, 1, 0, 0}}));
  EXPECT_FALSE(fit::fit_related(m, {{RelationType::Size, 0, 0, 0, 4}}));
  EXPECT_FALSE(fit::fit_related(m, {{RelationType::Parallel, 0, 0, 0, 0}}));
  EXPECT_FALSE(fit::fit_related(m, {{RelationType::Parallel, 0, 7, 0, 0}}));
  const auto clash = fit::fit_related(
      m, {{RelationType::Distance, 0, 1, 0, 9}, {RelationType::Distance, 0, 1, 0, 10}});
  ASSERT_FALSE(clash);
  EXPECT_EQ(clash.error().code, ErrorCode::Degenerate);
}

TEST(Relations, ACircleThroughThreePointsCanBeHeld) {
  Eigen::Matrix3Xd p(3, 3);
  p << 5, 0, -5, 0, 5, 0, 1, 1.01, 0.99;
  fit::SurfaceFitOptions all;
  all.reject_beyond = 0;
  const auto circle = fit::fit_surface(Kind::Circle, p, Eigen::Matrix3Xd(3, 0), {}, all);
  ASSERT_TRUE(circle);
  std::vector<fit::Member> m{{*circle, p, false}, plane_member({0, 0, 0}, Vec3::UnitZ(), 0.01, 5)};
  m[1].held = true;
  // Its direction is its axis: square to the plane, the circle lies level.
  const auto related = fit::fit_related(m, {{RelationType::Perpendicular, 0, 1, 0, 0}});
  ASSERT_TRUE(related) << related.error().message;
  EXPECT_LT(fit::angle_between(related->fits[0].surface.axis, m[1].fit.surface.axis), 1e-9);
  EXPECT_NEAR(related->fits[0].surface.radius, 5, 0.01);
}

TEST(Relations, TheVerdictIsRightAtItsOddsOverManySeeds) {
  // Square planes are called within noise about 95 times in 100 by the chi-squared test.
  int over = 0;
  constexpr int kSeeds = 300;
  for (int seed = 0; seed < kSeeds; ++seed) {
    const auto s = static_cast<unsigned>(1000 + 2 * seed);
    const std::vector<fit::Member> m{plane_member({0, 0, 0}, Vec3::UnitZ(), 0.01, s),
                                     plane_member({30, 0, 20}, Vec3::UnitX(), 0.01, s + 1)};
    const auto related = fit::fit_related(m, {{RelationType::Perpendicular, 0, 1, 0, 0}});
    ASSERT_TRUE(related);
    over += related->costs[0].chi2 > 3.841 ? 1 : 0;
  }
  EXPECT_GT(over, 0.02 * kSeeds);
  EXPECT_LT(over, 0.09 * kSeeds);
}

TEST(Curves, IntervalsOfCircleAndLineCoverTheTruth) {
  constexpr int kSeeds = 400;
  int radius = 0;
  int direction = 0;
  for (int seed = 0; seed < kSeeds; ++seed) {
    std::mt19937_64 random(static_cast<unsigned>(seed));
    std::normal_distribution<double> normal(0, 0.02);
    Eigen::Matrix3Xd rim(3, 60);
    Eigen::Matrix3Xd edge(3, 60);
    for (Eigen::Index i = 0; i < 60; ++i) {
      const double a = 4.0 * static_cast<double>(i) / 60;  // two thirds of the turn
      rim.col(i) << 3 + 20 * std::cos(a) + normal(random), 20 * std::sin(a) + normal(random),
          normal(random);
      edge.col(i) << static_cast<double>(i), normal(random), normal(random);
    }
    fit::SurfaceFitOptions all;
    all.reject_beyond = 0;
    const auto circle = fit::fit_surface(Kind::Circle, rim, Eigen::Matrix3Xd(3, 0), {}, all);
    const auto line = fit::fit_surface(Kind::Line, edge, Eigen::Matrix3Xd(3, 0), {}, all);
    ASSERT_TRUE(circle) << circle.error().message;
    ASSERT_TRUE(line) << line.error().message;
    radius += std::abs(circle->surface.radius - 20) <= circle->u_radius ? 1 : 0;
    direction += fit::angle_between(line->surface.axis, Vec3::UnitX()) <= line->u_angle ? 1 : 0;
    EXPECT_NEAR((circle->surface.point - Vec3(3, 0, 0)).norm(), 0, 4 * circle->u_offset);
  }
  EXPECT_NEAR(radius / double{kSeeds}, 0.954, 0.03);
  EXPECT_NEAR(direction / double{kSeeds}, 0.954, 0.03);
}

TEST(Curves, ThreePointsGiveTheirCircleAndTwoTheirLine) {
  Eigen::Matrix3Xd p(3, 3);
  p << 5, 0, -5, 0, 5, 0, 1, 1, 1;
  fit::SurfaceFitOptions known;
  known.reject_beyond = 0;
  known.least_sigma = 0.01;
  const auto circle = fit::fit_surface(Kind::Circle, p, Eigen::Matrix3Xd(3, 0), {}, known);
  ASSERT_TRUE(circle) << circle.error().message;
  EXPECT_NEAR(circle->surface.radius, 5, 1e-9);
  EXPECT_NEAR((circle->surface.point - Vec3(0, 0, 1)).norm(), 0, 1e-9);
  EXPECT_GT(circle->u_radius, 0.005);
  const auto line = fit::fit_surface(Kind::Line, p.leftCols(2), Eigen::Matrix3Xd(3, 0), {}, known);
  ASSERT_TRUE(line);
  EXPECT_LT(fit::angle_between(line->surface.axis, Vec3(1, -1, 0).normalized()), 1e-9);
  p.col(2) << -5, 10, 1;
  EXPECT_FALSE(fit::fit_surface(Kind::Circle, p, Eigen::Matrix3Xd(3, 0), {}, known));
}

// ---- In a project

class RelatedPlate : public PlateJob {
 protected:
  static project::Document with_fits(const std::vector<std::uint32_t>& regions) {
    project::Document d = *framed_;
    for (const std::uint32_t r : regions) project::keep_region(d, r);
    return d;
  }
  static project::FitRelation relation(RelationType type, project::Id a, project::Id b,
                                       double value = 0) {
    project::FitRelation r;
    r.type = type;
    r.a = {0, a};
    r.b = {0, b};
    r.value = value;
    return r;
  }
  static scan::MeshIndex::Hit hit(const Vec3& from, const Vec3& along) {
    return *plate_->scan->index->first_hit(from, along);
  }
  static reading::Probe probe(const Vec3& from, const Vec3& along) {
    const auto h = hit(from, along);
    const auto p = reading::probe_scan(*plate_->scan, h.triangle, h.point);
    EXPECT_TRUE(p) << p.error().message;
    return *p;
  }
};

TEST_F(RelatedPlate, RelationsHoldTogetherAndGoTogether) {
  const std::uint32_t top = region({0, 0, 1});
  project::Document d = with_fits({top, region({1, 0, 0}), region({0, 1, 0}), top});
  ASSERT_EQ(d.fits.size(), 3U);  // the same region is kept once
  const project::Id a = d.fits[0]->id;
  const project::Id b = d.fits[1]->id;
  const project::Id c = d.fits[2]->id;
  const auto row = project::add_measurement(d, {0, a}, {0, b}, true);
  ASSERT_TRUE(row);
  d = row->document;
  const auto related = project::set_relations(
      d, {relation(RelationType::Perpendicular, a, b), relation(RelationType::Perpendicular, b, c),
          relation(RelationType::Perpendicular, a, c)});
  ASSERT_TRUE(related) << related.error().message;
  const auto axis = [&](const project::Document& doc, project::Id id) {
    return doc.find_fit(id)->result.surface.axis;
  };
  EXPECT_NEAR(axis(*related, a).dot(axis(*related, b)), 0, 1e-10);
  EXPECT_NEAR(axis(*related, b).dot(axis(*related, c)), 0, 1e-10);
  EXPECT_NEAR(axis(*related, a).dot(axis(*related, c)), 0, 1e-10);
  EXPECT_NEAR(*related->find_dimension(row->id)->reading, 90, 1e-8);
  EXPECT_NE(project::describe(*related, related->relations[0]).find("within noise"),
            std::string::npos);
  // Without relations every fit is what the evidence says again.
  const auto free = project::set_relations(*related, {});
  ASSERT_TRUE(free);
  EXPECT_EQ(axis(*free, a), d.find_fit(a)->alone.surface.axis);
  // A fit that others follow stays; removing it is refused.
  auto follow = relation(RelationType::Parallel, a, b);
  follow.type = RelationType::Perpendicular;
  follow.follow = true;
  const auto led = project::set_relations(d, {follow});
  ASSERT_TRUE(led);
  EXPECT_EQ(axis(*led, b), d.find_fit(b)->alone.surface.axis);
  EXPECT_FALSE(project::remove_fit(*led, b));
  const auto removed = project::remove_fit(d, c);
  EXPECT_TRUE(removed);
}

TEST(Rim, OfAHoleGivesItsCircle) {
  // A flat ring between radius 8 and 20, joined all round.
  scan::Mesh ring;
  constexpr std::uint32_t kAround = 90;
  constexpr std::uint32_t kOut = 15;
  for (std::uint32_t i = 0; i < kAround; ++i) {
    for (std::uint32_t j = 0; j <= kOut; ++j) {
      const double a = 2 * std::numbers::pi * i / kAround;
      const double r = 8 + 12.0 * j / kOut;
      ring.vertices.emplace_back(r * std::cos(a), r * std::sin(a), 0);
    }
  }
  std::vector<std::uint32_t> all;
  for (std::uint32_t i = 0; i < kAround; ++i) {
    for (std::uint32_t j = 0; j < kOut; ++j) {
      const std::uint32_t k = i * (kOut + 1) + j;
      const std::uint32_t l = (i + 1) % kAround * (kOut + 1) + j;
      ring.triangles.push_back({k, k + 1, l});
      ring.triangles.push_back({k + 1, l + 1, l});
    }
  }
  for (std::uint32_t t = 0; t < ring.triangles.size(); ++t) all.push_back(t);
  const auto scan = project::prepare_scan(ring, "ring", "ring.stl", Unit::Millimetre);
  ASSERT_TRUE(scan);
  const project::Document d = project::with_scan({}, *scan);
  project::FitRequest request;
  request.kind = Kind::Circle;
  for (const auto& [near, radius] : {std::pair{Vec3(9, 0, 0), 8.0}, {Vec3(0, 19, 0), 20.0}}) {
    request.points = project::rim_of(*d.scan, all, near);
    ASSERT_EQ(request.points.size(), kAround);
    const auto trial = project::try_fit(d, request);
    ASSERT_TRUE(trial) << trial.error().message;
    EXPECT_NEAR(trial->fit.result.surface.radius, radius, 1e-9);
    const auto added = project::add_fit(d, *trial);
    EXPECT_EQ(added.document.find_fit(added.id)->points.size(), kAround);
  }
}

TEST_F(RelatedPlate, ThicknessAndRadiusAreReadWithTheirUncertainty) {
  const auto thick = reading::wall_thickness(*plate_->scan, probe({8, 8, 30}, -Vec3::UnitZ()));
  ASSERT_TRUE(thick) << thick.error().message;
  EXPECT_NEAR(thick->measurement.value, PlateScan::kHeight, 1.5 * thick->measurement.u);
  EXPECT_LT(thick->measurement.u, 0.02);
  const Vec3 middle(30, 20, 5);
  std::vector<reading::Probe> three;
  for (const double a : {0.3, 2.2, 4.4})
    three.push_back(probe(middle, {std::cos(a), std::sin(a), 0}));
  const auto radius = reading::radius_by_three(three);
  ASSERT_TRUE(radius) << radius.error().message;
  // A plane through a bit of the bore lies inside it by the sagitta of that bit.
  EXPECT_NEAR(radius->value, PlateScan::kRadius, radius->u + 0.2);
  const auto row = reading::add_point_measurement(*plate_, *radius, three);
  EXPECT_EQ(row.document.find_dimension(row.id)->owner.points.size(), 3U);
  three[1] = three[0];
  EXPECT_FALSE(reading::radius_by_three(three));
  const auto across = reading::point_distance(probe({-9, 20, 5}, Vec3::UnitX()),
                                              probe({90, 20, 5}, -Vec3::UnitX()));
  ASSERT_TRUE(across);
  EXPECT_NEAR(across->value, PlateScan::kLength, 2 * across->u);
}

TEST_F(RelatedPlate, TypedReadingsStandBesideTheScansReading) {
  auto row =
      project::add_measurement(*plate_, {region({0, 0, 1}), 0}, {region({0, 0, -1}), 0}, false);
  ASSERT_TRUE(row);
  const auto typed = project::add_typed(row->document, row->id, {10.01, 0.02, "caliper"});
  ASSERT_TRUE(typed);
  const project::Dimension& d = *typed->find_dimension(row->id);
  ASSERT_EQ(d.typed.size(), 1U);
  EXPECT_LT(project::en_score(*d.reading, d.u, d.typed[0].value, d.typed[0].u), 1);
  EXPECT_GT(project::en_score(*d.reading, d.u, 10.5, 0.02), 10);
  EXPECT_FALSE(project::add_typed(*typed, row->id, {std::nan(""), 0, "caliper"}));
  const auto gone = project::remove_typed(*typed, row->id, 0);
  ASSERT_TRUE(gone);
  EXPECT_TRUE(gone->find_dimension(row->id)->typed.empty());
  EXPECT_FALSE(project::remove_typed(*gone, row->id, 0));
}

TEST_F(RelatedPlate, AFormulaFollowsTheRowsItNames) {
  const project::FitRef top{region({0, 0, 1}), 0};
  const project::FitRef bottom{region({0, 0, -1}), 0};
  auto first = project::add_measurement(*plate_, top, bottom, false);
  auto second = project::add_measurement(first->document, top, bottom, false);
  ASSERT_TRUE(second);
  project::Document d = *project::rename_dimension(second->document, first->id, "height");
  d = *project::rename_dimension(d, second->id, "middle");
  d = *project::ink(d, first->id, 10, "typed");
  auto inked = project::ink_formula(d, second->id, "[height] / 2 + 0.5");
  ASSERT_TRUE(inked) << inked.error().message;
  EXPECT_DOUBLE_EQ(*inked->find_dimension(second->id)->intent, 5.5);
  d = *project::ink(*inked, first->id, 12, "typed");
  EXPECT_DOUBLE_EQ(*d.find_dimension(second->id)->intent, 6.5);
  d = *project::rename_dimension(d, first->id, "h");
  EXPECT_EQ(project::formula_text(d, *d.find_dimension(second->id)), "[h] / 2 + 0.5");
  EXPECT_FALSE(project::ink_formula(d, first->id, "[middle] * 2"));  // a circle
  EXPECT_FALSE(project::ink_formula(d, second->id, "[nothing] * 2"));
  EXPECT_FALSE(project::ink_formula(d, second->id, "[h"));
  EXPECT_FALSE(project::ink_formula(d, second->id, "2 + * 3"));
  EXPECT_FALSE(project::ink_formula(d, second->id, "1 / 0"));
  // A formula whose value its row cannot mean is refused, and nothing changes.
  EXPECT_FALSE(project::ink_formula(d, second->id, "[h] / 0"));
  // A row that goes leaves the value behind as a decision, and the Ledger works on.
  project::Document orphan = d;
  std::erase_if(orphan.dimensions, [&](const auto& row) { return row.id == first->id; });
  const auto kept = project::refresh(orphan);
  ASSERT_TRUE(kept) << kept.error().message;
  EXPECT_DOUBLE_EQ(*kept->find_dimension(second->id)->intent, 6.5);
  EXPECT_TRUE(kept->find_dimension(second->id)->expression.empty());
  // A step's own number can be what a formula rests on, and the formula follows its edits.
  model::Fillet round;
  auto step = project::add_step(d, round, "round", {{"radius", 2.0, 0.1, "scan", 2.0}});
  const project::Id radius = step.document.dimensions.back().id;
  auto doubled = project::ink_formula(step.document, second->id, "2 * [R round]");
  ASSERT_TRUE(doubled) << doubled.error().message;
  EXPECT_DOUBLE_EQ(*doubled->find_dimension(second->id)->intent, 4);
  const auto edited =
      project::edit_step(*doubled, step.id, round, {{"radius", 2.0, 0.1, "scan", 3.0}});
  ASSERT_TRUE(edited) << edited.error().message;
  EXPECT_DOUBLE_EQ(*edited->find_dimension(second->id)->intent, 6);
  // A field that shows what a formula gave is no new decision.
  auto held = project::ink_formula(*edited, radius, "[h] / 6");
  ASSERT_TRUE(held);
  const auto same = project::edit_step(*held, step.id, round, {{"radius", 2.0, 0.1, "scan", 2.0}});
  ASSERT_TRUE(same);
  EXPECT_FALSE(same->find_dimension(radius)->expression.empty());
  const project::Document removed = project::remove_step(*edited, step.id);
  EXPECT_DOUBLE_EQ(*removed.find_dimension(second->id)->intent, 6);
  EXPECT_TRUE(removed.find_dimension(second->id)->expression.empty());
  // Lifted, it is a reading again and follows nothing.
  d = *project::lift(d, second->id);
  EXPECT_TRUE(d.find_dimension(second->id)->expression.empty());
}

// ---- Regions by hand

TEST_F(RelatedPlate, RegionsAreMergedSplitAndLockedByHand) {
  const scan::Mesh& mesh = *plate_->scan->mesh;
  const scan::Topology& topology = plate_->scan->topology;
  const std::uint32_t top = region({0, 0, 1});
  const auto split =
      survey::split_region(*plate_->survey, mesh, topology, top, {30, 20, 10}, Vec3::UnitX());
  ASSERT_TRUE(split) << split.error().message;
  const auto fresh = static_cast<std::uint32_t>(split->regions.size());
  EXPECT_EQ(split->regions.size(), plate_->survey->regions.size() + 1);
  ASSERT_TRUE(split->regions[fresh - 1].fit);
  EXPECT_EQ(split->regions[fresh - 1].fit->surface.kind, Kind::Plane);
  EXPECT_GT(split->regions[fresh - 1].centre.x(), 30);
  EXPECT_NEAR(split->regions[fresh - 1].area, split->regions[top - 1].area, 60);
  const auto merged = survey::merge_regions(*split, mesh, topology, {top, fresh});
  ASSERT_TRUE(merged);
  EXPECT_EQ(merged->regions[fresh - 1].triangles, 0U);
  EXPECT_EQ(merged->regions[top - 1].triangles, plate_->survey->regions[top - 1].triangles);
  EXPECT_NEAR(merged->regions[top - 1].fit->rms, plate_->survey->regions[top - 1].fit->rms, 1e-9);
  survey::Survey kept = *split;
  kept.regions[top - 1].locked = true;
  EXPECT_FALSE(survey::merge_regions(kept, mesh, topology, {top, fresh}));
  EXPECT_FALSE(survey::grow_region(kept, mesh, topology, top, true));
  // A neighbour that grows leaves the locked one alone.
  const auto grown = survey::grow_region(kept, mesh, topology, fresh, true);
  ASSERT_TRUE(grown);
  EXPECT_EQ(grown->regions[top - 1].triangles, kept.regions[top - 1].triangles);
  const auto shrunk = survey::grow_region(*split, mesh, topology, fresh, false);
  ASSERT_TRUE(shrunk);
  EXPECT_LT(shrunk->regions[fresh - 1].triangles, split->regions[fresh - 1].triangles);
  EXPECT_FALSE(survey::split_region(*split, mesh, topology, top, {300, 0, 0}, Vec3::UnitX()));
  EXPECT_FALSE(survey::merge_regions(*split, mesh, topology, {top}));
  EXPECT_FALSE(survey::repaint(*split, mesh, topology, {}, 0));
}

TEST_F(RelatedPlate, TwoDifferentFacesMergedAreNoPlaneAnyMore) {
  const scan::Mesh& mesh = *plate_->scan->mesh;
  const auto merged = survey::merge_regions(*plate_->survey, mesh, plate_->scan->topology,
                                            {region({0, 0, 1}), region({0, 0, -1})});
  ASSERT_TRUE(merged);
  EXPECT_FALSE(merged->regions[region({0, 0, 1}) - 1].fit);
}

TEST_F(RelatedPlate, ASelectionIsSplitAgain) {
  const scan::Mesh& mesh = *plate_->scan->mesh;
  const auto merged = survey::merge_regions(*plate_->survey, mesh, plate_->scan->topology,
                                            {region({0, 0, 1}), bore()});
  ASSERT_TRUE(merged);
  survey::SurveyOptions options;
  options.sensitivity = 0.2;
  const auto again = survey::split_again(*merged, mesh, plate_->scan->topology,
                                         survey::triangles_of(*merged, region({0, 0, 1})), options);
  ASSERT_TRUE(again) << again.error().message;
  int planes = 0;
  int cylinders = 0;
  for (std::size_t i = merged->regions.size(); i < again->regions.size(); ++i) {
    const auto& f = again->regions[i].fit;
    planes += f && f->surface.kind == Kind::Plane ? 1 : 0;
    cylinders += f && f->surface.kind == Kind::Cylinder ? 1 : 0;
  }
  EXPECT_EQ(planes, 1);
  EXPECT_EQ(cylinders, 1);
}

}  // namespace
}  // namespace lostline
