#include "fit/relations.h"

#include <Eigen/Dense>
#include <algorithm>
#include <array>
#include <cmath>

#include "base/linear.h"
#include "fit/estimate.h"
#include "fit/parametric.h"
#include "fit/relation_equations.h"
#include "fit/surface_kind.h"

namespace lostline::fit {
namespace {

constexpr int kRounds = 8;
constexpr Eigen::Index kFew = 20;     // picked points: all are meant
constexpr double kLeastSigma = 1e-3;  // mm: few points show less of their noise than they have

/// A member about the place where its residuals were linearised.
struct Block {
  Eigen::Index first = 0;  // of its steps among all
  Freedoms freedoms{Kind::Plane, {}, {}, false, false};
  Eigen::VectorXd state;
  Eigen::MatrixXd h;  // sum of J^T J
  Eigen::VectorXd g;  // sum of J^T r
  double sum = 0;     // of r^2
  double weight = 1;
  double points = 0;
};

class Solver {
 public:
  Solver(const std::vector<Member>& members, const std::vector<Relation>& relations)
      : members_(members), relations_(relations) {
    for (const Member& m : members) {
      surfaces_.push_back(m.fit.surface);
      keep_points(m);
      if (!m.held) settle_point(surfaces_.back(), kept_.back().rowwise().mean());
    }
  }

  Result<RelatedFits> run(const Task& task) {
    if (auto e = check(); !e) return e.error();
    Eigen::VectorXd step;
    bool settled = false;
    int rounds = 0;
    for (; rounds < kRounds && !settled; ++rounds) {
      if (task.stopped()) return cancelled();
      linearise();
      const auto solved = solve(relations_);
      if (!solved) return solved.error();
      step = *solved;
      apply(step);
      settled = scaled(step) < 1e-6;
    }
    // What still moves by less than a thousandth of its own scatter is told as it is.
    if (!settled && scaled(step) > 1e-3)
      return Error{ErrorCode::NotConverged,
                   "The fits did not settle under these relations within " +
                       std::to_string(kRounds) + " rounds. Take the last relation back."};
    free_with_all_ = null_.cols();
    linearise();
    RelatedFits result;
    finish(result);
    for (std::size_t i = 0; i < members_.size(); ++i) {
      if (members_[i].held) continue;
      result.fits[i].rounds = rounds;
      result.fits[i].settled = settled;
    }
    for (std::size_t k = 0; k < relations_.size(); ++k) {
      if (task.stopped()) return cancelled();
      const auto cost = cost_of(k);
      if (!cost) return cost.error();
      result.costs.push_back(*cost);
    }
    return result;
  }

 private:
  void keep_points(const Member& m) {
    const bool weighted = m.weights.size() == m.points.cols();
    const double limit = m.held || m.points.cols() < kFew ? 1e300 : 3.5 * m.fit.sigma + 1e-9;
    std::vector<Eigen::Index> kept;
    for (Eigen::Index i = 0; i < m.points.cols(); ++i) {
      if (limit > 1e299 || std::abs(m.fit.surface.distance(m.points.col(i))) <= limit)
        kept.push_back(i);
    }
    Eigen::Matrix3Xd points(3, static_cast<Eigen::Index>(kept.size()));
    Eigen::VectorXd roots(weighted ? points.cols() : 0);
    for (Eigen::Index i = 0; i < points.cols(); ++i) {
      points.col(i) = m.points.col(kept[static_cast<std::size_t>(i)]);
      if (weighted) roots[i] = std::sqrt(m.weights[kept[static_cast<std::size_t>(i)]]);
    }
    kept_.push_back(std::move(points));
    root_weights_.push_back(std::move(roots));
  }
  /// Half of the largest extent of the evidence of the members that a relation names.
  [[nodiscard]] double half_extent(const Relation& r) const {
    double most = 0;
    const int named = members_of(r.type);
    for (const std::size_t i : {r.a, named > 1 ? r.b : r.a, named > 2 ? r.c : r.a}) {
      if (kept_[i].cols() == 0) continue;
      most = std::max(most, (kept_[i].rowwise().maxCoeff() - kept_[i].rowwise().minCoeff()).norm());
    }
    return 0.5 * most;
  }

  Status check() const {
    for (const Relation& r : relations_) {
      if (const auto e = equations(r, surfaces_); !e) return e.error();
    }
    for (std::size_t i = 0; i < members_.size(); ++i) {
      if (!members_[i].held && kept_[i].cols() < fewest_points(surfaces_[i].kind))
        return Error{ErrorCode::InvalidInput, "A fit has lost its points; fit it again."};
    }
    return Done{};
  }

