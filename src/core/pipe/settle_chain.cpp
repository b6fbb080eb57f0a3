#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <map>

#include "pipe/chain.h"

namespace lostline::pipe {
namespace {

/// The numbers of a chain in one row: corners, bends (without the mitre's), radius.
Eigen::VectorXd packed(const Chain& c) {
  const auto corners = static_cast<Eigen::Index>(3 * c.corners.size());
  const auto bends = static_cast<Eigen::Index>(c.bends.size()) - 1;
  Eigen::VectorXd x(corners + bends + 1);
  for (std::size_t k = 0; k < c.corners.size(); ++k)
    x.segment<3>(static_cast<Eigen::Index>(3 * k)) = c.corners[k];
  for (Eigen::Index k = 0; k < bends; ++k)
    x[corners + k] = c.bends[static_cast<std::size_t>(k) + 1];
  x[x.size() - 1] = c.radius;
  return x;
}
Chain unpacked(const Chain& like, const Eigen::VectorXd& x) {
  Chain c = like;
  const auto corners = static_cast<Eigen::Index>(3 * c.corners.size());
  for (std::size_t k = 0; k < c.corners.size(); ++k)
    c.corners[k] = x.segment<3>(static_cast<Eigen::Index>(3 * k));
  for (std::size_t k = 1; k < c.bends.size(); ++k)
    c.bends[k] = x[corners + static_cast<Eigen::Index>(k) - 1];
  c.radius = x[x.size() - 1];
  return c;
}

/// Distance of a point from the endless centre line of a piece.
double reach_of(const Piece& piece, const Vec3& p) {
  if (piece.straight) {
    const Vec3 along = (piece.b - piece.a).normalized();
    const Vec3 d = p - piece.a;
    return (d - d.dot(along) * along).norm();
  }
  const Vec3 d = p - piece.centre;
  const double off = d.dot(piece.axis);
  return std::hypot((d - off * piece.axis).norm() - piece.radius, off);
}

/// How far past its ends the foot of a point lies on a piece, mm; 0 within.
double past_ends(const Piece& piece, const Vec3& p) {
  const Vec3 from = piece.direction(0);
  const Vec3 to = piece.direction(1);
  return std::max({0.0, -(p - piece.a).dot(from), (p - piece.b).dot(to)});
}

/// Which numbers a piece depends on.
struct Depends {
  std::vector<Eigen::Index> numbers;
};

class Fitting {
 public:
  Fitting(const Evidence& evidence, const std::vector<std::uint32_t>& points, Chain start)
      : e_(evidence), points_(points), like_(std::move(start)) {}

  Result<SettledChain> run(const Task& task) {
    SettledChain result;
    Eigen::VectorXd x = packed(like_);
    double damping = 1e-4;
    assign(like_);
    double cost = look(x, true);
    constexpr int kMostRounds = 60;
    for (int round = 0; round < kMostRounds; ++round) {
      if (task.stopped()) return cancelled();
      result.rounds = round + 1;
      Eigen::MatrixXd h = hessian_;
      for (Eigen::Index i = 0; i < h.rows(); ++i)
        h(i, i) = h(i, i) * (1 + damping) + 1e-9 * static_cast<double>(points_.size());
      const Eigen::VectorXd step = h.ldlt().solve(-gradient_);
      if (!step.allFinite())
        return Error{ErrorCode::NotConverged, "The centre line did not settle on the points."};
      const Eigen::VectorXd next = x + step;
      const Chain tried = unpacked(like_, next);
      const double now = sound(tried) ? look(next, false) : 1e300;
      if (now <= cost * (1 + 1e-12)) {
        x = next;
        damping = std::max(damping / 5, 1e-9);
        if (looks_ < kMovingCuts) assign(unpacked(like_, x));
        const double before = cost;
        cost = look(x, true);
        if (looks_ <= kMovingCuts) continue;
        if (before - cost < 1e-9 * cost ||
            step.cwiseAbs().maxCoeff() < 1e-7 * std::max(1.0, tried.radius)) {
          result.settled = true;
          break;
        }
      } else {
        damping *= 8;
        if (damping > 1e8) {
          // No step makes it better: it is at its best.
          result.settled = looks_ > kMovingCuts;
          if (result.settled) break;
          damping = 1e-4;
          assign(unpacked(like_, x));
          cost = look(x, true);
        }
      }
    }
    finish(x, result);
    return result;
  }

