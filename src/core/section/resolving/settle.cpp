#include "section/resolving/settle.h"

#include <algorithm>
#include <cmath>
#include <optional>

#include "section/resolving/trace.h"

namespace lostline::section {
namespace {

/// Squared residual of one point in units of what is expected, bounded as in `measure`.
double point_cost(const Trace& trace, const Piece& piece, std::size_t i) {
  if (trace.weights[i] == 0) return 0;
  double r = piece.distance(trace.points[i]);
  if (piece.kind == PieceKind::Arc) {
    const Vec2 out = (trace.points[i] - piece.point).normalized();
    r += sag(trace, i, {-out.y(), out.x()}, 1 / piece.radius);
  }
  return std::min(r * r / (trace.sigma * trace.sigma), 36.0) / trace.inflation;
}

/// Moves the border between two neighbours, and what is left out between them. At the seam of a
/// closed trace (`b` begins it, `a` ends it) both only give way.
bool settle_border(const Trace& trace, Piece& a, Piece& b, double corner, const Costs& costs,
                   bool seam) {
  constexpr std::size_t kReach = 60;  // points to either side
  const std::size_t n = trace.size();
  const std::size_t shift = seam ? n : 0;
  const std::size_t keep = 3;
  const std::size_t low = std::max(a.first + keep, a.last > kReach ? a.last - kReach : 0);
  const std::size_t high =
      std::min(b.last + shift - std::min(keep, b.last), b.first + shift + kReach);
  if (high <= low) return false;
  const auto at = [&](std::size_t i) { return i < n ? i : i - n; };
  const auto place = [&](std::size_t i) {
    return i < n ? trace.along[i] : trace.along[i - n] + trace.length;
  };
  const double skip = costs.corner_point / trace.inflation;
  const std::size_t count = high - low;
  std::vector<double> from_a(count + 1, 0);  // cost of the first k points as a's
  std::vector<double> to_b(count + 1, 0);    // of those from k on as b's
  for (std::size_t k = 0; k < count; ++k)
    from_a[k + 1] = from_a[k] + point_cost(trace, a, at(low + k));
  for (std::size_t k = count; k-- > 0;) to_b[k] = to_b[k + 1] + point_cost(trace, b, at(low + k));
  double best = 1e300;
  std::size_t end = a.last;
  std::size_t begin = b.first + shift;
  for (std::size_t k = 0; k <= count; ++k) {
    if (seam && low + k > n) break;
    for (std::size_t l = k; l <= count; ++l) {
      if (l > k && place(low + l - 1) - place(low + k) > corner) break;
      if (seam && low + l < n) continue;
      const double cost = from_a[k] + to_b[l] + skip * static_cast<double>(l - k);
      if (cost < best - 1e-9) {
        best = cost;
        end = low + k;
        begin = low + l;
      }
    }
  }
  const bool moved = end != a.last || begin != b.first + shift;
  a.last = end;
  b.first = begin - shift;
  return moved;
}

std::optional<Piece> as_one(const Trace& trace, std::size_t first, std::size_t last, bool line,
                            double largest) {
  Piece one;
  one.first = first;
  one.last = last;
  if (line ? !fit_line(trace, one) : !fit_arc(trace, one) || one.radius > largest)
    return std::nullopt;
  return one;
}

/// The cheapest single piece over both neighbours, where it costs less than they do.
std::optional<Piece> joined(const Trace& trace, const Piece& a, const Piece& b, double largest,
                            const Costs& costs) {
  const double skip = costs.corner_point / trace.inflation;
  const double now =
      cost_of(a, costs) + cost_of(b, costs) + skip * static_cast<double>(b.first - a.last);
  std::optional<Piece> best;
  // Seen on a few points first: most neighbours are nothing like one curve.
  constexpr std::size_t kLook = 48;
  const bool many = b.last - a.first > 2 * kLook;
  const Trace thin = many ? thinned(trace, a.first, b.last, kLook) : Trace();
  for (const bool line : {true, false}) {
    if (many) {
      const auto look = as_one(thin, 0, thin.size(), line, largest);
      if (!look || cost_of(*look, costs) > 1.5 * now + 50) continue;
    }
    auto one = as_one(trace, a.first, b.last, line, largest);
    if (one && cost_of(*one, costs) < (best ? cost_of(*best, costs) : now)) best = std::move(one);
  }
  return best;
}

bool join_neighbours(const Trace& trace, std::vector<Piece>& pieces, double largest,
                     const Costs& costs) {
  bool any = false;
  for (std::size_t i = 0; i + 1 < pieces.size();) {
    if (auto one = joined(trace, pieces[i], pieces[i + 1], largest, costs)) {
      pieces[i] = *std::move(one);
      pieces.erase(pieces.begin() + static_cast<std::ptrdiff_t>(i) + 1);
      any = true;
      if (i > 0) --i;
    } else {
      ++i;
    }
  }
  return any;
}

/// A short stretch of damage within one line or arc: its neighbours as one, without its points.
bool bridge_damage(Trace& trace, std::vector<Piece>& pieces, double largest, const Costs& costs) {
  bool any = false;
  const double skip = costs.corner_point / trace.inflation;
  for (std::size_t i = 1; i + 1 < pieces.size(); ++i) {
    const Piece& a = pieces[i - 1];
    const Piece& x = pieces[i];
    const Piece& b = pieces[i + 1];
    const double hole = stretch(trace, a.last, b.first);
    if (hole > 3 * trace.spacing || a.kind != b.kind) continue;
    if (stretch(trace, a.first, a.last) < 2 * hole || stretch(trace, b.first, b.last) < 2 * hole)
      continue;
    const std::vector<double> weights = trace.weights;
    std::size_t left_out = 0;
    for (std::size_t k = a.last; k < b.first; ++k, ++left_out) trace.weights[k] = 0;
    auto one = as_one(trace, a.first, b.last, a.kind == PieceKind::Line, largest);
    const double now = cost_of(a, costs) + cost_of(x, costs) + cost_of(b, costs);
    if (one && cost_of(*one, costs) + skip * static_cast<double>(left_out) < now) {
      pieces[i - 1] = *std::move(one);
      pieces.erase(pieces.begin() + static_cast<std::ptrdiff_t>(i),
                   pieces.begin() + static_cast<std::ptrdiff_t>(i) + 2);
      any = true;
    } else {
      trace.weights = weights;
    }
  }
  return any;
}

/// Pieces as short as a scanner's rounding that say nothing of their own.
bool drop_scraps(const Trace& trace, std::vector<Piece>& pieces, double corner,
                 const Costs& costs) {
  bool any = false;
  const double skip = costs.corner_point / trace.inflation;
  for (std::size_t i = 0; i < pieces.size() && pieces.size() > 2;) {
    const bool inner = trace.closed || (i > 0 && i + 1 < pieces.size());
    const std::size_t before = i > 0 ? pieces[i - 1].last : pieces[i].first;
    const std::size_t after = i + 1 < pieces.size() ? pieces[i + 1].first : pieces[i].last;
    if (inner && stretch(trace, before, after) <= corner &&
        skip * static_cast<double>(pieces[i].last - pieces[i].first) < cost_of(pieces[i], costs)) {
      pieces.erase(pieces.begin() + static_cast<std::ptrdiff_t>(i));
      any = true;
    } else {
      ++i;
    }
  }
  return any;
}

}  // namespace

double stretch(const Trace& trace, std::size_t first, std::size_t last) {
  if (last <= first) return 0;
  return trace.along[last - 1] - trace.along[first];
}

void refit(const Trace& trace, Piece& piece, double largest_radius) {
  if (piece.kind == PieceKind::Line) {
    fit_line(trace, piece);
    return;
  }
  if (piece.kind != PieceKind::Arc) return;
  Piece again = piece;
  if (!fit_arc(trace, again) || again.radius > largest_radius) {
    // From the points alone, where it had wandered off.
    again = piece;
    again.radius = 0;
    if (!fit_arc(trace, again) || again.radius > largest_radius) {
      again = piece;
      fit_line(trace, again);
    }
  }
  piece = again;
}

void settle(Trace& trace, std::vector<Piece>& pieces, double corner, double largest_radius,
            const Costs& costs) {
  for (Piece& piece : pieces) refit(trace, piece, largest_radius);
  for (int round = 0; round < 8; ++round) {
    bool changed = false;
    for (std::size_t i = 0; i + 1 < pieces.size(); ++i)
      changed |= settle_border(trace, pieces[i], pieces[i + 1], corner, costs, false);
    if (trace.closed && pieces.size() > 1)
      changed |= settle_border(trace, pieces.back(), pieces.front(), corner, costs, true);
    for (Piece& piece : pieces) refit(trace, piece, largest_radius);
    changed |= join_neighbours(trace, pieces, largest_radius, costs);
    changed |= bridge_damage(trace, pieces, largest_radius, costs);
    changed |= drop_scraps(trace, pieces, corner, costs);
    if (!changed) break;
  }
}

}  // namespace lostline::section
