#include "joining/adjust.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <map>

#include "base/linear.h"
#include "base/parallel.h"

namespace lostline::joining {
namespace {

using Vector6 = Eigen::Matrix<double, 6, 1>;

/// A point of one piece over another, all in common coordinates.
struct Meeting {
  Vec3 at;  ///< of the first's point
  Vec3 foot;
  Vec3 normal;
  double distance;
  double weight;
  bool edge;  ///< a scanner rounds edges, each time another way: the distance scatters more
};

/// How well a point was seen: the flatter, the worse.
double sight(const Piece& piece, const Vec3& normal) {
  if (piece.eyes.empty()) return 1;
  double best = 0;
  for (const Vec3& eye : piece.eyes) best = std::max(best, eye.dot(normal));
  return std::clamp(best, 0.1, 1.0);
}

std::vector<Meeting> meet(const Piece& first, const Piece& second, const Transform& first_pose,
                          const Transform& second_pose, double search, std::size_t stride) {
  // Edges are drawn together from as far as they scatter.
  const double search_edges = std::max(search, 1.5 * std::max(first.spacing, second.spacing));
  const Transform to_second = second_pose.inverse() * first_pose;
  const auto& sample = first.with_edges;
  const std::size_t count = (sample.size() + stride - 1) / stride;
  std::vector<Meeting> all(count);
  std::vector<char> met(count, 0);
  parallel_for(count, 256, [&](std::size_t begin, std::size_t end) {
    for (std::size_t i = begin; i < end; ++i) {
      const std::size_t k = i * stride;
      const Vec3& own = first.mesh->vertices[sample[k]];
      const Vec3& own_normal = first.normals[sample[k]];
      const Vec3 p = to_second * own;
      const Falls falls = falls_on(second, p, first.edge[sample[k]] != 0 ? search_edges : search);
      if (falls.on != Falls::On::Surface) continue;
      const Vec3 normal = to_second.linear() * own_normal;
      constexpr double kSameWay = 0.7;  // cosine
      if (normal.dot(falls.normal) < kSameWay) continue;
      Meeting& m = all[i];
      m.at = first_pose * own;
      m.foot = second_pose * falls.foot;
      m.normal = second_pose.linear() * falls.normal;
      m.distance = falls.distance;
      m.weight = sight(first, own_normal) * sight(second, falls.normal);
      m.edge = first.edge[sample[k]] != 0 || second.edge[falls.vertex] != 0;
      met[i] = 1;
    }
  });
  std::vector<Meeting> kept;
  for (std::size_t i = 0; i < count; ++i) {
    if (met[i] != 0) kept.push_back(all[i]);
  }
  return kept;
}

double scatter_of(const std::vector<Meeting>& met, bool edge) {
  std::vector<double> sizes;
  for (const Meeting& m : met) {
    if (m.edge == edge) sizes.push_back(std::abs(m.distance));
  }
  if (sizes.empty()) return 0;
  const auto middle = sizes.begin() + static_cast<std::ptrdiff_t>(sizes.size() / 2);
  std::nth_element(sizes.begin(), middle, sizes.end());
  return 1.4826 * *middle;
}

/// One bore seen in two pieces: how far its axes lie apart, in common coordinates.
struct SharedAxis {
  Vec3 at;
  Vec3 apart;  ///< from the second's to the first's, across the axis
  Vec3 direction;
  double sigma;
};

std::vector<SharedAxis> shared_axes(const Piece& first, const Piece& second,
                                    const Transform& first_pose, const Transform& second_pose,
                                    double search) {
  std::vector<SharedAxis> shared;
  for (const Axis& a : first.axes) {
    const Vec3 at = first_pose * a.place;
    const Vec3 direction = first_pose.linear() * a.direction;
    SharedAxis nearest;
    double least = search;
    for (const Axis& b : second.axes) {
      const double sigma = std::hypot(a.sigma, b.sigma);
      constexpr double kSameWay = 0.9986;  // cosine of 3 degrees
      const Vec3 other = second_pose.linear() * b.direction;
      if (a.hollow != b.hollow || std::abs(direction.dot(other)) < kSameWay ||
          std::abs(a.radius - b.radius) > std::max(6 * sigma, 0.01 * b.radius))
        continue;
      const Vec3 d = at - second_pose * b.place;
      const double along = d.dot(other);
      const Vec3 apart = d - along * other;
      // Bores in line with each other are not one: not further along than they are wide.
      if (apart.norm() >= least || std::abs(along) > 4 * b.radius) continue;
      least = apart.norm();
      nearest = {at, apart, other, sigma};
    }
    if (least < search) shared.push_back(nearest);
  }
  return shared;
}

class Adjustment {
 public:
  Adjustment(const std::vector<const Piece*>& pieces, const std::vector<Transform>& start,
             const AdjustOptions& options)
      : pieces_(pieces), options_(options), count_(pieces.size()) {
    adjusted_.poses = start;
    for (const Piece* p : pieces) {
      lever_ = std::max(lever_, p->size / 4);
      const double tilt = p->noise / p->spacing;
      noise_holds_ = std::max(noise_holds_, std::min(0.3 * tilt * tilt, 5e-3));
    }
  }

