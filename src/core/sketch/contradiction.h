#pragma once

#include <vector>

#include "sketch/system.h"

namespace lostline::sketch {

/// Newton steps of least norm until the constraints hold.
/// @param x  from where; receives the place, or where the equations come nearest to holding.
/// @returns whether they hold there.
bool settle(const System& system, Eigen::VectorXd& x);

/// A smallest set of constraints that contradict each other: none of it can be spared for the
/// contradiction. Older constraints are taken as given where there is a choice. Where that takes
/// more than about a second the set may be larger than need be.
/// @param x  where the system comes nearest to holding.
std::vector<Id> contradicting(const System& system, const Eigen::VectorXd& x);

}  // namespace lostline::sketch
