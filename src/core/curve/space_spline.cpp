#include "curve/space_spline.h"

#include <Eigen/Dense>
#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <optional>

namespace lostline::curve {
namespace {

/// Times of places by the lengths of their chords; of a closed line with the way back.
std::vector<double> times_of(const std::vector<Vec3>& places, bool closed) {
  std::vector<double> times{0};
  for (std::size_t i = 1; i < places.size(); ++i)
    times.push_back(times.back() + (places[i] - places[i - 1]).norm());
  if (closed) times.push_back(times.back() + (places.front() - places.back()).norm());
  return times;
}

/// Slopes at the places as a matrix on the places: a spline is linear in them.
Eigen::MatrixXd slopes_of(const std::vector<double>& times, bool closed) {
  const auto pieces = static_cast<Eigen::Index>(times.size()) - 1;
  const Eigen::Index n = closed ? pieces : pieces + 1;
  const auto h = [&](Eigen::Index i) {
    const auto k = static_cast<std::size_t>((i % pieces + pieces) % pieces);
    return times[k + 1] - times[k];
  };
  const auto at = [&](Eigen::Index i) { return (i % n + n) % n; };
  if (n == 2) {
    Eigen::MatrixXd straight(2, 2);
    straight << -1 / h(0), 1 / h(0), -1 / h(0), 1 / h(0);
    return straight;
  }
  Eigen::MatrixXd a = Eigen::MatrixXd::Zero(n, n);
  Eigen::MatrixXd b = Eigen::MatrixXd::Zero(n, n);
  /// Adds `factor` times the slope of chord i to the right side of a row.
  const auto chord = [&](Eigen::Index row, Eigen::Index i, double factor) {
    b(row, at(i + 1)) += factor / h(i);
    b(row, at(i)) -= factor / h(i);
  };
  for (Eigen::Index i = closed ? 0 : 1; i < (closed ? n : n - 1); ++i) {
    a(i, at(i - 1)) += h(i);
    a(i, i) += 2 * (h(i - 1) + h(i));
    a(i, at(i + 1)) += h(i - 1);
    chord(i, i - 1, 3 * h(i));
    chord(i, i, 3 * h(i - 1));
  }
  if (!closed && n == 3) {
    // One parabola: the slopes at its ends and the middle lie evenly.
    a(0, 0) = a(0, 1) = 1;
    chord(0, 0, 2);
    a(2, 1) = a(2, 2) = 1;
    chord(2, 1, 2);
  } else if (!closed) {
    // The third derivative does not jump at the second and the last but one place.
    const auto end = [&](Eigen::Index row, Eigen::Index first, Eigen::Index second,
                         Eigen::Index third, Eigen::Index near, Eigen::Index far) {
      const double p = h(near) * h(near);
      const double q = h(far) * h(far);
      a(row, first) += q;
      a(row, second) += q - p;
      a(row, third) -= p;
      chord(row, near, 2 * q);
      chord(row, far, -2 * p);
    };
    end(0, 0, 1, 2, 0, 1);
    end(n - 1, n - 1, n - 2, n - 3, n - 2, n - 3);
  }
  return a.partialPivLu().solve(b);
}

/// Value of a cubic from its ends and slopes, as weights on the two places and the two slopes.
struct Hermite {
  double first, second, first_slope, second_slope;
};
Hermite hermite(double u, double h) {
  const double v = 1 - u;
  return {v * v * (1 + 2 * u), u * u * (1 + 2 * v), h * u * v * v, -h * u * u * v};
}

}  // namespace

Result<SpaceSpline> SpaceSpline::through(const std::vector<Vec3>& places, bool closed) {
  const std::size_t needed = closed ? 3 : 2;
  if (places.size() < needed)
    return Error{ErrorCode::InvalidInput, "A curve goes through " + std::to_string(needed) +
                                              " places at least; there are " +
                                              std::to_string(places.size()) + "."};
  for (const Vec3& p : places) {
    if (!p.allFinite())
      return Error{ErrorCode::InvalidInput, "A place has a coordinate that is not a number."};
  }
  std::vector<double> times = times_of(places, closed);
  for (std::size_t i = 1; i < times.size(); ++i) {
    if (!(times[i] - times[i - 1] > 1e-12 * times.back()))
      return Error{ErrorCode::InvalidInput, "Places " + std::to_string(i) + " and " +
                                                std::to_string(i < places.size() ? i + 1 : 1) +
                                                " of the curve are the same."};
  }
  const Eigen::MatrixXd slopes = slopes_of(times, closed);
  Eigen::MatrixX3d all(static_cast<Eigen::Index>(places.size()), 3);
  for (std::size_t i = 0; i < places.size(); ++i)
    all.row(static_cast<Eigen::Index>(i)) = places[i].transpose();
  const Eigen::MatrixX3d solved = slopes * all;
  std::vector<Vec3> ends = places;
  std::vector<Vec3> ways;
  for (Eigen::Index i = 0; i < solved.rows(); ++i) ways.emplace_back(solved.row(i).transpose());
  if (closed) {
    ends.push_back(ends.front());
    ways.push_back(ways.front());
  }
  return SpaceSpline(std::move(times), std::move(ends), std::move(ways), closed);
}

std::size_t SpaceSpline::piece(double t) const {
  const auto it = std::upper_bound(times_.begin() + 1, times_.end() - 1, t);
  return static_cast<std::size_t>(it - times_.begin()) - 1;
}

Vec3 SpaceSpline::at(double t) const {
  const std::size_t i = piece(t);
  const double h = times_[i + 1] - times_[i];
  const Hermite w = hermite((t - times_[i]) / h, h);
  return w.first * places_[i] + w.second * places_[i + 1] + w.first_slope * slopes_[i] +
         w.second_slope * slopes_[i + 1];
}

Vec3 SpaceSpline::slope(double t) const {
  const std::size_t i = piece(t);
  const double h = times_[i + 1] - times_[i];
  const double u = (t - times_[i]) / h;
  return 6 * u * (1 - u) / h * (places_[i + 1] - places_[i]) + (1 - u) * (1 - 3 * u) * slopes_[i] +
         u * (3 * u - 2) * slopes_[i + 1];
}

SpaceSpline::Near SpaceSpline::nearest(const Vec3& p) const {
  constexpr int kSteps = 6;  // looked at in each piece: a cubic turns once or twice
  double best = 0;
  double least = std::numeric_limits<double>::infinity();
  double step = range();
  for (std::size_t i = 0; i + 1 < times_.size(); ++i) {
    const double h = (times_[i + 1] - times_[i]) / kSteps;
    for (int k = 0; k <= kSteps; ++k) {
      const double t = times_[i] + k * h;
      const double off = (at(t) - p).squaredNorm();
      if (off >= least) continue;
      least = off;
      best = t;
      step = h;
    }
  }
  // Between its neighbours there is one least: halved by the sign of the slope.
  double low = std::max(0.0, best - step);
  double high = std::min(range(), best + step);
  for (int k = 0; k < 50; ++k) {
    const double middle = 0.5 * (low + high);
    if ((at(middle) - p).dot(slope(middle)) > 0)
      high = middle;
    else
      low = middle;
  }
  const double t = 0.5 * (low + high);
  const Vec3 found = at(t);
  if ((found - p).squaredNorm() < least) return {t, found, (found - p).norm()};
  return {best, at(best), std::sqrt(least)};
}

double SpaceSpline::length() const {
  // Gauss and Legendre with five points a piece.
  constexpr std::array kAt{0.0, 0.5384693101056831, 0.9061798459386640};
  constexpr std::array kWeight{0.5688888888888889, 0.4786286704993665, 0.2369268850561891};
  double sum = 0;
  for (std::size_t i = 0; i + 1 < times_.size(); ++i) {
    const double half = 0.5 * (times_[i + 1] - times_[i]);
    const double middle = 0.5 * (times_[i + 1] + times_[i]);
    for (std::size_t k = 0; k < kAt.size(); ++k) {
      sum += half * kWeight[k] * slope(middle + half * kAt[k]).norm();
      if (k > 0) sum += half * kWeight[k] * slope(middle - half * kAt[k]).norm();
    }
  }
  return sum;
}

std::vector<Vec3> SpaceSpline::points(double apart) const {
  const auto count = static_cast<std::size_t>(std::clamp(std::ceil(range() / apart), 1.0, 1e6));
  std::vector<Vec3> all;
  for (std::size_t k = 0; k <= count; ++k)
    all.push_back(at(range() * static_cast<double>(k) / static_cast<double>(count)));
  return all;
}

SpaceSpline::Poles SpaceSpline::poles() const {
  Poles made;
  made.knots = times_;
  const std::size_t pieces = times_.size() - 1;
  const auto knot = [&](std::size_t k) {  // with the repeats at the ends
    return times_[std::clamp<std::size_t>(k, 3, pieces + 3) - 3];
  };
  // Pole j is the polar form of a piece in its support at the three inner knots of that. Source:
  // L. Ramshaw, Blossoms are polar forms, CAGD 6 (1989).
  for (std::size_t j = 0; j < pieces + 3; ++j) {
    const std::size_t i = std::clamp<std::size_t>(j, 1, pieces) - 1;
    const double h = times_[i + 1] - times_[i];
    const double a = knot(j + 1) - times_[i];
    const double b = knot(j + 2) - times_[i];
    const double c = knot(j + 3) - times_[i];
    const Vec3 chord = (places_[i + 1] - places_[i]) / h;
    const Vec3 second = (3 * chord - 2 * slopes_[i] - slopes_[i + 1]) / h;
    const Vec3 third = (slopes_[i] + slopes_[i + 1] - 2 * chord) / (h * h);
    made.poles.emplace_back(places_[i] + (a + b + c) / 3 * slopes_[i] +
                            (a * b + b * c + c * a) / 3 * second + a * b * c * third);
  }
  return made;
}

/// Places of a spline by least squares of points, for parameters that are known.
class PlacesFit {
 public:
  PlacesFit(const std::vector<Vec3>& points, bool closed) : points_(points), closed_(closed) {
    at_ = times_of(points, closed);
    length_ = at_.back();
    if (closed) at_.pop_back();
  }
  [[nodiscard]] double length() const { return length_; }
  [[nodiscard]] const std::vector<double>& parameters() const { return at_; }

