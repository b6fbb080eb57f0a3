// Holes with seats: their volumes by the handbook's cylinders and cones, their names, and what the
// scan says of them.
#include "model/steps/hole/hole.h"

#include "model/face_refs.h"
#include "reading/hole_head.h"
#include "sketch/solver.h"
#include "standards/nominals.h"
#include "standards/screws.h"
#include "standards/threads.h"
#include "step_trial.h"
#include "support/rounds.h"

namespace lostline {
namespace {

using model::Hole;
using testing::PartBuilder;

/// A plate of 80 x 50 x 20 on z = 0 … 20, and circles in it, sketched at level 10.
struct Plate {
  std::map<model::Id, model::PlacedSketch> sketches;
  model::Model part;
  std::vector<sketch::Id> circles;

  explicit Plate(double size, double radius = 3) {
    part =
        PartBuilder().box({-40 * size, -25 * size}, {40 * size, 25 * size}, 0, 20 * size).solid();
    sketch::Sketch s;
    for (const double x : {-20.0, 20.0})
      circles.push_back(s.add_circle(s.add_point(size * Vec2(x, 5)), size * radius));
    sketches[7] = {s, {}, 10 * size, {}};
  }
  [[nodiscard]] Hole hole(double diameter) const {
    Hole h;
    h.sketch = 7;
    h.circles = circles;
    h.diameter.value = diameter;
    return h;
  }
  [[nodiscard]] Result<model::Model> attempt(const Hole& h) const {
    model::Step step;
    step.id = 9;
    step.name = "trial";
    step.feature = h;
    const std::vector<model::Step> steps{step};
    return model::apply_feature(step, {sketches, steps}, part);
  }
};

TEST(HoleSeats, TakeAwayWhatTheirFormSays) {
  for (const double size : {0.2, 1.0, 30.0}) {
    const Plate plate(size);
    const double cube = size * size * size;
    const auto cut = [&](const Hole& h) {
      const auto made = plate.attempt(h);
      EXPECT_TRUE(made) << made.error().message;
      return made ? (plate.part.volume() - made->volume()) / 2 / cube : 0;
    };
    Hole h = plate.hole(6 * size);
    EXPECT_NEAR(cut(h), kPi * 9 * 20, 1e-3);
    // A counterbore of 11 and 6.4 deep.
    h.head = Hole::Head::Counterbore;
    h.head_diameter.value = 11 * size;
    h.head_depth.value = 6.4 * size;
    h.entry.value = 20 * size;
    const double bored = kPi * 9 * 13.6 + kPi * 5.5 * 5.5 * 6.4;
    EXPECT_NEAR(cut(h), bored, 1e-3);
    // From the other side it is as much.
    h.from_below = true;
    h.entry.value = 0;
    EXPECT_NEAR(cut(h), bored, 1e-3);
    h.from_below = false;
    h.entry.value = 20 * size;
    // A countersink of 12 over 90 degrees: a frustum 3 deep.
    h.head = Hole::Head::Countersink;
    h.head_diameter.value = 12 * size;
    EXPECT_NEAR(cut(h), kPi * 9 * 17 + kPi / 3 * 3 * (36 + 18 + 9), 1e-3);
    // Blind: 12 deep, with the point of a drill.
    h.head = Hole::Head::None;
    h.extent.reach = model::Reach::Levels;
    h.extent.from.value = 8 * size;
    h.extent.to.value = 20 * size;
    EXPECT_NEAR(cut(h), kPi * 9 * 12, 1e-3);
    h.bottom = Hole::Bottom::Drilled;
    const double tip = 3 / std::tan(59 * kPi / 180);
    EXPECT_NEAR(cut(h), kPi * 9 * 12 + kPi / 3 * 9 * tip, 1e-3);
  }
}

TEST(HoleSeats, FacesKeepTheirNamesWhenNumbersChange) {
  const Plate plate(1);
  Hole h = plate.hole(6);
  h.head = Hole::Head::Counterbore;
  h.head_diameter.value = 11;
  h.head_depth.value = 6.4;
  h.entry.value = 20;
  const auto before = plate.attempt(h);
  ASSERT_TRUE(before);
  h.head_diameter.value = 14;
  h.head_depth.value = 4;
  const auto after = plate.attempt(h);
  ASSERT_TRUE(after);
  int named = 0;
  for (std::size_t face = 0; face < before->face_count(); ++face) {
    const std::string& name = before->face_name(face);
    EXPECT_TRUE(after->find_face(name)) << name;
    named +=
        name.find("head_floor") != std::string::npos || name.find("head_wall") != std::string::npos
            ? 1
            : 0;
  }
  EXPECT_EQ(named, 4);
}

TEST(HoleSeats, PointsOfASketchAreDrilledToo) {
  Plate plate(1);
  sketch::Sketch& s = plate.sketches[7].sketch;
  Hole h = plate.hole(5);
  h.circles = {s.add_own_point({0, -10}), s.add_own_point({15, -10}), s.add_own_point({-15, -10})};
  const auto made = plate.attempt(h);
  ASSERT_TRUE(made) << made.error().message;
  EXPECT_NEAR(plate.part.volume() - made->volume(), 3 * kPi * 6.25 * 20, 1e-3);
}

TEST(HoleSeats, WhatDoesNotFitIsSaid) {
  const Plate plate(1);
  Hole h = plate.hole(6);
  h.head = Hole::Head::Counterbore;
  h.head_diameter.value = 5;
  h.entry.value = 20;
  EXPECT_NE(plate.attempt(h).error().message.find("no wider"), std::string::npos);
  h.head_diameter.value = 11;
  h.head_depth.value = 60;
  EXPECT_NE(plate.attempt(h).error().message.find("does not lie within"), std::string::npos);
}

/// What the groove of a thread takes beside its hole for a mm of length, mm2: Pappus's rule for a
/// section on a helix, with the basic profile of ISO 68-1.
/// @param back  mm, by which the crests stand back.
double groove_area(const standards::Thread& thread, double hole, double back = 0) {
  const double low = hole / 2 + back;
  const double high = thread.diameter / 2;
  double sum = kPi * (low * low - hole * hole / 4) * thread.pitch;
  constexpr int kSlices = 4000;
  for (int k = 0; k < kSlices; ++k) {
    const double r = low + (high - low) * (k + 0.5) / kSlices;
    const double wide = thread.pitch / 8 + 2 * (high - r) * std::tan(kPi / 6);
    sum += 2 * kPi * r * wide * (high - low) / kSlices;
  }
  return sum / thread.pitch;
}

TEST(Threads, AreCutWithTheBasicProfile) {
  // M24; M5 and M8, of many more turns, where there is time.
  for (const int place : testing::thorough() ? std::vector{3, 5, 12} : std::vector{12}) {
    const std::string name = Hole::threads()[static_cast<std::size_t>(place)];
    const auto& table = standards::metric_threads();
    const auto thread = std::find_if(table.begin(), table.end(), [&](const standards::Thread& t) {
      return t.coarse && t.name() == name;
    });
    ASSERT_NE(thread, table.end());
    Plate plate(1, thread->tap_drill() / 2);
    plate.circles.pop_back();
    Hole h = plate.hole(thread->tap_drill());
    const auto smooth = plate.attempt(h);
    h.thread = place;
    const auto said = plate.attempt(h);
    h.modelled = true;
    const auto cut = plate.attempt(h);
    ASSERT_TRUE(smooth && said && cut) << (cut ? "" : cut.error().message);
    EXPECT_NEAR(said->volume(), smooth->volume(), 1e-6);
    EXPECT_TRUE(cut->valid());
    const double taken = 20 * groove_area(*thread, thread->tap_drill());
    EXPECT_NEAR(smooth->volume() - cut->volume(), taken, 0.01 * taken) << name;
    EXPECT_TRUE(model::find_faces(*cut, "s9:thread:" + std::to_string(h.circles.front())));
  }
}

TEST(Threads, OfBlindHolesEndBeforeTheBottom) {
  Plate plate(1, 3.4);
  plate.circles.pop_back();
  Hole h = plate.hole(6.8);
  h.extent.reach = model::Reach::Levels;
  h.extent.from.value = 11;
  h.extent.to.value = 20;
  const auto smooth = plate.attempt(h);
  h.thread = 5;
  h.modelled = true;
  const auto cut = plate.attempt(h);
  ASSERT_TRUE(smooth && cut) << (cut ? "" : cut.error().message);
  EXPECT_TRUE(cut->valid());
  const double length =
      (smooth->volume() - cut->volume()) / groove_area({8, 1.25, true}, 6.8, 0.025);
  // From two turns above the bottom to the top, run out over a turn.
  EXPECT_GT(length, 9 - 2.5 * 1.25);
  EXPECT_LT(length, 9 - 0.5 * 1.25);
  h.diameter.value = 8;
  EXPECT_NE(plate.attempt(h).error().message.find("no narrower"), std::string::npos);
  h.diameter.value = 6.8;
  h.extent.to.value = 13;
  EXPECT_NE(plate.attempt(h).error().message.find("too short"), std::string::npos);
}

TEST(HoleSeats, WordsSayWhatTheyAre) {
  Hole h;
  EXPECT_EQ(h.words(), "hole");
  h.head = Hole::Head::Countersink;
  EXPECT_EQ(h.words(), "countersunk hole");
  h.thread = 5;
  EXPECT_EQ(h.words(), "tapped hole M8 - 6H");
}

TEST(ScrewSeats, AgreeWithTheClearanceHolesAndGrow) {
  double before = 0;
  for (const standards::ScrewSeat& seat : standards::screw_seats()) {
    const auto& holes = standards::clearance_holes();
    const auto hole = std::find_if(holes.begin(), holes.end(), [&](const auto& c) {
      return std::string(c.thread) == seat.thread;
    });
    ASSERT_NE(hole, holes.end()) << seat.thread;
    EXPECT_EQ(hole->medium, seat.clearance) << seat.thread;
    EXPECT_GT(seat.counterbore, 1.4 * seat.clearance) << "a head is wider than its hole";
    EXPECT_GT(seat.counterbore, before);
    before = seat.counterbore;
  }
}

class SeatReading : public ::testing::TestWithParam<Hole::Head> {};

TEST_P(SeatReading, IsThatOfTheScan) {
  const bool bore = GetParam() == Hole::Head::Counterbore;
  // Larger, as a scanner needs: holes of 14 with heads of 26.
  Plate plate(1, 7);
  Hole truth = plate.hole(14);
  truth.head = GetParam();
  truth.head_diameter.value = 26;
  truth.head_depth.value = 8;
  truth.entry.value = 20;
  const auto part = plate.attempt(truth);
  ASSERT_TRUE(part) << part.error().message;
  const project::Document d = testing::scan_document(*part, 0.7, 0.02, 11);
  project::TracedSketch traced;
  traced.sketch = plate.sketches[7].sketch;
  traced.level = 5;
  const auto head = reading::read_head(d, traced, plate.circles, 14);
  ASSERT_TRUE(head) << "the survey shows the seats";
  EXPECT_EQ(head->head, GetParam());
  EXPECT_EQ(head->holes, 2U);
  EXPECT_FALSE(head->from_below);
  EXPECT_NEAR(head->entry, 20, 0.05);
  if (bore) {
    EXPECT_NEAR(head->diameter, 26, std::max(0.03, 2 * head->u_diameter));
    EXPECT_NEAR(head->depth, 8, 0.05);
  } else {
    EXPECT_NEAR(head->diameter, 26, 0.2);
    EXPECT_NEAR(head->angle, kPi / 2, 0.02);
  }
}

INSTANTIATE_TEST_SUITE_P(Heads, SeatReading,
                         ::testing::Values(Hole::Head::Counterbore, Hole::Head::Countersink));

}  // namespace
}  // namespace lostline
