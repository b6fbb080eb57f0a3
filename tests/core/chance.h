#pragma once

#include <cmath>
#include <numbers>
#include <random>
#include <vector>

#include "base/geometry.h"

// Sizes at random, as a shop would choose them.

namespace lostline::testing {

class Chance {
 public:
  explicit Chance(unsigned seed) : random_(seed) {}

 protected:
  double between(double low, double high) {
    return std::uniform_real_distribution<double>(low, high)(random_);
  }
  /// On a grid of half millimetres, as most sizes are.
  double size(double low, double high) { return std::round(2 * between(low, high)) / 2; }
  int count(int low, int high) { return std::uniform_int_distribution<int>(low, high)(random_); }
  bool chance(double share) { return between(0, 1) < share; }

  static std::vector<Vec2> circle(int n, double radius, double start) {
    std::vector<Vec2> centres;
    for (int k = 0; k < n; ++k) {
      const double a = start + 2 * std::numbers::pi * k / n;
      centres.emplace_back(radius * std::cos(a), radius * std::sin(a));
    }
    return centres;
  }

 private:
  std::mt19937 random_;
};

}  // namespace lostline::testing