  /// The best places at given times (of a closed line with its length as the last one).
  [[nodiscard]] std::vector<Vec3> places(const std::vector<double>& times) const {
    const Eigen::MatrixXd slopes = slopes_of(times, closed_);
    const Eigen::Index n = slopes.rows();
    const auto rows = static_cast<Eigen::Index>(points_.size());
    Eigen::MatrixXd design = Eigen::MatrixXd::Zero(rows, n);
    Eigen::MatrixX3d right(rows, 3);
    for (Eigen::Index r = 0; r < rows; ++r) {
      const double t = at_[static_cast<std::size_t>(r)];
      const auto next = std::upper_bound(times.begin() + 1, times.end() - 1, t);
      const auto i = static_cast<Eigen::Index>(next - times.begin()) - 1;
      const double h = times[static_cast<std::size_t>(i) + 1] - times[static_cast<std::size_t>(i)];
      const Hermite w = hermite((t - times[static_cast<std::size_t>(i)]) / h, h);
      design(r, i) += w.first;
      design(r, (i + 1) % n) += w.second;
      design.row(r) += w.first_slope * slopes.row(i) + w.second_slope * slopes.row((i + 1) % n);
      right.row(r) = points_[static_cast<std::size_t>(r)].transpose();
    }
    const Eigen::MatrixX3d solved = design.householderQr().solve(right);
    std::vector<Vec3> places;
    for (Eigen::Index i = 0; i < n; ++i) places.emplace_back(solved.row(i).transpose());
    return places;
  }
  /// Parameters of the points on a curve, in place of the lengths along them.
  void measure(const SpaceSpline& spline) {
    for (std::size_t i = 0; i < points_.size(); ++i) at_[i] = spline.nearest(points_[i]).t;
    length_ = spline.range();
  }
  void scale_to(double length) {
    for (double& t : at_) t *= length / length_;
    length_ = length;
  }

