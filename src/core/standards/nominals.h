#pragma once

#include <string>
#include <vector>

namespace lostline::standards {

/// What a value measures: decides which tables apply.
enum class Quantity { Length, Diameter, Radius, Angle };

/// How the surfaces that a value lies between were made: decides how far they may be off, and
/// whether tools and seats are likely.
enum class Made { Unknown, Machined, Cast, Formed };

/// A standard value near a reading.
struct Nominal {
  double value = 0;    ///< mm, or degrees for an angle
  std::string source;  ///< "whole", "ISO 273, M12 medium"
  std::string reason;  ///< one line: why it is offered and how far off the reading it is
  std::string fit;     ///< of a diameter, the class in use that holds it and its fits in words
  double weight = 0;   ///< relative plausibility, the list is sorted by it
};

/// Values near a reading, most plausible first.
///
/// The weight is the likelihood of the reading given the nominal (normal, standard deviation U / 2
/// widened by what making the part adds), times how often designers choose such a value. The prior
/// shares are common practice, no source. A cast or formed surface may be further off its nominal,
/// and no drill, seat or thread made it.
/// @param hole   whether a diameter is that of a hole, so that drills and clearance holes apply.
/// @param u      expanded uncertainty (k = 2) of the reading, mm or degrees; 0 if unknown.
std::vector<Nominal> nominals_near(double reading, double u, Quantity quantity, bool hole = false,
                                   std::size_t most = 6, Made made = Made::Unknown);

/// A clearance hole for a bolt. Source: ISO 273:1979, table 1.
struct ClearanceHole {
  const char* thread;
  double fine, medium, coarse;  ///< hole diameters, mm
};
const std::vector<ClearanceHole>& clearance_holes();

}  // namespace lostline::standards
