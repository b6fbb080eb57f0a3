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

std::optional<std::size_t> differs(const Layout& a, const Layout& b,
                                   const std::vector<Piece>& pieces, double share) {
  for (std::size_t i = 0; i < pieces.size(); ++i) {
    if (a.placed[i] != b.placed[i] || !alike(a.poses[i], b.poses[i], pieces[i], share)) return i;
  }
  return std::nullopt;
}

}  // namespace lostline::joining
