// Tables of standards against their own formulas, a second route to every value.
#include <gtest/gtest.h>

#include <cmath>

#include "standards/bearings.h"
#include "standards/drills.h"
#include "standards/limits.h"
#include "standards/nominals.h"
#include "standards/threads.h"

namespace lostline::standards {
namespace {

constexpr double kEnds[] = {3, 6, 10, 18, 30, 50, 80, 120, 180, 250, 315, 400, 500};

/// Geometric mean of a step of nominal sizes, ISO 286-1:2010, annex A.
double mean_of_step(std::size_t step) {
  return std::sqrt((step == 0 ? 1.0 : kEnds[step - 1]) * kEnds[step]);
}

TEST(Limits, StandardTolerancesFollowTheToleranceUnit) {
  // ISO 286-1: i = 0.45 cbrt(D) + 0.001 D micrometres; IT6 = 10 i, IT7 = 16 i, then 25, 40, 64,
  // 100, 160, 250 i; the table rounds.
  const double units[] = {10, 16, 25, 40, 64, 100, 160, 250};
  for (std::size_t step = 0; step < 13; ++step) {
    const double d = mean_of_step(step);
    const double i = 0.45 * std::cbrt(d) + 0.001 * d;
    for (int grade = 6; grade <= 13; ++grade) {
      const double wanted = units[grade - 6] * i;
      const double got = *standard_tolerance(kEnds[step], grade) * 1000;
      // Up to 3 mm the standard rounds up to the values of the next step's pattern.
      const double slack = step == 0 ? 0.16 : 0.06;
      EXPECT_NEAR(got, wanted, std::max(1.0, slack * wanted))
          << "IT" << grade << " " << kEnds[step];
    }
  }
  EXPECT_FALSE(standard_tolerance(501, 7));
  EXPECT_FALSE(standard_tolerance(0, 7));
  EXPECT_FALSE(standard_tolerance(10, 14));
}

TEST(Limits, FundamentalDeviationsFollowTheirFormulas) {
  // ISO 286-1:2010, annex A: d 16 D^0.44, e 11 D^0.41, f 5.5 D^0.41, g 2.5 D^0.34 above the shaft;
  // n 5 D^0.34 below it; m IT7 - IT6.
  for (std::size_t step = 0; step < 13; ++step) {
    const double d = mean_of_step(step);
    const double size = kEnds[step];
    const auto upper = [&](const char* name) { return limits_of(size, name)->upper * 1000; };
    const auto lower = [&](const char* name) { return limits_of(size, name)->lower * 1000; };
    EXPECT_NEAR(upper("d9"), -16 * std::pow(d, 0.44), 0.05 * 16 * std::pow(d, 0.44) + 1);
    EXPECT_NEAR(upper("e8"), -11 * std::pow(d, 0.41), 0.05 * 11 * std::pow(d, 0.41) + 1);
    EXPECT_NEAR(upper("f7"), -5.5 * std::pow(d, 0.41), 0.05 * 5.5 * std::pow(d, 0.41) + 1);
    EXPECT_NEAR(upper("g6"), -2.5 * std::pow(d, 0.34), 1.6);
    EXPECT_NEAR(lower("n6"), 5 * std::pow(d, 0.34), 0.06 * 5 * std::pow(d, 0.34) + 2.4);
    EXPECT_NEAR(lower("m6"), 1000 * (*standard_tolerance(size, 7) - *standard_tolerance(size, 6)),
                2.1);
    // Letters follow each other outwards without a gap.
    EXPECT_LT(upper("d9"), upper("e8"));
    EXPECT_LT(upper("e8"), upper("f7"));
    EXPECT_LT(upper("f7"), upper("g6"));
    EXPECT_LE(lower("k6"), lower("m6"));
    EXPECT_LT(lower("m6"), lower("n6"));
    EXPECT_LT(lower("n6"), lower("p6"));
    EXPECT_LT(lower("p6"), lower("r6"));
    EXPECT_LT(lower("r6"), lower("s6"));
    // r lies midway (geometrically) between p and s, up to 50 mm.
    if (size <= 50) {
      EXPECT_NEAR(lower("r6"), std::sqrt(lower("p6") * lower("s6")), 3.1);
    }
  }
}

TEST(Limits, WorkedExamplesOfThePublishedTables) {
  // Values as printed in common extracts of ISO 286-2, from memory.
  const auto expect = [](double size, const char* name, double upper, double lower) {
    const auto limits = limits_of(size, name);
    ASSERT_TRUE(limits) << name;
    EXPECT_NEAR(limits->upper * 1000, upper, 1e-6) << size << name;
    EXPECT_NEAR(limits->lower * 1000, lower, 1e-6) << size << name;
  };
  expect(25, "H7", 21, 0);
  expect(25, "g6", -7, -20);
  expect(25, "k6", 15, 2);
  expect(25, "P7", -14, -35);
  expect(25, "N7", -7, -28);
  expect(25, "K7", 6, -15);
  expect(40, "f7", -25, -50);
  expect(40, "JS7", 12.5, -12.5);
  expect(100, "H8", 54, 0);
  expect(100, "s6", 93, 71);
  expect(62, "H7", 30, 0);
  expect(62, "S7", -42, -72);
  EXPECT_FALSE(limits_of(25, "H"));
  EXPECT_FALSE(limits_of(25, "7"));
  EXPECT_FALSE(limits_of(25, "Q7"));
  EXPECT_FALSE(limits_of(600, "H7"));
  EXPECT_FALSE(limits_of(25, "H7x"));
}

TEST(Limits, TheFitIsNamedByItsClearances) {
  const auto h7 = *limits_of(25, "H7");
  EXPECT_STREQ(fit_of_sizes(h7, *limits_of(25, "g6")).kind, "clearance fit");
  EXPECT_STREQ(fit_of_sizes(h7, *limits_of(25, "k6")).kind, "transition fit");
  EXPECT_STREQ(fit_of_sizes(h7, *limits_of(25, "s6")).kind, "interference fit");
  EXPECT_NEAR(fit_of_sizes(h7, *limits_of(25, "g6")).least, 0.007, 1e-9);
  const auto classes = classes_holding(42, 42.012, 0.002, true);
  ASSERT_FALSE(classes.empty());
  EXPECT_EQ(classes.front().name, "H6");
  EXPECT_TRUE(classes_holding(42, 43, 0.002, true).empty());
}

TEST(Limits, AClassSaysWhatFitItMakes) {
  EXPECT_EQ(fits_in_words(25, *limits_of(25, "H7")),
            "clearance fit with g6, transition fit with k6, interference fit with p6");
  EXPECT_EQ(fits_in_words(25, *limits_of(25, "g6")), "clearance fit in H7");
  EXPECT_EQ(fits_in_words(25, *limits_of(25, "p6")), "interference fit in H7");
  EXPECT_EQ(fits_in_words(25, *limits_of(25, "n6")), "transition fit in H7");
  EXPECT_EQ(fits_in_words(25, *limits_of(25, "F8")), "clearance fit with h6");
  EXPECT_EQ(fits_in_words(25, *limits_of(25, "P7")), "interference fit with h6");
  const auto bore = nominals_near(25.01, 0.004, Quantity::Diameter, true);
  ASSERT_FALSE(bore.empty());
  EXPECT_NE(bore[0].fit.find("clearance fit with g6"), std::string::npos) << bore[0].fit;
}

TEST(Nominals, FollowHowTheSurfaceWasMade) {
  // A cast boss is coarser than its reading's U tells, and no seat.
  const auto as = [](Made made) {
    return nominals_near(46.86, 0.01, Quantity::Diameter, false, 6, made);
  };
  EXPECT_DOUBLE_EQ(as(Made::Machined)[0].value, 46.9);
  EXPECT_DOUBLE_EQ(as(Made::Cast)[0].value, 47);
  EXPECT_NE(as(Made::Cast)[0].reason.find("castings"), std::string::npos);
  for (const Nominal& n : as(Made::Cast)) {
    EXPECT_EQ(n.reason.find("ISO 15"), std::string::npos) << n.reason;
    EXPECT_EQ(n.fit, "");
  }
  for (const Nominal& n : nominals_near(8.45, 0.02, Quantity::Diameter, true, 8, Made::Formed)) {
    EXPECT_EQ(n.reason.find("drill"), std::string::npos) << n.reason;
    EXPECT_EQ(n.reason.find("ISO 273"), std::string::npos) << n.reason;
  }
  for (const Nominal& n : nominals_near(4.023, 0.02, Quantity::Radius, false, 8, Made::Cast)) {
    EXPECT_EQ(n.source.find("/64 in"), std::string::npos) << n.source;
    EXPECT_EQ(n.source.find("/32 in"), std::string::npos) << n.source;
  }
  // Unknown is as machined.
  EXPECT_DOUBLE_EQ(as(Made::Unknown)[0].value, as(Made::Machined)[0].value);
}

TEST(GeneralTolerances, GrowWithSizeAndClass) {
  EXPECT_DOUBLE_EQ(*general_length(50, GeneralClass::Medium), 0.3);
  EXPECT_DOUBLE_EQ(*general_radius(4, GeneralClass::Medium), 0.5);
  EXPECT_NEAR(*general_angle(60, GeneralClass::Medium), 20 / 60.0, 1e-12);
  EXPECT_FALSE(general_length(2, GeneralClass::VeryCoarse));
  EXPECT_FALSE(general_length(0.3, GeneralClass::Fine));
  double before = 0;
  for (const double size : {1.0, 4.0, 20.0, 100.0, 300.0, 800.0, 1500.0}) {
    const double fine = *general_length(size, GeneralClass::Fine);
    EXPECT_GE(fine, before);
    EXPECT_GT(*general_length(size, GeneralClass::Coarse), fine);
    before = fine;
  }
  EXPECT_STREQ(class_letter(GeneralClass::Medium), "m");
}

TEST(Threads, MinorDiameterAndTapDrillFollowThePitch) {
  for (const Thread& t : metric_threads()) {
    // ISO 724: H = sqrt(3)/2 P, D1 = d - 2 * 5/8 H.
    EXPECT_NEAR(t.minor_diameter(), t.diameter - 2 * 0.625 * std::sqrt(3.0) / 2 * t.pitch, 2e-6);
    EXPECT_GT(t.tap_drill(), t.minor_diameter() - 0.06);
    EXPECT_LT(t.tap_drill(), t.diameter);
  }
  const auto m8 = std::find_if(metric_threads().begin(), metric_threads().end(),
                               [](const Thread& t) { return t.name() == "M8"; });
  ASSERT_NE(m8, metric_threads().end());
  EXPECT_DOUBLE_EQ(m8->pitch, 1.25);
  EXPECT_DOUBLE_EQ(m8->tap_drill(), 6.75);
}

TEST(Drills, NumbersAndLettersFallInOrder) {
  const auto& drills = inch_drills();
  ASSERT_EQ(drills.size(), 86U);
  for (std::size_t i = 1; i < 60; ++i) EXPECT_LT(drills[i].inches, drills[i - 1].inches);
  for (std::size_t i = 61; i < 86; ++i) EXPECT_GT(drills[i].inches, drills[i - 1].inches);
  EXPECT_LT(drills[0].inches, drills[60].inches);  // #1 is smaller than A
  EXPECT_DOUBLE_EQ(drills[64].inches, 0.25);       // E is a quarter inch
  EXPECT_EQ(inch_fraction_name(24), "3/8 in");
  EXPECT_EQ(inch_fraction_name(80), "1 1/4 in");
  EXPECT_EQ(inch_fraction_name(128), "2 in");
}

TEST(PreferredNumbers, AreTheRoundedPowersOfTheirSeries) {
  for (int k = 0; k < 40; ++k) {
    const double exact = std::pow(10.0, k / 40.0);
    const PreferredNumber p = preferred_near(exact);
    EXPECT_NEAR(p.value, exact, 0.0127 * exact);  // ISO 3 rounds by at most 1.26 %
    EXPECT_EQ(p.series, k % 8 == 0 ? 5 : k % 4 == 0 ? 10 : k % 2 == 0 ? 20 : 40);
  }
  EXPECT_DOUBLE_EQ(preferred_near(63.2).value, 63);
  EXPECT_DOUBLE_EQ(preferred_near(0.251).value, 0.25);
  EXPECT_DOUBLE_EQ(preferred_near(-1).value, 0);
}

TEST(NominalsNear, TapDrillsInchesAndClassesAreOffered) {
  const auto tapped = nominals_near(6.752, 0.01, Quantity::Diameter, true);
  ASSERT_FALSE(tapped.empty());
  EXPECT_DOUBLE_EQ(tapped[0].value, 6.75);
  EXPECT_NE(tapped[0].reason.find("tap drill M8"), std::string::npos) << tapped[0].reason;
  bool inch = false;
  for (const auto& n : nominals_near(9.524, 0.002, Quantity::Length))
    inch = inch || n.source == "3/8 in";
  EXPECT_TRUE(inch);
  const auto bore = nominals_near(42.012, 0.004, Quantity::Diameter, true);
  EXPECT_DOUBLE_EQ(bore[0].value, 42);
  EXPECT_NE(bore[0].reason.find("would be H"), std::string::npos) << bore[0].reason;
  EXPECT_DOUBLE_EQ(nominals_near(44.97, 0.1, Quantity::Angle)[0].value, 45);
  // Levels lie on the datum, or below it.
  EXPECT_DOUBLE_EQ(nominals_near(0.002, 0.005, Quantity::Length)[0].value, 0);
  EXPECT_DOUBLE_EQ(nominals_near(-0.003, 0.005, Quantity::Length)[0].value, 0);
  EXPECT_DOUBLE_EQ(nominals_near(-5.002, 0.004, Quantity::Length)[0].value, -5);
  for (const auto& n : nominals_near(0.3, 0.01, Quantity::Diameter)) EXPECT_GT(n.value, 0);
}

TEST(Nominals, BearingSeatsAndDraftsAreOfferedWithTheirName) {
  // 6204 is 20 x 47, 6205 is 25 x 52 (ISO 15, from memory).
  const auto offers = [](double reading, Quantity quantity, bool hole, const char* what) {
    for (const Nominal& n : nominals_near(reading, 0.01, quantity, hole, 12)) {
      if (n.source.find(what) != std::string::npos || n.reason.find(what) != std::string::npos)
        return n.value;
    }
    return 0.0;
  };
  EXPECT_EQ(offers(47.008, Quantity::Diameter, true, "ISO 15, bearing"), 47);
  EXPECT_EQ(offers(25.004, Quantity::Diameter, false, "ISO 15"), 25);
  EXPECT_EQ(offers(1.49, Quantity::Angle, false, "draft"), 1.5);
  const auto& table = bearings();
  for (const Bearing& b : table) EXPECT_GT(b.outside, b.bore + 12);
  // Within a series the outside grows with the bore; within a bore with the series.
  for (std::size_t i = 3; i < table.size(); ++i) EXPECT_GT(table[i].outside, table[i - 3].outside);
  for (std::size_t i = 0; i < table.size(); i += 3) {
    EXPECT_LT(table[i].outside, table[i + 1].outside);
    EXPECT_LT(table[i + 1].outside, table[i + 2].outside);
  }
}

}  // namespace
}  // namespace lostline::standards
