#include "section/resolving/trace.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

#include "base/median.h"

namespace lostline::section {
namespace {

/// Scatter across a parabola through windows of points: the median over all windows, so that
/// corners do not count.
double local_sigma(const Trace& trace) {
  constexpr std::size_t kWindow = 13;
  const std::size_t n = trace.size();
  if (n < kWindow) return 0;
  std::vector<double> found;
  const std::size_t stride = std::max<std::size_t>(1, n / 400);
  for (std::size_t first = 0; first + kWindow <= n; first += stride) {
    const Vec2 origin = trace.points[first + kWindow / 2];
    const Vec2 along = (trace.points[first + kWindow - 1] - trace.points[first]).normalized();
    if (!along.allFinite()) continue;
    Eigen::Matrix3d normal = Eigen::Matrix3d::Zero();
    Vec3 right = Vec3::Zero();
    double squared = 0;
    for (std::size_t i = first; i < first + kWindow; ++i) {
      const Vec2 d = trace.points[i] - origin;
      const double u = along.dot(d);
      const double v = along.x() * d.y() - along.y() * d.x();
      const Vec3 row(1, u, u * u);
      normal += row * row.transpose();
      right += v * row;
      squared += v * v;
    }
    const double rest = squared - right.dot(normal.ldlt().solve(right));
    // Thirteen points of a section stand for about seven of the scan; three go into the parabola.
    found.push_back(std::sqrt(std::max(0.0, rest) / (kWindow * 4.0 / 7)));
  }
  if (found.empty()) return 0;
  const auto low = found.begin() + static_cast<std::ptrdiff_t>(2 * found.size() / 5);
  std::nth_element(found.begin(), low, found.end());
  return *low;
}

/// Single points far beside the line of their neighbours, which agree among themselves.
void mark_strays(Trace& trace) {
  const std::size_t n = trace.size();
  const double far = 6 * trace.sigma + 0.05 * trace.step;
  const auto beside = [](const Vec2& p, const Vec2& a, const Vec2& b) {
    const Vec2 d = b - a;
    const double l = d.norm();
    return l > 0 ? std::abs(d.x() * (p.y() - a.y()) - d.y() * (p.x() - a.x())) / l : (p - a).norm();
  };
  for (std::size_t i = 2; i + 2 < n; ++i) {
    const Vec2& a = trace.points[i - 2];
    const Vec2& b = trace.points[i - 1];
    const Vec2& c = trace.points[i + 1];
    const Vec2& d = trace.points[i + 2];
    if (beside(trace.points[i], b, c) < far) continue;
    if (beside(b, a, c) < 0.4 * far && beside(c, b, d) < 0.4 * far) trace.weights[i] = 0;
  }
}

}  // namespace

Trace trace_of(const Polyline& polyline, const ResolveOptions& options) {
  Trace trace;
  const std::size_t n = polyline.points.size();
  trace.closed = polyline.closed;
  for (const Vec2& p : polyline.points) trace.middle += p;
  trace.middle /= static_cast<double>(n);
  trace.points.reserve(n);
  for (const Vec2& p : polyline.points) trace.points.push_back(p - trace.middle);
  if (polyline.chords.size() == n) trace.chords = polyline.chords;
  trace.weights.assign(n, 1);
  std::vector<double> steps;
  trace.along.assign(n, 0);
  for (std::size_t i = 1; i < n; ++i) {
    steps.push_back((trace.points[i] - trace.points[i - 1]).norm());
    trace.along[i] = trace.along[i - 1] + steps.back();
  }
  trace.length = trace.along.back();
  if (trace.closed) trace.length += (trace.points.front() - trace.points.back()).norm();
  double sum = 0;
  std::size_t counted = 0;
  trace.step = median(steps);
  for (const double s : steps) {  // gaps aside
    if (s > 8 * trace.step) continue;
    sum += s;
    ++counted;
  }
  const double mean = counted > 0 ? sum / static_cast<double>(counted) : trace.step;
  // A section of a mesh of equal triangles of edge s has a point every 0.45 s on average: the edge
  // length per area is 2 sqrt(3) / s, and 2 / pi of it is crossed (Buffon).
  trace.spacing = options.spacing > 0 ? options.spacing : 2.2 * mean;
  trace.inflation = std::max(1.0, trace.spacing / (1.1 * std::max(mean, 1e-12)));
  trace.sigma = options.noise > 0 ? options.noise : local_sigma(trace);
  // Below this a mesh without noise, whose chords alone depart from the curve.
  trace.sigma =
      std::max({trace.sigma, options.tolerance / 4, 2e-4 * trace.spacing, 1e-9 * trace.length});
  mark_strays(trace);
  return trace;
}

Trace turned_by(const Trace& trace, std::size_t start) {
  Trace t = trace;
  const auto by = static_cast<std::ptrdiff_t>(start);
  std::rotate(t.points.begin(), t.points.begin() + by, t.points.end());
  std::rotate(t.weights.begin(), t.weights.begin() + by, t.weights.end());
  if (!t.chords.empty()) std::rotate(t.chords.begin(), t.chords.begin() + by, t.chords.end());
  t.turned = (trace.turned + start) % trace.size();
  t.along.assign(t.size(), 0);
  for (std::size_t i = 1; i < t.size(); ++i)
    t.along[i] = t.along[i - 1] + (t.points[i] - t.points[i - 1]).norm();
  return t;
}

Trace thinned(const Trace& trace, std::size_t first, std::size_t last, std::size_t most) {
  Trace thin;
  const std::size_t n = last - first;
  const std::size_t m = std::min(n, most);
  thin.length = trace.length;
  thin.spacing = trace.spacing;
  thin.sigma = trace.sigma;
  thin.inflation = trace.inflation;
  thin.step = trace.step * static_cast<double>(n) / static_cast<double>(m);
  for (std::size_t k = 0; k < m; ++k) {
    const std::size_t i = first + (2 * k + 1) * n / (2 * m);
    thin.points.push_back(trace.points[i]);
    if (!trace.chords.empty()) thin.chords.push_back(trace.chords[i]);
    thin.weights.push_back(trace.weights[i] * static_cast<double>(n) / static_cast<double>(m));
    thin.along.push_back(trace.along[i]);
  }
  return thin;
}

void read_noise(Trace& trace, const std::vector<Piece>& pieces, double least_sigma) {
  constexpr std::size_t kFewest = 20;
  std::vector<double> sizes;
  double factor = 0;
  double weight = 0;
  for (const Piece& piece : pieces) {
    if (piece.last < piece.first + kFewest) continue;
    // Away from the ends, where a scanner rounds.
    const std::size_t margin = std::min<std::size_t>(4, (piece.last - piece.first) / 8);
    std::vector<double> r;
    for (std::size_t i = piece.first + margin; i + margin < piece.last; ++i)
      r.push_back(piece.distance(trace.points[i]));
    // Initial positive sequence, C. Geyer, Practical Markov chain Monte Carlo, Statistical Science
    // 7 (1992).
    double variance = 0;
    for (const double v : r) variance += v * v;
    double f = 1;
    for (std::size_t lag = 1; lag < std::min<std::size_t>(r.size() / 3, 60); ++lag) {
      double sum = 0;
      for (std::size_t i = lag; i < r.size(); ++i) sum += r[i] * r[i - lag];
      if (sum <= 0.02 * variance) break;
      f += 2 * sum / variance;
    }
    const auto n = static_cast<double>(r.size());
    factor += n * f;
    weight += n;
    for (const double v : r) sizes.push_back(std::abs(v));
  }
  if (sizes.size() < kFewest) return;
  // Of all but what lies far outside: points near the ends of the edges that they were cut from
  // scatter more than those between, so that the median alone would be too small.
  const double rough = 1.4826 * median(sizes);
  double sum = 0;
  double count = 0;
  for (const double size : sizes) {
    if (size > 4 * rough) continue;
    sum += size * size;
    ++count;
  }
  trace.sigma = std::max(count > 0 ? std::sqrt(sum / count) : 0.0, least_sigma);
  trace.inflation = std::clamp(factor / weight, 1.0, 30.0);
}

}  // namespace lostline::section