  Result<Adjusted> run(const Task& task) {
    double search = options_.search;
    std::size_t stride = options_.stride;
    constexpr double kNothing = 1e-7;  // of the size: exact scans scatter by nothing
    const std::size_t finest = options_.few_do ? stride : 1;
    double last_moved = 1e300;
    for (adjusted_.rounds = 0; adjusted_.rounds < options_.most_rounds;) {
      if (task.stopped()) return cancelled();
      task.report(static_cast<double>(adjusted_.rounds) / options_.most_rounds);
      const double moved = round(search, stride, false);
      ++adjusted_.rounds;
      last_moved = moved;
      // Nearer and nearer: what lies further than several times the scatter decides nothing.
      search = std::max(0.7 * search, 8 * scatter_);
      // Few points of an exact scan may go to and fro without end.
      const bool enough = moved < 0.1 * scatter_ || 3 * adjusted_.rounds > options_.most_rounds;
      if (stride > finest && enough) {
        stride = finest;
      } else if (stride == finest &&
                 moved < std::max((options_.few_do ? 0.1 : 2e-3) * scatter_, kNothing * lever_)) {
        adjusted_.settled = true;
        break;
      }
    }
    // Thin parts creep along what holds them weakly; exact ones go to and fro by nothing that
    // counts.
    adjusted_.settled = adjusted_.settled || last_moved < 0.02 * scatter_;
    if (!options_.few_do) round(search, 1, true);
    return adjusted_;
  }

 private:
  [[nodiscard]] bool linked(std::size_t a, std::size_t b) const {
    return options_.linked.empty() || options_.linked[a][b] != 0;
  }
  [[nodiscard]] Vec3 centre(std::size_t i) const { return adjusted_.poses[i] * pieces_[i]->centre; }
  /// Column of a piece's six unknowns; none for the first.
  [[nodiscard]] Eigen::Index at(std::size_t piece) const {
    return 6 * (static_cast<Eigen::Index>(piece) - 1);
  }

  /// Adds what a point would say if it held all of its way, and not along one normal only.
  void add_way(const Vec3& at_, std::size_t a, std::size_t b, double w,
               Eigen::MatrixXd& spread) const {
    using Rows = Eigen::Matrix<double, 3, 6>;
    const auto rows_of = [&](std::size_t piece) {
      const Vec3 r = (at_ - centre(piece)) / lever_;
      Rows rows;
      rows << 0, r.z(), -r.y(), 1, 0, 0, -r.z(), 0, r.x(), 0, 1, 0, r.y(), -r.x(), 0, 0, 0, 1;
      return rows;
    };
    const Rows rows_a = rows_of(a);
    const Rows rows_b = rows_of(b);
    if (a > 0) spread.block<6, 6>(at(a), at(a)).noalias() += w * rows_a.transpose() * rows_a;
    if (b > 0) spread.block<6, 6>(at(b), at(b)).noalias() += w * rows_b.transpose() * rows_b;
    if (a > 0 && b > 0) {
      spread.block<6, 6>(at(a), at(b)).noalias() -= w * rows_a.transpose() * rows_b;
      spread.block<6, 6>(at(b), at(a)).noalias() -= w * rows_b.transpose() * rows_a;
    }
  }

