#include "section/resolving/smooth.h"

#include <algorithm>
#include <cmath>
#include <optional>

#include "section/resolving/settle.h"
#include "section/resolving/spline_fit.h"
#include "section/resolving/trace.h"

namespace lostline::section {
namespace {

/// Whether the curve runs on from one piece to the next without a corner.
bool runs_on(const Trace& trace, const Piece& a, const Piece& b) {
  constexpr double kSmooth = 0.25;  // rad: the directions of short arcs are no surer
  const Vec2& p = trace.points[std::min(a.last, trace.size()) - 1];
  const Vec2& q = trace.points[b.first];
  const Vec2 d = a.heading(p);
  const Vec2 e = b.heading(q);
  return std::abs(std::atan2(d.x() * e.y() - d.y() * e.x(), d.dot(e))) < kSmooth;
}

double run_cost(const Trace& trace, const std::vector<Piece>& pieces, std::size_t from,
                std::size_t to, const Costs& costs) {
  double sum = 0;
  for (std::size_t i = from; i <= to; ++i) {
    sum += cost_of(pieces[i], costs);
    if (i > from)
      sum += costs.corner_point / trace.inflation *
             static_cast<double>(pieces[i].first - pieces[i - 1].last);
  }
  return sum;
}

constexpr std::size_t kEnough = 120;  // points that a curve is tried on

struct Choice {
  double cost = 0;
  std::size_t from = 0, to = 0;
  Piece piece;
};

bool is_oval(const Piece& e, double largest) {
  // Axes alike are an arc; a sliver is two lines.
  return e.radius < largest && e.minor < 0.985 * e.radius && e.minor > 0.03 * e.radius;
}

std::optional<Choice> best_ellipse(const Trace& trace, const std::vector<Piece>& run,
                                   double largest, const Costs& costs) {
  constexpr double kLeast = 12;      // chi squared: one in a thousand with what else an ellipse has
  constexpr std::size_t kMost = 12;  // arcs that one ellipse comes back as
  std::optional<Choice> best;
  double gain = kLeast;
  for (std::size_t from = 0; from < run.size(); ++from) {
    for (std::size_t to = from + 1; to < run.size() && to < from + kMost; ++to) {
      const double now = run_cost(trace, run, from, to, costs);
      if (now < costs.ellipse + gain) continue;
      // An ellipse bends one way.
      bool left = false;
      bool right = false;
      for (std::size_t i = from; i <= to; ++i) {
        if (run[i].kind != PieceKind::Line) (run[i].counter_clockwise ? left : right) = true;
      }
      if (left == right) continue;
      const Trace thin = thinned(trace, run[from].first, run[to].last, kEnough);
      Piece one;
      one.kind = PieceKind::Arc;
      one.last = thin.size();
      if (!fit_ellipse(thin, one) || !is_oval(one, largest) || now - cost_of(one, costs) < gain)
        continue;
      gain = now - cost_of(one, costs);
      one.first = run[from].first;
      one.last = run[to].last;
      best = Choice{cost_of(one, costs), from, to, one};
    }
  }
  if (!best) return std::nullopt;
  if (!fit_ellipse(trace, best->piece) || !is_oval(best->piece, largest)) return std::nullopt;
  best->cost = cost_of(best->piece, costs);
  if (run_cost(trace, run, best->from, best->to, costs) < best->cost + kLeast) return std::nullopt;
  return best;
}

/// The spline over the part of a run where it gains most: from the whole run, pieces are left out
/// at either end as long as that gains.
std::optional<Choice> best_spline(const Trace& trace, const std::vector<Piece>& run, bool whole,
                                  const Costs& costs) {
  constexpr std::size_t kFewest = 3;
  // A free shape is hardly straight; what is straight for longer was meant to be.
  constexpr double kStraight = 0.35;
  constexpr double kLeast = 20;
  if (run.size() < kFewest) return std::nullopt;
  const double all = run_cost(trace, run, 0, run.size() - 1, costs);
  const auto over = [&](std::size_t from, std::size_t to) -> Choice {
    double straight = 0;
    double length = 0;
    for (std::size_t i = from; i <= to; ++i) {
      const double l = stretch(trace, run[i].first, run[i].last);
      length += l;
      if (run[i].kind == PieceKind::Line) straight += l;
    }
    const Trace thin = thinned(trace, run[from].first, run[to].last, kEnough);
    Piece one;
    one.last = thin.size();
    one.whole = whole && from == 0 && to + 1 == run.size();
    Choice choice{1e300, from, to, one};
    if (straight > kStraight * length) return choice;
    if (!fit_spline(thin, choice.piece, run_cost(trace, run, from, to, costs), costs))
      return choice;
    choice.cost = cost_of(choice.piece, costs) + all - run_cost(trace, run, from, to, costs);
    return choice;
  };
  std::size_t from = 0;
  std::size_t to = run.size() - 1;
  Choice best = over(from, to);
  Choice now = best;
  while (to - from >= kFewest) {
    const Choice left = over(from + 1, to);
    const Choice right = over(from, to - 1);
    now = left.cost < right.cost || (left.cost == right.cost && run[from].kind == PieceKind::Line)
              ? left
              : right;
    from = now.from;
    to = now.to;
    if (now.cost < best.cost) best = now;
  }
  if (!(best.cost + kLeast < all)) return std::nullopt;
  Piece& piece = best.piece;
  piece.first = run[best.from].first;
  piece.last = run[best.to].last;
  if (!fit_poles(trace, piece)) return std::nullopt;
  if (cost_of(piece, costs) + kLeast > run_cost(trace, run, best.from, best.to, costs))
    return std::nullopt;
  best.cost = cost_of(piece, costs);
  return best;
}

void put(std::vector<Piece>& pieces, const Choice& choice) {
  pieces[choice.from] = choice.piece;
  pieces.erase(pieces.begin() + static_cast<std::ptrdiff_t>(choice.from) + 1,
               pieces.begin() + static_cast<std::ptrdiff_t>(choice.to) + 1);
}

/// Ellipses as long as they gain, or a spline and what it leaves on either side, whichever costs
/// less.
std::vector<Piece> smoothed(const Trace& trace, const std::vector<Piece>& run, bool whole,
                            double largest, const Costs& costs) {
  if (run.size() < 2) return run;
  std::vector<Piece> ovals = run;
  while (ovals.size() > 1) {
    const auto choice = best_ellipse(trace, ovals, largest, costs);
    if (!choice) break;
    put(ovals, *choice);
  }
  const double oval_cost = run_cost(trace, ovals, 0, ovals.size() - 1, costs);
  if (oval_cost < costs.spline + costs.pole) return ovals;
  const auto choice = best_spline(trace, run, whole, costs);
  if (!choice) return ovals;
  const auto cut = [&](std::size_t from, std::size_t to) {
    return std::vector<Piece>(run.begin() + static_cast<std::ptrdiff_t>(from),
                              run.begin() + static_cast<std::ptrdiff_t>(to));
  };
  std::vector<Piece> mixed = smoothed(trace, cut(0, choice->from), false, largest, costs);
  mixed.push_back(choice->piece);
  for (Piece& p : smoothed(trace, cut(choice->to + 1, run.size()), false, largest, costs))
    mixed.push_back(std::move(p));
  return run_cost(trace, mixed, 0, mixed.size() - 1, costs) < oval_cost ? mixed : ovals;
}

/// An ellipse or a spline and its neighbour as one, where a tight bend stood as a corner between.
bool unite(const Trace& trace, std::vector<Piece>& pieces, double largest, const Costs& costs) {
  constexpr double kBend = 0.9;  // rad
  const auto free = [](const Piece& p) {
    return p.kind == PieceKind::Ellipse || p.kind == PieceKind::Spline;
  };
  for (std::size_t i = 0; i + 1 < pieces.size(); ++i) {
    const Piece& a = pieces[i];
    const Piece& b = pieces[i + 1];
    if (!free(a) && !free(b)) continue;
    const Vec2 d = a.heading(trace.points[a.last - 1]);
    const Vec2 e = b.heading(trace.points[b.first]);
    if (d.dot(e) < std::cos(kBend)) continue;
    const double now = run_cost(trace, pieces, i, i + 1, costs);
    Piece one;
    one.first = a.first;
    one.last = b.last;
    one.kind = PieceKind::Arc;
    if (a.kind != PieceKind::Spline && b.kind != PieceKind::Spline && fit_ellipse(trace, one) &&
        is_oval(one, largest) && cost_of(one, costs) < now) {
      put(pieces, {0, i, i + 1, one});
      return true;
    }
    const double straight = (a.kind == PieceKind::Line ? stretch(trace, a.first, a.last) : 0) +
                            (b.kind == PieceKind::Line ? stretch(trace, b.first, b.last) : 0);
    if (straight > 0.35 * stretch(trace, a.first, b.last)) continue;
    const Trace thin = thinned(trace, one.first, one.last, kEnough);
    Piece tried;
    tried.last = thin.size();
    if (!fit_spline(thin, tried, now, costs)) continue;
    one.spline = tried.spline;
    if (!fit_poles(trace, one) || cost_of(one, costs) > now) continue;
    put(pieces, {0, i, i + 1, one});
    return true;
  }
  return false;
}

}  // namespace

void smooth_runs(const Trace& trace, std::vector<Piece>& pieces, double largest_radius,
                 const Costs& costs) {
  std::vector<Piece> result;
  for (std::size_t begin = 0; begin < pieces.size();) {
    std::size_t end = begin + 1;
    while (end < pieces.size() && runs_on(trace, pieces[end - 1], pieces[end])) ++end;
    const std::vector<Piece> run(pieces.begin() + static_cast<std::ptrdiff_t>(begin),
                                 pieces.begin() + static_cast<std::ptrdiff_t>(end));
    const bool whole = trace.closed && run.size() == pieces.size();
    for (Piece& p : smoothed(trace, run, whole, largest_radius, costs))
      result.push_back(std::move(p));
    begin = end;
  }
  pieces = std::move(result);
  while (unite(trace, pieces, largest_radius, costs)) {
  }
}

}  // namespace lostline::section
