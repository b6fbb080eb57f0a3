#include "standards/drills.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>

namespace lostline::standards {

const std::vector<double>& common_drills() {
  static const std::vector<double> kDrills = [] {
    std::vector<double> d;
    for (int i = 10; i <= 100; ++i) d.push_back(i / 10.0);
    for (const double extra : {3.25, 4.25, 6.75, 8.75}) d.push_back(extra);
    for (int i = 21; i <= 50; ++i) d.push_back(i / 2.0);
    for (const double extra : {10.2, 12.2, 10.8}) d.push_back(extra);
    for (int i = 26; i <= 50; ++i) d.push_back(i);
    std::sort(d.begin(), d.end());
    return d;
  }();
  return kDrills;
}

const std::vector<InchDrill>& inch_drills() {
  static const std::vector<InchDrill> kTable = [] {
    // Ten-thousandths of an inch, number 1 to 60, then A to Z.
    constexpr std::array<int, 60> kNumbers{
        2280, 2210, 2130, 2090, 2055, 2040, 2010, 1990, 1960, 1935, 1910, 1890, 1850, 1820, 1800,
        1770, 1730, 1695, 1660, 1610, 1590, 1570, 1540, 1520, 1495, 1470, 1440, 1405, 1360, 1285,
        1200, 1160, 1130, 1110, 1100, 1065, 1040, 1015, 995,  980,  960,  935,  890,  860,  820,
        810,  785,  760,  730,  700,  670,  635,  595,  550,  520,  465,  430,  420,  410,  400};
    constexpr std::array<int, 26> kLetters{2340, 2380, 2420, 2460, 2500, 2570, 2610, 2660, 2720,
                                           2770, 2810, 2900, 2950, 3020, 3160, 3230, 3320, 3390,
                                           3480, 3580, 3680, 3770, 3860, 3970, 4040, 4130};
    std::vector<InchDrill> drills;
    for (std::size_t i = 0; i < kNumbers.size(); ++i)
      drills.push_back({"#" + std::to_string(i + 1), kNumbers[i] / 10000.0});
    for (std::size_t i = 0; i < kLetters.size(); ++i)
      drills.push_back({std::string("letter ") + static_cast<char>('A' + static_cast<char>(i)),
                        kLetters[i] / 10000.0});
    return drills;
  }();
  return kTable;
}

std::string inch_fraction_name(int sixty_fourths) {
  const int whole = sixty_fourths / 64;
  int numerator = sixty_fourths % 64;
  int denominator = 64;
  std::string text = whole > 0 ? std::to_string(whole) : "";
  if (numerator > 0) {
    const int common = std::gcd(numerator, denominator);
    numerator /= common;
    denominator /= common;
    text +=
        (text.empty() ? "" : " ") + std::to_string(numerator) + "/" + std::to_string(denominator);
  }
  return text + " in";
}

PreferredNumber preferred_near(double value) {
  // ISO 3:1973, table 1, series R40 of one decade.
  constexpr std::array<double, 40> kR40{1.00, 1.06, 1.12, 1.18, 1.25, 1.32, 1.40, 1.50, 1.60, 1.70,
                                        1.80, 1.90, 2.00, 2.12, 2.24, 2.36, 2.50, 2.65, 2.80, 3.00,
                                        3.15, 3.35, 3.55, 3.75, 4.00, 4.25, 4.50, 4.75, 5.00, 5.30,
                                        5.60, 6.00, 6.30, 6.70, 7.10, 7.50, 8.00, 8.50, 9.00, 9.50};
  PreferredNumber best;
  if (!(value > 0) || !std::isfinite(value)) return best;
  const double decade = std::pow(10.0, std::floor(std::log10(value)));
  double nearest = 1e300;
  for (const double scale : {decade, 10 * decade}) {
    for (std::size_t i = 0; i < kR40.size(); ++i) {
      const double candidate = kR40[i] * scale;
      if (std::abs(candidate - value) >= nearest) continue;
      nearest = std::abs(candidate - value);
      best = {candidate, i % 8 == 0 ? 5 : i % 4 == 0 ? 10 : i % 2 == 0 ? 20 : 40};
    }
  }
  return best;
}

}  // namespace lostline::standards
