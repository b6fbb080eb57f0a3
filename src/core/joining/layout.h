#pragma once

#include <optional>
#include <vector>

#include "joining/overlap.h"

namespace lostline::joining {

/// One way for some of the scans to lie.
struct Layout {
  std::vector<Transform> poses;
  std::vector<bool> placed;
  Overlap overlap;  ///< of all its pairs
  double worth = 0;
  double squares = 0;  ///< of the distances by the areas that agree, mm4
  /// Of the pair that contradicts most for what it agrees on: that share. Among the sums of all
  /// pairs one that cannot lie so is lost.
  double disputed = 0;
};

/// Adds what a pair more says.
void add(Layout& to, const Overlap& one);

/// What each layout is worth beside the others: one on which the same area lies twice as far off
/// as on the nearest is a likeness, not the same place. The best first.
void weigh(std::vector<Layout>& layouts);

/// Where a pair of the best layout contradicts itself and another layout is worth nearly as much
/// without that, that one becomes the first.
/// @param layouts  as `weigh` left them.
void prefer_undisputed(std::vector<Layout>& layouts);

/// The first scan that lies otherwise, if any does.
/// @param share  as `alike` takes it.
std::optional<std::size_t> differs(const Layout& a, const Layout& b,
                                   const std::vector<Piece>& pieces, double share);

}  // namespace lostline::joining
