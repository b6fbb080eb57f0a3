#include "fit/uncertainty.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace lostline::fit {
namespace {

// Quantiles of chi-squared at 95.45 % for 1, 2 and 3 degrees of freedom.
constexpr std::array kQuantile{4.0, 6.1801, 8.0249};

}  // namespace

double coverage_factor(int dimensions) {
  return std::sqrt(kQuantile[static_cast<std::size_t>(std::clamp(dimensions, 1, 3) - 1)]);
}

double expanded_length(const Eigen::Ref<const Eigen::MatrixXd>& covariance) {
  const double trace = covariance.trace();
  if (!(trace > 0)) return 0;
  const double squares = covariance.squaredNorm();  // sum of the squared eigenvalues
  const double freedoms = std::clamp(trace * trace / squares, 1.0, 3.0);
  const auto whole = static_cast<std::size_t>(freedoms);
  const double rest = freedoms - static_cast<double>(whole);
  const double next = kQuantile[std::min<std::size_t>(whole, 2)];
  const double quantile = kQuantile[whole - 1] * (1 - rest) + next * rest;
  return std::sqrt(squares / trace * quantile);
}

}  // namespace lostline::fit
