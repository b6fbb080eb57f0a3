#include <algorithm>
#include <cmath>

#include "deviation/deviation.h"

namespace lostline::deviation {

Statistics statistics(const Map& map, double tolerance) {
  Statistics s;
  double sum = 0;
  double squares = 0;
  std::size_t within = 0;
  std::vector<float> sizes;
  sizes.reserve(map.value.size());
  for (std::size_t i = 0; i < map.value.size(); ++i) {
    const double v = map.value[i];
    if (!std::isfinite(v)) {
      ++s.unmatched;
      continue;
    }
    if (s.n == 0 || v > s.max) {
      s.max = v;
      s.max_at = i;
    }
    if (s.n == 0 || v < s.min) {
      s.min = v;
      s.min_at = i;
    }
    ++s.n;
    sum += v;
    squares += v * v;
    within += std::abs(v) <= tolerance ? 1 : 0;
    sizes.push_back(static_cast<float>(std::abs(v)));
  }
  if (s.n == 0) return s;
  const double n = static_cast<double>(s.n);
  s.mean = sum / n;
  s.rms = std::sqrt(squares / n);
  s.sd = std::sqrt(std::max(0.0, squares / n - s.mean * s.mean));
  s.within_fraction = static_cast<double>(within) / n;
  const auto p95 =
      sizes.begin() + static_cast<std::ptrdiff_t>(0.95 * static_cast<double>(sizes.size() - 1));
  std::nth_element(sizes.begin(), p95, sizes.end());
  s.p95_abs = *p95;
  return s;
}

Histogram histogram(const Map& map, double low, double high, std::size_t bins) {
  Histogram h{low, high, std::vector<std::size_t>(bins, 0)};
  for (const float v : map.value) {
    if (!std::isfinite(v)) continue;
    const double share = (v - low) / (high - low);
    const auto bin = static_cast<std::ptrdiff_t>(std::floor(share * static_cast<double>(bins)));
    ++h.counts[static_cast<std::size_t>(
        std::clamp<std::ptrdiff_t>(bin, 0, static_cast<std::ptrdiff_t>(bins) - 1))];
  }
  return h;
}

}  // namespace lostline::deviation