  void linearise() {
    blocks_.assign(members_.size(), {});
    Eigen::Index next = 0;
    for (std::size_t i = 0; i < members_.size(); ++i) {
      Block& b = blocks_[i];
      b.first = next;
      b.state = pack(surfaces_[i]);
      if (members_[i].held) continue;
      b.freedoms = freedoms_of(surfaces_[i].kind, surfaces_[i].axis);
      Eigen::VectorXd r;
      Eigen::MatrixXd j;
      evaluate(kept_[i], b.freedoms, b.state, r, &j);
      if (root_weights_[i].size() != 0) {
        const Eigen::Index each = r.size() / root_weights_[i].size();
        for (Eigen::Index k = 0; k < r.size(); ++k) {
          r[k] *= root_weights_[i][k / each];
          j.row(k) *= root_weights_[i][k / each];
        }
      }
      b.h = product_tn(j, j);
      b.g = j.transpose() * r;
      b.sum = r.squaredNorm();
      b.points = static_cast<double>(kept_[i].cols());
      const double sigma = std::max(members_[i].fit.sigma, kLeastSigma);
      b.weight = 1 / (sigma * sigma * members_[i].fit.inflation);
      next += b.freedoms.count();
    }
    count_ = next;
    scale_ = Eigen::VectorXd::Ones(count_);
    for (const Block& b : blocks_) {
      for (Eigen::Index k = 0; k < b.h.rows(); ++k)
        scale_[b.first + k] = 1 / std::sqrt(std::max(b.h(k, k) * b.weight, 1e-12));
    }
  }

  [[nodiscard]] std::vector<Surface> moved_by(const Eigen::VectorXd& step) const {
    std::vector<Surface> result = surfaces_;
    for (std::size_t i = 0; i < blocks_.size(); ++i) {
      const Block& b = blocks_[i];
      if (members_[i].held) continue;
      const Eigen::VectorXd own = step.segment(b.first, b.freedoms.count());
      result[i] = unpack(moved(b.freedoms, b.state, own), surfaces_[i]);
    }
    return result;
  }
  void apply(const Eigen::VectorXd& step) { surfaces_ = moved_by(step); }
  [[nodiscard]] double scaled(const Eigen::VectorXd& step) const {
    return step.size() == 0 ? 0 : step.cwiseQuotient(scale_).norm();
  }

  [[nodiscard]] Eigen::VectorXd values_at(const std::vector<Relation>& relations,
                                          const Eigen::VectorXd& step) const {
    std::vector<double> all;
    const std::vector<Surface> at = moved_by(step);
    for (const Relation& r : relations) {
      const auto e = equations(r, at);
      all.insert(all.end(), e->values.begin(), e->values.end());
    }
    return Eigen::Map<Eigen::VectorXd>(all.data(), static_cast<Eigen::Index>(all.size()));
  }
  /// Derivatives of the equations by the scaled steps.
  [[nodiscard]] Eigen::MatrixXd slopes_at(const std::vector<Relation>& relations,
                                          const Eigen::VectorXd& step, Eigen::Index rows) const {
    Eigen::MatrixXd a(rows, count_);
    constexpr double kStep = 1e-5;
    for (Eigen::Index k = 0; k < count_; ++k) {
      Eigen::VectorXd up = step;
      Eigen::VectorXd down = step;
      up[k] += kStep;
      down[k] -= kStep;
      a.col(k) = (values_at(relations, up) - values_at(relations, down)) / (2 * kStep) * scale_[k];
    }
    return a;
  }
  /// Gradient half and curvature half of the weighted sum of squares in scaled steps.
  void model(Eigen::MatrixXd& h, Eigen::VectorXd& g) const {
    h = Eigen::MatrixXd::Zero(count_, count_);
    g = Eigen::VectorXd::Zero(count_);
    for (const Block& b : blocks_) {
      const Eigen::Index n = b.h.rows();
      if (n == 0) continue;
      const auto s = scale_.segment(b.first, n).asDiagonal();
      h.block(b.first, b.first, n, n) = b.weight * (s * b.h * s);
      g.segment(b.first, n) = b.weight * (s * b.g);
    }
  }

