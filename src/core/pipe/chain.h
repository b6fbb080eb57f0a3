#pragma once

#include <Eigen/Core>

#include "pipe/march.h"

// Inside of the centre line: corners with bend radii, and how they are found from stations.

namespace lostline::pipe {

/// A chain of corners: straight from the first to the last, bent at each one between.
struct Chain {
  std::vector<Vec3> corners;       ///< with both ends
  std::vector<std::size_t> group;  ///< of each inner corner, its radius below
  std::vector<double> bends;       ///< mm; 0: a mitre
  double radius = 0;               ///< of the pipe

  /// All its pieces in order; straight ones between bends that leave no room have no length.
  [[nodiscard]] std::vector<Piece> pieces() const;
};

/// The fewest straight pieces and bends that explain the stations.
/// @param sigma  mm: how well a station lies on the centre line.
Chain chain_of(const std::vector<Station>& stations, double radius, double sigma);

/// A chain settled on the points of the pipe.
struct SettledChain {
  Chain chain;
  std::vector<std::uint32_t> points;  ///< used
  std::vector<std::size_t> piece;     ///< of each, on which piece its foot lies
  double rms = 0, greatest = 0;
  double cost = 0;      ///< robust sum of squares, mm2
  double variance = 0;  ///< mm2: of one point, times how many points weigh as one
  double u_radius = 0;
  std::vector<double> u_bends;
  int rounds = 0;
  bool settled = false;
};
Result<SettledChain> settle_chain(const Evidence& evidence, const Chain& start,
                                  const std::vector<std::uint32_t>& points, const Task& task);

}  // namespace lostline::pipe
