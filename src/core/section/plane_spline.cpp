#include "section/plane_spline.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace lostline::section {
namespace {

/// Knot i of the endless sequence: periodic ones go on by the period.
double knot(const PlaneSpline& s, long i) {
  const long n = static_cast<long>(s.poles.size());
  if (!s.closed) return s.knots[static_cast<std::size_t>(i)];
  const double period = s.knots.back() - s.knots.front();
  const long turn = i >= 0 ? i / n : -((n - 1 - i) / n);
  return s.knots[static_cast<std::size_t>(i - turn * n)] + static_cast<double>(turn) * period;
}

}  // namespace

PlaneSpline::Local PlaneSpline::local(double t) const {
  if (closed) {
    const double period = knots.back() - knots.front();
    t -= period * std::floor((t - knots.front()) / period);
  } else {
    t = std::clamp(t, low(), high());
  }
  const auto begin = closed ? knots.begin() : knots.begin() + 3;
  const auto end = closed ? knots.end() - 1 : knots.end() - 4;
  long span = std::upper_bound(begin, end, t) - knots.begin() - 1;
  if (!closed) span = std::min(span, static_cast<long>(poles.size()) - 1);
  double u[8];  // the knots that the four poles see
  for (long k = 0; k < 8; ++k) u[k] = knot(*this, span - 3 + k);
  // Basis functions of degrees 1 to 3 on the span. Source: L. Piegl and W. Tiller, The NURBS Book
  // (1997), algorithm A2.2; derivatives from those of one degree less.
  const auto share = [](double value, double wide) { return wide > 0 ? value / wide : 0; };
  const double wide = u[4] - u[3];
  const double n1[4] = {0, share(u[4] - t, wide), share(t - u[3], wide), 0};
  double n2[5] = {};
  for (int k = 1; k <= 3; ++k)  // over knots u[k] to u[k + 3]
    n2[k] = share((t - u[k]) * n1[k - 1], u[k + 2] - u[k]) +
            share((u[k + 3] - t) * n1[k], u[k + 3] - u[k + 1]);
  double d2[5] = {};
  for (int k = 1; k <= 3; ++k)
    d2[k] = 2 * (share(n1[k - 1], u[k + 2] - u[k]) - share(n1[k], u[k + 3] - u[k + 1]));
  const long n = static_cast<long>(poles.size());
  Local result{};
  for (int k = 0; k < 4; ++k) {
    const double before = u[k + 3] - u[k];
    const double after = u[k + 4] - u[k + 1];
    result.value[k] = share((t - u[k]) * n2[k], before) + share((u[k + 4] - t) * n2[k + 1], after);
    result.slope[k] = 3 * (share(n2[k], before) - share(n2[k + 1], after));
    result.bend[k] = 3 * (share(d2[k], before) - share(d2[k + 1], after));
    const long i = span - 3 + k;
    result.pole[k] = static_cast<std::size_t>(closed ? ((i % n) + n) % n : i);
  }
  return result;
}

Vec2 PlaneSpline::at(double t) const {
  const Local l = local(t);
  Vec2 p = Vec2::Zero();
  for (int k = 0; k < 4; ++k) p += l.value[k] * poles[l.pole[k]];
  return p;
}

Vec2 PlaneSpline::slope(double t) const {
  const Local l = local(t);
  Vec2 p = Vec2::Zero();
  for (int k = 0; k < 4; ++k) p += l.slope[k] * poles[l.pole[k]];
  return p;
}

Vec2 PlaneSpline::bend(double t) const {
  const Local l = local(t);
  Vec2 p = Vec2::Zero();
  for (int k = 0; k < 4; ++k) p += l.bend[k] * poles[l.pole[k]];
  return p;
}