  /// The least of the quadratic model among the steps that obey the relations.
  Result<Eigen::VectorXd> solve(const std::vector<Relation>& relations) {
    Eigen::MatrixXd h;
    Eigen::VectorXd g;
    model(h, g);
    Eigen::VectorXd y = Eigen::VectorXd::Zero(count_);  // scaled
    null_ = Eigen::MatrixXd::Identity(count_, count_);
    for (int i = 0; i < 60; ++i) {
      const Eigen::VectorXd step = y.cwiseProduct(scale_);
      const Eigen::VectorXd value = values_at(relations, step);
      Eigen::VectorXd particular = Eigen::VectorXd::Zero(count_);
      if (value.size() > 0) {
        const Eigen::MatrixXd a = slopes_at(relations, step, value.size());
        const SingularValues svd = singular_values(a);
        const double largest = svd.values.size() > 0 ? svd.values[0] : 0;
        const Eigen::Index rank = (svd.values.array() > 1e-7 * largest).count();
        for (Eigen::Index k = 0; k < rank; ++k)
          particular -= svd.v.col(k) * (svd.u.col(k).dot(value) / svd.values[k]);
        null_ = svd.v.rightCols(count_ - rank);
      }
      const Eigen::VectorXd gradient = null_.transpose() * (g + h * (y + particular));
      const Eigen::MatrixXd reduced = product_tn(null_, product(h, null_));
      const Eigen::VectorXd change = particular - null_ * solve_symmetric(reduced, gradient).col(0);
      y += change;
      if (!y.allFinite()) break;
      const Eigen::VectorXd left = values_at(relations, y.cwiseProduct(scale_));
      const double worst = left.size() > 0 ? left.cwiseAbs().maxCoeff() : 0;
      if (worst < 1e-10 && change.norm() < 1e-9 * std::max(1.0, y.norm()))
        return Eigen::VectorXd(y.cwiseProduct(scale_));
      if (i > 30 && worst < 1e-8) return Eigen::VectorXd(y.cwiseProduct(scale_));
    }
    return Error{ErrorCode::Degenerate,
                 "The relations contradict each other, or no fit can obey them. Take the last one "
                 "back."};
  }

  /// Weighted sum of squares and plain RMS of some members after a step, by the model.
  [[nodiscard]] double chi2_after(const Eigen::VectorXd& step) const {
    double sum = 0;
    for (const Block& b : blocks_) {
      if (b.h.rows() == 0) continue;
      const Eigen::VectorXd s = step.segment(b.first, b.h.rows());
      sum += b.weight * (b.sum + 2 * b.g.dot(s) + s.dot(b.h * s));
    }
    return sum;
  }
  [[nodiscard]] double rms_after(const Eigen::VectorXd& step, const Relation& r) const {
    double sum = 0;
    double points = 0;
    const int named = members_of(r.type);
    for (const std::size_t i : {r.a, named > 1 ? r.b : r.a, named > 2 ? r.c : r.a}) {
      const Block& b = blocks_[i];
      if (b.h.rows() == 0) continue;
      const Eigen::VectorXd s = step.segment(b.first, b.h.rows());
      sum += b.sum + 2 * b.g.dot(s) + s.dot(b.h * s);
      points += b.points;
    }
    return points > 0 ? std::sqrt(std::max(0.0, sum) / points) : 0;
  }

  Result<RelationCost> cost_of(std::size_t k) {
    std::vector<Relation> others = relations_;
    others.erase(others.begin() + static_cast<std::ptrdiff_t>(k));
    const auto step = solve(others);
    if (!step) return step.error();
    const Eigen::VectorXd here = Eigen::VectorXd::Zero(count_);
    const Relation& r = relations_[k];
    RelationCost cost;
    const auto e = equations(r, moved_by(*step));
    double angle = 0;
    double length = 0;
    for (std::size_t i = 0; i < e->values.size(); ++i)
      (e->angles[i] ? angle : length) += e->values[i] * e->values[i];
    cost.departure = std::sqrt(length);
    cost.departure_angle = std::sqrt(angle);
    cost.freedoms = static_cast<int>(null_.cols() - free_with_all_);
    cost.effect = std::hypot(cost.departure, cost.departure_angle * half_extent(r));
    cost.rms_without = rms_after(*step, r);
    cost.rms_with = rms_after(here, r);
    cost.chi2 = std::max(0.0, chi2_after(here) - chi2_after(*step));
    // What follows from the others is free; rounding leaves a trace of a rise.
    cost.within_noise = cost.freedoms == 0 || cost.chi2 <= chi2_limit(cost.freedoms);
    return cost;
  }

