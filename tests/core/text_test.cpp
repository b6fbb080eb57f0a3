// Numbers as text: what is shown is what is known, and comes back as the number it was.
#include "base/text.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <random>
#include <string>

namespace lostline {
namespace {

/// A number back from how it was shown.
double number_of(std::string text) {
  const std::string minus = "\u2212";
  if (const auto at = text.find(minus); at != std::string::npos)
    text.replace(at, minus.size(), "-");
  return std::stod(text);
}

TEST(Text, UIsShownByOneOrTwoDigitsAndNeverAsNothing) {
  // JCGM 100:2008 (GUM), 7.2.6: at most two significant digits.
  std::mt19937_64 random(1);
  std::uniform_real_distribution<double> exponent(-5, 1);
  for (int k = 0; k < 5000; ++k) {
    const double u = std::pow(10, exponent(random));
    const int decimals = decimals_for_uncertainty(u);
    const double shown = number_of(format_fixed(u, decimals));
    EXPECT_GT(shown, 0) << u;
    EXPECT_LE(std::abs(shown - u), 0.25 * u) << u;
    const double last = std::pow(10, -decimals);
    EXPECT_GE(u, 0.9 * last) << u;
    EXPECT_LE(std::round(shown / last), 19) << u << " has a third digit";
    // The value is rounded to the same place: by less than the uncertainty.
    const double value = 41.123456789 + u;
    EXPECT_LE(std::abs(number_of(format_fixed(value, decimals)) - value), 0.51 * last);
  }
  for (const double none : {0.0, -1.0, std::nan(""), std::numeric_limits<double>::infinity()})
    EXPECT_EQ(decimals_for_uncertainty(none, 4), 4);
}

TEST(Text, ATrimmedNumberIsTheSameNumber) {
  std::mt19937_64 random(2);
  std::uniform_real_distribution<double> anything(-2000, 2000);
  for (int k = 0; k < 2000; ++k) {
    const double value = anything(random);
    for (const int decimals : {0, 1, 3, 4}) {
      const std::string text = format_trimmed(value, decimals);
      EXPECT_NEAR(number_of(text), value, 0.5001 * std::pow(10, -decimals)) << text;
      EXPECT_NE(text.back(), '.');
      if (text.find('.') != std::string::npos) {
        EXPECT_NE(text.back(), '0');
      }
    }
  }
  EXPECT_EQ(format_trimmed(-0.00001), "0");
  EXPECT_EQ(format_trimmed(100), "100");
}

TEST(Text, CountsAreParted) {
  for (const std::uint64_t count :
       {0ULL, 7ULL, 999ULL, 1000ULL, 12345ULL, 1234567ULL, 9876543210ULL}) {
    std::string text = format_count(count);
    const std::string thin = "\u2009";
    std::size_t parts = 1;
    for (auto at = text.find(thin); at != std::string::npos; at = text.find(thin)) {
      text.erase(at, thin.size());
      ++parts;
    }
    EXPECT_EQ(text, std::to_string(count));
    EXPECT_EQ(parts, (text.size() + 2) / 3);
  }
}

TEST(Text, UnitsAreThoseOfTheStandards) {
  // The inch is 25.4 mm exactly (international yard and pound agreement, 1959).
  EXPECT_EQ(mm_per(Unit::Inch), 25.4);
  EXPECT_EQ(mm_per(Unit::Metre), 100 * mm_per(Unit::Centimetre));
  for (const Unit unit : {Unit::Millimetre, Unit::Centimetre, Unit::Inch, Unit::Metre})
    EXPECT_STRNE(unit_symbol(unit), "");
}

}  // namespace
}  // namespace lostline
