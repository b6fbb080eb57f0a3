#pragma once

#include <cstdint>
#include <optional>
#include <vector>

#include "reading/names.h"

namespace lostline::reading {

/// What whole regions of the survey say of a dimension that a sketch reads along one section.
struct RegionReading {
  double value = 0;  ///< mm or degrees, as the row states it
  double u = 0;      ///< expanded, k = 2
  std::vector<std::uint32_t> regions;
};

/// Of a radius or diameter the region that the curve's section runs through; of a distance or angle
/// between two lines, circles or centres those of both. Empty for a row that is no such dimension,
/// and where a curve rests on no region, or on one that is not square to the section as the
/// dimension takes it to be: the size of a leaning bore is another than that of its section.
std::optional<RegionReading> region_reading(const Document& document, const Dimension& row);

/// The reading that a decision rests on: the regions' where it is the surer one and agrees with the
/// section's, else the section's.
struct SurestReading {
  double value = 0;
  double u = 0;       ///< 0: unknown
  bool agree = true;  ///< section and regions, within their joint U
};
/// Empty for a row without a reading.
std::optional<SurestReading> surest_reading(const Document& document, const Dimension& row);

}  // namespace lostline::reading