double PlaneSpline::parameter_near(const Vec2& p, double t) const {
  double before = t;
  double nearest = 1e300;
  for (int round = 0; round < 24; ++round) {
    const Local l = local(t);
    Vec2 d = -p;
    Vec2 v = Vec2::Zero();
    Vec2 b = Vec2::Zero();
    for (int k = 0; k < 4; ++k) {
      d += l.value[k] * poles[l.pole[k]];
      v += l.slope[k] * poles[l.pole[k]];
      b += l.bend[k] * poles[l.pole[k]];
    }
    // A step that led away was too long.
    if (d.squaredNorm() > nearest * (1 + 1e-12)) {
      if (std::abs(t - before) < 1e-12 * (high() - low())) break;
      t = 0.5 * (t + before);
      continue;
    }
    nearest = d.squaredNorm();
    before = t;
    const double speed = v.squaredNorm();
    if (!(speed > 0)) break;
    const double curved = speed + d.dot(b);
    double step = -d.dot(v) / (curved > 0.2 * speed ? curved : speed);
    const double most = 0.25 * (high() - low());
    step = std::clamp(step, -most, most);
    double next = t + step;
    if (!closed) next = std::clamp(next, low(), high());
    const bool still = std::abs(next - t) <= 1e-10 * (high() - low());
    t = next;
    if (still) break;
  }
  return t;
}

double PlaneSpline::parameter(const Vec2& p) const {
  const std::size_t spans = closed ? poles.size() : poles.size() - 3;
  const std::size_t samples = 8 * spans;
  const auto sample = [&](std::size_t k) {
    return low() + (high() - low()) * static_cast<double>(k) / static_cast<double>(samples);
  };
  // The three nearest samples that are nearer than those beside them, each followed to its foot.
  std::array<std::pair<double, std::size_t>, 3> best;
  best.fill({1e300, 0});
  const auto offer = [&](double d, std::size_t k) {
    if (d >= best[2].first) return;
    best[2] = {d, k};
    std::sort(best.begin(), best.end());
  };
  double before = 1e300;
  double here = (at(sample(0)) - p).squaredNorm();
  for (std::size_t k = 0; k < samples; ++k) {
    const double next = (at(sample(k + 1)) - p).squaredNorm();
    if (here <= before && here <= next) offer(here, k);
    before = here;
    here = next;
  }
  if (here <= before) offer(here, samples);
  double found = sample(best[0].second);
  double nearest = 1e300;
  for (const auto& [d, k] : best) {
    if (d > 9 * best[0].first + 1e-300) continue;
    const double t = parameter_near(p, sample(k));
    const double off = (at(t) - p).squaredNorm();
    if (off < nearest) {
      nearest = off;
      found = t;
    }
  }
  return found;
}

double PlaneSpline::length() const {
  const std::size_t samples = 16 * poles.size();
  double sum = 0;
  Vec2 before = at(low());
  for (std::size_t k = 1; k <= samples; ++k) {
    const Vec2 here =
        at(low() + (high() - low()) * static_cast<double>(k) / static_cast<double>(samples));
    sum += (here - before).norm();
    before = here;
  }
  return sum;
}

Vec2 PlaneSpline::blossom(long span, const std::array<double, 3>& at) const {
  // De Boor's triangle with another argument in each row (The NURBS Book, 5.3).
  const long n = static_cast<long>(poles.size());
  std::array<Vec2, 4> d;
  for (long j = 0; j < 4; ++j) {
    const long i = span - 3 + j;
    d[static_cast<std::size_t>(j)] =
        poles[static_cast<std::size_t>(closed ? ((i % n) + n) % n : i)];
  }
  for (long r = 1; r <= 3; ++r) {
    for (long j = 3; j >= r; --j) {
      const long i = span - 3 + j;
      const double low = knot(*this, i);
      const double wide = knot(*this, i + 4 - r) - low;
      const double share = wide > 0 ? (at[static_cast<std::size_t>(r - 1)] - low) / wide : 0;
      const auto k = static_cast<std::size_t>(j);
      d[k] = (1 - share) * d[k - 1] + share * d[k];
    }
  }
  return d[3];
}

