#pragma once

#include <Eigen/Core>
#include <Eigen/SparseCore>
#include <unordered_map>
#include <vector>

#include "base/result.h"
#include "sketch/constraint_kinds.h"
#include "sketch/sketch.h"

namespace lostline::sketch {

constexpr double kHoldTolerance = 1e-9;  ///< mm: constraints hold when every equation is below it

/// The unknowns of a sketch (points, radii) and its constraints as equations f(x) = 0.
class System {
 public:
  /// @param hold_dimensions  whether driving dimensions count as equations.
  static Result<System> build(const Sketch& sketch, bool hold_dimensions);

  [[nodiscard]] const Sketch& sketch() const { return sketch_; }
  [[nodiscard]] Eigen::Index unknowns() const { return x_.size(); }
  [[nodiscard]] Eigen::Index equations() const { return rows_; }
  [[nodiscard]] const Eigen::VectorXd& start() const { return x_; }
  void evaluate(const Eigen::VectorXd& x, Eigen::VectorXd& f, Eigen::MatrixXd& jacobian) const;
  void evaluate(const Eigen::VectorXd& x, Eigen::VectorXd& f,
                Eigen::SparseMatrix<double>& jacobian) const;
  /// kHoldTolerance, or what rounding leaves of the coordinates of a large sketch, mm.
  [[nodiscard]] double hold_tolerance() const;
  /// Constraint of an equation; 0 for those that hold an entity together.
  [[nodiscard]] Id owner(Eigen::Index row) const { return owners_[static_cast<std::size_t>(row)]; }
  [[nodiscard]] Sketch applied(const Eigen::VectorXd& x) const;

  /// By its id; null when there is none.
  [[nodiscard]] const Entity* entity(Id id) const;
  /// First unknown of a point (then y) or the radius of an entity; -1 when it is not free.
  [[nodiscard]] Eigen::Index point_unknown(Id point) const;
  [[nodiscard]] Eigen::Index radius_unknown(Id entity) const;
  /// Unknowns that the shape of an entity depends on.
  [[nodiscard]] std::vector<Eigen::Index> unknowns_of(const Entity& entity) const;
  /// Gradient of a dimension's value at x.
  [[nodiscard]] Eigen::VectorXd gradient(const Constraint& dimension,
                                         const Eigen::VectorXd& x) const;
  /// A constraint's equations at x: values (mm) and their derivatives by the unknowns they touch.
  /// The constraint need not be one of the sketch's.
  /// @errors InvalidInput  it does not go with what it names.
  struct Row {
    double value;
    std::vector<std::pair<Eigen::Index, double>> slopes;
  };
  [[nodiscard]] Result<std::vector<Row>> rows_of(const Constraint& constraint,
                                                 const Eigen::VectorXd& x) const;
  /// Signed distance (mm) of a fixed point from an entity's endless curve at x; `row` receives its
  /// derivatives by the unknowns.
  double distance(const Entity& entity, const Vec2& p, const Eigen::VectorXd& x,
                  std::vector<std::pair<Eigen::Index, double>>& row) const;

 private:
  explicit System(Sketch sketch) : sketch_(std::move(sketch)) {}
  [[nodiscard]] Result<Equation> equation_of(const Constraint& constraint) const;
  Status add(const Constraint& constraint);
  std::vector<Jet> residual(const Equation& equation, Terms& terms) const;

  Sketch sketch_;
  std::unordered_map<Id, std::size_t> entity_index_;
  std::unordered_map<Id, Eigen::Index> point_index_;
  std::unordered_map<Id, Eigen::Index> radius_index_;
  Eigen::VectorXd x_;
  std::vector<Equation> equations_;
  std::vector<Id> owners_;
  Eigen::Index rows_ = 0;
};

}  // namespace lostline::sketch
