// The radius of a rounded edge read from the scan, where the model still has it sharp.
#include <numbers>

#include "model/steps/fillet/fillet.h"
#include "reading/evidence.h"
#include "steps/loft_stack.h"
#include "support/rounds.h"

namespace lostline {
namespace {

using testing::PartBuilder;

/// Points of the sharp edge nearest to a place.
std::vector<Vec3> edge_near(const model::Model& sharp, const Vec3& place) {
  const auto shape = model::tessellate(sharp, {0.02, 0.05});
  std::vector<Vec3> along;
  double best = 1e300;
  for (const auto& line : shape->edges) {
    const double off = testing::off_line(line.points, place);
    if (off >= best) continue;
    best = off;
    along = line.points;
  }
  return along;
}

/// A block with a boss; the edge at `near` is rounded by `radius` where that is not zero.
model::Model part(double size, const Vec3& near, double radius) {
  PartBuilder builder;
  builder.box(size * Vec2(-30, -20), size * Vec2(30, 20), 0, size * 20)
      .disc({0, 0}, size * 12, size * 20, size * 44);
  if (radius > 0) builder.fillet(near, radius);
  return builder.solid();
}

TEST(EdgeRadius, IsReadAtEverySizeConcaveAndConvexStraightAndRound) {
  int within = 0;
  int all = 0;
  const std::vector<double> sizes =
      testing::thorough() ? std::vector{0.1, 1.0, 15.0} : std::vector{0.1, 15.0};
  for (const double size : sizes) {
    for (const auto& [place, radius] :
         {std::pair{Vec3(0, -20, 20), 5.0}, {Vec3(12, 0, 20), 4.0}, {Vec3(12, 0, 44), 2.5}}) {
      const Vec3 near = size * place;
      const auto along = edge_near(part(size, near, 0), near);
      for (int k = 0; k < testing::rounds(4, 1, 1); ++k) {
        const auto document =
            testing::scan_document(part(size, near, size * radius), size * 0.9, size * 0.02,
                                   static_cast<std::uint64_t>(70 + k));
        const auto reading = reading::read_edge_radius(document, along);
        ASSERT_TRUE(reading) << size << " " << place.transpose();
        EXPECT_NEAR(reading->radius / size, radius, 0.06) << size << " " << place.transpose();
        EXPECT_LT(reading->u, 0.06 * size);
        ++all;
        within += std::abs(reading->radius - size * radius) <= reading->u ? 1 : 0;
        std::printf("size %4.1f R %.3f: %.4f +- %.4f, %zu points\n", size, radius,
                    reading->radius / size, reading->u / size, reading->points);
      }
    }
  }
  EXPECT_GE(within, 0.85 * all);
}

TEST(EdgeRadius, IsReadBetweenFreeFormFacesWhereTheSurveyHasNone) {
  int within = 0;
  int all = 0;
  for (const double size : {0.2, 10.0}) {
    const testing::Vane vane{size};
    const auto truth = vane.on_plate(8);
    ASSERT_TRUE(truth) << truth.error().message;
    model::Fillet root;
    root.radius.value = 2.5 * size;
    root.edges = vane.roots(*truth, 8);
    const auto rounded = testing::attempt(root, *truth);
    ASSERT_TRUE(rounded) << rounded.error().message;
    auto document = testing::scan_document(*rounded, 0.7 * size, 0.015 * size,
                                           31 + static_cast<std::uint64_t>(10 * size));
    document.survey = nullptr;
    // The model as it is, and one whose faces lie off the scan by several times its noise.
    testing::Vane thicker = vane;
    thicker.inner -= 0.06;
    thicker.outer += 0.05;
    for (const auto& [model_of, thick] : {std::pair{vane, 8.0}, {thicker, 7.93}}) {
      const auto sharp = model_of.on_plate(thick);
      ASSERT_TRUE(sharp) << sharp.error().message;
      const auto edges = model_of.roots(*sharp, thick);
      ASSERT_EQ(edges.size(), 4U);
      const auto shape = model::tessellate(*sharp, reading::fine_for(document, *sharp));
      ASSERT_TRUE(shape);
      int read = 0;
      for (const model::EdgeRef& edge : edges) {
        const auto reading = reading::read_edge_radius(document, *sharp, edge, &*shape);
        if (!reading) continue;  // the short ends show too few points
        ++read;
        ++all;
        std::printf("size %4.1f: %.4f +- %.4f, %zu points\n", size, reading->radius / size,
                    reading->u / size, reading->points);
        EXPECT_NEAR(reading->radius, 2.5 * size, 0.15 * size);
        EXPECT_LT(reading->u, 0.2 * size);
        // The simulated scan has chords of the round, up to 0.3 of the noise high, two thirds of
        // that on the mean, and 2.4 times as much in R: with finer chords it goes.
        const double chords = 2.4 * 0.3 * 2 / 3 * 0.015 * size;
        within += std::abs(reading->radius - 2.5 * size) <= reading->u + chords ? 1 : 0;
      }
      EXPECT_GE(read, 2) << size;
      // The step reads the one radius of all.
      model::Fillet step;
      step.edges = edges;
      const auto rows = reading::read_step(document, step, *sharp, 90);
      ASSERT_EQ(rows.size(), 1U);
      EXPECT_EQ(rows.front().field, "radius");
      EXPECT_NEAR(*rows.front().reading, 2.5 * size, std::max(0.05 * size, rows.front().u));
    }
  }
  EXPECT_GE(within, 0.8 * all);
}

TEST(EdgeRadius, ALargeFaceBesideTheEdgeIsNotTakenForOneOfItsSides) {
  // A step of 6 on a plate: the large plane below it lies 6 from the edge and beside it.
  const auto make = [](double radius) {
    PartBuilder builder;
    builder.box({-150, -100}, {150, 100}, 0, 10).box({-150, -100}, {0, 100}, 10, 16);
    if (radius > 0) builder.fillet({0, 0, 16}, radius);
    return builder.solid();
  };
  const auto along = edge_near(make(0), {0, 0, 16});
  const auto document = testing::scan_document(make(3), 0.9, 0.02, 9);
  const auto reading = reading::read_edge_radius(document, along);
  ASSERT_TRUE(reading);
  EXPECT_NEAR(reading->radius, 3, 0.05);
}

TEST(EdgeRadius, ASharpEdgeHasNone) {
  const model::Model sharp = part(1, {}, 0);
  const auto document = testing::scan_document(sharp, 0.6, 0.02, 5);
  EXPECT_FALSE(reading::read_edge_radius(document, edge_near(sharp, {0, -20, 20})));
}

/// What the scan shows of a bevel where the model is sharp.
std::optional<reading::BevelReading> bevel_at(const project::Document& document,
                                              const model::Model& sharp, const Vec3& near) {
  const auto shape = model::tessellate(sharp, {0.02, 0.05});
  double best = 1e300;
  std::optional<reading::BevelReading> reading;
  for (const auto& line : shape->edges) {
    const double off = testing::off_line(line.points, near);
    if (off >= best) continue;
    best = off;
    reading =
        reading::read_edge_bevel(document, sharp, sharp.ref_of_edge(line.edge, near), line.points);
  }
  return reading;
}

TEST(EdgeBevel, LegAndAngleAreReadAtEverySizeStraightAndRound) {
  for (const double size : {0.1, 1.0, 15.0}) {
    for (const auto& [place, leg] : {std::pair{Vec3(0, -20, 20), 4.0}, {Vec3(12, 0, 44), 3.0}}) {
      const Vec3 near = size * place;
      const model::Model sharp = part(size, {}, 0);
      PartBuilder builder;
      builder.box(size * Vec2(-30, -20), size * Vec2(30, 20), 0, size * 20)
          .disc({0, 0}, size * 12, size * 20, size * 44)
          .chamfer(near, size * leg);
      const auto document = testing::scan_document(builder.solid(), size * 0.9, size * 0.02, 31);
      const auto reading = bevel_at(document, sharp, near);
      ASSERT_TRUE(reading) << size << " " << place.transpose();
      EXPECT_NEAR(reading->leg / size, leg, std::max(0.03, 1.3 * reading->u / size)) << size;
      EXPECT_NEAR(reading->angle, std::numbers::pi / 4, std::max(0.01, 1.3 * reading->u_angle));
      EXPECT_GT(reading->u, 0);
      EXPECT_LT(reading->u, 0.15 * size);
    }
  }
}

TEST(EdgeBevel, ASharpEdgeAndARoundOneHaveNone) {
  const model::Model sharp = part(1, {}, 0);
  const Vec3 near(0, -20, 20);
  EXPECT_FALSE(bevel_at(testing::scan_document(sharp, 0.6, 0.02, 5), sharp, near));
  EXPECT_FALSE(bevel_at(testing::scan_document(part(1, near, 5), 0.9, 0.02, 6), sharp, near));
}

}  // namespace
}  // namespace lostline