  /// Quality and uncertainty of every member where it now is.
  void finish(RelatedFits& result) {
    Eigen::MatrixXd h;
    Eigen::VectorXd g;
    model(h, g);
    const Eigen::MatrixXd reduced = product_tn(null_, product(h, null_));
    const Eigen::MatrixXd covariance =
        product(null_, solve_symmetric(reduced, Eigen::MatrixXd(null_.transpose())));
    for (std::size_t i = 0; i < members_.size(); ++i) {
      SurfaceFit f = members_[i].fit;
      if (!members_[i].held) {
        const Block& b = blocks_[i];
        f.surface = surfaces_[i];
        f.centroid = kept_[i].rowwise().mean();
        double squares = 0;
        double low = 0;
        double high = 0;
        for (Eigen::Index k = 0; k < kept_[i].cols(); ++k) {
          const double d = f.surface.distance(kept_[i].col(k));
          squares += d * d;
          low = std::min(low, d);
          high = std::max(high, d);
        }
        f.rms = std::sqrt(squares / std::max(1.0, b.points));
        f.form_error = high - low;
        const auto expanded = [&](Eigen::Index first, Eigen::Index count) {
          if (count == 0) return 0.0;
          Eigen::MatrixXd block = covariance.block(b.first + first, b.first + first, count, count);
          for (Eigen::Index r = 0; r < count; ++r) {
            for (Eigen::Index c = 0; c < count; ++c)
              block(r, c) *= scale_[b.first + first + r] * scale_[b.first + first + c];
          }
          return expanded_length(block);
        };
        const Freedoms& fr = b.freedoms;
        f.u_angle = expanded(0, fr.first_shift());
        f.u_offset = expanded(fr.first_shift(), fr.at_radius() - fr.first_shift());
        if (fr.radius) f.u_radius = expanded(fr.at_radius(), 1);
        if (fr.last) f.*about(f.surface.kind).last_u = expanded(fr.at_last(), 1);
      }
      result.fits.push_back(f);
    }
  }

  const std::vector<Member>& members_;
  const std::vector<Relation>& relations_;
  std::vector<Surface> surfaces_;
  std::vector<Eigen::Matrix3Xd> kept_;
  std::vector<Eigen::VectorXd> root_weights_;  // of the kept points; empty: all alike
  Eigen::Index free_with_all_ = 0;             // freedoms that all relations together leave
  std::vector<Block> blocks_;
  Eigen::Index count_ = 0;
  Eigen::VectorXd scale_;  // one standard deviation of each step, roughly
  Eigen::MatrixXd null_;   // scaled steps that keep the relations
};

}  // namespace

const char* relation_word(RelationType type) {
  switch (type) {
    case RelationType::Parallel:
      return "parallel to";
    case RelationType::Perpendicular:
      return "square to";
    case RelationType::Angle:
      return "at an angle to";
    case RelationType::Coaxial:
      return "on one axis with";
    case RelationType::Coplanar:
      return "in one plane with";
    case RelationType::EqualSize:
      return "of one size with";
    case RelationType::Distance:
      return "at a distance from";
    case RelationType::Size:
      return "of a fixed size";
    case RelationType::Symmetric:
      return "mirrored from";
  }
  return "";
}

int members_of(RelationType type) {
  return type == RelationType::Size ? 1 : type == RelationType::Symmetric ? 3 : 2;
}

bool has_value(RelationType type) {
  return type == RelationType::Angle || type == RelationType::Distance ||
         type == RelationType::Size;
}

Result<Eigen::VectorXd> relation_residual(const Relation& relation,
                                          const std::vector<Surface>& surfaces) {
  const auto e = equations(relation, surfaces);
  if (!e) return e.error();
  Eigen::VectorXd v(static_cast<Eigen::Index>(e->values.size()));
  for (Eigen::Index k = 0; k < v.size(); ++k) v[k] = e->values[static_cast<std::size_t>(k)];
  return v;
}

Result<RelatedFits> fit_related(const std::vector<Member>& members,
                                const std::vector<Relation>& relations, const Task& task) {
  return Solver(members, relations).run(task);
}

/// The 95 % point of chi-squared. Source: any statistical table, as NIST/SEMATECH e-Handbook of
/// Statistical Methods, 1.3.6.7.4.
double chi2_limit(int freedoms) {
  constexpr std::array<double, 9> kTable{0,      3.841,  5.991,  7.815, 9.488,
                                         11.070, 12.592, 14.067, 15.507};
  return kTable[static_cast<std::size_t>(std::clamp(freedoms, 0, 8))];
}

}  // namespace lostline::fit
