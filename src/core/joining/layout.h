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
};

/// Adds what a pair more says.
void add(Layout& to, const Overlap& one);

/// What each layout is worth beside the others: one on which the same area lies twice as far off
/// as on the nearest is a likeness, not the same place. The best first.
void weigh(std::vector<Layout>& layouts);

/// The first scan that lies otherwise, if any does.
/// @param share  as `alike` takes it.
std::optional<std::size_t> differs(const Layout& a, const Layout& b,
                                   const std::vector<Piece>& pieces, double share);

}  // namespace lostline::joining