PlaneSpline PlaneSpline::between(double from, double to) const {
  PlaneSpline piece;
  piece.knots.assign(4, from);
  const double slack = 1e-12 * (high() - low());
  const long first = closed ? -static_cast<long>(poles.size()) : 3;
  const long last = closed ? 3 * static_cast<long>(poles.size()) : static_cast<long>(poles.size());
  for (long i = first; i <= last; ++i) {
    const double k = knot(*this, i);
    if (k > from + slack && k < to - slack) piece.knots.push_back(k);
  }
  piece.knots.insert(piece.knots.end(), 4, to);
  const std::size_t count = piece.knots.size() - 4;
  for (std::size_t i = 0; i < count; ++i) {
    // A span of the piece that the pole bears on, and the span of this curve that it lies in.
    std::size_t j = i;
    while (!(piece.knots[j + 1] > piece.knots[j])) ++j;
    const double middle = 0.5 * (piece.knots[j] + piece.knots[j + 1]);
    long span = first;
    while (span < last && knot(*this, span + 1) <= middle) ++span;
    piece.poles.push_back(
        blossom(span, {piece.knots[i + 1], piece.knots[i + 2], piece.knots[i + 3]}));
  }
  return piece;
}

std::vector<std::array<Vec2, 4>> PlaneSpline::beziers() const {
  std::vector<std::array<Vec2, 4>> pieces;
  const long first = closed ? 0 : 3;
  const long last = static_cast<long>(poles.size());
  for (long span = first; span < last; ++span) {
    const double u = knot(*this, span);
    const double v = knot(*this, span + 1);
    if (!(v > u)) continue;
    pieces.push_back({blossom(span, {u, u, u}), blossom(span, {u, u, v}), blossom(span, {u, v, v}),
                      blossom(span, {v, v, v})});
  }
  return pieces;
}

// Source: the root of the squared distance's slope by Newton's method from a point on the same ray,
// kept within the quadrant; compare D. Eberly, Distance from a point to an ellipse (2013).
double ellipse_parameter(double a, double b, const Vec2& p) {
  const double x = std::abs(p.x());
  const double y = std::abs(p.y());
  double t = std::atan2(a * y, b * x);
  for (int round = 0; round < 20; ++round) {
    const double c = std::cos(t);
    const double s = std::sin(t);
    // Of the squared distance: half its slope, and its curvature.
    const double f = (b * b - a * a) * c * s + x * a * s - y * b * c;
    double curved = (b * b - a * a) * (c * c - s * s) + x * a * c + y * b * s;
    if (!(curved > 0.02 * b * b)) curved = a * a * s * s + b * b * c * c;
    double next = std::clamp(t - f / curved, 0.0, std::numbers::pi / 2);
    const bool still = std::abs(next - t) < 1e-14;
    t = next;
    if (still) break;
  }
  if (p.x() < 0) t = std::numbers::pi - t;
  return p.y() < 0 ? -t : t;
}

PlaneSpline spline_over(const std::vector<double>& parameters, std::size_t poles, bool closed) {
  PlaneSpline s;
  s.closed = closed;
  s.poles.assign(poles, Vec2::Zero());
  const double low = parameters.front();
  const double high = parameters.back();
  const std::size_t spans = closed ? poles : poles - 3;
  std::vector<double> inner;
  for (std::size_t k = 1; k < spans; ++k)
    inner.push_back(low + (high - low) * static_cast<double>(k) / static_cast<double>(spans));
  if (closed) {
    s.knots.push_back(low);
    s.knots.insert(s.knots.end(), inner.begin(), inner.end());
    s.knots.push_back(high);
  } else {
    s.knots.assign(4, low);
    s.knots.insert(s.knots.end(), inner.begin(), inner.end());
    s.knots.insert(s.knots.end(), 4, high);
  }
  return s;
}

}  // namespace lostline::section
