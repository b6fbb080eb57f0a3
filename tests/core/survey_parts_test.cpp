// The survey against parts of which every surface is known: a family drawn by hand, and parts made
// at random.
#include "part_family.h"
#include "random_parts.h"
#include "support/rounds.h"
#include "survey/hand.h"
#include "survey_score.h"

namespace lostline {
namespace {

using model::Operation;

/// How many parts of the family, or made at random, are surveyed.
unsigned parts_tried() { return static_cast<unsigned>(testing::rounds(12, 2, 1)); }

simulate::SimulatedScan scanned(const model::Model& solid, double spacing, std::uint64_t seed,
                                const simulate::SurfaceState& surface = {}) {
  simulate::ScanOptions options;
  options.spacing = spacing;
  options.noise = 0.02;
  options.seed = seed;
  auto scan = simulate::simulate_scan(solid, surface, options);
  EXPECT_TRUE(scan) << scan.error().message;
  return *std::move(scan);
}

testing::Score survey_of(const testing::Part& part, double spacing, std::uint64_t seed) {
  const simulate::SimulatedScan scan = scanned(part.solid, spacing, seed, part.surface);
  const scan::Topology topology = scan::build_topology(scan.mesh);
  const auto found = survey::split_into_regions(scan.mesh, topology);
  EXPECT_TRUE(found) << found.error().message;
  const testing::Score s =
      testing::judge(part.solid, scan.pose.inverse(), *found, scan.mesh, topology, spacing);
  std::printf("%-16s %6zu triangles: %2d of %2d faces, %d of %d fits wrong, %.1f %% of borders\n",
              part.name.c_str(), scan.mesh.triangles.size(), s.found, s.faces, s.wrong, s.regions,
              100 * s.border);
  return s;
}

TEST(SurveyParts, FacesOfVariedPartsAreFoundWithTheRightType) {
  testing::Score all;
  std::vector<testing::Part> parts = testing::part_family();
  parts.resize(std::min<std::size_t>(parts.size(), parts_tried()), parts.front());
  for (const testing::Part& part : parts) all.add(survey_of(part, 0.9, 7));
  std::printf("all: %d of %d faces found, %d of %d fits wrong\n", all.found, all.faces, all.wrong,
              all.regions);
  EXPECT_GE(all.found, 0.95 * all.faces);
  EXPECT_LE(all.wrong, 0.03 * all.regions);
}

TEST(SurveyParts, FacesOfPartsMadeAtRandomAreFoundWithTheRightType) {
  testing::Score all;
  double border = 1;
  for (unsigned seed = 200; seed < 200 + parts_tried(); ++seed) {
    const auto made = testing::RandomPart(seed).make();
    const testing::Score s =
        survey_of({made.kind + (" " + std::to_string(seed)), made.solid, made.surface}, 0.6, 21);
    all.add(s);
    // Between a bend and the straight that it is tangent to there is nothing that shows a border.
    if (std::string(made.kind) != "tube") border = std::min(border, s.border);
  }
  std::printf("all: %d of %d faces found, %d of %d fits wrong\n", all.found, all.faces, all.wrong,
              all.regions);
  EXPECT_GE(all.found, 0.95 * all.faces);
  EXPECT_LE(all.wrong, 0.03 * all.regions);
  EXPECT_GT(border, 0.8);
}

/// The region that most of the scan near a surface of the model belongs to.
const survey::Region* region_on(const survey::Survey& survey, const simulate::SimulatedScan& scan,
                                const std::function<bool(const Vec3&)>& there) {
  std::map<std::uint32_t, int> votes;
  for (std::size_t t = 0; t < scan.mesh.triangles.size(); ++t) {
    if (there(scan.pose.inverse() * scan.mesh.centroid(t))) ++votes[survey.triangle_region[t]];
  }
  const auto most = std::max_element(votes.begin(), votes.end(),
                                     [](auto& a, auto& b) { return a.second < b.second; });
  return most == votes.end() || most->first == 0 ? nullptr : &survey.regions[most->first - 1];
}

TEST(SurveyParts, ARoundOfAFewSpacingsIsNoStackOfCones) {
  // Its curvature used to be taken for noise, and three cones held within that.
  const auto solid = testing::PartBuilder()
                         .turn({{17.5, 0}, {68, 0}, {68, 10}, {33, 10}, {26, 66}, {17.5, 66}})
                         .fillet({68, 0, 0}, 4)
                         .solid();
  const auto scan = scanned(solid, 0.6, 3);
  const auto found = survey::split_into_regions(scan.mesh, scan::build_topology(scan.mesh));
  ASSERT_TRUE(found);
  const survey::Region* round = region_on(*found, scan, [](const Vec3& p) {
    const double rho = std::hypot(p.x(), p.y());
    return rho > 65 && p.z() < 3 && std::abs(std::hypot(rho - 64, p.z() - 4) - 4) < 0.2;
  });
  ASSERT_NE(round, nullptr);
  ASSERT_TRUE(round->fit);
  ASSERT_EQ(round->fit->surface.kind, fit::Kind::Torus);
  EXPECT_NEAR(round->fit->surface.minor_radius, 4, 0.03);
}

TEST(SurveyParts, ABallOnTheAxisOfTheOthersIsASphere) {
  const auto solid = testing::PartBuilder()
                         .turn({{0, 0}, {43, 0}, {43, 20}, {30, 20}, {30, 85}, {0, 85}})
                         .ball(85, 10.5, Operation::Cut)
                         .solid();
  const auto scan = scanned(solid, 0.6, 5);
  const auto found = survey::split_into_regions(scan.mesh, scan::build_topology(scan.mesh));
  ASSERT_TRUE(found);
  const survey::Region* ball = region_on(*found, scan, [](const Vec3& p) {
    return std::abs((p - Vec3(0, 0, 85)).norm() - 10.5) < 0.2 && p.z() < 83;
  });
  ASSERT_NE(ball, nullptr);
  ASSERT_TRUE(ball->fit);
  ASSERT_EQ(ball->fit->surface.kind, fit::Kind::Sphere);
  EXPECT_NEAR(ball->fit->surface.radius, 10.5, 0.03);
}

TEST(SurveyParts, AChamferStaysAConeAndARoundOfItsWidthATorus) {
  for (const bool rounded : {false, true}) {
    testing::PartBuilder part;
    part.turn({{0, 0}, {30, 0}, {30, 40}, {0, 40}});
    if (rounded)
      part.fillet({30, 0, 40}, 3);
    else
      part.chamfer({30, 0, 40}, 2.5);
    const auto scan = scanned(part.solid(), 0.6, 9);
    const auto found = survey::split_into_regions(scan.mesh, scan::build_topology(scan.mesh));
    ASSERT_TRUE(found);
    const survey::Region* edge = region_on(*found, scan, [](const Vec3& p) {
      return std::abs(std::hypot(p.x(), p.y()) + p.z() - 68) < 0.6 && p.z() > 38.3 && p.z() < 39.3;
    });
    ASSERT_NE(edge, nullptr);
    ASSERT_TRUE(edge->fit);
    EXPECT_EQ(edge->fit->surface.kind, rounded ? fit::Kind::Torus : fit::Kind::Cone);
  }
}

TEST(SurveyParts, AChamferOnAFineScanIsNoRound) {
  // Fine scans are grown on a coarser copy, on which the chamfer is two points wide.
  testing::PartBuilder part;
  part.turn({{0, 0}, {60, 0}, {60, 70}, {0, 70}});
  part.chamfer({60, 0, 70}, 2);
  const auto scan = scanned(part.solid(), 0.35, 4);
  ASSERT_GT(scan.mesh.vertices.size(), 250000U);
  const auto found = survey::split_into_regions(scan.mesh, scan::build_topology(scan.mesh));
  ASSERT_TRUE(found);
  const survey::Region* edge = region_on(*found, scan, [](const Vec3& p) {
    return std::abs(std::hypot(p.x(), p.y()) + p.z() - 128) < 0.2 && p.z() > 68.5 && p.z() < 69.5;
  });
  ASSERT_NE(edge, nullptr);
  ASSERT_TRUE(edge->fit);
  ASSERT_EQ(edge->fit->surface.kind, fit::Kind::Cone);
  EXPECT_NEAR(edge->fit->surface.half_angle, std::numbers::pi / 4, 0.02);
  const Vec3 axis = scan.pose.linear() * Vec3::UnitZ();
  EXPECT_LT(fit::angle_between(edge->fit->surface.axis, axis), 0.15 * std::numbers::pi / 180);
}

/// A plate with eight holes that are as deep as a few spacings, square to it or aslant by `tilt`.
testing::Part shallow_holes(double tilt) {
  testing::PartBuilder part;
  part.box({0, 0}, {120, 60}, 0, 9);
  Placement base;  // of the holes
  base.x = Vec3(std::cos(tilt), 0, std::sin(tilt));
  base.y = Vec3::UnitY();
  base.normal = base.x.cross(base.y);
  for (const double x : {20.0, 50.0, 80.0, 105.0}) {
    for (const double y : {15.0, 45.0}) part.cross_hole(base, {x, y}, 4.5);
  }
  return {"shallow holes", part.solid()};
}

TEST(SurveyParts, AShortHoleTakesTheDirectionOfThePlateThatItIsSquareTo) {
  const testing::Part part = shallow_holes(0);
  const auto scan = scanned(part.solid, 0.9, 8);
  const auto found = survey::split_into_regions(scan.mesh, scan::build_topology(scan.mesh));
  ASSERT_TRUE(found);
  const Vec3 axis = scan.pose.linear() * Vec3::UnitZ();
  int holes = 0;
  int borrowed = 0;
  for (const survey::Region& r : found->regions) {
    if (!r.fit || r.fit->surface.kind != fit::Kind::Cylinder) continue;
    ++holes;
    borrowed += r.direction_of != 0 ? 1 : 0;
    EXPECT_LT(fit::angle_between(r.fit->surface.axis, axis), 0.15 * std::numbers::pi / 180);
    EXPECT_GT(r.fit->u_angle, 0);  // what its own evidence says stays told
    if (r.direction_of == 0) continue;
    ASSERT_LE(r.direction_of, found->regions.size());
    EXPECT_EQ(found->regions[r.direction_of - 1].direction_of, 0U);
  }
  EXPECT_EQ(holes, 8);  // and no rounded edge of the plate is taken for one
  EXPECT_GE(borrowed, 4);
}

TEST(SurveyParts, AHoleBorrowsAnewWhenItsLenderIsEditedAway) {
  const testing::Part part = shallow_holes(0);
  const auto scan = scanned(part.solid, 0.9, 8);
  const scan::Topology topology = scan::build_topology(scan.mesh);
  const auto found = survey::split_into_regions(scan.mesh, topology);
  ASSERT_TRUE(found);
  const auto borrower = std::find_if(found->regions.begin(), found->regions.end(),
                                     [](const auto& r) { return r.direction_of != 0; });
  ASSERT_NE(borrower, found->regions.end());
  const std::uint32_t lender = borrower->direction_of;
  const auto edited =
      survey::repaint(*found, scan.mesh, topology, survey::triangles_of(*found, lender), 0);
  ASSERT_TRUE(edited);
  EXPECT_FALSE(edited->regions[lender - 1].fit);
  // The same face lends again under its new number.
  const std::uint32_t again = edited->regions.back().id;
  const Vec3 axis = scan.pose.linear() * Vec3::UnitZ();
  int borrowed = 0;
  for (const survey::Region& r : edited->regions) {
    EXPECT_NE(r.direction_of, lender) << "region " << r.id;
    if (r.direction_of != again) continue;
    ++borrowed;
    EXPECT_LT(fit::angle_between(r.fit->surface.axis, axis), 0.15 * std::numbers::pi / 180);
  }
  EXPECT_GE(borrowed, 4);
}

TEST(SurveyParts, AHoleThatStandsAslantKeepsItsOwnDirection) {
  constexpr double kTilt = 1.5 * std::numbers::pi / 180;  // several times what its U leaves open
  const testing::Part part = shallow_holes(kTilt);
  const auto scan = scanned(part.solid, 0.9, 8);
  const auto found = survey::split_into_regions(scan.mesh, scan::build_topology(scan.mesh));
  ASSERT_TRUE(found);
  const Vec3 normal = scan.pose.linear() * Vec3::UnitZ();
  int holes = 0;
  for (const survey::Region& r : found->regions) {
    if (!r.fit || r.fit->surface.kind != fit::Kind::Cylinder) continue;
    ++holes;
    EXPECT_NEAR(fit::angle_between(r.fit->surface.axis, normal), kTilt, 0.25 * kTilt);
  }
  EXPECT_EQ(holes, 8);
}

TEST(SurveyParts, SmallHolesOfAFineScanAreFound) {
  // On the coarser copy that fine scans are grown on they are a few points; what is left is grown
  // at full resolution.
  testing::PartBuilder part;
  part.box({0, 0}, {170, 120}, 0, 30);
  std::vector<Vec2> centres;
  for (const double x : {30.0, 85.0, 140.0}) {
    for (const double y : {30.0, 90.0}) centres.emplace_back(x, y);
  }
  for (const Vec2& c : centres) part.disc(c, 3.0, 26.5, 31, Operation::Cut);
  const auto scan = scanned(part.solid(), 0.42, 6);
  ASSERT_GT(scan.mesh.vertices.size(), 250000U);
  survey::SurveyOptions options;
  options.sensitivity = 0.7;
  const auto found =
      survey::split_into_regions(scan.mesh, scan::build_topology(scan.mesh), options);
  ASSERT_TRUE(found);
  int holes = 0;
  for (const survey::Region& r : found->regions) {
    if (r.fit && r.fit->surface.kind == fit::Kind::Cylinder &&
        std::abs(r.fit->surface.radius - 3) < 0.03)
      ++holes;
  }
  EXPECT_EQ(holes, 6);
}

TEST(SurveyParts, StoppingIsHeardWhileGrowingAboutAxes) {
  const auto scan = scanned(testing::part_family()[1].solid, 0.9, 7);
  const scan::Topology topology = scan::build_topology(scan.mesh);
  // Asked to stop after any report of progress, the split ends as cancelled, whatever it is at.
  for (const double at : {0.1, 0.4, 0.6}) {
    std::stop_source stop;
    const Task task(stop.get_token(), [&](double share) {
      if (share >= at) stop.request_stop();
    });
    const auto found = survey::split_into_regions(scan.mesh, topology, {}, task);
    ASSERT_FALSE(found);
    EXPECT_EQ(found.error().code, ErrorCode::Cancelled);
  }
}

}  // namespace
}  // namespace lostline
