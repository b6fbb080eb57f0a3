#include "section/resolving/spline_fit.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <optional>

namespace lostline::section {
namespace {

/// Normal equations of poles, whose matrix has a band: each pole meets three on either side. A
/// closed spline wraps round, so its matrix is kept whole.
class Normal {
 public:
  Normal(std::size_t poles, bool closed)
      : size_(2 * static_cast<Eigen::Index>(poles)), closed_(closed) {
    matrix_ = closed ? Eigen::MatrixXd::Zero(size_, size_) : Eigen::MatrixXd::Zero(kBand, size_);
    right_ = Eigen::VectorXd::Zero(size_);
  }
  void add(Eigen::Index row, Eigen::Index column, double value) {
    if (closed_)
      matrix_(row, column) += value;
    else if (row >= column)
      matrix_(row - column, column) += value;
  }
  void add_right(Eigen::Index row, double value) { right_[row] += value; }
  [[nodiscard]] double trace() const { return closed_ ? matrix_.trace() : matrix_.row(0).sum(); }
  /// Cholesky within the band. Empty when not positive definite.
  Eigen::VectorXd solve() {
    if (closed_) return matrix_.ldlt().solve(right_);
    for (Eigen::Index j = 0; j < size_; ++j) {
      if (!(matrix_(0, j) > 0)) return {};
      const double pivot = std::sqrt(matrix_(0, j));
      const Eigen::Index reach = std::min(kBand, size_ - j);
      for (Eigen::Index i = 0; i < reach; ++i) matrix_(i, j) /= pivot;
      for (Eigen::Index k = 1; k < reach; ++k)
        for (Eigen::Index i = k; i < reach; ++i)
          matrix_(i - k, j + k) -= matrix_(i, j) * matrix_(k, j);
    }
    for (Eigen::Index j = 0; j < size_; ++j) {
      right_[j] /= matrix_(0, j);
      for (Eigen::Index i = 1; i < std::min(kBand, size_ - j); ++i)
        right_[j + i] -= matrix_(i, j) * right_[j];
    }
    for (Eigen::Index j = size_; j-- > 0;) {
      for (Eigen::Index i = 1; i < std::min(kBand, size_ - j); ++i)
        right_[j] -= matrix_(i, j) * right_[j + i];
      right_[j] /= matrix_(0, j);
    }
    return right_;
  }

