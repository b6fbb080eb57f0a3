#include "standards/nominals.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/text.h"
#include "standards/bearings.h"
#include "standards/drills.h"
#include "standards/limits.h"
#include "standards/threads.h"

namespace lostline::standards {
namespace {

struct Grid {
  double step;
  double share;  // how often designers choose it
  const char* name;
};

/// Last two figures of a bearing's name.
int bore_code(double bore) {
  return bore < 11 ? 0 : bore < 13 ? 1 : bore < 16 ? 2 : bore < 18 ? 3 : static_cast<int>(bore / 5);
}

double place(double value, double step) { return std::round(value / step) * step; }

/// Standard deviation by which making moves a value off its nominal, mm or degrees.
double scatter_of_making(double value, bool angle, Made made) {
  // Castings: a sixth of the tolerance of grade DCTG 8 (ISO 8062-3, from memory, smoothed); formed:
  // a third of ISO 2768-1 m; else about IT9 / 4 (common practice, no source).
  const double size = std::abs(value);
  switch (made) {
    case Made::Cast:
      return angle ? 0.25 : 0.15 + 0.02 * std::cbrt(size);
    case Made::Formed:
      return angle ? 0.3 : 0.06 + 0.01 * std::cbrt(size);
    default:
      return angle ? 0.05 : 0.01 + 0.002 * std::cbrt(size) + 0.0001 * size;
  }
}

}  // namespace

const std::vector<ClearanceHole>& clearance_holes() {
  // ISO 273:1979, table 1, series fine (H12), medium (H13), coarse (H14); typed from memory of the
  // table.
  static const std::vector<ClearanceHole> kTable{
      {"M1.6", 1.7, 1.8, 2.0},   {"M2", 2.2, 2.4, 2.6},     {"M2.5", 2.7, 2.9, 3.1},
      {"M3", 3.2, 3.4, 3.6},     {"M4", 4.3, 4.5, 4.8},     {"M5", 5.3, 5.5, 5.8},
      {"M6", 6.4, 6.6, 7.0},     {"M8", 8.4, 9.0, 10.0},    {"M10", 10.5, 11.0, 12.0},
      {"M12", 13.0, 13.5, 14.5}, {"M14", 15.0, 15.5, 16.5}, {"M16", 17.0, 17.5, 18.5},
      {"M18", 19.0, 20.0, 21.0}, {"M20", 21.0, 22.0, 24.0}, {"M22", 23.0, 24.0, 26.0},
      {"M24", 25.0, 26.0, 28.0}, {"M27", 28.0, 30.0, 32.0}, {"M30", 31.0, 33.0, 35.0},
      {"M36", 37.0, 39.0, 42.0}};
  return kTable;
}

std::vector<Nominal> nominals_near(double reading, double u, Quantity quantity, bool hole,
                                   std::size_t most, Made made) {
  std::vector<Nominal> found;
  if (!std::isfinite(reading)) return found;
  if (quantity == Quantity::Length && reading < 0) {  // a level below its datum
    found = nominals_near(-reading, u, quantity, hole, most, made);
    for (Nominal& n : found) n.value = n.value == 0 ? 0 : -n.value;
    return found;
  }
  const bool angle = quantity == Quantity::Angle;
  const char* unit = angle ? "\u00b0" : " mm";
  const bool cut = made == Made::Unknown || made == Made::Machined;
  const double sigma = std::hypot(std::max(u, 0.0) / 2, scatter_of_making(reading, angle, made));
  const double reach = 4 * sigma + (angle ? 0.25 : 0.1);
  const auto add = [&](double value, double share, const std::string& source) {
    const bool zero = value == 0 && quantity == Quantity::Length;
    if ((!(value > 0) && !zero) || std::abs(value - reading) > reach) return;
    const double off = (value - reading) / sigma;
    const double weight = share * std::exp(-0.5 * off * off);
    const double apart = std::abs(value - reading);
    std::string judged =
        u > 0 && apart <= u ? "within U" : fmt::format("{:.1f} \u00d7 U", u > 0 ? apart / u : 0.0);
    if (!(u > 0)) judged = "U unknown";
    if (apart > u && apart <= 2 * sigma && !cut)
      judged = made == Made::Cast ? "as far as castings go" : "as far as forming goes";
    const std::string reason =
        fmt::format("{}: {}{} off the reading, {}", source, format_trimmed(apart, 3), unit, judged);
    const auto same = std::find_if(found.begin(), found.end(), [&](const Nominal& n) {
      return std::abs(n.value - value) < 1e-9;
    });
    if (same == found.end()) {
      found.push_back({value, source, reason, {}, weight});
    } else {
      same->weight += weight;
      // The table that says most is shown.
      const auto says = [](const std::string& text) {
        return text.starts_with("ISO 273")     ? 3
               : text.starts_with("tap drill") ? 2
               : text.starts_with("ISO 3,")    ? 0
               : text.starts_with("ISO 15,")   ? 1
               : text.starts_with("ISO")       ? 2
                                               : 1;
      };
      // A bearing's seat or a draft may be meant, whatever else the value is.
      const std::size_t also = same->reason.find(", also ");
      if (also == std::string::npos && (source.starts_with("ISO 15,") || source == "common draft"))
        same->reason += ", also " + source;
      if (says(source) > says(same->source)) {
        same->source = source;
        same->reason = reason + (also == std::string::npos ? "" : same->reason.substr(also));
      }
    }
  };
  if (quantity == Quantity::Length) add(0, 0.6, "on the datum");
  for (const Grid& grid :
       {Grid{10, 0.15, "whole ten"}, Grid{5, 0.12, "whole five"}, Grid{1, 0.5, "whole"},
        Grid{0.5, cut ? 0.15 : 0.08, "half"}, Grid{0.1, cut ? 0.03 : 0.003, "tenth"}}) {
    const double value = place(reading, grid.step);
    if (value == 0) continue;
    // The name of the coarsest grid that the value lies on.
    const char* name = grid.step < 1 && std::abs(value - std::round(value)) < 1e-9 ? "whole"
                       : grid.step > 1                                             ? "whole"
                                                                                   : grid.name;
    add(value, grid.share, name);
  }
  if (angle) {
    for (const double a : {15.0, 22.5, 30.0, 45.0, 60.0, 75.0, 90.0, 120.0})
      add(a, 0.4, "common angle");
    // Of castings and mouldings (common practice, no source).
    for (const double a : {0.5, 1.0, 1.5, 2.0, 3.0, 5.0, 7.0}) add(a, 0.3, "common draft");
  } else {
    // A preferred number says more the coarser its series; below a millimetre it says nothing.
    const PreferredNumber preferred = preferred_near(reading);
    if (preferred.value >= 1)
      add(preferred.value,
          preferred.series == 5    ? 0.08
          : preferred.series == 10 ? 0.06
          : preferred.series == 20 ? 0.03
                                   : 0.01,
          fmt::format("ISO 3, R{}", preferred.series));
    const int sixty_fourths = static_cast<int>(std::lround(reading / 25.4 * 64));
    for (int n = sixty_fourths - 1; n <= sixty_fourths + 1; ++n) {
      if (n <= 0 || (!cut && n % 4 != 0)) continue;  // no finer than a sixteenth as cast
      const double share = n % 16 == 0 ? 0.05 : n % 4 == 0 ? 0.02 : n % 2 == 0 ? 0.008 : 0.003;
      add(n * 25.4 / 64, share, inch_fraction_name(n));
    }
  }
  if (quantity == Quantity::Diameter && cut) {
    // A seat: of the bore on a shaft, of the outside in a housing.
    for (const Bearing& b : bearings())
      add(hole ? b.outside : b.bore, 0.03,
          fmt::format("ISO 15, bearing {}{:02d} {}", b.series, bore_code(b.bore),
                      hole ? "outside" : "bore"));
  }
  if (quantity == Quantity::Diameter && !hole && cut) {
    for (const Thread& t : metric_threads()) {
      if (t.coarse) add(t.diameter, 0.03, fmt::format("ISO 261, {}", t.name()));
    }
  }
  if (quantity == Quantity::Diameter && hole && cut) {
    for (const double d : common_drills()) add(d, 0.06, "drill");
    for (const InchDrill& d : inch_drills())
      add(d.inches * 25.4, 0.004, fmt::format("inch drill {}", d.name));
    for (const Thread& t : metric_threads()) {
      add(t.tap_drill(), t.coarse ? 0.1 : 0.02, fmt::format("tap drill {}", t.name()));
      add(std::round(t.minor_diameter() * 1000) / 1000, t.coarse ? 0.05 : 0.01,
          fmt::format("ISO 724, {} minor diameter", t.name()));
    }
    for (const ClearanceHole& c : clearance_holes()) {
      add(c.fine, 0.08, fmt::format("ISO 273, {} fine", c.thread));
      add(c.medium, 0.25, fmt::format("ISO 273, {} medium", c.thread));
      add(c.coarse, 0.08, fmt::format("ISO 273, {} coarse", c.thread));
    }
  }
  std::stable_sort(found.begin(), found.end(),
                   [](const Nominal& a, const Nominal& b) { return a.weight > b.weight; });
  if (found.size() > most) found.resize(most);
  // For a diameter: the tightest class in common use that holds the reading.
  if (quantity == Quantity::Diameter && u > 0 && cut) {
    for (Nominal& n : found) {
      const auto classes = classes_holding(n.value, reading, u, hole);
      if (classes.empty()) continue;
      n.reason += ", would be " + classes.front().name;
      n.fit = classes.front().name + ": " + fits_in_words(n.value, classes.front());
    }
  }
  return found;
}

}  // namespace lostline::standards
