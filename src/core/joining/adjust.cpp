#include "joining/adjust.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>

#include "base/linear.h"
#include "base/median.h"
#include "joining/held.h"
#include "joining/meetings.h"

namespace lostline::joining {
namespace {

using Vector6 = Eigen::Matrix<double, 6, 1>;

/// The evidence, each sort held by fewer things than the one before.
enum Sort : std::size_t { kAll, kEdgesAndTies, kTies, kSorts };

class Adjustment {
 public:
  Adjustment(const std::vector<const Piece*>& pieces, const std::vector<Transform>& start,
             const AdjustOptions& options)
      : pieces_(pieces), options_(options), count_(pieces.size()) {
    adjusted_.poses = start;
    for (const Piece* p : pieces) {
      lever_ = std::max(lever_, p->size / 4);
      const double tilt = p->noise / p->spacing;
      least_[kAll] = std::max(least_[kAll], std::min(0.3 * tilt * tilt, 5e-3));
      // At edges normals are not averaged, and tilt by about twice as much.
      least_[kEdgesAndTies] = std::max(least_[kEdgesAndTies], std::min(12 * tilt * tilt, 0.2));
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

  /// One distance between two pieces along a direction.
  struct Row {
    std::size_t a, b;
    Vec3 at;
    Vec3 along;
    double distance;
    double weight;
  };
  using Rows = Eigen::Matrix<double, 3, 6>;
  /// How a place moves with the six unknowns of a piece.
  [[nodiscard]] Rows way_of(const Vec3& place, std::size_t piece) const {
    const Vec3 r = (place - centre(piece)) / lever_;
    Rows rows;
    rows << 0, r.z(), -r.y(), 1, 0, 0, -r.z(), 0, r.x(), 0, 1, 0, r.y(), -r.x(), 0, 0, 0, 1;
    return rows;
  }
  /// How a distance grows with them.
  [[nodiscard]] Vector6 slope_of(const Row& row, std::size_t piece) const {
    Vector6 slope;
    slope << (row.at - centre(piece)).cross(row.along) / lever_, row.along;
    return slope;
  }
  /// Adds what a place would say if it held all of its way.
  void add_way(const Row& row, Eigen::MatrixXd& spread) const {
    const auto& [a, b, place, along, distance, w] = row;
    const Rows rows_a = way_of(place, a);
    const Rows rows_b = way_of(place, b);
    if (a > 0) spread.block<6, 6>(at(a), at(a)).noalias() += w * rows_a.transpose() * rows_a;
    if (b > 0) spread.block<6, 6>(at(b), at(b)).noalias() += w * rows_b.transpose() * rows_b;
    if (a > 0 && b > 0) {
      spread.block<6, 6>(at(a), at(b)).noalias() -= w * rows_a.transpose() * rows_b;
      spread.block<6, 6>(at(b), at(a)).noalias() -= w * rows_b.transpose() * rows_a;
    }
  }
  void add_row(const Row& row, Eigen::MatrixXd& normal) const {
    const auto& [a, b, place, along, distance, w] = row;
    const Vector6 row_a = slope_of(row, a);
    const Vector6 row_b = -slope_of(row, b);
    if (a > 0) normal.block<6, 6>(at(a), at(a)).noalias() += w * row_a * row_a.transpose();
    if (b > 0) normal.block<6, 6>(at(b), at(b)).noalias() += w * row_b * row_b.transpose();
    if (a > 0 && b > 0) {
      normal.block<6, 6>(at(a), at(b)).noalias() += w * row_a * row_b.transpose();
      normal.block<6, 6>(at(b), at(a)).noalias() += w * row_b * row_a.transpose();
    }
  }
  /// Adds the slope of half the weighted square of a distance.
  void add_slope(const Row& row, Eigen::Ref<Eigen::VectorXd> slope) const {
    const double pull = row.weight * row.distance;
    if (row.a > 0) slope.segment<6>(at(row.a)) += pull * slope_of(row, row.a);
    if (row.b > 0) slope.segment<6>(at(row.b)) -= pull * slope_of(row, row.b);
  }

  /// Slopes of the places that two pieces share, by pair and cube, of all points and of those at
  /// edges: points within a few spacings share noise and count together. A place is told both ways,
  /// by the points of either.
  using Clusters = std::map<std::array<std::int64_t, 5>, Eigen::MatrixX2d>;
  void add_to_cluster(const Row& row, bool edge, Clusters& clusters) const {
    const auto few = static_cast<std::int64_t>(std::min(row.a, row.b));
    const auto many = static_cast<std::int64_t>(std::max(row.a, row.b));
    const Vec3 c = row.at / (6 * std::max(pieces_[row.a]->spacing, pieces_[row.b]->spacing));
    auto& slopes =
        clusters[{few, many, std::llround(c.x()), std::llround(c.y()), std::llround(c.z())}];
    if (slopes.size() == 0) slopes.setZero(6 * static_cast<Eigen::Index>(count_ - 1), 2);
    add_slope(row, slopes.col(0));
    if (edge) add_slope(row, slopes.col(1));
  }

  /// Everything that one round sees.
  struct Seen {
    explicit Seen(Eigen::Index unknowns)
        : sorts(kSorts, Equations(unknowns)), tied(Eigen::MatrixXd::Zero(unknowns, unknowns)) {}
    std::vector<Equations> sorts;
    Eigen::MatrixXd tied;  ///< expected outer product of the slopes of the ties
    double tie_squares = 0;
    Eigen::Index tie_rows = 0;
    Clusters clusters;
    std::vector<double> scatters;
    double squares = 0;
    double sum = 0;
  };
  void see_surfaces(std::size_t a, std::size_t b, double search, std::size_t stride, bool last,
                    Seen& seen) {
    const Piece& first = *pieces_[a];
    const Piece& second = *pieces_[b];
    const auto met = meet(first, second, adjusted_.poses[a], adjusted_.poses[b], search, stride);
    constexpr std::size_t kFewest = 20;
    constexpr std::size_t kFew = 5;  // every fifth point tells how far points move
    if (met.size() < kFewest) return;
    // The least that both noises leave: an exact scan has none.
    const double expected = std::max(std::hypot(first.noise, second.noise), 1e-6 * first.size);
    const double plain = std::max(scatter_of(met, false), 0.7 * expected);
    // Most points beside an edge look as the face does, and tell nothing of how a scanner moves the
    // edge sideways: by a part of its spot, each time another one (common practice, no source).
    const double at_edges =
        std::max({scatter_of(met, true), plain, 0.1 * std::max(first.spacing, second.spacing)});
    seen.scatters.push_back(plain);
    double pair_squares = 0;
    double pair_sum = 0;
    std::size_t used = 0;
    for (const Meeting& m : met) {
      const double scatter = m.edge ? at_edges : plain;
      const double reach = 4.685 * scatter;  // Tukey's biweight at 95 % efficiency
      if (std::abs(m.distance) >= reach) continue;
      const double inside = 1 - m.distance * m.distance / (reach * reach);
      const double w = m.weight * inside * inside / (scatter * scatter);
      const Row row{a, b, m.at, m.normal, m.distance, w};
      Row way = row;
      way.weight *= kFew;
      for (const Sort sort : {kAll, kEdgesAndTies}) {
        if (sort == kEdgesAndTies && !m.edge) break;
        Equations& equations = seen.sorts[sort];
        if (used % kFew == 0) add_way(way, equations.spread);
        add_row(row, equations.normal);
        add_slope(row, equations.slope);
      }
      if (last) add_to_cluster(row, m.edge, seen.clusters);
      ++used;
      if (!m.edge) {
        pair_squares += inside * inside * m.distance * m.distance;
        pair_sum += inside * inside;
      }
    }
    seen.squares += pair_squares;
    seen.sum += pair_sum;
    if (pair_sum > 0) adjusted_.rms[a][b] = std::sqrt(pair_squares / pair_sum);
    const double offered =
        std::ceil(static_cast<double>(first.with_edges.size()) / static_cast<double>(stride));
    adjusted_.overlap[a][b] = static_cast<double>(used) / offered;
  }
  /// Where neither plane nor edge holds thin parts sideways, their holes do, and what the engineer
  /// says.
  void see_ties(std::size_t a, std::size_t b, const std::vector<Tie>& ties, Seen& seen) const {
    const auto alike = static_cast<double>(
        std::count_if(ties.begin(), ties.end(), [](const Tie& tie) { return tie.errs_alike; }));
    for (const Tie& tie : ties) {
      // Cauchy's weight: one that is not the same thing decides little.
      const double off = tie.apart.norm() / (2.385 * tie.sigma);
      const double w = 1 / (tie.sigma * tie.sigma * (1 + off * off));
      for (const Vec3& across : tie.across) {
        const Row row{a, b, tie.at, across, tie.apart.dot(across), w};
        for (Equations& sort : seen.sorts) {
          add_row(row, sort.normal);
          add_row(row, sort.spread);  // it never meant to hold more
          add_slope(row, sort.slope);
        }
        Row expected = row;
        expected.weight = w * w * tie.sigma * tie.sigma * (tie.errs_alike ? alike : 1);
        add_row(expected, seen.tied);
        seen.tie_squares += w * row.distance * row.distance;
        ++seen.tie_rows;
      }
    }
  }
  [[nodiscard]] std::vector<Tie> ties_of(std::size_t a, std::size_t b, double search) const {
    const Piece& first = *pieces_[a];
    const Piece& second = *pieces_[b];
    const double search_axes = std::max(search, 1.5 * std::max(first.spacing, second.spacing));
    auto ties = shared_axes(first, second, adjusted_.poses[a], adjusted_.poses[b], search_axes);
    for (const SharedPlace& place : options_.places) {
      const std::size_t i = place.scan_a;
      const std::size_t k = place.scan_b;
      if (place.start_only || std::min(i, k) != a || std::max(i, k) != b) continue;
      Tie tie = tie_of(place, *pieces_[i], *pieces_[k], adjusted_.poses[i], adjusted_.poses[k]);
      if (i != a) tie.apart = -tie.apart;
      ties.push_back(std::move(tie));
    }
    return ties;
  }

  /// One step; returns how far it moved anything, mm. `last`: no step, the figures instead.
  double round(double search, std::size_t stride, bool last) {
    Seen seen(6 * static_cast<Eigen::Index>(count_ - 1));
    adjusted_.rms.assign(count_, std::vector<double>(count_, 0));
    adjusted_.overlap.assign(count_, std::vector<double>(count_, 0));
    for (std::size_t a = 0; a < count_; ++a) {
      for (std::size_t b = 0; b < count_; ++b) {
        if (a == b || !linked(a, b)) continue;
        see_surfaces(a, b, search, stride, last, seen);
        if (a < b) see_ties(a, b, ties_of(a, b, search), seen);
      }
    }
    if (!seen.scatters.empty()) scatter_ = median(seen.scatters);
    adjusted_.all_rms = seen.sum > 0 ? std::sqrt(seen.squares / seen.sum) : 0;
    const Held held = held_by(seen.sorts, least_, 0.08 * lever_);  // a fiftieth of the size
    tell_loose(held);
    if (last) {
      tell_uncertainty(covariance_of(seen, held));
      return 0;
    }
    Eigen::VectorXd firm = Eigen::VectorXd::Zero(seen.tied.rows());
    for (std::size_t s = 0; s < kSorts; ++s) firm -= held.inverse[s] * seen.sorts[s].slope;
    const Eigen::VectorXd step = firm - held.rest * seen.sorts[kAll].slope;
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
  /// The pieces that move most in what nothing holds.
  void tell_loose(const Held& held) {
    adjusted_.loose.clear();
    for (Eigen::Index k = 0; k < held.loose.cols(); ++k) {
      Eigen::Index strongest = 0;
      held.loose.col(k).cwiseAbs().maxCoeff(&strongest);
      const auto piece = static_cast<std::size_t>(strongest / 6) + 1;
      if (std::find(adjusted_.loose.begin(), adjusted_.loose.end(), piece) == adjusted_.loose.end())
        adjusted_.loose.push_back(piece);
    }
  }
  /// What the noise of the clusters and the scatter of the ties make of the poses: each sort
  /// answers within its motions, after the ones before it have moved.
  [[nodiscard]] Eigen::MatrixXd covariance_of(const Seen& seen, const Held& held) const {
    const Eigen::Index n = seen.tied.rows();
    std::array<Eigen::MatrixXd, kSorts> answer;  // of the poses, to the slopes of each sort
    for (std::size_t s = 0; s < kSorts; ++s) {
      answer[s] = held.inverse[s];
      if (s == kAll) answer[s] += held.rest;
      const Eigen::MatrixXd stays =
          Eigen::MatrixXd::Identity(n, n) - product(held.inverse[s], seen.sorts[s].normal);
      for (std::size_t before = 0; before < s; ++before)
        answer[before] = product(stays, answer[before]);
    }
    Eigen::MatrixXd covariance = Eigen::MatrixXd::Zero(n, n);
    for (const auto& [key, slopes] : seen.clusters) {
      const Eigen::VectorXd moved =
          answer[kAll] * slopes.col(0) + answer[kEdgesAndTies] * slopes.col(1);
      covariance.noalias() += moved * moved.transpose();
    }
    const auto clusters = static_cast<double>(seen.clusters.size());
    if (clusters > 1) covariance *= clusters / (clusters - 1);
    // Ties are few: their scatter is known before, and raised where they disagree by more.
    const auto free = static_cast<double>(seen.tie_rows - n);  // the poses take up the rest
    const double worse = free > 0 ? std::max(1.0, seen.tie_squares / free) : 1;
    const Eigen::MatrixXd to_ties = answer[kAll] + answer[kEdgesAndTies] + answer[kTies];
    covariance += worse * product_nt(product(to_ties, seen.tied), to_ties);
    return covariance;
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
  /// Share of its way that each sort must hold: noise alone holds some.
  std::array<double, kSorts> least_{1e-5, 0.02, 0.02};
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