 private:
  static constexpr Eigen::Index kBand = 8;
  Eigen::Index size_;
  bool closed_;
  Eigen::MatrixXd matrix_;
  Eigen::VectorXd right_;
};

/// Second differences of the poles, by as much as keeps poles without points in place.
void add_fairness(Normal& normal, std::size_t poles, bool closed) {
  const double fair = 1e-7 * normal.trace() / (2 * static_cast<double>(poles));
  const double c[3] = {1, -2, 1};
  for (std::size_t k = 0; k < (closed ? poles : poles - 2); ++k) {
    for (std::size_t a = 0; a < 3; ++a)
      for (std::size_t b = 0; b < 3; ++b)
        for (Eigen::Index d = 0; d < 2; ++d)
          normal.add(static_cast<Eigen::Index>(2 * ((k + a) % poles)) + d,
                     static_cast<Eigen::Index>(2 * ((k + b) % poles)) + d, fair * c[a] * c[b]);
  }
}

struct Sample {
  Vec2 point;
  double weight;
  double t;
};

std::vector<Sample> samples_of(const Trace& trace, const Piece& piece) {
  std::vector<Sample> samples;
  for (std::size_t i = piece.first; i < piece.last; ++i) {
    if (trace.weights[i] == 0) continue;
    const double t =
        samples.empty() ? 0 : samples.back().t + (trace.points[i] - samples.back().point).norm();
    samples.push_back({trace.points[i], trace.weights[i], t});
  }
  return samples;
}

/// The poles by least squares for the parameters, and the parameters for the poles, in turn.
bool settle_poles(const Trace& trace, PlaneSpline& s, std::vector<Sample>& samples, int rounds) {
  const std::size_t poles = s.poles.size();
  for (int round = 0; round < rounds; ++round) {
    Normal normal(poles, s.closed);
    const bool fresh = s.poles.front() == s.poles.back() && !s.closed;
    // Departures along the curve count little: the parameters may slide.
    const double slide = fresh || round == 0 ? 1 : 0.03;
    for (const Sample& sample : samples) {
      const PlaneSpline::Local l = s.local(sample.t);
      Vec2 along = fresh ? Vec2(Vec2::UnitX()) : s.slope(sample.t);
      if (!(along.norm() > 0)) along = Vec2::UnitX();
      along.normalize();
      const Vec2 across(-along.y(), along.x());
      const Eigen::Matrix2d metric =
          sample.weight * (across * across.transpose() + slide * along * along.transpose());
      const Vec2 pulled = metric * sample.point;
      for (int a = 0; a < 4; ++a) {
        const auto row = static_cast<Eigen::Index>(2 * l.pole[a]);
        for (Eigen::Index d = 0; d < 2; ++d) normal.add_right(row + d, l.value[a] * pulled[d]);
        for (int b = 0; b < 4; ++b) {
          const auto column = static_cast<Eigen::Index>(2 * l.pole[b]);
          for (Eigen::Index d = 0; d < 2; ++d)
            for (Eigen::Index e = 0; e < 2; ++e)
              normal.add(row + d, column + e, l.value[a] * l.value[b] * metric(d, e));
        }
      }
    }
    add_fairness(normal, poles, s.closed);
    const Eigen::VectorXd x = normal.solve();
    if (x.size() == 0 || !x.allFinite()) return false;
    for (std::size_t k = 0; k < poles; ++k)
      s.poles[k] = x.segment<2>(static_cast<Eigen::Index>(2 * k));
    double moved = 0;
    for (Sample& sample : samples) {
      const double next = s.parameter_near(sample.point, sample.t);
      moved = std::max(moved, std::abs(next - sample.t));
      sample.t = next;
    }
    if (moved < 1e-3 * trace.step) break;
  }
  return true;
}

/// One knot more in the middle of the span whose points depart most, with points enough for it;
/// false when there is none.
bool put_knot(const Trace& trace, PlaneSpline& s, const std::vector<Sample>& samples) {
  constexpr double kFewest = 6;  // points in what becomes two spans
  const std::size_t first = s.closed ? 0 : 3;
  const std::size_t spans = s.closed ? s.poles.size() : s.poles.size() - 3;
  std::vector<double> bad(spans, 0);
  std::vector<double> count(spans, 0);
  const auto begin = s.knots.begin() + static_cast<std::ptrdiff_t>(first) + 1;
  const auto end = begin + static_cast<std::ptrdiff_t>(spans) - 1;
  const double period = s.high() - s.low();
  for (const Sample& sample : samples) {
    double t = sample.t;
    if (s.closed) t -= period * std::floor((t - s.low()) / period);
    const auto span = static_cast<std::size_t>(std::upper_bound(begin, end, t) - begin);
    bad[span] += sample.weight * (s.at(sample.t) - sample.point).squaredNorm();
    count[span] += 1;
  }
  std::size_t worst = spans;
  double most = 0;
  for (std::size_t k = 0; k < spans; ++k) {
    if (count[k] < kFewest) continue;
    const double excess = bad[k] - count[k] * trace.sigma * trace.sigma * 0.5;
    if (excess > most || worst == spans) {
      most = excess;
      worst = k;
    }
  }
  if (worst == spans) return false;
  const auto at = static_cast<std::ptrdiff_t>(first + worst);
  const double middle = 0.5 * (s.knots[first + worst] + s.knots[first + worst + 1]);
  s.knots.insert(s.knots.begin() + at + 1, middle);
  s.poles.push_back(Vec2::Zero());
  return true;
}

}  // namespace

bool fit_poles(const Trace& trace, Piece& piece) {
  std::vector<Sample> samples = samples_of(trace, piece);
  if (samples.size() < piece.spline.poles.size() + 2) return false;
  const bool fitted = !(piece.spline.poles.front() == piece.spline.poles.back());
  if (fitted) {
    double t = piece.spline.parameter(samples.front().point);
    for (Sample& s : samples) s.t = t = piece.spline.parameter_near(s.point, t);
  }
  if (!settle_poles(trace, piece.spline, samples, 8)) return false;
  piece.kind = PieceKind::Spline;
  piece.counter_clockwise = true;
  measure(trace, piece);
  return true;
}

bool fit_spline(const Trace& trace, Piece& piece, double most, const Costs& costs) {
  std::vector<Sample> samples = samples_of(trace, piece);
  const std::size_t n = samples.size();
  const std::size_t least = piece.whole ? 6 : 5;
  if (n < 3 * least) return false;
  std::vector<double> range;
  for (const Sample& s : samples) range.push_back(s.t);
  if (piece.whole)
    range.push_back(range.back() + (samples.front().point - samples.back().point).norm());
  PlaneSpline s = spline_over(range, least, piece.whole);
  const double unit = 1 / (trace.sigma * trace.sigma * trace.inflation);
  double weights = 0;
  for (const Sample& sample : samples) weights += sample.weight;
  std::optional<PlaneSpline> best;
  double best_cost = 1e300;
  double best_chi = 0;
  constexpr std::size_t kMost = 60;  // poles
  for (std::size_t poles = least; poles <= std::min(kMost, n / 3); ++poles) {
    const double price = costs.spline + costs.pole * (static_cast<double>(poles) - 4);
    if (price > std::min(best_cost, most)) break;
    if (!settle_poles(trace, s, samples, poles == least ? 6 : 3)) break;
    double chi = 0;
    for (const Sample& sample : samples)
      chi += sample.weight * std::min((s.at(sample.t) - sample.point).squaredNorm(),
                                      36 * trace.sigma * trace.sigma);
    chi *= unit;
    if (chi + price < best_cost) {
      best = s;
      best_cost = chi + price;
      best_chi = chi;
    }
    if (!put_knot(trace, s, samples)) break;
  }
  if (!best || best_cost > most) return false;
  // It must explain the points, as it explains anything.
  const double expected = weights / trace.inflation;
  if (best_chi > 2 * expected + 4 * std::sqrt(2 * expected)) return false;
  piece.kind = PieceKind::Spline;
  piece.spline = *std::move(best);
  piece.counter_clockwise = true;
  piece.chi = best_chi;
  return true;
}

}  // namespace lostline::section
