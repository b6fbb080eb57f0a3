#include "patch/spline_surface.h"

#include <algorithm>
#include <cmath>

namespace lostline::patch {
namespace {

/// Values and derivatives of the four cubic pieces over a span. Source: L. Piegl and W. Tiller, The
/// NURBS Book (1997), A2.3, written out for degree 3.
SplineSurface::Local local(const std::vector<double>& knots, std::size_t poles, double t) {
  t = std::clamp(t, knots[3], knots[poles]);
  auto span = static_cast<std::size_t>(
      std::upper_bound(knots.begin() + 3, knots.begin() + static_cast<std::ptrdiff_t>(poles), t) -
      knots.begin() - 1);
  span = std::min(span, poles - 1);
  double n[4][4] = {};  // n[d][k]: the k-th piece of degree d
  n[0][0] = 1;
  double left[4];
  double right[4];
  for (int d = 1; d <= 3; ++d) {
    left[d] = t - knots[span + 1 - static_cast<std::size_t>(d)];
    right[d] = knots[span + static_cast<std::size_t>(d)] - t;
    double saved = 0;
    for (int k = 0; k < d; ++k) {
      const double part = n[d - 1][k] / (right[k + 1] + left[d - k]);
      n[d][k] = saved + right[k + 1] * part;
      saved = left[d - k] * part;
    }
    n[d][d] = saved;
  }
  SplineSurface::Local l{};
  l.first = span - 3;
  // Derivatives from the pieces of lower degree.
  const auto width = [&](std::size_t k, std::size_t degree) {
    return knots[k + degree] - knots[k];
  };
  const auto lower = [&](int degree, int k) {  // piece k of a degree, 0 outside
    return k < 0 || k > degree ? 0.0 : n[degree][k];
  };
  for (int k = 0; k < 4; ++k) {
    l.value[k] = n[3][k];
    const std::size_t i = l.first + static_cast<std::size_t>(k);
    const auto share = [](double part, double over) { return over > 0 ? part / over : 0; };
    l.slope[k] = 3 * (share(lower(2, k - 1), width(i, 3)) - share(lower(2, k), width(i + 1, 3)));
    const auto slope2 = [&](int m, std::size_t at) {  // of the piece of degree 2 at index `at`
      return 2 * (share(lower(1, m - 1), width(at, 2)) - share(lower(1, m), width(at + 1, 2)));
    };
    // Piece m of degree 2 in this span begins at knot first + 1 + m.
    const double before = k >= 1 ? slope2(k - 1, l.first + static_cast<std::size_t>(k)) : 0.0;
    const double after = k <= 2 ? slope2(k, l.first + 1 + static_cast<std::size_t>(k)) : 0.0;
    l.bend[k] = 3 * (share(before, width(i, 3)) - share(after, width(i + 1, 3)));
  }
  return l;
}

std::vector<double> even_knots(std::size_t poles) {
  std::vector<double> knots(4, 0.0);
  const std::size_t spans = poles - 3;
  for (std::size_t k = 1; k < spans; ++k)
    knots.push_back(static_cast<double>(k) / static_cast<double>(spans));
  knots.insert(knots.end(), 4, 1.0);
  return knots;
}

}  // namespace

bool SplineSurface::sound() const {
  const auto good = [](const std::vector<double>& knots, std::size_t poles) {
    return knots.size() == poles + 4 && std::is_sorted(knots.begin(), knots.end()) &&
           std::isfinite(knots.front()) && std::isfinite(knots.back()) && knots[3] < knots[poles];
  };
  constexpr std::size_t kMost = 1 << 16;  // poles in one direction, far above any face
  return nu >= 4 && nv >= 4 && nu < kMost && nv < kMost && poles.size() == nu * nv &&
         good(u_knots, nu) && good(v_knots, nv) &&
         std::all_of(poles.begin(), poles.end(), [](const Vec3& p) { return p.allFinite(); });
}

SplineSurface SplineSurface::even(std::size_t nu, std::size_t nv) {
  SplineSurface s;
  s.nu = nu;
  s.nv = nv;
  s.poles.assign(nu * nv, Vec3::Zero());
  s.u_knots = even_knots(nu);
  s.v_knots = even_knots(nv);
  return s;
}

SplineSurface::Local SplineSurface::local_u(double u) const { return local(u_knots, nu, u); }
SplineSurface::Local SplineSurface::local_v(double v) const { return local(v_knots, nv, v); }

Vec3 SplineSurface::at(double u, double v) const {
  const Local a = local_u(u);
  const Local b = local_v(v);
  Vec3 sum = Vec3::Zero();
  for (std::size_t i = 0; i < 4; ++i) {
    for (std::size_t j = 0; j < 4; ++j)
      sum += a.value[i] * b.value[j] * poles[(a.first + i) * nv + b.first + j];
  }
  return sum;
}

SplineSurface::Jet SplineSurface::jet(double u, double v) const {
  const Local a = local_u(u);
  const Local b = local_v(v);
  Jet s{Vec3::Zero(), Vec3::Zero(), Vec3::Zero(), Vec3::Zero(), Vec3::Zero(), Vec3::Zero()};
  for (std::size_t i = 0; i < 4; ++i) {
    for (std::size_t j = 0; j < 4; ++j) {
      const Vec3& p = poles[(a.first + i) * nv + b.first + j];
      s.at += a.value[i] * b.value[j] * p;
      s.du += a.slope[i] * b.value[j] * p;
      s.dv += a.value[i] * b.slope[j] * p;
      s.duu += a.bend[i] * b.value[j] * p;
      s.duv += a.slope[i] * b.slope[j] * p;
      s.dvv += a.value[i] * b.bend[j] * p;
    }
  }
  return s;
}

Vec3 SplineSurface::normal(double u, double v) const {
  const Jet s = jet(u, v);
  return s.du.cross(s.dv).normalized();
}

Vec2 SplineSurface::foot(const Vec3& p, const Vec2& from, int rounds) const {
  Vec2 t = from;
  for (int round = 0; round < rounds; ++round) {
    const Jet s = jet(t.x(), t.y());
    const Vec3 off = s.at - p;
    const Vec2 g(off.dot(s.du), off.dot(s.dv));
    // Gauss-Newton's form: it never steps away from a minimum.
    const double a = s.du.squaredNorm();
    const double b = s.du.dot(s.dv);
    const double c = s.dv.squaredNorm();
    const double det = a * c - b * b;
    if (!(det > 1e-300)) break;
    Vec2 step(-(c * g.x() - b * g.y()) / det, -(a * g.y() - b * g.x()) / det);
    const double size = step.cwiseAbs().maxCoeff();
    if (size > 0.1) step *= 0.1 / size;
    const Vec2 next = (t + step).cwiseMax(0.0).cwiseMin(1.0);
    const bool still = (next - t).norm() < 1e-10;
    t = next;
    if (still) break;
  }
  return t;
}

}  // namespace lostline::patch
