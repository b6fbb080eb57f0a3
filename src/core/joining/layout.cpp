#include "joining/layout.h"

#include <algorithm>
#include <cmath>

#include "joining/pairwise.h"

namespace lostline::joining {

void add(Layout& to, const Overlap& one) {
  to.overlap.agrees += one.agrees;
  to.overlap.contradicts += one.contradicts;
  to.overlap.missing += one.missing;
  to.overlap.points += one.points;
  to.overlap.grain = std::max(to.overlap.grain, one.grain);
  to.squares += one.agrees * one.rms * one.rms;
  to.overlap.rms = to.overlap.agrees > 0 ? std::sqrt(to.squares / to.overlap.agrees) : 0;
  if (one.agrees > 0)
    to.disputed = std::max(to.disputed, std::max(0.0, one.contradicts - one.grain) / one.agrees);
}

void weigh(std::vector<Layout>& layouts) {
  double most = 0;
  for (const Layout& l : layouts) most = std::max(most, l.overlap.agrees);
  double nearest = 1e300;
  for (const Layout& l : layouts) {
    const bool sound =
        l.overlap.agrees > 0.3 * most && l.overlap.contradicts < kContradicts * l.overlap.agrees;
    if (sound) nearest = std::min(nearest, l.overlap.rms);
  }
  for (Layout& l : layouts) {
    const double share = l.overlap.rms > 0 ? std::min(1.0, 1.5 * nearest / l.overlap.rms) : 1;
    l.worth = l.overlap.worth() * share * share;
  }
  std::stable_sort(layouts.begin(), layouts.end(),
                   [](const Layout& a, const Layout& b) { return a.worth > b.worth; });
}

void prefer_undisputed(std::vector<Layout>& layouts) {
  // Shares: of scans that lie right a thousandth contradicts, see `Overlap::worth`.
  constexpr double kDisputed = 0.0025;
  // Of the best one's worth, and of the area that agrees there: neither is told by that.
  constexpr double kNearly = 0.75;
  constexpr double kFarLess = 0.3;
  if (layouts.empty() || layouts.front().disputed < kDisputed) return;
  const auto better = std::find_if(layouts.begin() + 1, layouts.end(), [&](const Layout& l) {
    return l.worth > kNearly * layouts.front().worth &&
           l.overlap.agrees > kNearly * layouts.front().overlap.agrees &&
           l.disputed < kFarLess * layouts.front().disputed;
  });
  if (better != layouts.end()) std::rotate(layouts.begin(), better, better + 1);
}

std::optional<std::size_t> differs(const Layout& a, const Layout& b,
                                   const std::vector<Piece>& pieces, double share) {
  for (std::size_t i = 0; i < pieces.size(); ++i) {
    if (a.placed[i] != b.placed[i] || !alike(a.poses[i], b.poses[i], pieces[i], share)) return i;
  }
  return std::nullopt;
}

}  // namespace lostline::joining
