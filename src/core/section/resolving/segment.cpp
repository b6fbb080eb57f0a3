#include "section/resolving/segment.h"

#include <algorithm>
#include <cmath>
#include <cstdint>

namespace lostline::section {
namespace {

/// Sums of points about the first one, so that long runs lose no digits.
struct Sums {
  double n = 0, x = 0, y = 0, xx = 0, xy = 0, yy = 0, xz = 0, yz = 0, zz = 0;

  void add(double w, double px, double py) {
    const double z = px * px + py * py;
    n += w;
    x += w * px;
    y += w * py;
    xx += w * px * px;
    xy += w * px * py;
    yy += w * py * py;
    xz += w * px * z;
    yz += w * py * z;
    zz += w * z * z;
  }
};

struct Fit {
  double squared = 1e300;  ///< sum of squared distances
  bool arc = false;
};

/// The line of least squares: its sum is the smaller eigenvalue of the scatter.
double line_sum(const Sums& s) {
  const double mx = s.x / s.n;
  const double my = s.y / s.n;
  const double a = s.xx - s.n * mx * mx;
  const double b = s.xy - s.n * mx * my;
  const double c = s.yy - s.n * my * my;
  const double half = std::sqrt(0.25 * (a - c) * (a - c) + b * b);
  // As a quotient, so that what is left of two large numbers keeps its digits.
  const double large = 0.5 * (a + c) + half;
  return large > 0 ? std::max(0.0, (a * c - b * b) / large) : 0;
}

double arc_sum(const Sums& s, double largest) {
  const double mx = s.x / s.n;
  const double my = s.y / s.n;
  const double m2 = mx * mx + my * my;
  const double xx = s.xx / s.n - mx * mx;
  const double xy = s.xy / s.n - mx * my;
  const double yy = s.yy / s.n - my * my;
  const double z0 = (s.xx + s.yy) / s.n;
  const double xz = s.xz / s.n - mx * z0 - 2 * mx * xx - 2 * my * xy;
  const double yz = s.yz / s.n - my * z0 - 2 * mx * xy - 2 * my * yy;
  const double zz = s.zz / s.n + 4 * (mx * mx * s.xx + my * my * s.yy + 2 * mx * my * s.xy) / s.n +
                    m2 * m2 - 4 * (mx * s.xz + my * s.yz) / s.n + 2 * m2 * z0 - 4 * m2 * m2;
  const double mz = xx + yy;
  const double cov = xx * yy - xy * xy;
  if (!(cov > 1e-13 * mz * mz)) return 1e300;
  const double var = zz - mz * mz;
  const double a3 = 4 * mz;
  const double a2 = -3 * mz * mz - zz;
  const double a1 = var * mz + 4 * cov * mz - xz * xz - yz * yz;
  const double a0 = xz * (xz * yy - yz * xy) + yz * (yz * xx - xz * xy) - var * cov;
  double t = 0;
  double value = a0;
  for (int round = 0; round < 12; ++round) {
    const double slope = a1 + t * (2 * a2 + 3 * a3 * t);
    const double next = t - value / slope;
    if (!std::isfinite(next) || next == t) break;
    const double fresh = a0 + next * (a1 + next * (a2 + next * a3));
    if (std::abs(fresh) >= std::abs(value)) break;
    t = next;
    value = fresh;
  }
  const double det = 2 * (t * t - t * mz + cov);
  if (det == 0) return 1e300;
  const double cx = (xz * (yy - t) - yz * xy) / det;
  const double cy = (yz * (xx - t) - xz * xy) / det;
  const double r2 = cx * cx + cy * cy + mz;
  if (!(r2 < largest * largest)) return 1e300;
  const double f2 =
      var - 4 * (cx * xz + cy * yz) + 4 * (cx * cx * xx + 2 * cx * cy * xy + cy * cy * yy);
  return s.n * std::max(0.0, f2) / (4 * r2);
}

/// A start of a piece that is still looked at.
struct Start {
  std::uint32_t node;
  double before;  ///< cost up to here
  Sums sums;
  int beaten = 0;  ///< nodes in a row at which another start is better without paying for a piece
};

struct Best {
  double cost = 1e300;
  std::uint32_t from = 0;
  bool arc = false;
};

}  // namespace

std::vector<Piece> segment(const Trace& trace, double corner, double largest_radius,
                           std::size_t places, const Costs& costs) {
  const std::size_t n = trace.size();
  // A start beaten for so long by one that needs no further piece is given up: borders are settled
  // point by point afterwards.
  constexpr int kPatience = 20;
  const std::size_t stride = std::max<std::size_t>(1, (n + places - 1) / places);
  std::vector<std::size_t> nodes;
  for (std::size_t i = 0; i < n; i += stride) nodes.push_back(i);
  if (n - nodes.back() < (stride + 1) / 2 && nodes.size() > 1) nodes.pop_back();
  nodes.push_back(n);
  const std::size_t m = nodes.size();
  const double unit = 1 / (trace.sigma * trace.sigma * trace.inflation);
  const double skip_point = costs.corner_point / trace.inflation;
  std::vector<Best> ended(m);  // a piece ends at the node
  std::vector<Best> open(m);   // or a corner after one; `from` is where the piece ended
  open[0].cost = 0;
  std::vector<Start> starts;
  const auto begin_at = [&](std::uint32_t node) {
    if (open[node].cost < 1e299) starts.push_back({node, open[node].cost, {}, 0});
  };
  begin_at(0);
  const auto along = [&](std::size_t node) {
    return nodes[node] < n ? trace.along[nodes[node]] : trace.along.back();
  };
  for (std::uint32_t j = 1; j < m; ++j) {
    double least_bare = 1e300;  // of the costs without that of the last piece
    std::vector<double> bare(starts.size());
    for (std::size_t k = 0; k < starts.size(); ++k) {
      Start& start = starts[k];
      const Vec2& origin = trace.points[nodes[start.node]];
      for (std::size_t i = nodes[j - 1]; i < nodes[j]; ++i) {
        if (trace.weights[i] == 0) continue;
        const Vec2 d = trace.points[i] - origin;
        start.sums.add(trace.weights[i], d.x(), d.y());
      }
      bare[k] = 1e300;
      if (start.sums.n < 2) {
        bare[k] = start.before;
        continue;
      }
      const double line = line_sum(start.sums) * unit;
      double chi = line;
      double paid = start.before + line + costs.line;
      bool arc = false;
      // An arc can at best take all of it away.
      if (start.sums.n >= 4 && line > costs.arc - costs.line) {
        const double round = arc_sum(start.sums, largest_radius) * unit;
        chi = std::min(chi, round);
        if (start.before + round + costs.arc < paid) {
          paid = start.before + round + costs.arc;
          arc = true;
        }
      }
      bare[k] = start.before + chi;
      least_bare = std::min(least_bare, paid);
      if (paid < ended[j].cost && start.sums.n >= 3) ended[j] = {paid, start.node, arc};
    }
    // The end may also be a corner after a piece that ended shortly before.
    open[j] = {ended[j].cost, j, false};
    for (std::uint32_t e = j; e-- > 1 && along(j) - along(e) <= corner;) {
      const double cost = ended[e].cost + skip_point * static_cast<double>(nodes[j] - nodes[e]);
      if (cost < open[j].cost && j + 1 < m) open[j] = {cost, e, false};
    }
    std::size_t kept = 0;
    for (std::size_t k = 0; k < starts.size(); ++k) {
      // Later it can only cost more: another start with a new piece from here is never worse.
      if (bare[k] > open[j].cost + costs.arc) continue;
      starts[k].beaten = bare[k] > least_bare ? starts[k].beaten + 1 : 0;
      if (starts[k].beaten > kPatience) continue;
      if (kept != k) starts[kept] = starts[k];
      ++kept;
    }
    starts.resize(kept);
    begin_at(j);
  }
  std::vector<Piece> pieces;
  for (std::uint32_t at = static_cast<std::uint32_t>(m) - 1; at > 0;) {
    const Best& best = ended[at];
    if (!(best.cost < 1e299)) break;
    Piece piece;
    piece.kind = best.arc ? PieceKind::Arc : PieceKind::Line;
    piece.first = nodes[best.from];
    piece.last = nodes[at];
    pieces.push_back(piece);
    at = best.from == 0 ? 0 : open[best.from].from;
  }
  std::reverse(pieces.begin(), pieces.end());
  return pieces;
}

}  // namespace lostline::section
