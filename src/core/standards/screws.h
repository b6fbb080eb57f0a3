#pragma once

#include <vector>

namespace lostline::standards {

/// What a metric screw wants of the part it goes through, mm.
struct ScrewSeat {
  const char* thread;
  double clearance;          ///< hole, medium row of ISO 273:1979
  double counterbore;        ///< diameter for a socket head screw (ISO 4762), DIN 974-1 row 1
  double counterbore_depth;  ///< for its head to lie below the surface, DIN 974-1
  double countersink;        ///< diameter for a countersunk head, ISO 15065:2005; 0: none
};
/// M3 to M24. Counterbores and countersinks are values from memory of the standards named; the
/// clearance holes are those of `clearance_holes`.
const std::vector<ScrewSeat>& screw_seats();

/// The whole angle of a countersink for metric screws, degrees. Source: ISO 15065:2005, from
/// memory.
constexpr double kCountersinkAngle = 90;

}  // namespace lostline::standards
