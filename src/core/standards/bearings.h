#pragma once

#include <vector>

namespace lostline::standards {

/// Boundary dimensions of a radial ball bearing: what fits on the shaft and into the housing, mm.
struct Bearing {
  int series;  ///< 60, 62, 63
  double bore, outside;
};
/// Dimension series 10, 02 and 03 (bearings 60.., 62.., 63..), bores 10 to 100. Source: ISO
/// 15:2017, from memory.
const std::vector<Bearing>& bearings();

}  // namespace lostline::standards
