// Datum targets, and what a new split, the finish and the trust of the scan mean for what rests on
// it.
#include <gmock/gmock.h>

#include <random>

#include "plate_scan.h"
#include "project/fits.h"
#include "project/ledger.h"
#include "reading/probe.h"
#include "reading/row_nominals.h"
#include "store/project_file.h"
#include "support/places.h"

namespace lostline {
namespace {

using ::testing::HasSubstr;

datum::TargetPoint target(const Vec3& at, const Vec3& normal, double sigma = 0.01) {
  return {at, normal, sigma};
}

/// On a box with its corner at the origin: under it, on its front, at its left end.
std::array<datum::TargetPoint, 6> on_box() {
  return {target({10, 10, 0}, {0, 0, -1}), target({90, 12, 0}, {0, 0, -1}),
          target({45, 60, 0}, {0, 0, -1}), target({15, 0, 9}, {0, -1, 0}),
          target({85, 0, 7}, {0, -1, 0}),  target({0, 30, 8}, {-1, 0, 0})};
}

TEST(Targets, SixPlacesGiveThreeSquarePlanes) {
  const auto planes = datum::planes_of_targets(on_box());
  ASSERT_TRUE(planes) << planes.error().message;
  EXPECT_LT(((*planes)[0].surface.axis - Vec3(0, 0, -1)).norm(), 1e-12);
  EXPECT_LT(((*planes)[1].surface.axis - Vec3(0, -1, 0)).norm(), 1e-12);
  EXPECT_LT(((*planes)[2].surface.axis - Vec3(-1, 0, 0)).norm(), 1e-12);
  // Square to each other by construction, whatever the faces are.
  auto leaning = on_box();
  leaning[3].point.y() = 1.5;
  leaning[1].point.z() = -0.8;
  const auto tilted = datum::planes_of_targets(leaning);
  ASSERT_TRUE(tilted);
  for (std::size_t i = 0; i < 3; ++i) {
    EXPECT_NEAR((*tilted)[i].surface.axis.dot((*tilted)[(i + 1) % 3].surface.axis), 0, 1e-12);
  }
  for (std::size_t i = 0; i < 6; ++i) {
    const std::size_t plane = i < 3 ? 0 : i < 5 ? 1 : 2;
    if (plane == 1) continue;  // two points above each other lie off a plane square to the primary
    EXPECT_NEAR((*tilted)[plane].surface.distance(leaning[i].point), 0, 1e-9);
  }
}

TEST(Targets, TheIntervalsHoldNinetyFiveTimesInAHundred) {
  std::mt19937_64 random(11);
  std::normal_distribution<double> normal(0, 0.01);
  const auto truth = on_box();
  int tilt = 0;
  int turn = 0;
  int place = 0;
  constexpr int kRuns = 4000;
  for (int run = 0; run < kRuns; ++run) {
    auto seen = truth;
    for (auto& t : seen) t.point += normal(random) * t.normal;
    const auto planes = datum::planes_of_targets(seen);
    ASSERT_TRUE(planes);
    const auto& [a, b, c] = *planes;
    tilt += fit::angle_between(a.surface.axis, Vec3::UnitZ()) <= a.u_angle ? 1 : 0;
    turn += fit::angle_between(b.surface.axis, Vec3::UnitY()) <= b.u_angle ? 1 : 0;
    const Vec3 middle = (truth[0].point + truth[1].point + truth[2].point) / 3;
    place += std::abs(a.surface.distance(middle)) <= a.u_offset ? 1 : 0;
  }
  EXPECT_NEAR(tilt, 0.955 * kRuns, 0.02 * kRuns);
  EXPECT_NEAR(place, 0.955 * kRuns, 0.02 * kRuns);
  EXPECT_GT(turn, 0.93 * kRuns);  // its tilt is the primary's, its turn its own: held by the sum
}

TEST(Targets, WhatHoldsNothingIsRefusedByName) {
  auto line = on_box();
  line[2].point = {50, 11, 0};
  EXPECT_THAT(datum::planes_of_targets(line).error().message, HasSubstr("A1, A2 and A3"));
  auto near = on_box();
  near[4].point = near[3].point + Vec3(1, 0, 3);
  EXPECT_THAT(datum::planes_of_targets(near).error().message, HasSubstr("B1 and B2"));
  auto above = on_box();  // above each other: no direction within the primary
  above[4].point = above[3].point + Vec3(0, 0, 20);
  EXPECT_THAT(datum::planes_of_targets(above).error().message, HasSubstr("B1 and B2"));
  auto away = on_box();
  away[1].normal = {0, 0, 1};
  EXPECT_THAT(datum::planes_of_targets(away).error().message, HasSubstr("A2"));
  auto side = on_box();
  side[5].normal = {0, -1, 0};
  EXPECT_THAT(datum::planes_of_targets(side).error().message, HasSubstr("C1"));
}

class OnPlate : public testing::PlateJob {
 protected:
  static datum::TargetPoint probed(const project::Document& d, const Vec3& at, double reach = 3) {
    const auto hit = d.scan->index->nearest(at);
    const auto probe = reading::probe_scan(*d.scan, hit->triangle, hit->point, reach);
    EXPECT_TRUE(probe) << probe.error().message;
    return {probe->point, probe->normal, probe->sigma};
  }
  static std::array<datum::TargetPoint, 6> targets(const project::Document& d) {
    return {probed(d, {6, 6, 0}),  probed(d, {54, 6, 0}), probed(d, {30, 34, 0}),
            probed(d, {10, 0, 5}), probed(d, {50, 0, 5}), probed(d, {0, 20, 5})};
  }
};

TEST_F(OnPlate, TheFrameLaysThePartOnItsTargets) {
  const auto framed = project::set_frame_on_targets(*plate_, targets(*plate_), datum::Axis::MinusZ,
                                                    datum::Axis::MinusY);
  ASSERT_TRUE(framed) << framed.error().message;
  // Bottom on z = 0, front on y = 0, end on x = 0: the plate lies so already.
  EXPECT_LT((framed->to_part() * Vec3(0, 0, 0)).norm(), 0.02);
  EXPECT_LT((framed->to_part() * Vec3(60, 40, 10) - Vec3(60, 40, 10)).norm(), 0.03);
  ASSERT_EQ(framed->fits.size(), 3U);
  EXPECT_EQ(framed->fits[0]->points.size(), 3U);
  EXPECT_EQ(framed->fits[1]->points.size(), 2U);
  const auto gone = project::remove_fit(*framed, framed->fits[0]->id);
  ASSERT_FALSE(gone);
  EXPECT_THAT(gone.error().message, HasSubstr("targets A"));

  const std::string path = testing::scratch() / "targets.lostline";
  ASSERT_TRUE(store::save_project(path, *framed));
  const auto opened = store::load_project(path);
  ASSERT_TRUE(opened) << opened.error().message;
  ASSERT_EQ(opened->fits.size(), 3U);
  ASSERT_TRUE(opened->fits[2]->construction);
  EXPECT_EQ(opened->fits[2]->construction->type, project::Construction::Type::Targets);
  EXPECT_LT((opened->to_part().matrix() - framed->to_part().matrix()).norm(), 1e-9);
}

TEST_F(OnPlate, ALargerAreaOfARoughFaceHoldsBetter) {
  const datum::TargetPoint small = probed(*plate_, {30, 34, 0}, 1.2);
  const datum::TargetPoint large = probed(*plate_, {30, 34, 0}, 4);
  EXPECT_LT(large.sigma, 0.6 * small.sigma);
  EXPECT_NEAR(large.point.z(), 0, 4 * large.sigma);
}

TEST_F(OnPlate, ANewSplitLeavesWhatRestedOnRegionsWhereItWas) {
  project::Document d = *framed_;
  const auto row =
      project::add_measurement(d, {region({0, 0, 1}), 0}, {region({0, 0, -1}), 0}, false);
  ASSERT_TRUE(row) << row.error().message;
  d = row->document;
  const double thickness = *d.dimensions.back().reading;
  const Transform before = d.to_part();
  survey::SurveyOptions fine;
  fine.sensitivity = 0.8;
  const auto split = survey::split_into_regions(*d.scan->mesh, d.scan->topology, fine);
  ASSERT_TRUE(split);
  auto again = std::make_shared<survey::Survey>(*split);
  // Numbers that mean other regions now.
  std::reverse(again->regions.begin(), again->regions.end());
  const auto count = static_cast<std::uint32_t>(again->regions.size());
  for (auto& r : again->regions) r.id = count + 1 - r.id;
  for (auto& label : again->triangle_region) label = label == 0 ? 0 : count + 1 - label;
  const project::Document next = project::with_new_split(d, again);
  ASSERT_TRUE(next.frame);
  EXPECT_NE(next.frame->primary.fit, 0U);
  EXPECT_EQ(next.frame->primary.region, 0U);
  const auto frame = project::compute_frame(next, *next.frame);
  ASSERT_TRUE(frame) << frame.error().message;
  EXPECT_LT((frame->to_part.matrix() - before.matrix()).norm(), 1e-9);
  const auto& fits = next.dimensions.back().owner.fits;
  const auto measured = project::measure(next, fits[0], fits[1], false);
  ASSERT_TRUE(measured);
  EXPECT_NEAR(measured->value, thickness, 1e-9);
}

TEST_F(OnPlate, RoughRegionsCountLessInAFitOverSeveral) {
  // The top in two halves, one raised by a skin and known as cast.
  scan::Mesh mesh = testing::plate_mesh(0.005);
  const auto prepared = [&](bool skin) {
    if (skin) {
      for (Vec3& v : mesh.vertices) {
        if (v.z() > 9.9 && v.x() > 30) v.z() += 0.12 * (v.x() - 30) / 30;
      }
    }
    return *project::prepare_scan(mesh, "plate", "plate.stl", Unit::Millimetre);
  };
  project::Document d = project::with_scan({}, prepared(true));
  auto survey = std::make_shared<survey::Survey>();
  survey->regions.resize(2);
  auto top = std::make_shared<std::vector<std::uint32_t>>();
  survey->triangle_region.assign(d.scan->mesh->triangles.size(), 0);
  for (std::uint32_t t = 0; t < survey->triangle_region.size(); ++t) {
    const Vec3 c = d.scan->mesh->centroid(t);
    if (c.z() < 9.95 || d.scan->mesh->area_vector(t).normalized().z() < 0.9) continue;
    survey->triangle_region[t] = c.x() > 30 ? 2 : 1;
    top->push_back(t);
  }
  for (std::uint32_t id : {1U, 2U}) survey->regions[id - 1].id = id;
  project::FitRequest request;
  request.triangles = top;
  const auto tilt = [&](double trust) {
    survey->regions[1].trust = trust;
    d.survey = std::make_shared<const survey::Survey>(*survey);
    const auto trial = project::try_fit(d, request);
    EXPECT_TRUE(trial) << trial.error().message;
    EXPECT_EQ(trial->weighted, trust < 1);
    return fit::angle_between(trial->fit.result.surface.axis, Vec3::UnitZ());
  };
  const double alike = tilt(1);
  const double weighed = tilt(0.1);
  EXPECT_GT(alike, 1e-3);
  EXPECT_LT(weighed, 0.5 * alike);
}

TEST_F(OnPlate, AnAsCastFaceOffersCoarseNominalsAndNoDrills) {
  project::Document d = *framed_;
  const auto added =
      project::add_measurement(d, {region({0, 0, 1}), 0}, {region({0, 0, -1}), 0}, false);
  ASSERT_TRUE(added);
  d = added->document;
  d.dimensions.back().reading = 9.62;
  d.dimensions.back().u = 0.01;
  EXPECT_EQ(reading::finish_of(d, d.dimensions.back()), survey::Finish::Machined);
  const auto machined = reading::nominals_of(d, d.dimensions.back());
  ASSERT_FALSE(machined.empty());
  EXPECT_DOUBLE_EQ(machined.front().value, 9.6);
  const auto cast = project::set_finish(d, {region({0, 0, 1})}, survey::Finish::AsCast);
  ASSERT_TRUE(cast);
  EXPECT_EQ(reading::finish_of(*cast, cast->dimensions.back()), survey::Finish::AsCast);
  const auto rough = reading::nominals_of(*cast, cast->dimensions.back());
  ASSERT_FALSE(rough.empty());
  EXPECT_DOUBLE_EQ(rough.front().value, 10);
  EXPECT_THAT(rough.front().reason, HasSubstr("as far as castings go"));
  // The bore of a sketch rests on the region that its outline runs along.
  auto sketched = project::add_sketch(*cast, half_height());
  ASSERT_TRUE(sketched) << sketched.error().message;
  project::TracedSketch traced = *sketched->document.find_sketch(sketched->id);
  for (const sketch::Entity& e : traced.sketch.entities) {
    if (e.type != sketch::EntityType::Circle) continue;
    traced.sketch.add_constraint(sketch::ConstraintType::Radius, e.id);
    break;
  }
  const auto edited = project::edit_sketch(sketched->document, sketched->id, traced.sketch);
  ASSERT_TRUE(edited) << edited.error().message;
  ASSERT_EQ(edited->dimensions.size(), 2U);
  EXPECT_EQ(reading::finish_of(*edited, edited->dimensions.back()), survey::Finish::Machined);
  const auto bored = project::set_finish(*edited, {bore()}, survey::Finish::AsCast);
  ASSERT_TRUE(bored);
  EXPECT_EQ(reading::finish_of(*bored, bored->dimensions.back()), survey::Finish::AsCast);
}

}  // namespace
}  // namespace lostline