  /// Scores of the places that two pieces share, by pair and cube: they count together there.
  using Clusters = std::map<std::array<std::int64_t, 5>, Eigen::VectorXd>;

  /// Adds that a point of the first lies off the second by a distance along a direction.
  void add_row(const Vec3& at_, const Vec3& along, double distance, double w, std::size_t a,
               std::size_t b, Eigen::MatrixXd& normal, Eigen::VectorXd& right,
               Clusters* clusters) const {
    Vector6 row_a;
    row_a << (at_ - centre(a)).cross(along) / lever_, along;
    Vector6 row_b;
    row_b << -(at_ - centre(b)).cross(along) / lever_, -along;
    if (a > 0) {
      normal.block<6, 6>(at(a), at(a)).noalias() += w * row_a * row_a.transpose();
      right.segment<6>(at(a)) -= w * distance * row_a;
    }
    if (b > 0) {
      normal.block<6, 6>(at(b), at(b)).noalias() += w * row_b * row_b.transpose();
      right.segment<6>(at(b)) -= w * distance * row_b;
    }
    if (a > 0 && b > 0) {
      normal.block<6, 6>(at(a), at(b)).noalias() += w * row_a * row_b.transpose();
      normal.block<6, 6>(at(b), at(a)).noalias() += w * row_b * row_a.transpose();
    }
    if (clusters == nullptr) return;
    // Points within a few spacings share noise: they count together. A place is told both ways, by
    // the points of either.
    const double cube = 6 * std::max(pieces_[a]->spacing, pieces_[b]->spacing);
    const Vec3 c = at_ / cube;
    auto& score = (*clusters)[{static_cast<std::int64_t>(std::min(a, b)),
                               static_cast<std::int64_t>(std::max(a, b)), std::llround(c.x()),
                               std::llround(c.y()), std::llround(c.z())}];
    if (score.size() == 0) score.setZero(normal.rows());
    if (a > 0) score.segment<6>(at(a)) += w * distance * row_a;
    if (b > 0) score.segment<6>(at(b)) += w * distance * row_b;
  }