 private:
  static bool sound(const Chain& c) {
    if (!(c.radius > 0)) return false;
    for (std::size_t k = 1; k < c.bends.size(); ++k) {
      if (!(c.bends[k] > 0.5 * c.radius) || c.bends[k] > 1e7 * c.radius) return false;
    }
    for (std::size_t k = 0; k + 1 < c.corners.size(); ++k) {
      if ((c.corners[k + 1] - c.corners[k]).norm() < 1e-6 * c.radius) return false;
    }
    return true;
  }
  /// Each point to the piece whose surface is nearest among those its foot lies on.
  void assign(const Chain& chain) {
    const std::vector<Piece> pieces = chain.pieces();
    piece_.assign(points_.size(), 0);
    for (std::size_t i = 0; i < points_.size(); ++i) {
      const Vec3& p = e_.points[points_[i]];
      double best = 1e300;
      for (std::size_t k = 0; k < pieces.size(); ++k) {
        if (pieces[k].straight && (pieces[k].b - pieces[k].a).norm() < 1e-3 * chain.radius)
          continue;
        // Past both ends of all, the nearest end counts.
        const double off =
            std::abs(reach_of(pieces[k], p) - chain.radius) + past_ends(pieces[k], p);
        if (off < best) {
          best = off;
          piece_[i] = k;
        }
      }
    }
  }
  /// Numbers that the pieces of a chain depend on, in the order of Chain::pieces.
  [[nodiscard]] std::vector<Depends> depends(const Chain& c) const {
    std::vector<Depends> all;
    const auto corner = [](std::size_t k, Depends& d) {
      for (Eigen::Index i = 0; i < 3; ++i)
        d.numbers.push_back(static_cast<Eigen::Index>(3 * k) + i);
    };
    const std::size_t n = c.corners.size();
    for (std::size_t k = 1; k < n; ++k) {
      Depends line;
      corner(k - 1, line);
      corner(k, line);
      all.push_back(line);
      if (k + 1 == n || c.bends[c.group[k - 1]] <= 0) continue;
      const Vec3 before = (c.corners[k] - c.corners[k - 1]).normalized();
      const Vec3 after = (c.corners[k + 1] - c.corners[k]).normalized();
      if (before.cross(after).norm() < 1e-9) continue;
      Depends arc;
      corner(k - 1, arc);
      corner(k, arc);
      corner(k + 1, arc);
      arc.numbers.push_back(static_cast<Eigen::Index>(3 * n + c.group[k - 1]) - 1);
      all.push_back(arc);
    }
    return all;
  }
  /// Robust cost; with `slopes` the quadratic form about x as well.
  double look(const Eigen::VectorXd& x, bool slopes) {
    const Chain chain = unpacked(like_, x);
    const std::vector<Piece> pieces = chain.pieces();
    const std::size_t n = points_.size();
    residual_.resize(n);
    for (std::size_t i = 0; i < n; ++i) {
      const std::size_t k = std::min(piece_[i], pieces.size() - 1);
      residual_[i] = reach_of(pieces[k], e_.points[points_[i]]) - chain.radius;
    }
    // What counts as outside moves no more once the fit is near.
    if (slopes && looks_++ < kMovingCuts) {
      std::vector<double> sizes(n);
      for (std::size_t i = 0; i < n; ++i) sizes[i] = std::abs(residual_[i]);
      const auto middle = sizes.begin() + static_cast<std::ptrdiff_t>(n / 2);
      std::nth_element(sizes.begin(), middle, sizes.end());
      constexpr double kTukey = 4.685;  // 95 % efficient with normal noise
      cut_ = std::max(kTukey * 1.4826 * *middle, 1e-7 * chain.radius);
    }
    double cost = 0;
    for (const double r : residual_) {
      const double u = std::min(1.0, (r / cut_) * (r / cut_));
      cost += cut_ * cut_ / 6 * (1 - (1 - u) * (1 - u) * (1 - u));
    }
    if (!slopes) return cost;
    const std::vector<Depends> on = depends(chain);
    const auto size = x.size();
    hessian_.setZero(size, size);
    gradient_.setZero(size);
    rows_.assign(n, {});
    // Each piece moved a little by each of its numbers.
    const double h = 1e-6 * chain.radius;
    std::vector<std::vector<std::pair<Piece, Piece>>> moved(pieces.size());
    for (std::size_t k = 0; k < pieces.size() && k < on.size(); ++k) {
      for (const Eigen::Index number : on[k].numbers) {
        Eigen::VectorXd plus = x;
        plus[number] += h;
        Eigen::VectorXd minus = x;
        minus[number] -= h;
        const auto up = unpacked(like_, plus).pieces();
        const auto down = unpacked(like_, minus).pieces();
        moved[k].emplace_back(k < up.size() ? up[k] : pieces[k],
                              k < down.size() ? down[k] : pieces[k]);
      }
    }
    for (std::size_t i = 0; i < n; ++i) {
      const double u = (residual_[i] / cut_) * (residual_[i] / cut_);
      if (u >= 1) continue;
      const double weight = (1 - u) * (1 - u);
      const std::size_t k = std::min(piece_[i], pieces.size() - 1);
      auto& row = rows_[i];
      for (std::size_t m = 0; m < moved[k].size(); ++m) {
        const Vec3& p = e_.points[points_[i]];
        const double slope =
            (reach_of(moved[k][m].first, p) - reach_of(moved[k][m].second, p)) / (2 * h);
        row.emplace_back(on[k].numbers[m], slope);
      }
      row.emplace_back(size - 1, -1.0);
      for (const auto& [a, da] : row) {
        gradient_[a] += weight * residual_[i] * da;
        for (const auto& [b, db] : row) hessian_(a, b) += weight * da * db;
      }
    }
    return cost;
  }
  void finish(const Eigen::VectorXd& x, SettledChain& result) {
    result.chain = unpacked(like_, x);
    double sum = 0;
    double weights = 0;
    std::map<std::array<int, 3>, Eigen::VectorXd> clusters;
    // Neighbours share noise over a few spacings; points of one cube of eight count as one scatter.
    const double cube = 8 * e_.spacing;
    for (std::size_t i = 0; i < points_.size(); ++i) {
      const double r = residual_[i];
      const double u = (r / cut_) * (r / cut_);
      if (u >= 1) continue;
      const double weight = (1 - u) * (1 - u);
      result.points.push_back(points_[i]);
      result.piece.push_back(piece_[i]);
      sum += r * r;
      weights += 1;
      result.greatest = std::max(result.greatest, std::abs(r));
      const Vec3 c = e_.points[points_[i]] / cube;
      const std::array<int, 3> key{static_cast<int>(std::floor(c.x())),
                                   static_cast<int>(std::floor(c.y())),
                                   static_cast<int>(std::floor(c.z()))};
      auto& score = clusters[key];
      if (score.size() == 0) score = Eigen::VectorXd::Zero(x.size());
      for (const auto& [a, da] : rows_[i]) score[a] += weight * r * da;
    }
    result.rms = std::sqrt(sum / std::max(weights, 1.0));
    Eigen::MatrixXd h = hessian_;
    h.diagonal().array() += 1e-9 * static_cast<double>(points_.size());
    const Eigen::MatrixXd inverse = h.ldlt().solve(Eigen::MatrixXd::Identity(h.rows(), h.rows()));
    Eigen::MatrixXd scores = Eigen::MatrixXd::Zero(h.rows(), h.rows());
    for (const auto& [key, score] : clusters) scores += score * score.transpose();
    const auto count = static_cast<double>(clusters.size());
    const double numbers = static_cast<double>(x.size()) - 2;  // the ends lie anywhere along
    const double small = count > numbers + 1 ? count / (count - numbers) : 10;
    const Eigen::MatrixXd covariance = small * inverse * scores * inverse;
    const auto u_of = [&](Eigen::Index i) {
      return 2 * std::sqrt(std::max(0.0, covariance(i, i)));
    };
    result.u_radius = u_of(x.size() - 1);
    const auto corners = static_cast<Eigen::Index>(3 * like_.corners.size());
    for (Eigen::Index k = corners; k < x.size() - 1; ++k) result.u_bends.push_back(u_of(k));
    // How many points weigh as one, by what the clusters say of the radius.
    const double plain =
        std::max(sum / std::max(weights, 1.0), 1e-24) * inverse(x.size() - 1, x.size() - 1);
    const double inflation =
        std::max(1.0, covariance(x.size() - 1, x.size() - 1) / std::max(plain, 1e-300));
    result.cost = 2 * look(x, false);
    result.variance = sum / std::max(weights, 1.0) * inflation;
  }

  static constexpr int kMovingCuts = 10;

  const Evidence& e_;
  const std::vector<std::uint32_t>& points_;
  Chain like_;
  std::vector<std::size_t> piece_;
  std::vector<double> residual_;
  std::vector<std::vector<std::pair<Eigen::Index, double>>> rows_;
  double cut_ = 1;
  int looks_ = 0;
  Eigen::MatrixXd hessian_;
  Eigen::VectorXd gradient_;
};

}  // namespace

Result<SettledChain> settle_chain(const Evidence& evidence, const Chain& start,
                                  const std::vector<std::uint32_t>& points, const Task& task) {
  return Fitting(evidence, points, start).run(task);
}

}  // namespace lostline::pipe
