// Curves in space: through places, following points, and what the scan, sketches and the model
// give.
#include "model/steps/space_curve/space_curve.h"

#include <gtest/gtest.h>

#include <array>
#include <random>

#include "curve/space_spline.h"
#include "model/steps/loft/loft.h"
#include "model/steps/pipe_run/pipe_run.h"
#include "model/steps/sweep/sweep.h"
#include "reading/space_curves.h"
#include "sketch/drawing.h"
#include "steps/step_trial.h"

namespace lostline {
namespace {

using curve::SpaceSpline;

/// A point of a helix of radius 20 that rises 10 a turn.
Vec3 helix(double turn) {
  return {20 * std::cos(2 * kPi * turn), 20 * std::sin(2 * kPi * turn), 10 * turn};
}

TEST(SpaceSpline, GoesThroughItsPlacesSmoothly) {
  std::mt19937 rng(11);
  std::normal_distribution<double> n(0, 1);
  for (const double size : {5.0, 200.0, 3000.0}) {
    for (const bool closed : {false, true}) {
      for (const std::size_t count : {2U, 3U, 4U, 9U, 40U}) {
        if (closed && count < 3) continue;
        std::vector<Vec3> places;
        for (std::size_t k = 0; k < count; ++k)
          places.emplace_back(size * Vec3(n(rng), n(rng), n(rng)));
        const auto spline = SpaceSpline::through(places, closed);
        ASSERT_TRUE(spline) << spline.error().message;
        for (const Vec3& p : places) EXPECT_LT(spline->nearest(p).distance, 1e-9 * size);
        // Neither slope nor curvature jumps: differences over a place stay as small as beside it.
        const double h = 1e-5 * spline->range();
        for (double t = 3 * h; t < spline->range() - 3 * h; t += spline->range() / 97) {
          const Vec3 second = (spline->slope(t + h) - spline->slope(t - h)) / (2 * h);
          const Vec3 later = (spline->slope(t + 3 * h) - spline->slope(t + h)) / (2 * h);
          EXPECT_LT((second - later).norm(), 2e-2 * (second.norm() + later.norm()) + 1e-3 / size);
        }
        if (closed) {
          EXPECT_LT((spline->at(0) - spline->at(spline->range())).norm(), 1e-9 * size);
          EXPECT_LT((spline->slope(0) - spline->slope(spline->range())).norm(), 1e-9);
        }
      }
    }
  }
}

TEST(SpaceSpline, RepeatsACubicAndIsTheSameInAnyPoseAndOrder) {
  // Four places on a cubic with the parameter along x: nearly straight, so that chord lengths are
  // nearly that parameter; not-a-knot gives the very curve back.
  std::vector<Vec3> places;
  for (const double x : {0.0, 1.0, 2.5, 4.0})
    places.emplace_back(x, 1e-6 * (x * x * x - 3 * x), 2e-6 * x * x);
  const auto spline = SpaceSpline::through(places, false);
  ASSERT_TRUE(spline);
  const Vec3 middle = spline->nearest({1.7, 0, 0}).point;
  const double x = middle.x();
  EXPECT_NEAR(middle.y(), 1e-6 * (x * x * x - 3 * x), 1e-12);
  const Transform pose =
      Eigen::Translation3d(5, -300, 2) * Eigen::AngleAxisd(1.3, Vec3(1, 2, -1).normalized());
  std::vector<Vec3> moved;
  for (auto it = places.rbegin(); it != places.rend(); ++it) moved.emplace_back(pose * *it);
  const auto other = SpaceSpline::through(moved, false);
  ASSERT_TRUE(other);
  for (double t = 0; t <= spline->range(); t += 0.1)
    EXPECT_LT((pose * spline->at(t) - other->at(other->range() - t)).norm(), 1e-10);
}

TEST(SpaceSpline, LengthAndNearestOfAHelix) {
  std::vector<Vec3> places;
  for (int k = 0; k <= 48; ++k) places.push_back(helix(k / 24.0));
  const auto spline = SpaceSpline::through(places, false);
  ASSERT_TRUE(spline);
  EXPECT_NEAR(spline->length(), 2 * std::hypot(2 * kPi * 20, 10), 1e-2);
  const auto near = spline->nearest(1.5 * helix(0.77) - Vec3(0, 0, 0.5 * 7.7));
  EXPECT_LT((near.point - helix(0.77)).norm(), 5e-3);
}

TEST(SpaceSpline, ItsPolesAreTheSameCurve) {
  std::vector<Vec3> places;
  for (int k = 0; k < 7; ++k) places.push_back(helix(k / 9.0) + Vec3(0, 0, k % 3));
  for (const bool closed : {false, true}) {
    const auto spline = SpaceSpline::through(places, closed);
    ASSERT_TRUE(spline);
    const auto [knots, poles] = spline->poles();
    ASSERT_EQ(poles.size(), knots.size() + 2);
    std::vector<double> flat(3, knots.front());
    flat.insert(flat.end(), knots.begin(), knots.end());
    flat.insert(flat.end(), 3, knots.back());
    // De Boor's algorithm at some parameters.
    for (double t = 0.01; t < spline->range(); t += spline->range() / 31) {
      std::size_t m = 3;
      while (m + 1 < flat.size() - 4 && flat[m + 1] <= t) ++m;
      std::array<Vec3, 4> d{poles[m - 3], poles[m - 2], poles[m - 1], poles[m]};
      for (std::size_t r = 1; r < 4; ++r) {
        for (std::size_t j = 3; j >= r; --j) {
          const double a = flat[m - 3 + j];
          const double b = flat[m + 1 + j - r];
          const double share = (t - a) / (b - a);
          d[j] = (1 - share) * d[j - 1] + share * d[j];
        }
      }
      EXPECT_LT((d[3] - spline->at(t)).norm(), 1e-9);
    }
  }
}

TEST(SpaceSpline, RefusesWhatMakesNoCurve) {
  EXPECT_FALSE(SpaceSpline::through({}, false));
  EXPECT_FALSE(SpaceSpline::through({Vec3::Zero()}, false));
  EXPECT_FALSE(SpaceSpline::through({Vec3::Zero(), Vec3::UnitX()}, true));
  EXPECT_FALSE(SpaceSpline::through({Vec3::Zero(), Vec3::Zero(), Vec3::UnitX()}, false));
  EXPECT_FALSE(SpaceSpline::through({Vec3::Zero(), {NAN, 0, 0}}, false));
  EXPECT_FALSE(curve::follow({Vec3::Zero(), Vec3::UnitX()}, false, 0.1));
  EXPECT_FALSE(curve::follow(std::vector<Vec3>(50, Vec3::Zero()), false, 0.1));
  EXPECT_FALSE(
      curve::follow({Vec3::Zero(), Vec3::UnitX(), Vec3::UnitY(), Vec3::UnitZ()}, false, 0));
}

TEST(Follow, AveragesNoiseWithFewPlaces) {
  for (const double noise : {0.0, 0.05}) {
    std::mt19937 rng(17);
    std::normal_distribution<double> n(0, 1);
    std::vector<Vec3> points;
    for (int k = 0; k <= 800; ++k)
      points.emplace_back(helix(k / 800.0) + noise * Vec3(n(rng), n(rng), n(rng)));
    const double tolerance = noise > 0 ? 3 * noise : 0.01;
    const auto followed = curve::follow(points, false, tolerance);
    ASSERT_TRUE(followed);
    EXPECT_LE(followed->p95, tolerance);
    EXPECT_LT(followed->places.size(), 25U);
    const auto spline = SpaceSpline::through(followed->places, false);
    ASSERT_TRUE(spline);
    for (int k = 20; k <= 780; k += 10)
      EXPECT_LT(spline->nearest(helix(k / 800.0)).distance, noise > 0 ? tolerance : 0.02);
  }
  // A closed one comes back to where it began.
  std::vector<Vec3> ring;
  for (int k = 0; k < 300; ++k)
    ring.emplace_back(30 * std::cos(2 * kPi * k / 300), 20 * std::sin(2 * kPi * k / 300),
                      4 * std::sin(4 * kPi * k / 300));
  const auto followed = curve::follow(ring, true, 0.02);
  ASSERT_TRUE(followed);
  EXPECT_LE(followed->p95, 0.02);
  EXPECT_LT(followed->places.size(), 40U);
}

/// A step tried on a model.
struct Tried {
  std::map<model::Id, model::PlacedSketch> sketches;
  Result<model::Model> on(const model::Feature& feature, const model::Model& before,
                          model::Id id) const {
    model::Step step;
    step.id = id;
    step.name = "trial";
    step.feature = feature;
    return model::apply_feature(step, {sketches, {}}, before);
  }
};

model::SpaceCurve quarter_turn(double radius) {
  model::SpaceCurve curve;
  for (int k = 0; k <= 12; ++k) {
    const double a = kPi / 2 * k / 12;
    curve.path.corners.emplace_back(radius * std::sin(a), radius * (1 - std::cos(a)), 0);
  }
  return curve;
}

TEST(SpaceCurveStep, IsABodyThatPipesSweepsAndLoftsFollow) {
  for (const double size : {0.1, 1.0, 30.0}) {
    Tried tried;
    const double way = kPi / 2 * 50 * size;
    const auto curve = tried.on(quarter_turn(50 * size), {}, 11);
    ASSERT_TRUE(curve) << curve.error().message;
    ASSERT_EQ(curve->body_count(), 1U);
    EXPECT_EQ(curve->body(0).kind, model::BodyKind::Curve);
    const std::string key = curve->body(0).key;
    model::PipeRun pipe;
    pipe.along = {key};
    pipe.radius.value = 4 * size;
    const auto bar = tried.on(pipe, *curve, 12);
    ASSERT_TRUE(bar) << bar.error().message;
    EXPECT_NEAR(bar->volume(), kPi * 16 * size * size * way, 2e-4 * bar->volume());
    // A rectangle across the beginning of the curve, in the plane square to x.
    const Placement across{Vec3::Zero(), Vec3::UnitY(), Vec3::UnitZ(), Vec3::UnitX()};
    sketch::Sketch profile;
    ASSERT_TRUE(sketch::draw_rectangle(profile, {0, size * Vec2(-3, -2)}, {0, size * Vec2(3, 2)}));
    tried.sketches[1] = {profile, across, 0, {}};
    model::Sweep sweep;
    sweep.profile = {1};
    sweep.along = {key};
    const auto swept = tried.on(sweep, *curve, 13);
    ASSERT_TRUE(swept) << swept.error().message;
    EXPECT_NEAR(swept->volume(), 24 * size * size * way, 2e-3 * swept->volume());
    // From that rectangle to one half as high at the curve's end.
    sketch::Sketch low;
    ASSERT_TRUE(sketch::draw_rectangle(low, {0, size * Vec2(-3, -1)}, {0, size * Vec2(3, 1)}));
    const Placement end{size * Vec3(50, 50, 0), -Vec3::UnitX(), Vec3::UnitZ(), Vec3::UnitY()};
    tried.sketches[2] = {low, end, 0, {}};
    model::Loft loft;
    loft.sections = {1, 2};
    loft.spine = {key};
    const auto lofted = tried.on(loft, *curve, 14);
    ASSERT_TRUE(lofted) << lofted.error().message;
    EXPECT_NEAR(lofted->volume(), 18 * size * size * way, 2e-2 * lofted->volume());
    EXPECT_TRUE(lofted->valid());
    // What is no curve is not followed, and one that is gone is said.
    pipe.along = {lofted->body(1).key};
    EXPECT_FALSE(tried.on(pipe, *lofted, 15));
    pipe.along = {"s99"};
    EXPECT_EQ(tried.on(pipe, *curve, 15).error().code, ErrorCode::NotFound);
  }
}

TEST(SpaceCurveStep, RunsStraightAndClosesToo) {
  Tried tried;
  model::SpaceCurve curve;
  curve.path.corners = {{0, 0, 0}, {30, 0, 0}, {30, 40, 0}};
  curve.runs = model::SpaceCurve::Runs::Straight;
  curve.closed = true;
  const auto made = tried.on(curve, {}, 7);
  ASSERT_TRUE(made) << made.error().message;
  const auto drawn = model::tessellate(*made);
  ASSERT_TRUE(drawn);
  double length = 0;
  for (const auto& line : drawn->edges) {
    for (std::size_t k = 1; k < line.points.size(); ++k)
      length += (line.points[k] - line.points[k - 1]).norm();
  }
  EXPECT_NEAR(length, 120, 1e-6);
  curve.path.corners.resize(1);
  EXPECT_FALSE(tried.on(curve, {}, 7));
}

TEST(SpaceCurveReading, StaysOnTheScan) {
  testing::PartBuilder builder;
  const model::Model part = builder.disc({0, 0}, 30, 0, 60).solid();
  const project::Document document = testing::scan_document(part, 1.0, 0.01, 5);
  // Four places about a quarter of the shaft: between them the curve is pulled on to it.
  std::vector<Vec3> places;
  for (const double a : {0.0, 1.2, 2.4})
    places.emplace_back(30 * std::cos(a), 30 * std::sin(a), 20 + 10 * a);
  const auto read = reading::curve_on_scan(document, places, false, 0.05);
  ASSERT_TRUE(read) << read.error().message;
  EXPECT_GT(read->places.size(), places.size());
  EXPECT_LE(read->greatest, 0.06);
  const auto spline = SpaceSpline::through(read->places, false);
  for (const Vec3& p : spline->points(1)) EXPECT_NEAR(std::hypot(p.x(), p.y()), 30, 0.1);
  EXPECT_FALSE(reading::curve_on_scan({}, places, false, 0.05));
}

TEST(SpaceCurveReading, FollowsTheBorderOfARegionAndTheMiddleOfAStrip) {
  testing::PartBuilder builder;
  const model::Model part =
      builder.box({-60, -40}, {60, 40}, 0, 12).disc({10, 5}, 15, 12, 30).solid();
  const project::Document document = testing::scan_document(part, 0.8, 0.01, 6);
  const auto region = [&](const Vec3& at) {
    const auto nearest = document.scan->index->nearest(at);
    return document.survey->triangle_region[nearest->triangle];
  };
  // The top of the boss: a circle of 15.
  const auto rim = reading::border_curve(document, region({10, 5, 30}), {25, 5, 30},
                                         reading::curve_tolerance(document));
  ASSERT_TRUE(rim) << rim.error().message;
  EXPECT_TRUE(rim->closed);
  const auto ring = SpaceSpline::through(rim->places, true);
  ASSERT_TRUE(ring);
  // A region ends up to a spacing of 0.8 inside its edge, which a scanner rounds.
  EXPECT_NEAR(ring->length(), 2 * kPi * 15, 2 * kPi * 0.8);
  // A long wall, 120 by 12: its middle runs at half its height.
  const auto middle = reading::middle_curve(document, region({0, 40, 6}), 0.1);
  ASSERT_TRUE(middle) << middle.error().message;
  const auto line = SpaceSpline::through(middle->places, false);
  ASSERT_TRUE(line);
  for (const Vec3& p : line->points(2)) {
    EXPECT_NEAR(p.z(), 6, 0.6);
    EXPECT_NEAR(p.y(), 40, 0.05);
  }
  EXPECT_GT(line->length(), 95);
  // The top of the plate is no strip.
  EXPECT_EQ(reading::middle_curve(document, region({-40, -20, 12}), 0.1).error().code,
            ErrorCode::Degenerate);
  EXPECT_FALSE(reading::middle_curve(document, 9999, 0.1));
}

TEST(SpaceCurveReading, CrossesTwoSketches) {
  // A circle of 20 in xy drawn along z, and a line in xz drawn along y: an ellipse's arc.
  project::TracedSketch circle;
  circle.name = "round";
  circle.sketch.add_circle(circle.sketch.add_point({0, 0}), 20);
  project::TracedSketch slope;
  slope.name = "slope";
  slope.base = {Vec3::Zero(), Vec3::UnitX(), Vec3::UnitZ(), -Vec3::UnitY()};
  slope.sketch.add_line(slope.sketch.add_point({-30, -15}), slope.sketch.add_point({30, 15}));
  const auto crossed = reading::crossing_curve(circle, slope, 0.01);
  ASSERT_TRUE(crossed) << crossed.error().message;
  EXPECT_TRUE(crossed->closed);
  const auto ring = SpaceSpline::through(crossed->places, true);
  ASSERT_TRUE(ring);
  for (const Vec3& p : ring->points(3)) {
    EXPECT_NEAR(std::hypot(p.x(), p.y()), 20, 0.03);
    EXPECT_NEAR(p.z(), 0.5 * p.x(), 0.03);
  }
  project::TracedSketch above = circle;
  above.base.origin = {0, 0, 5};
  EXPECT_FALSE(reading::crossing_curve(circle, above, 0.01));
  EXPECT_FALSE(reading::crossing_curve(circle, {}, 0.01));
}

}  // namespace
}  // namespace lostline