  /// One step; returns how far it moved anything, mm. `last`: no step, the figures instead.
  double round(double search, std::size_t stride, bool last) {
    const auto unknowns = 6 * static_cast<Eigen::Index>(count_ - 1);
    Eigen::MatrixXd normal = Eigen::MatrixXd::Zero(unknowns, unknowns);
    Eigen::MatrixXd spread = Eigen::MatrixXd::Zero(unknowns, unknowns);
    Eigen::VectorXd right = Eigen::VectorXd::Zero(unknowns);
    Clusters clusters;
    adjusted_.rms.assign(count_, std::vector<double>(count_, 0));
    adjusted_.overlap.assign(count_, std::vector<double>(count_, 0));
    double squares = 0;
    double sum = 0;
    std::vector<double> scatters;
    for (std::size_t a = 0; a < count_; ++a) {
      for (std::size_t b = 0; b < count_; ++b) {
        if (a == b || !linked(a, b)) continue;
        const Piece& first = *pieces_[a];
        const Piece& second = *pieces_[b];
        const auto met =
            meet(first, second, adjusted_.poses[a], adjusted_.poses[b], search, stride);
        constexpr std::size_t kFewest = 20;
        constexpr std::size_t kFew = 5;  // every fifth point tells how far points move
        if (met.size() < kFewest) continue;
        // The least that both noises leave: an exact scan has none.
        const double expected = std::max(std::hypot(first.noise, second.noise), 1e-6 * first.size);
        const double plain = std::max(scatter_of(met, false), 0.7 * expected);
        const double at_edges = std::max(scatter_of(met, true), plain);
        scatters.push_back(plain);
        double pair_squares = 0;
        double pair_sum = 0;
        std::size_t used = 0;
        for (const Meeting& m : met) {
          const double scatter = m.edge ? at_edges : plain;
          const double reach = 4.685 * scatter;  // Tukey's biweight at 95 % efficiency
          if (std::abs(m.distance) >= reach) continue;
          const double inside = 1 - m.distance * m.distance / (reach * reach);
          const double w = m.weight * inside * inside / (scatter * scatter);
          if (used % kFew == 0) add_way(m.at, a, b, kFew * w, spread);
          add_row(m.at, m.normal, m.distance, w, a, b, normal, right, last ? &clusters : nullptr);
          ++used;
          if (!m.edge) {
            pair_squares += inside * inside * m.distance * m.distance;
            pair_sum += inside * inside;
          }
        }
        // Where neither plane nor edge holds thin parts sideways, their holes do. Each once.
        const double search_axes = std::max(search, 1.5 * std::max(first.spacing, second.spacing));
        if (a < b) {
          for (const SharedAxis& s :
               shared_axes(first, second, adjusted_.poses[a], adjusted_.poses[b], search_axes)) {
            // Cauchy's weight: one that is not the same bore decides little.
            const double off = s.apart.norm() / (2.385 * s.sigma);
            const double w = 1 / (s.sigma * s.sigma * (1 + off * off));
            const Vec3 u = any_perpendicular(s.direction);
            add_way(s.at, a, b, w, spread);
            for (const Vec3& across : {u, Vec3(s.direction.cross(u))})
              add_row(s.at, across, s.apart.dot(across), w, a, b, normal, right,
                      last ? &clusters : nullptr);
          }
        }
        squares += pair_squares;
        sum += pair_sum;
        if (pair_sum > 0) adjusted_.rms[a][b] = std::sqrt(pair_squares / pair_sum);
        const double offered =
            std::ceil(static_cast<double>(first.with_edges.size()) / static_cast<double>(stride));
        adjusted_.overlap[a][b] = static_cast<double>(used) / offered;
      }
    }
    if (!scatters.empty()) {
      const auto middle = scatters.begin() + static_cast<std::ptrdiff_t>(scatters.size() / 2);
      std::nth_element(scatters.begin(), middle, scatters.end());
      scatter_ = *middle;
    }
    adjusted_.all_rms = sum > 0 ? std::sqrt(squares / sum) : 0;
    const Held held = held_part(normal, spread);
    const Eigen::MatrixXd all_inverse = held.inverse + held.rest;
    adjusted_.loose = held.loose;
    if (last) {
      Eigen::MatrixXd meat = Eigen::MatrixXd::Zero(unknowns, unknowns);
      for (const auto& [key, score] : clusters) meat += score * score.transpose();
      const double n = static_cast<double>(clusters.size());
      if (n > 1) meat *= n / (n - 1);
      tell_uncertainty(product(product(all_inverse, meat), all_inverse));
      return 0;
    }
    const Eigen::VectorXd firm = held.inverse * right;
    const Eigen::VectorXd step = firm + held.rest * right;
    double moved = 0;
    for (std::size_t i = 1; i < count_; ++i) {
      const Vector6 own = step.segment<6>(at(i));
      const Vec3 turn = own.head<3>() / lever_;
      const Vec3 c = centre(i);
      Transform move = Transform::Identity();
      if (turn.norm() > 0)
        move = Eigen::Translation3d(c) * Eigen::AngleAxisd(turn.norm(), turn.normalized()) *
               Eigen::Translation3d(-c);
      move.pretranslate(Vec3(own.tail<3>()));
      adjusted_.poses[i] = move * adjusted_.poses[i];
      adjusted_.poses[i].linear() =
          Eigen::Quaterniond(adjusted_.poses[i].linear()).normalized().toRotationMatrix();
      moved = std::max(moved, firm.segment<6>(at(i)).norm());
    }
    return moved;
  }
  /// The part of the equations that surfaces hold.
  struct Held {
    Eigen::MatrixXd inverse;
    Eigen::MatrixXd rest;            ///< of what noise or a few points hold: the best there is
    std::vector<std::size_t> loose;  ///< pieces that move in what is not held
  };
  /// Motions compared with themselves: along a cylinder nothing but the tilts that noise gives to
  /// normals holds a shift, as a share of the way the points move.
  /// @param spread  what the equations would be if every point held all of its way.
  [[nodiscard]] Held held_part(const Eigen::MatrixXd& normal, Eigen::MatrixXd spread) const {
    const Eigen::Index n = normal.rows();
    spread.diagonal().array() += 1e-9 * std::max(spread.diagonal().maxCoeff(), 1e-300);
    const Eigen::LLT<Eigen::MatrixXd> llt(spread);
    const Eigen::MatrixXd lower = llt.matrixL();
    const auto solve = [&](const Eigen::MatrixXd& m) -> Eigen::MatrixXd {
      return lower.triangularView<Eigen::Lower>().solve(m);
    };
    const Eigen::MatrixXd half = solve(normal);
    const auto eigen = symmetric_eigen<Eigen::Dynamic>(Eigen::MatrixXd(solve(half.transpose())));
    const Eigen::MatrixXd modes =
        lower.transpose().triangularView<Eigen::Upper>().solve(eigen.vectors);
    Held held{Eigen::MatrixXd::Zero(n, n), Eigen::MatrixXd::Zero(n, n), {}};
    constexpr double kNothing = 1e-7;  // exact surfaces hold no more along themselves
    for (Eigen::Index k = 0; k < n; ++k) {
      Eigen::MatrixXd& part = eigen.values[k] > noise_holds_ ? held.inverse : held.rest;
      if (eigen.values[k] > kNothing)
        part.noalias() += modes.col(k) * modes.col(k).transpose() / eigen.values[k];
      if (eigen.values[k] > noise_holds_) continue;
      Eigen::Index strongest = 0;
      modes.col(k).cwiseAbs().maxCoeff(&strongest);
      const auto piece = static_cast<std::size_t>(strongest / 6) + 1;
      if (std::find(held.loose.begin(), held.loose.end(), piece) == held.loose.end())
        held.loose.push_back(piece);
    }
    return held;
  }
  void tell_uncertainty(const Eigen::MatrixXd& covariance) {
    adjusted_.u_shift.assign(count_, 0);
    adjusted_.u_turn.assign(count_, 0);
    for (std::size_t i = 1; i < count_; ++i) {
      const Eigen::Matrix3d turn = covariance.block<3, 3>(at(i), at(i));
      const Eigen::Matrix3d shift = covariance.block<3, 3>(at(i) + 3, at(i) + 3);
      // The longest axis of the ellipsoid at 95.45 %.
      const double factor = std::sqrt(8.0249);  // chi-squared of three freedoms
      adjusted_.u_shift[i] = factor * std::sqrt(std::max(0.0, symmetric_eigen<3>(shift).values[2]));
      adjusted_.u_turn[i] =
          factor * std::sqrt(std::max(0.0, symmetric_eigen<3>(turn).values[2])) / lever_;
    }
  }

  const std::vector<const Piece*>& pieces_;
  const AdjustOptions& options_;
  std::size_t count_;
  double lever_ = 1e-3;  ///< mm: turns as shifts at this distance
  double scatter_ = 0;
  double noise_holds_ = 1e-5;  ///< share of the points' way that noise alone holds
  Adjusted adjusted_;
};

}  // namespace

Result<Adjusted> adjust(const std::vector<const Piece*>& pieces,
                        const std::vector<Transform>& start, const AdjustOptions& options,
                        const Task& task) {
  Adjustment adjustment(pieces, start, options);
  return adjustment.run(task);
}

}  // namespace lostline::joining
