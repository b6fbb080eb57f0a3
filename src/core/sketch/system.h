#pragma once

#include <Eigen/Core>
#include <map>
#include <vector>

#include "base/result.h"
#include "sketch/sketch.h"

namespace lostline::sketch {

/// A value with its derivatives by up to ten unknowns: exact derivatives without writing them down.
struct Jet {
  static constexpr int kSize = 10;
  double v = 0;
  Eigen::Matrix<double, kSize, 1> d = Eigen::Matrix<double, kSize, 1>::Zero();
};

/// The unknowns of a sketch (points, radii) and its constraints as equations f(x) = 0.
class System {
 public:
  /// @param hold_dimensions  whether driving dimensions count as equations.
  static Result<System> build(const Sketch& sketch, bool hold_dimensions);

  [[nodiscard]] Eigen::Index unknowns() const { return x_.size(); }
  [[nodiscard]] Eigen::Index equations() const { return rows_; }
  [[nodiscard]] const Eigen::VectorXd& start() const { return x_; }
  void evaluate(const Eigen::VectorXd& x, Eigen::VectorXd& f, Eigen::MatrixXd& jacobian) const;
  /// Constraint of an equation; 0 for those that tie an arc's ends to its circle.
  [[nodiscard]] Id owner(Eigen::Index row) const { return owners_[static_cast<std::size_t>(row)]; }
  [[nodiscard]] Sketch applied(const Eigen::VectorXd& x) const;

  /// First unknown of a point (then y) or the radius of an entity; -1 when it is not free.
  [[nodiscard]] Eigen::Index point_unknown(Id point) const;
  [[nodiscard]] Eigen::Index radius_unknown(Id entity) const;
  /// Unknowns that the shape of an entity depends on.
  [[nodiscard]] std::vector<Eigen::Index> unknowns_of(const Entity& entity) const;
  /// Gradient of a dimension's value at x.
  [[nodiscard]] Eigen::VectorXd gradient(const Constraint& dimension,
                                         const Eigen::VectorXd& x) const;

 private:
  struct Equation {
    Constraint
        constraint;  // id 0: an arc's end on its circle, `first` the entity and `second` the point
    int count = 1;
    double sign = 1;  // of a distance, or of a tangency, fixed at the start
    bool at_shared_end = false;
    Id shared = 0;
  };
  struct Scope;
  explicit System(Sketch sketch) : sketch_(std::move(sketch)) {}
  Status add(const Constraint& constraint);
  std::vector<Jet> residual(const Equation& equation, const Eigen::VectorXd& x, Scope& scope) const;

  Sketch sketch_;
  std::map<Id, Eigen::Index> point_index_;
  std::map<Id, Eigen::Index> radius_index_;
  Eigen::VectorXd x_;
  std::vector<Equation> equations_;
  std::vector<Id> owners_;
  Eigen::Index rows_ = 0;
};

}  // namespace lostline::sketch
