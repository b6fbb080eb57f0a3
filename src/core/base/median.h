#pragma once

#include <algorithm>
#include <vector>

namespace lostline {

/// The middle value, of an even count the upper of the two; 0 of none. O(n).
inline double median(std::vector<double> values) {
  if (values.empty()) return 0;
  const auto middle = values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2);
  std::nth_element(values.begin(), middle, values.end());
  return *middle;
}

}  // namespace lostline
