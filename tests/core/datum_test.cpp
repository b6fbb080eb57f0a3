// Datum features, planes of symmetry, proposed datum systems and patterns of a survey.
#include <gmock/gmock.h>

#include <set>

#include "datum/construct.h"
#include "datum/symmetry.h"
#include "fit/uncertainty.h"
#include "part_family.h"
#include "project/datums.h"
#include "project/fits.h"
#include "project/model_target.h"
#include "project/patterns.h"
#include "project/relations.h"
#include "simulate/scanner.h"
#include "store/project_file.h"
#include "support/places.h"
#include "survey/finish.h"

namespace lostline {
namespace {

using ::testing::HasSubstr;

fit::SurfaceFit made(fit::Kind kind, const Vec3& at, const Vec3& axis, double radius = 0,
                     double u_offset = 0.004, double u_angle = 1e-4) {
  fit::SurfaceFit f;
  f.surface.kind = kind;
  f.surface.point = f.centroid = at;
  f.surface.axis = axis.normalized();
  f.surface.radius = radius;
  f.u_offset = u_offset;
  f.u_angle = u_angle;
  return f;
}
fit::SurfaceFit plane(const Vec3& at, const Vec3& normal) {
  return made(fit::Kind::Plane, at, normal);
}
fit::SurfaceFit hole(const Vec3& at, const Vec3& axis = Vec3::UnitZ()) {
  return made(fit::Kind::Cylinder, at, axis, 5);
}

TEST(Construct, MidplaneOfASlotAndOfAWedge) {
  const auto slot = datum::midplane(plane({3, 0, 0}, {-1, 0, 0}), plane({11, 20, 5}, {1, 0, 0}));
  ASSERT_TRUE(slot);
  EXPECT_NEAR(slot->surface.distance(Vec3(7, 50, -9)), 0, 1e-12);
  EXPECT_NEAR(slot->u_offset, 0.5 * std::hypot(0.004, 0.004), 0.002);
  const double lean = 10 * kDegree;
  const auto wedge = datum::midplane(plane({0, 0, 0}, {std::cos(lean), 0, std::sin(lean)}),
                                     plane({10, 0, 0}, {std::cos(lean), 0, -std::sin(lean)}));
  ASSERT_TRUE(wedge);
  EXPECT_NEAR(std::abs(wedge->surface.axis.x()), 1, 1e-12);
  EXPECT_NEAR(wedge->surface.distance(Vec3(5, 3, 8)), 0, 1e-9);
  EXPECT_FALSE(datum::midplane(plane({0, 0, 0}, {1, 0, 0}), plane({0, 9, 0}, {1, 0, 0})));
  EXPECT_FALSE(datum::midplane(plane({0, 0, 0}, {1, 0, 0}), hole({0, 0, 0})));
}

TEST(Construct, LinesCirclesAndPoints) {
  const auto across = datum::axis_of_two(hole({0, 0, 4}), hole({60, 80, 4}));
  ASSERT_TRUE(across);
  EXPECT_LT(fit::angle_between(across->surface.axis, Vec3(0.6, 0.8, 0)), 1e-9);
  // Sideways the centres turn the line, up and down the tilt of the mean of both axes does.
  const fit::SurfaceFit one = hole({0, 0, 4});
  const double sideways = std::sqrt(2) * one.u_offset / fit::coverage_factor(2) / 100;
  const double upward = one.u_angle / fit::coverage_factor(2) / std::sqrt(2);
  const Eigen::Matrix2d spread = Vec2(sideways * sideways, upward * upward).asDiagonal();
  EXPECT_NEAR(across->u_angle, fit::expanded_length(spread), 1e-3 * across->u_angle);
  const auto base = plane({0, 0, -10}, {0, 0, 1});
  const auto leaning = made(fit::Kind::Cylinder, {0, 0, 0}, {0.02, 0, 1}, 5);
  const auto in_plane = datum::axis_of_two(leaning, hole({60, 0, 0}), &base);
  ASSERT_TRUE(in_plane);
  EXPECT_NEAR(in_plane->surface.point.x(), 0.5 * (60 - 0.2), 1e-6);
  EXPECT_NEAR(in_plane->surface.point.z(), -10, 1e-9);
  EXPECT_FALSE(datum::axis_of_two(hole({1, 2, 3}), hole({1, 2, 3})));
  EXPECT_FALSE(datum::axis_of_two(plane({0, 0, 0}, {1, 0, 0}), hole({1, 2, 3})));

  // Three bearing seats, one of them 0.03 mm off and uncertain: the sure ones decide.
  auto poor = hole({0.03, 0, 100});
  poor.u_offset = 0.5;
  const auto common = datum::common_axis({hole({0, 0, 0}), hole({0, 0, 50}, {0, 0, -1}), poor});
  ASSERT_TRUE(common);
  EXPECT_LT(common->surface.distance(Vec3(0, 0, 70)), 1e-3);
  EXPECT_NEAR(common->form_error, 0.06, 0.005);
  EXPECT_FALSE(datum::common_axis({hole({0, 0, 0}), hole({0, 0, 0}, {1, 0, 1})}));

  std::vector<fit::SurfaceFit> holes;
  for (int k = 0; k < 6; ++k)
    holes.push_back(
        hole({10 + 45 * std::cos(k * 1.0472), 20 + 45 * std::sin(k * 1.0472), k * 1.0}));
  const auto circle = datum::bolt_circle(holes);
  ASSERT_TRUE(circle) << circle.error().message;
  EXPECT_NEAR(circle->surface.radius, 45, 1e-4);
  EXPECT_LT((circle->surface.point - Vec3(10, 20, circle->surface.point.z())).norm(), 1e-3);
  EXPECT_GT(circle->u_radius, 0.001);
  EXPECT_FALSE(datum::bolt_circle({holes[0], holes[1]}));
  EXPECT_FALSE(datum::bolt_circle({hole({0, 0, 0}), hole({1, 1, 0}), hole({2, 2, 0})}));

  const auto corner = datum::intersection(
      {plane({1, 0, 0}, {1, 0, 0}), plane({0, 2, 0}, {0, 1, 0}), plane({0, 0, 3}, {0, 0, 1})});
  ASSERT_TRUE(corner);
  EXPECT_LT((corner->surface.point - Vec3(1, 2, 3)).norm(), 1e-9);
  const auto foot = datum::intersection({plane({0, 0, 3}, {0, 0, 1}), hole({7, 8, 0})});
  ASSERT_TRUE(foot);
  EXPECT_LT((foot->surface.point - Vec3(7, 8, 3)).norm(), 1e-9);
  const auto near = datum::intersection({hole({0, 0, 0}), hole({0, 0.2, 9}, {1, 0, 0})});
  ASSERT_TRUE(near);
  EXPECT_LT((near->surface.point - Vec3(0, 0.1, 9)).norm(), 1e-9);
  EXPECT_NEAR(near->form_error, 0.2, 1e-9);  // they miss each other by so much
  EXPECT_FALSE(datum::intersection({hole({0, 0, 0}), hole({9, 0, 0})}));
  EXPECT_FALSE(datum::intersection({plane({0, 0, 0}, {0, 0, 1})}));
}

/// A document with a scan of a part, in the scan's own pose.
project::Document document_of(const model::Model& solid, Transform* pose = nullptr) {
  simulate::ScanOptions options;
  options.spacing = 0.9;
  options.seed = 5;
  const auto scanned = simulate::simulate_scan(solid, {}, options);
  EXPECT_TRUE(scanned);
  if (pose != nullptr) *pose = scanned->pose;
  project::Document d;
  d.scan = *project::prepare_scan(scanned->mesh, "part", "part.stl", Unit::Millimetre);
  d.survey = std::make_shared<const survey::Survey>(
      *survey::split_into_regions(*d.scan->mesh, d.scan->topology));
  return d;
}

const survey::Pattern* pattern_of(const project::Document& d, survey::Pattern::Type type) {
  for (const survey::Pattern& p : d.survey->patterns) {
    if (p.type == type) return &p;
  }
  return nullptr;
}

TEST(Construct, WhereOneSideCannotBeMadeTheOtherTellsTheUncertainty) {
  // Two axes that meet under two degrees; nearer to parallel they meet in no point.
  const auto point_with = [](double u_angle) {
    std::vector<fit::SurfaceFit> axes(2);
    for (fit::SurfaceFit& a : axes) {
      a.surface.kind = fit::Kind::Line;
      a.surface.axis = Vec3::UnitX();
      a.u_angle = u_angle;
      a.u_offset = 1e-3 * u_angle;
    }
    axes[1].surface.axis = Vec3(std::cos(0.0335), std::sin(0.0335), 0);
    axes[0].centroid = axes[0].surface.point = Vec3(-40, 0, 0);
    axes[1].centroid = axes[1].surface.point = -40 * axes[1].surface.axis;
    return datum::intersection(axes);
  };
  const auto sure = point_with(1e-5);
  const auto vague = point_with(0.01);
  ASSERT_TRUE(sure && vague);
  EXPECT_GT(sure->u_offset, 0.001);
  EXPECT_NEAR(vague->u_offset, 1000 * sure->u_offset, 300 * sure->u_offset);
}

TEST(Patterns, AFlangeHasItsBoltCircleStackAndDraftIsNotInvented) {
  Transform pose;
  project::Document d = document_of(testing::part_family()[4].solid, &pose);
  const auto* circle = pattern_of(d, survey::Pattern::Type::BoltCircle);
  ASSERT_NE(circle, nullptr);
  EXPECT_EQ(circle->count, 8);
  EXPECT_NEAR(circle->value, 140, 0.01);
  EXPECT_LT(circle->departure, 0.02);
  EXPECT_LT((pose.inverse() * circle->centre).head<2>().norm(), 0.01);
  const auto* stack = pattern_of(d, survey::Pattern::Type::Stack);
  ASSERT_NE(stack, nullptr);
  EXPECT_GE(stack->count, 4);
  EXPECT_EQ(pattern_of(d, survey::Pattern::Type::Draft), nullptr);
  EXPECT_EQ(pattern_of(d, survey::Pattern::Type::Grid), nullptr);
  // Accepted, the eight holes are of one size and the circle is a Ledger row.
  const auto index = static_cast<std::size_t>(circle - d.survey->patterns.data());
  const auto accepted = project::accept_patterns(d, {index});
  ASSERT_TRUE(accepted) << accepted.error().message;
  EXPECT_EQ(accepted->fits.size(), 9U);
  EXPECT_EQ(accepted->relations.size(), 7U);
  const double first = accepted->fits[0]->result.surface.radius;
  for (int k = 1; k < 8; ++k)
    EXPECT_NEAR(accepted->fits[static_cast<std::size_t>(k)]->result.surface.radius, first, 1e-7);
  ASSERT_EQ(accepted->dimensions.size(), 1U);
  EXPECT_NEAR(*accepted->dimensions[0].reading, 140, 0.01);
  EXPECT_LE(std::abs(*accepted->dimensions[0].reading - 140), 2 * accepted->dimensions[0].u);
  EXPECT_THAT(accepted->dimensions[0].source, HasSubstr("8 places"));
  // It comes back from the file, and what it is made from cannot be taken away.
  const std::string path = testing::scratch() / "patterns.lostline";
  ASSERT_TRUE(store::save_project(path, *accepted));
  const auto again = store::load_project(path);
  ASSERT_TRUE(again) << again.error().message;
  ASSERT_TRUE(again->fits.back()->construction);
  EXPECT_EQ(again->fits.back()->construction->from.size(), 8U);
  EXPECT_EQ(again->survey->patterns.size(), d.survey->patterns.size());
  const auto refused = project::remove_fit(*again, again->fits[0]->id);
  ASSERT_FALSE(refused);
}

TEST(Patterns, DraftGridsRowsAndMirrorsAreFound) {
  using model::Operation;
  const double draft = 2 * kDegree;
  std::vector<Vec2> grid;
  for (int i = 0; i < 4; ++i) {
    for (int j = 0; j < 3; ++j) grid.emplace_back(-45 + 30 * i, -25 + 25 * j);
  }
  const model::Model part = testing::PartBuilder()
                                .box({-80, -50}, {80, 50}, 0, 10)
                                .box({-70, 34}, {70, 46}, 10, 40, Operation::Add, draft)
                                .box({-70, -46}, {70, -34}, 10, 40, Operation::Add, draft)
                                .holes(grid, 8)
                                .holes({{60, -20}, {60, 0}, {60, 20}}, 6)
                                .solid();
  Transform pose;
  project::Document d = document_of(part, &pose);
  const auto* found = pattern_of(d, survey::Pattern::Type::Grid);
  ASSERT_NE(found, nullptr);
  EXPECT_EQ(std::max(found->count, found->rows), 4);
  EXPECT_EQ(std::min(found->count, found->rows), 3);
  EXPECT_NEAR(std::max(found->value, found->second), 30, 0.01);
  EXPECT_NEAR(std::min(found->value, found->second), 25, 0.01);
  const auto* row = pattern_of(d, survey::Pattern::Type::Row);
  ASSERT_NE(row, nullptr);
  EXPECT_EQ(row->count, 3);
  EXPECT_NEAR(row->value, 20, 0.01);
  const auto* pull = pattern_of(d, survey::Pattern::Type::Draft);
  ASSERT_NE(pull, nullptr);
  EXPECT_NEAR(pull->value, draft, 0.05 * kDegree);
  EXPECT_GT((pose.linear().transpose() * pull->direction).z(), 0.999);
  EXPECT_GE(pull->count, 4);
  const auto* mirror = pattern_of(d, survey::Pattern::Type::MirroredPairs);
  ASSERT_NE(mirror, nullptr);
  EXPECT_GT(std::abs((pose.linear().transpose() * mirror->direction).y()), 0.999);
  // All at one go.
  std::vector<std::size_t> all(d.survey->patterns.size());
  for (std::size_t i = 0; i < all.size(); ++i) all[i] = i;
  const auto accepted = project::accept_patterns(d, all);
  ASSERT_TRUE(accepted) << accepted.error().message;
  EXPECT_GT(accepted->relations.size(), 20U);
}

TEST(Patterns, AreTheSameAtAnySizePlaceAndOrder) {
  const auto scaled = [](survey::Region r, double s, const Transform& motion) {
    r.centre = s * (motion * r.centre);
    r.area *= s * s;
    if (!r.fit) return r;
    fit::SurfaceFit& f = *r.fit;
    f.surface = fit::transformed(f.surface, motion);
    f.surface.point *= s;
    f.centroid = s * (motion * f.centroid);
    for (double* length : {&f.surface.radius, &f.surface.minor_radius, &f.u_offset, &f.u_radius,
                           &f.u_minor_radius, &f.rms, &f.sigma, &f.form_error})
      *length *= s;
    return r;
  };
  const Transform turned =
      Eigen::Translation3d(7, -3, 11) * Eigen::AngleAxisd(0.7, Vec3(1, 2, 3).normalized());
  for (const std::size_t index : {std::size_t{4}, std::size_t{2}}) {
    const project::Document d = document_of(testing::part_family()[index].solid);
    const auto summary = [](const std::vector<survey::Pattern>& patterns, double s) {
      std::multiset<std::string> list;
      for (const survey::Pattern& p : patterns) {
        std::vector<std::uint32_t> members = p.regions;
        std::sort(members.begin(), members.end());
        std::string text = survey::pattern_name(p.type);
        for (const std::uint32_t id : members) text += ' ' + std::to_string(id);
        const bool length = p.type != survey::Pattern::Type::Draft &&
                            p.type != survey::Pattern::Type::MirroredPairs;
        list.insert(text + " | " + std::to_string(std::lround(1e4 * p.value / (length ? s : 1))));
      }
      return list;
    };
    const auto expected = summary(survey::find_patterns(d.survey->regions), 1);
    EXPECT_GE(expected.size(), 3U);
    for (const double s : {0.02, 1.0, 15.0}) {
      for (const Transform& motion : {Transform(Transform::Identity()), Transform(turned)}) {
        std::vector<survey::Region> regions;
        for (const survey::Region& r : d.survey->regions) regions.push_back(scaled(r, s, motion));
        EXPECT_EQ(summary(survey::find_patterns(regions), s), expected) << s;
      }
    }
  }
}

TEST(Symmetry, ThePlaneIsFoundFromNothingAndFromAGuess) {
  // The cover is alike in y only: a rib stands on one side in x.
  Transform pose;
  project::Document d = document_of(testing::part_family()[2].solid, &pose);
  datum::Target scan;
  scan.mesh = *d.scan->mesh;
  scan.settle();
  const auto cloud = datum::cloud_of(scan.mesh, project::trust_of(*d.survey, scan.mesh), 20000);
  const auto found = datum::find_symmetry(scan, cloud, project::found_of(*d.survey));
  ASSERT_TRUE(found) << found.error().message;
  const auto check = [&](const datum::Symmetry& s) {
    const fit::Surface p = fit::transformed(s.plane.surface, pose.inverse());
    EXPECT_LT(fit::angle_between(p.axis, Vec3::UnitY()), 0.02 * kDegree);
    EXPECT_LT(std::abs(p.distance(Vec3::Zero())), 0.01);
    EXPECT_GT(s.agreement, 0.9);
    EXPECT_LT(s.plane.rms, 0.05);
  };
  check(found->front());
  fit::Surface guess;
  guess.point = pose * Vec3(0, 2, 0);
  guess.axis = pose.linear() * Vec3(0.03, 1, -0.02).normalized();
  const auto near = datum::find_symmetry(scan, cloud, {}, guess);
  ASSERT_TRUE(near) << near.error().message;
  check(near->front());
  // Nothing mirrors the cover in x as well.
  guess.axis = pose.linear() * Vec3::UnitX();
  guess.point = pose * Vec3(30, 0, 0);
  const auto none = datum::find_symmetry(scan, cloud, {}, guess);
  ASSERT_FALSE(none) << none->front().agreement;
  EXPECT_THAT(none.error().message, HasSubstr("near the guess"));
}

TEST(Propose, AMachinedFaceLeadsAndTheFrameHolds) {
  Transform pose;
  project::Document d = document_of(testing::part_family()[4].solid, &pose);
  const auto proposed = project::propose_frames(d);
  ASSERT_FALSE(proposed.empty());
  const auto& first = proposed.front();
  EXPECT_FALSE(first.reason[0].empty());
  EXPECT_FALSE(first.reason[1].empty());
  EXPECT_THAT(first.reason[2], HasSubstr("axis"));
  const auto framed = project::set_frame(d, first.specification);
  ASSERT_TRUE(framed) << framed.error().message;
  // The flange's own axis became an axis of the frame through its origin.
  const Transform part = framed->frame->frame.to_part * pose;
  EXPECT_LT(part.translation().head<2>().norm(), 0.01);
  EXPECT_GT(std::abs(part.linear()(2, 2)), 0.99999);
}

TEST(Frame, TheScansExtremesFixWhatIsLeft) {
  Transform pose;
  project::Document d =
      document_of(testing::PartBuilder().box({0, 0}, {90, 60}, 0, 20).solid(), &pose);
  const auto side = [&](const Vec3& normal) {
    project::FitRef ref;
    for (const auto& r : d.survey->regions) {
      if (r.fit && (pose.linear().transpose() * r.fit->surface.axis - normal).norm() < 0.01)
        ref.region = r.id;
    }
    return ref;
  };
  project::DatumFrame spec;
  spec.primary = side({0, 0, -1});
  spec.secondary = {side({0, -1, 0})};
  spec.secondary_axis = datum::Axis::MinusY;
  EXPECT_FALSE(project::compute_frame(d, spec));  // along x nothing holds
  spec.extremes = true;
  const auto frame = project::compute_frame(d, spec);
  ASSERT_TRUE(frame) << frame.error().message;
  const Transform part = frame->to_part * pose;
  EXPECT_LT((part.matrix() - Eigen::Matrix4d::Identity()).norm(), 0.12);
  EXPECT_THAT(frame->held_by[2], HasSubstr("least x"));
}

TEST(Finish, TheEngineerOverrulesAndItStays) {
  project::Document d = document_of(testing::part_family()[4].solid);
  const auto changed = project::set_finish(d, {1, 2}, survey::Finish::AsCast);
  ASSERT_TRUE(changed);
  EXPECT_EQ(changed->survey->regions[0].finish, survey::Finish::AsCast);
  EXPECT_DOUBLE_EQ(changed->survey->regions[0].trust, 0.3);
  const std::string path = testing::scratch() / "finish.lostline";
  ASSERT_TRUE(store::save_project(path, *changed));
  const auto again = store::load_project(path);
  ASSERT_TRUE(again);
  EXPECT_EQ(again->survey->regions[1].finish, survey::Finish::AsCast);
  EXPECT_TRUE(again->survey->regions[1].finish_by_hand);
  // The others are all alike, and their noise could be a casting's.
  EXPECT_EQ(again->survey->regions[2].finish, survey::Finish::Unknown);
  EXPECT_FALSE(project::set_finish(d, {9999}, survey::Finish::Formed));
}

TEST(LentDirections, AreSavedWithTheProject) {
  project::Document d = document_of(testing::part_family()[4].solid);
  auto survey = std::make_shared<survey::Survey>(*d.survey);
  ASSERT_GE(survey->regions.size(), 4U);
  survey->regions[3].direction_of = 1;
  survey->regions[2].direction_of = 0;
  d.survey = survey;
  const std::string path = testing::scratch() / "lent.lostline";
  ASSERT_TRUE(store::save_project(path, d));
  const auto again = store::load_project(path);
  ASSERT_TRUE(again);
  EXPECT_EQ(again->survey->regions[3].direction_of, 1U);
  EXPECT_EQ(again->survey->regions[2].direction_of, 0U);
}

TEST(Shared, FourHolesOfOneBoreAndFacesOfOneLevelKnowIt) {
  // A bore that a slot cuts in two, and two pads milled at one height.
  using model::Operation;
  const model::Model part = testing::PartBuilder()
                                .box({0, 0}, {120, 60}, 0, 30)
                                .holes({{40, 30}}, 30)
                                .box({-5, 26}, {125, 34}, -1, 40, Operation::Cut)
                                .solid();
  project::Document d = document_of(part);
  int halves = 0;
  int tops = 0;
  for (const auto& r : d.survey->regions) {
    if (r.shared == 0) continue;
    halves += r.fit->surface.kind == fit::Kind::Cylinder ? 1 : 0;
    tops += r.fit->surface.kind == fit::Kind::Plane ? 1 : 0;
  }
  EXPECT_EQ(halves, 2);
  EXPECT_GE(tops, 4);
}

}  // namespace
}  // namespace lostline
