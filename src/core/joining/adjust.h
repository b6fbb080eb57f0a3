#pragma once

#include "joining/piece.h"
#include "joining/shared_place.h"

namespace lostline::joining {

struct AdjustOptions {
  double search = 0;  ///< mm, of the first rounds
  int most_rounds = 60;
  /// Of the samples each so many-th point is taken until little moves; then all, unless few do.
  std::size_t stride = 6;
  bool few_do = false;
  /// Whether two pieces are compared.
  std::vector<std::vector<char>> linked;
  /// What the engineer says; they decide where surfaces hold nothing.
  std::vector<SharedPlace> places;
};

struct Adjusted {
  std::vector<Transform> poses;
  std::vector<double> u_shift, u_turn;       ///< expanded; of each piece, at its centre
  std::vector<std::vector<double>> rms;      ///< of each ordered pair, mm; 0: no points
  std::vector<std::vector<double>> overlap;  ///< share of the first's sample on the second
  double all_rms = 0;
  int rounds = 0;
  bool settled = false;
  std::vector<std::size_t> loose;  ///< pieces whose pose the overlaps do not hold
};

/// All poses at once, by robust least squares of the distances of every piece's points along the
/// normals of every other; the first stays. Points count by the noise of both pieces and by the
/// angle under which they were seen; the scatter of each pair is estimated anew in each round.
/// Source: Y. Chen and G. Medioni, Image Vision Comput. 10 (1992), for distances along normals;
/// K. Pulli, Multiview registration for large data sets, 3DIM 1999, and S. Krishnan et al.,
/// Optimisation on a manifold for global registration (2007), for all at once. Covariance by
/// clusters of neighbours that share noise (A. Cameron and D. Miller, J. Human Resources 50
/// (2015)).
Result<Adjusted> adjust(const std::vector<const Piece*>& pieces,
                        const std::vector<Transform>& start, const AdjustOptions& options,
                        const Task& task);

}  // namespace lostline::joining
