// Bringing a scan upon a model: by matching, by pairs, by best fit.
#include <gmock/gmock.h>

#include <array>
#include <cstdio>
#include <numbers>

#include "part_family.h"
#include "project/model_target.h"
#include "simulate/scanner.h"
#include "support/rounds.h"
#include "survey/survey.h"

namespace lostline {
namespace {

struct Job {
  scan::Mesh mesh;
  scan::Topology topology;
  Transform truth;  // scan to model
  survey::Survey survey;
  datum::Cloud cloud;
};

Job scan_of(const model::Model& solid, const simulate::ScanOptions& options) {
  const auto scan = simulate::simulate_scan(solid, {}, options);
  EXPECT_TRUE(scan);
  Job job;
  job.mesh = scan->mesh;
  job.truth = scan->pose.inverse();
  job.topology = scan::build_topology(job.mesh);
  job.survey = *survey::split_into_regions(job.mesh, job.topology);
  job.cloud = datum::cloud_of(job.mesh, project::trust_of(job.survey, job.mesh), 30000);
  return job;
}

Job scan_of(const model::Model& solid, std::uint64_t seed, double spacing = 1.0) {
  simulate::ScanOptions options;
  options.spacing = spacing;
  options.seed = seed;
  return scan_of(solid, options);
}

/// How far a point of the scan is moved off its true place at most.
double error_of(const Job& job, const Transform& motion) {
  double worst = 0;
  for (std::size_t v = 0; v < job.mesh.vertices.size(); v += 101)
    worst =
        std::max(worst, (motion * job.mesh.vertices[v] - job.truth * job.mesh.vertices[v]).norm());
  return worst;
}

constexpr std::size_t kFamily = 9;

TEST(PlaceOn, TheWholeFamilyIsTried) { EXPECT_EQ(testing::part_family().size(), kFamily); }

class PlacePart : public ::testing::TestWithParam<std::size_t> {};

TEST_P(PlacePart, IsPlacedWithoutHelp) {
  const testing::Part part = testing::part_family().at(GetParam());
  const auto target = project::target_of(part.solid);
  ASSERT_TRUE(target);
  for (int round = 0; round < testing::rounds(2, 1, 1); ++round) {
    const std::uint64_t seed = 3 + 8 * static_cast<std::uint64_t>(round);
    const Job job = scan_of(part.solid, seed);
    const auto placed = datum::place_on(*target, project::found_of(job.survey), job.cloud);
    ASSERT_TRUE(placed) << part.name << ": " << placed.error().message;
    double nearest = 1e300;
    for (const auto& c : *placed) nearest = std::min(nearest, error_of(job, c.fit.motion));
    const bool shaft = !placed->front().fit.loose.empty();
    std::printf("%-16s %zu candidates, %.3f mm off the truth, agreement %.3f, %s\n",
                part.name.c_str(), placed->size(), nearest, placed->front().agreement,
                shaft ? placed->front().fit.loose[0].words().c_str() : "held");
    const bool turned =
        part.name == "turned shaft" || part.name == "rounded hub" || part.name == "cone plug";
    if (turned) {
      // Nothing holds the turn about its axis; the axis itself must be right.
      EXPECT_EQ(placed->size(), 1U);
      ASSERT_TRUE(shaft);
      const auto& fit = placed->front().fit;
      EXPECT_TRUE(fit.loose[0].turns);
      for (const double z : {0.0, 60.0}) {
        const Vec3 on_axis(0, 0, z);
        EXPECT_LT((fit.motion * job.truth.inverse() * on_axis - on_axis).norm(), 0.02);
      }
    } else {
      EXPECT_LT(nearest, 0.03) << part.name;
      EXPECT_FALSE(shaft) << part.name;
      EXPECT_GT(placed->front().agreement, 0.95);
    }
    // A flange of eight holes lies alike in eight ways and in no more.
    if (part.name == "flange") {
      EXPECT_EQ(placed->size(), 8U);
    }
    if (part.name == "milled block") {
      EXPECT_LT(error_of(job, placed->front().fit.motion), 0.03);
    }
  }
}
INSTANTIATE_TEST_SUITE_P(Family, PlacePart,
                         ::testing::Range<std::size_t>(testing::thorough() ? 0 : 1, kFamily,
                                                       testing::thorough() ? 1 : 2));

TEST(PlaceOn, PartsOfAnySizeArePlaced) {
  // What is near is near beside the part: 1.5 mm would be a quarter of the small one.
  for (const double size : {0.15, 1.0, 10.0}) {
    testing::PartBuilder part;
    part.box(size * Vec2(0, 0), size * Vec2(60, 40), 0, size * 10)
        .box(size * Vec2(0, 0), size * Vec2(12, 40), size * 10, size * 30)
        .holes({size * Vec2(30, 12), size * Vec2(48, 12)}, size * 8)
        .disc(size * Vec2(40, 28), size * 7, size * 10, size * 18);
    const model::Model solid = part.solid();
    const auto target = project::target_of(solid);
    ASSERT_TRUE(target);
    simulate::ScanOptions options;
    options.spacing = size * 0.7;
    options.noise = size * 0.015;
    options.distance = size * 600;
    options.seed = 4;
    const Job job = scan_of(solid, options);
    const auto placed = datum::place_on(*target, project::found_of(job.survey), job.cloud);
    ASSERT_TRUE(placed) << size << ": " << placed.error().message;
    EXPECT_EQ(placed->size(), 1U) << size;
    EXPECT_LT(error_of(job, placed->front().fit.motion), 0.02 * size) << size;
  }
}

TEST(PlaceOn, AModelOfAnotherPartIsRefusedWithTheReason) {
  const auto parts = testing::part_family();
  const auto target = project::target_of(parts[4].solid);
  const Job job = scan_of(parts[0].solid, 5);
  const auto placed = datum::place_on(*target, project::found_of(job.survey), job.cloud);
  ASSERT_FALSE(placed) << placed->front().agreement;
  EXPECT_EQ(placed.error().code, ErrorCode::Failed);
  EXPECT_THAT(placed.error().message, ::testing::HasSubstr("% of it agrees"));
}

TEST(PlaceOn, WhatDiffersIsLeftOutAndListed) {
  // The model has a block that the specimen lacks, and lacks a pocket that the specimen has.
  using model::Operation;
  const model::Model design = testing::PartBuilder()
                                  .box({0, 0}, {160, 100}, 0, 30)
                                  .box({100, 60}, {150, 90}, 30, 45)
                                  .holes({{20, 20}, {60, 20}}, 12)
                                  .solid();
  const model::Model made = testing::PartBuilder()
                                .box({0, 0}, {160, 100}, 0, 30)
                                .holes({{20, 20}, {60, 20}}, 12)
                                .box({20, 50}, {60, 80}, 27, 40, Operation::Cut)
                                .solid();
  const auto target = project::target_of(design);
  const Job job = scan_of(made, 2);
  const auto placed = datum::place_on(*target, project::found_of(job.survey), job.cloud);
  ASSERT_TRUE(placed) << placed.error().message;
  const auto& best = placed->front();
  EXPECT_LT(error_of(job, best.fit.motion), 0.03);
  const auto off = datum::differences(*target, job.mesh, job.topology, best.fit.motion, 0.3, 8, 50);
  ASSERT_EQ(off.size(), 2U);  // the pocket's floor and walls; what should lie under the block
  const auto near = [&](const Vec3& p) {
    return std::any_of(off.begin(), off.end(),
                       [&](const datum::Difference& d) { return (d.centre - p).norm() < 4; });
  };
  EXPECT_TRUE(near({40, 65, 27.5}));
  EXPECT_TRUE(near({125, 75, 30}));
  EXPECT_NEAR(off[0].area + off[1].area, 50 * 30 + 40 * 30 + 2 * 70 * 3, 400);
  for (const auto& d : off) EXPECT_LT(d.greatest, -1);  // both lack material
}

TEST(BestFit, TwoDegreesAndTwoMillimetresAreTakenBack) {
  const auto parts = testing::part_family();
  const auto target = project::target_of(parts[0].solid);
  const Job job = scan_of(parts[0].solid, 8);
  const Transform off = Eigen::Translation3d(1.2, -1.2, 1.1) *
                        Eigen::AngleAxisd(2 * std::numbers::pi / 180, Vec3(1, 2, -1).normalized()) *
                        job.truth;
  const auto fitted = datum::best_fit(*target, job.cloud, off);
  ASSERT_TRUE(fitted) << fitted.error().message;
  EXPECT_LT(error_of(job, fitted->motion), 0.01);
  EXPECT_LT(fitted->rms, 0.03);
  EXPECT_GT(fitted->used_fraction, 0.93);
  // Far away it says so.
  Transform far = job.truth;
  far.pretranslate(Vec3(0, 0, 500));
  const auto lost = datum::best_fit(*target, job.cloud, far);
  ASSERT_FALSE(lost);
  EXPECT_EQ(lost.error().code, ErrorCode::Degenerate);
}

TEST(BestFit, TrustDecidesWhereSurfacesDisagree) {
  // A plate 0.06 mm too thick, of which only the bottom is trusted.
  const model::Model design = testing::PartBuilder().box({0, 0}, {100, 80}, 0, 20).solid();
  const model::Model made = testing::PartBuilder().box({0, 0}, {100, 80}, 0, 20.06).solid();
  const auto target = project::target_of(design);
  const Job job = scan_of(made, 4);
  const auto z_of = [&](double trust_above) {
    std::vector<float> trust(job.mesh.triangles.size(), 1);
    for (std::size_t t = 0; t < trust.size(); ++t) {
      if ((job.truth * job.mesh.centroid(t)).z() > 15) trust[t] = static_cast<float>(trust_above);
    }
    const auto fitted =
        datum::best_fit(*target, datum::cloud_of(job.mesh, trust, 30000), job.truth);
    EXPECT_TRUE(fitted);
    return (fitted->motion * job.truth.inverse() * Vec3(50, 40, 0)).z();
  };
  EXPECT_NEAR(z_of(0), 0, 0.005);
  EXPECT_NEAR(z_of(1), -0.03, 0.015);
}

TEST(Pairs, PointsAndFeaturesPlaceOrAreRefusedWithTheReason) {
  const Transform truth =
      Eigen::Translation3d(30, -20, 5) * Eigen::AngleAxisd(1.1, Vec3(0.3, -0.5, 0.8).normalized());
  const Transform back = truth.inverse();
  const auto points = [&](std::initializer_list<Vec3> list) {
    std::vector<datum::Pair> pairs;
    for (const Vec3& p : list) pairs.push_back({Vec3(back * p), p});
    return pairs;
  };
  const auto good = datum::place_by_pairs(points({{0, 0, 0}, {90, 0, 0}, {0, 60, 10}}), 120);
  ASSERT_TRUE(good) << good.error().message;
  EXPECT_LT((good->motion.matrix() - truth.matrix()).norm(), 1e-9);

  const auto refused = [&](const std::vector<datum::Pair>& pairs, const char* why) {
    const auto result = datum::place_by_pairs(pairs, 120);
    ASSERT_FALSE(result) << why;
    EXPECT_THAT(result.error().message, ::testing::HasSubstr(why));
  };
  refused({}, "belong together");
  refused(points({{0, 0, 0}, {90, 0, 0}}), "at least three");
  refused(points({{0, 0, 0}, {90, 0, 0}, {40, 0.1, 0}}), "one line");
  refused(points({{0, 0, 0}, {1, 0, 0}, {0, 2, 0}}), "further apart");

  const auto feature = [&](fit::Kind kind, const Vec3& at, const Vec3& axis, double sense) {
    fit::Surface m;
    m.kind = kind;
    m.point = at;
    m.axis = axis;
    m.radius = 10;
    fit::Surface s = fit::transformed(m, back);
    s.axis *= sense;
    s.point += 3 * s.axis * (kind == fit::Kind::Plane ? 0 : 1);
    return datum::Pair{s, m};
  };
  const auto plane = feature(fit::Kind::Plane, {0, 0, 0}, -Vec3::UnitZ(), 1);
  const auto bore = feature(fit::Kind::Cylinder, {10, 20, 0}, Vec3::UnitZ(), -1);
  const auto hole = feature(fit::Kind::Cylinder, {70, 20, 0}, Vec3::UnitZ(), 1);
  refused({plane}, "3 of six");
  refused({plane, bore}, "5 of six");
  refused({{plane.scan, bore.model}}, "do not make a pair");
  refused({{plane.scan, Vec3(0, 0, 0)}}, "do not make a pair");
  const auto placed = datum::place_by_pairs({plane, bore, hole}, 120);
  ASSERT_TRUE(placed) << placed.error().message;
  EXPECT_LT((placed->motion.matrix() - truth.matrix()).norm(), 1e-6);
  // What has a centre fixes a place wholly: two of them with a direction leave nothing open.
  for (const fit::Kind kind : {fit::Kind::Circle, fit::Kind::Ellipse, fit::Kind::Torus}) {
    const auto centred = [&](const Vec3& at) {
      datum::Pair pair = feature(kind, at, Vec3::UnitZ(), 1);
      auto& scan = std::get<fit::Surface>(pair.scan);
      scan.point -= 3 * scan.axis;  // not slid along
      return pair;
    };
    const auto two = datum::place_by_pairs({centred({10, 20, 0}), centred({70, 20, 8})}, 120);
    ASSERT_TRUE(two) << fit::kind_name(kind) << ": " << two.error().message;
    EXPECT_LT((two->motion.matrix() - truth.matrix()).norm(), 1e-6) << fit::kind_name(kind);
  }
  // A hole and a point beside it hold the rest that a plane and a bore leave.
  const auto mixed =
      datum::place_by_pairs({plane, bore, {Vec3(back * Vec3(70, 20, 0)), Vec3(70, 20, 0)}}, 120);
  ASSERT_TRUE(mixed);
  EXPECT_LT((mixed->motion.matrix() - truth.matrix()).norm(), 1e-6);
}

}  // namespace
}  // namespace lostline
