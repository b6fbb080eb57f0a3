#pragma once

#include <Eigen/Core>
#include <span>
#include <vector>

// What holds which motion of scans that are adjusted together; inside of this module.

namespace lostline::joining {

/// Normal equations of one sort of evidence.
struct Equations {
  explicit Equations(Eigen::Index unknowns)
      : normal(Eigen::MatrixXd::Zero(unknowns, unknowns)),
        spread(Eigen::MatrixXd::Zero(unknowns, unknowns)),
        slope(Eigen::VectorXd::Zero(unknowns)) {}
  Eigen::MatrixXd normal;
  /// What the equations would be if every piece of evidence held all of its way, and not along one
  /// normal only.
  Eigen::MatrixXd spread;
  Eigen::VectorXd slope;  ///< of half the sum of weighted squares
};

/// The motions, told apart by the evidence that holds them: each sort is asked for what the sorts
/// before it leave open.
struct Held {
  /// Inverses of the normal equations of each sort within the motions that it holds.
  std::vector<Eigen::MatrixXd> inverse;
  /// The same of the first sort for what nothing holds but noise or a few points: the best there
  /// is.
  Eigen::MatrixXd rest;
  /// Unit motions that nothing holds, in columns.
  Eigen::MatrixXd loose;
};

/// Motions compared with themselves: along a cylinder nothing but the tilts that noise gives to
/// normals holds a shift, as a share of the way the points move.
/// @param least  of each sort, the share of its way that it must hold to be asked.
/// @param coarsest  standard deviation beyond which a sort after the first one tells nothing of a
/// motion, in the unit of the unknowns: about an axis that things lie on all but exactly they tell
/// a turn to a good part of a turn.
Held held_by(const std::vector<Equations>& sorts, std::span<const double> least, double coarsest);

}  // namespace lostline::joining
