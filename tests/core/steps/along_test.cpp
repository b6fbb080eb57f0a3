// Steps along a path and from section to section, against the volumes that Pappus and the prismoid
// give (handbook formulas), and over many seeded numbers: sound, or refused with a reason.
#include <gtest/gtest.h>

#include <random>

#include "model/route.h"
#include "model/steps/loft/loft.h"
#include "model/steps/patch_face/patch_face.h"
#include "model/steps/pipe_run/pipe_run.h"
#include "model/steps/sweep/sweep.h"
#include "sketch/drawing.h"

namespace lostline {
namespace {

using model::Loft;
using model::PatchFace;
using model::PipeRun;
using model::PlacedSketch;
using model::Sweep;
using sketch::Sketch;

struct Bench {
  std::map<model::Id, PlacedSketch> sketches;
  std::vector<model::Step> none;

  model::Id add(const Sketch& s, const Placement& base) {
    const model::Id id = sketches.size() + 1;
    sketches[id] = {s, base, 0, {}};
    return id;
  }
  Result<model::Model> attempt(const model::Feature& feature) const {
    model::Step step;
    step.id = 5;
    step.number = 10;
    step.name = "trial";
    step.feature = feature;
    return model::apply_feature(step, {sketches, none}, {});
  }
};

Sketch rectangle(double width, double height) {
  Sketch s;
  EXPECT_TRUE(
      sketch::draw_rectangle(s, {0, {-width / 2, -height / 2}}, {0, {width / 2, height / 2}}));
  return s;
}
Sketch circle(double radius) {
  Sketch s;
  s.add_circle(s.add_point({0, 0}), radius);
  return s;
}

class Along : public ::testing::TestWithParam<double> {};

TEST_P(Along, APipeHasTheVolumeOfItsRingTimesItsLength) {
  const double size = GetParam();
  PipeRun pipe;
  pipe.radius.value = 9 * size;
  pipe.path.corners = {size * Vec3(0, 0, 0), size * Vec3(120, 0, 0), size * Vec3(120, 100, 0),
                       size * Vec3(120, 100, 90)};
  pipe.path.bends = {40 * size, 30 * size};
  const double length = size * (120 + 100 + 90 - 2 * 70 + kPi / 2 * 70);
  const Bench bench;
  const auto bar = bench.attempt(pipe);
  ASSERT_TRUE(bar) << bar.error().message;
  EXPECT_NEAR(bar->volume(), kPi * 81 * size * size * length, 1e-6 * bar->volume());
  pipe.wall.value = 2 * size;
  const auto tube = bench.attempt(pipe);
  ASSERT_TRUE(tube) << tube.error().message;
  EXPECT_NEAR(tube->volume(), kPi * (81 - 49) * size * size * length, 1e-6 * bar->volume());
  // One radius for all bends.
  pipe.bend.value = 25 * size;
  const auto bent = bench.attempt(pipe);
  ASSERT_TRUE(bent);
  const double other = size * (310 - 2 * 50 + kPi / 2 * 50);
  EXPECT_NEAR(bent->volume(), kPi * 32 * size * size * other, 1e-6 * bar->volume());
  // Names outlive a change of its numbers.
  for (std::size_t face = 0; face < tube->face_count(); ++face)
    EXPECT_TRUE(bent->find_face(tube->face_name(face))) << tube->face_name(face);
}

TEST_P(Along, AStretchOfAPipeIsAsLongAsItSays) {
  const double size = GetParam();
  PipeRun pipe;
  pipe.path.corners = {size * Vec3(0, 0, 0), size * Vec3(120, 0, 0), size * Vec3(120, 100, 0)};
  pipe.path.bends = {40 * size};
  pipe.radius.value = 9 * size;
  const double length = size * (80 + 60 + kPi / 2 * 40);
  const Bench bench;
  pipe.in_part = true;
  // On a straight, over the bend, and beyond both ends.
  for (const auto& [from, to] : {std::pair(10.0, 22.0),
                                 {70.0, 150.0},
                                 {-15.0, 20.0},
                                 {length / size - 5, length / size + 12},
                                 {-30.0, -10.0}}) {
    pipe.from.value = from * size;
    pipe.to.value = to * size;
    const auto made = bench.attempt(pipe);
    ASSERT_TRUE(made) << from << ": " << made.error().message;
    EXPECT_NEAR(made->volume(), kPi * 81 * size * size * (to - from) * size, 1e-6 * made->volume())
        << from;
  }
  // The bend counts where the stretch runs through it only.
  pipe.radius.value = 45 * size;
  pipe.from.value = 5 * size;
  pipe.to.value = 30 * size;
  EXPECT_TRUE(bench.attempt(pipe));
  pipe.to.value = 100 * size;
  const auto tight = bench.attempt(pipe);
  ASSERT_FALSE(tight);
  EXPECT_NE(tight.error().message.find("tighter than the pipe"), std::string::npos);
  pipe.to.value = 5 * size;
  const auto none = bench.attempt(pipe);
  ASSERT_FALSE(none);
  EXPECT_NE(none.error().message.find("end behind where it begins"), std::string::npos);
}

TEST_P(Along, ASweepHasTheVolumeOfItsAreaTimesTheWayOfItsCentre) {
  const double size = GetParam();
  Bench bench;
  // In the yz plane, where the path along x begins.
  Placement across;
  across.x = Vec3::UnitY();
  across.y = Vec3::UnitZ();
  across.normal = Vec3::UnitX();
  Sketch path;
  const auto p = [&](double x, double y) { return path.add_point(size * Vec2(x, y)); };
  const auto mid = p(80, 0);
  path.add_line(p(0, 0), mid);
  const auto end = p(110, 30);
  path.add_arc(p(80, 30), mid, end, 30 * size);
  path.add_line(end, p(110, 70));
  Sweep sweep;
  sweep.profile = {bench.add(rectangle(10 * size, 6 * size), across)};
  sweep.path = {bench.add(path, {})};
  const auto made = bench.attempt(sweep);
  ASSERT_TRUE(made) << made.error().message;
  const double way = size * (80 + kPi / 2 * 30 + 40);
  EXPECT_NEAR(made->volume(), 60 * size * size * way, 1e-4 * made->volume());
  // With an opening.
  Sketch tube = rectangle(10 * size, 6 * size);
  tube.add_circle(tube.add_point({0, 0}), 2 * size);
  sweep.profile = {bench.add(tube, across)};
  const auto hollow = bench.attempt(sweep);
  ASSERT_TRUE(hollow) << hollow.error().message;
  EXPECT_NEAR(hollow->volume(), (60 - 4 * kPi) * size * size * way, 1e-4 * made->volume());
  // A mitred corner: two straight runs to where they meet.
  Sketch corner;
  const auto c = corner.add_point(size * Vec2(60, 0));
  corner.add_line(corner.add_point({0, 0}), c);
  corner.add_line(c, corner.add_point(size * Vec2(60, 50)));
  sweep.profile = {1};
  sweep.path = {bench.add(corner, {})};
  const auto mitred = bench.attempt(sweep);
  ASSERT_TRUE(mitred) << mitred.error().message;
  EXPECT_NEAR(mitred->volume(), 60 * size * size * size * 110, 1e-4 * mitred->volume());
}

TEST_P(Along, ALoftOfTwoRoundsIsAConeAndOfTwoSquaresAPyramid) {
  const double size = GetParam();
  Bench bench;
  Loft loft;
  loft.ruled = true;
  loft.sections = {bench.add(circle(20 * size), {}),
                   bench.add(circle(12 * size), Placement().shifted(30 * size))};
  const auto cone = bench.attempt(loft);
  ASSERT_TRUE(cone) << cone.error().message;
  EXPECT_NEAR(cone->volume(), kPi * 30 / 3 * (400 + 240 + 144) * std::pow(size, 3),
              1e-5 * cone->volume());
  loft.sections = {bench.add(rectangle(40 * size, 40 * size), {}),
                   bench.add(rectangle(20 * size, 20 * size), Placement().shifted(30 * size))};
  const auto pyramid = bench.attempt(loft);
  ASSERT_TRUE(pyramid) << pyramid.error().message;
  EXPECT_NEAR(pyramid->volume(), 30.0 / 3 * (1600 + 800 + 400) * std::pow(size, 3),
              1e-5 * pyramid->volume());
  EXPECT_EQ(pyramid->face_count(), 6U);
  // Smooth through three.
  loft.ruled = false;
  loft.sections = {1, bench.add(circle(25 * size), Placement().shifted(15 * size)), 2};
  const auto smooth = bench.attempt(loft);
  ASSERT_TRUE(smooth) << smooth.error().message;
  EXPECT_GT(smooth->volume(), cone->volume());
}

INSTANTIATE_TEST_SUITE_P(Sizes, Along, ::testing::Values(0.2, 1.0, 20.0));

TEST(AlongSeeded, SoundOrRefusedWithAReason) {
  std::mt19937 random(2024);
  std::uniform_real_distribution<double> any(0, 1);
  int sound = 0;
  int refused = 0;
  for (int round = 0; round < 70; ++round) {
    Bench bench;
    PipeRun pipe;
    pipe.radius.value = 2 + 10 * any(random);
    pipe.wall.value = any(random) < 0.5 ? 0 : 4 * any(random);
    pipe.path.corners.emplace_back(0, 0, 0);
    Vec3 along(1, 0, 0);
    const int bends = static_cast<int>(4 * any(random));
    for (int k = 0; k <= bends; ++k) {
      pipe.path.corners.push_back(pipe.path.corners.back() + (20 + 80 * any(random)) * along);
      along =
          Eigen::AngleAxisd(2 * any(random) - 1, Vec3(any(random), any(random), 1).normalized()) *
          along;
      if (k < bends) pipe.path.bends.push_back(5 + 40 * any(random));
    }
    Sketch section;
    const int kind = static_cast<int>(3 * any(random));
    if (kind == 0) section = rectangle(4 + 10 * any(random), 4 + 10 * any(random));
    if (kind == 1) section = circle(2 + 6 * any(random));
    if (kind == 2) {
      EXPECT_TRUE(sketch::draw_slot(section, {0, {-4, 0}}, {0, {5, 1}}, {0, 3}));
    }
    Placement across;
    across.x = Vec3::UnitY();
    across.y = Vec3::UnitZ();
    across.normal = Vec3::UnitX();
    Sketch path;
    const auto bent = sketch::draw_spline(
        path,
        {{0, {0, 0}}, {0, {20, 0}}, {0, {50, 20 * any(random)}}, {0, {90, 40 * any(random) - 20}}},
        false);
    ASSERT_TRUE(bent);
    Sweep sweep;
    sweep.profile = {bench.add(section, across)};
    sweep.path = {bench.add(path, {})};
    sweep.hold = any(random) < 0.7 ? Sweep::Hold::Square : Sweep::Hold::Parallel;
    Loft loft;
    loft.ruled = any(random) < 0.4;
    loft.sections = {sweep.profile.front()};
    for (int k = 1; k < 2 + static_cast<int>(2 * any(random)); ++k)
      loft.sections.push_back(bench.add(
          any(random) < 0.5 ? rectangle(5 + 9 * any(random), 8) : circle(3 + 5 * any(random)),
          across.shifted(15.0 * k + 5 * any(random))));
    for (const model::Feature& feature :
         {model::Feature(pipe), model::Feature(sweep), model::Feature(loft)}) {
      const auto made = bench.attempt(feature);
      if (made) {
        EXPECT_TRUE(made->valid());
        EXPECT_GT(made->volume(), 0);
        ++sound;
      } else {
        EXPECT_GT(made.error().message.size(), 20U) << "a reason in words";
        ++refused;
      }
    }
  }
  EXPECT_GT(sound, 3 * refused) << sound << " sound, " << refused << " refused";
}

TEST(AlongRefusals, SayWhatToDo) {
  Bench bench;
  const auto message = [&](const model::Feature& feature) {
    const auto made = bench.attempt(feature);
    return made ? std::string() : made.error().message;
  };
  EXPECT_NE(message(PipeRun{}).find("Click the pipe"), std::string::npos);
  PipeRun tight;
  tight.radius.value = 12;
  tight.path.corners = {Vec3(0, 0, 0), Vec3(50, 0, 0), Vec3(50, 50, 0)};
  tight.path.bends = {10};
  EXPECT_NE(message(tight).find("tighter"), std::string::npos);
  tight.path.bends = {70};
  EXPECT_NE(message(tight).find("up to 50 mm works"), std::string::npos) << message(tight);
  tight.path.bends = {20};
  tight.wall.value = 12;
  EXPECT_NE(message(tight).find("leaves nothing"), std::string::npos);
  EXPECT_NE(message(Sweep{}).find("Choose the sketch"), std::string::npos);
  EXPECT_NE(message(Loft{}).find("two sections"), std::string::npos);
  EXPECT_NE(message(PatchFace{}).find("Click an area"), std::string::npos);
  Loft mixed;
  Sketch two = circle(5);
  two.add_circle(two.add_point({30, 0}), 4);
  mixed.sections = {bench.add(two, {}), bench.add(circle(5), Placement().shifted(10))};
  EXPECT_NE(message(mixed).find("2 outlines"), std::string::npos) << message(mixed);
}

TEST(AlongPatch, StandsAsASurfaceBody) {
  auto face = std::make_shared<patch::SplineSurface>(patch::SplineSurface::even(6, 5));
  for (std::size_t i = 0; i < 6; ++i) {
    for (std::size_t j = 0; j < 5; ++j)
      face->poles[i * 5 + j] = Vec3(10.0 * i, 10.0 * j, 4 * std::sin(1.0 * i + j));
  }
  const Bench bench;
  const auto made = bench.attempt(PatchFace{face});
  ASSERT_TRUE(made) << made.error().message;
  ASSERT_EQ(made->body_count(), 1U);
  EXPECT_EQ(made->body(0).kind, model::BodyKind::Surface);
  EXPECT_GT(made->area(), 2000);
}

}  // namespace
}  // namespace lostline
