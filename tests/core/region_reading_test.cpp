// What whole regions say of the dimensions that a sketch reads along one section.
#include "reading/region_reading.h"

#include <gtest/gtest.h>

#include "part_builder.h"
#include "plate_scan.h"
#include "reading/row_nominals.h"
#include "simulate/scanner.h"
#include "sketch/dimension_scheme.h"

namespace lostline {
namespace {

using project::Document;

class RegionReading : public testing::PlateJob {
 protected:
  /// The section at half height with all its dimensions.
  static Document dimensioned(const Document& d) {
    project::TracedSketch t = half_height();
    const auto& s = t.sketch;
    std::vector<sketch::Id> level;
    std::vector<sketch::Id> upright;
    sketch::Id circle = 0;
    for (const sketch::Entity& e : s.entities) {
      if (e.type == sketch::EntityType::Circle) {
        circle = e.id;
      } else {
        const Vec2 along = s.position(e.b) - s.position(e.a);
        (std::abs(along.x()) > std::abs(along.y()) ? level : upright).push_back(e.id);
      }
    }
    t.sketch.add_constraint(sketch::ConstraintType::Radius, circle);
    t.sketch.add_constraint(sketch::ConstraintType::Distance, level.at(0), level.at(1));
    t.sketch.add_constraint(sketch::ConstraintType::Distance, upright.at(0), upright.at(1));
    const sketch::Id centre = t.sketch.find_entity(circle)->centre;
    t.sketch.add_constraint(sketch::ConstraintType::Distance, centre, level.at(0));
    auto added = project::add_sketch(d, t);
    EXPECT_TRUE(added) << (added ? "" : added.error().message);
    return added->document;
  }
};

TEST_F(RegionReading, TellsSizesAndDistancesAndTheSurerOneCounts) {
  const Document d = dimensioned(*framed_);
  ASSERT_EQ(d.dimensions.size(), 4U);
  const std::array truth{2 * testing::PlateScan::kRadius, testing::PlateScan::kWidth,
                         testing::PlateScan::kLength, testing::PlateScan::kWidth / 2};
  for (std::size_t k = 0; k < d.dimensions.size(); ++k) {
    const project::Dimension& row = d.dimensions[k];
    const auto whole = reading::region_reading(d, row);
    ASSERT_TRUE(whole) << row.name;
    EXPECT_NEAR(whole->value, truth.at(k), 1.5 * whole->u) << row.name;
    EXPECT_EQ(whole->regions.size(), k == 0 ? 1U : 2U);
    const auto surest = reading::surest_reading(d, row);
    ASSERT_TRUE(surest);
    EXPECT_TRUE(surest->agree);
    EXPECT_EQ(surest->value, whole->u < row.u ? whole->value : *row.reading);
    EXPECT_EQ(surest->u, std::min(whole->u, row.u));
    // Of the bore some thousand points count instead of hundreds.
    if (k == 0) {
      EXPECT_LT(whole->u, 0.6 * row.u);
    }
  }
  // The bore alone without the survey that tells regions.
  Document bare = d;
  bare.survey.reset();
  EXPECT_FALSE(reading::region_reading(bare, d.dimensions.front()));
  EXPECT_EQ(reading::surest_reading(bare, d.dimensions.front())->value,
            *d.dimensions.front().reading);
}

TEST_F(RegionReading, WhatSectionAndRegionsDoNotAgreeOnIsNoCertainDecision) {
  Document d = dimensioned(*framed_);
  project::Dimension& row = d.dimensions.front();
  const auto proposed = [&] {
    const auto all = reading::propose_inks(d);
    return std::any_of(all.begin(), all.end(),
                       [&](const project::Proposal& p) { return p.dimension == row.id; });
  };
  EXPECT_TRUE(proposed());
  // A section that tells another size than the bore has: worn there, or tapered.
  row.reading = 16.5;
  EXPECT_FALSE(reading::surest_reading(d, row)->agree);
  EXPECT_EQ(reading::surest_reading(d, row)->value, 16.5);
  EXPECT_FALSE(proposed());
}

TEST(RegionReadingOfLeaning, ABoreThatLeansTellsNoSizeOfItsSection) {
  // The section of a bore that leans by 20 degrees is an ellipse; were it taken for a circle, the
  // region's diameter would be another thing. Square to the section it is told.
  for (const double degrees : {0.0, 20.0}) {
    testing::PartBuilder part;
    part.box({-30, -20}, {30, 20}, 0, 20);
    const double a = degrees * std::numbers::pi / 180;
    part.cross_hole(placement_on({0, 0, 10}, {std::sin(a), 0, std::cos(a)}), {0, 0}, 7);
    simulate::ScanOptions options;
    options.spacing = 0.8;
    options.noise = 0.01;
    options.seed = 29;
    const auto scan = simulate::simulate_scan(part.solid(), {}, options);
    ASSERT_TRUE(scan) << scan.error().message;
    const auto prepared = project::prepare_scan(scan->mesh, "block", "", Unit::Millimetre);
    ASSERT_TRUE(prepared);
    Document d = project::with_scan({}, *prepared);
    auto found = survey::split_into_regions(*d.scan->mesh, d.scan->topology, {});
    ASSERT_TRUE(found);
    d = project::with_survey(d, std::make_shared<const survey::Survey>(*std::move(found)));
    project::TracedSketch t;
    t.name = "cut";
    t.plane = project::DatumPlane::Free;
    const Transform& pose = scan->pose;
    t.base = {pose.translation(), pose.linear().col(0), pose.linear().col(1), pose.linear().col(2)};
    t.level = 10;
    t.tolerance = 0.08;
    t.sketch.add_constraint(sketch::ConstraintType::Radius,
                            t.sketch.add_circle(t.sketch.add_point({0, 0}), 7.1));
    const auto added = project::add_sketch(d, t);
    ASSERT_TRUE(added) << added.error().message;
    ASSERT_EQ(added->document.dimensions.size(), 1U);
    const auto whole = reading::region_reading(added->document, added->document.dimensions.front());
    EXPECT_EQ(whole.has_value(), degrees == 0) << degrees;
    if (whole) {
      EXPECT_NEAR(whole->value, 14, 1.5 * whole->u);
    }
  }
}

}  // namespace
}  // namespace lostline