 private:
  const std::vector<Vec3>& points_;
  bool closed_;
  std::vector<double> at_;
  double length_ = 0;
};

Result<Followed> follow(const std::vector<Vec3>& points, bool closed, double tolerance) {
  if (!(tolerance > 0) || !std::isfinite(tolerance))
    return Error{ErrorCode::InvalidInput, "The tolerance of a curve must be above 0."};
  // Points upon each other say nothing of the way.
  std::vector<Vec3> line;
  for (const Vec3& p : points) {
    if (!p.allFinite())
      return Error{ErrorCode::InvalidInput, "A point has a coordinate that is not a number."};
    if (line.empty() || (p - line.back()).norm() > 1e-9) line.push_back(p);
  }
  if (closed && line.size() > 1 && (line.front() - line.back()).norm() <= 1e-9) line.pop_back();
  if (line.size() < 4)
    return Error{
        line.size() < 2 ? ErrorCode::Degenerate : ErrorCode::InvalidInput,
        "A curve is told by four points at least; there are " + std::to_string(line.size()) + "."};
  const std::size_t most = std::min<std::size_t>(200, line.size() / 2);
  const PlacesFit first(line, closed);
  // Shares of the whole length at which the places stand.
  std::vector<double> shares;
  const std::size_t begin = std::min<std::size_t>(closed ? 6 : 4, std::max<std::size_t>(most, 3));
  for (std::size_t k = 0; k < begin; ++k)
    shares.push_back(static_cast<double>(k) / static_cast<double>(closed ? begin : begin - 1));
  Followed best;
  while (true) {
    PlacesFit fit = first;
    std::vector<Vec3> places;
    std::optional<SpaceSpline> spline;
    for (int round = 0; round < 3; ++round) {
      std::vector<double> times;
      if (spline) {
        times = times_of(places, closed);
        fit.scale_to(times.back());
      } else {
        for (const double share : shares) times.push_back(share * fit.length());
        if (closed) times.push_back(fit.length());
      }
      places = fit.places(times);
      auto made = SpaceSpline::through(places, closed);
      if (!made) return made.error();
      spline = *std::move(made);
      fit.measure(*spline);
    }
    Followed now;
    now.places = places;
    std::vector<double> off;
    std::size_t worst = 0;
    for (std::size_t i = 0; i < line.size(); ++i) {
      off.push_back((spline->at(fit.parameters()[i]) - line[i]).norm());
      now.rms += off.back() * off.back();
      if (off.back() > off[worst]) worst = i;
    }
    now.greatest = off[worst];
    now.rms = std::sqrt(now.rms / static_cast<double>(line.size()));
    // Where the curve is furthest off on the whole, not one stray point: the piece of most squares.
    std::vector<double> sum(shares.size(), 0);
    for (std::size_t i = 0; i < line.size(); ++i) {
      const double share = first.parameters()[i] / first.length();
      const auto next = std::upper_bound(shares.begin(), shares.end(), share);
      const std::size_t piece = static_cast<std::size_t>(next - shares.begin()) - 1;
      sum[piece] += off[i] * off[i];
    }
    std::vector<double> sorted = off;
    const auto at95 = sorted.begin() + static_cast<std::ptrdiff_t>(sorted.size() * 95 / 100);
    std::nth_element(sorted.begin(), at95, sorted.end());
    now.p95 = *at95;
    if (best.places.empty() || now.p95 < best.p95) best = now;
    if (now.p95 <= tolerance || shares.size() >= most) return best;
    const auto piece =
        static_cast<std::size_t>(std::max_element(sum.begin(), sum.end()) - sum.begin());
    const double from = shares[piece];
    const double to = piece + 1 < shares.size() ? shares[piece + 1] : 1.0;
    shares.insert(shares.begin() + static_cast<std::ptrdiff_t>(piece) + 1, 0.5 * (from + to));
  }
}

}  // namespace lostline::curve
