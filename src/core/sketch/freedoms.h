#pragma once

#include <vector>

#include "sketch/held_step.h"

namespace lostline::sketch {

/// What equations leave of their unknowns, to first order.
struct Freedoms {
  Eigen::Index count = 0;               ///< independent directions in which the unknowns can move
  std::vector<bool> loose;              ///< for each unknown: whether one of them moves it
  std::vector<Eigen::Index> following;  ///< equations that follow from those before them, ascending
};

/// How many directions the rows of J leave free.
Eigen::Index count_freedoms(const Sparse& jacobian);

/// All of it; about in proportion to the number of equations where each touches few unknowns and
/// few of them hang together closely.
///
/// Source: Gaussian elimination equation by equation with threshold pivoting, I. Duff, A. Erisman
/// and J. Reid, Direct Methods for Sparse Matrices (2017), 5.3 and 7.8: what those before it leave
/// nothing of follows from them. What is loose: motions by
/// chance that all equations allow.
Freedoms freedoms_of(const Sparse& jacobian);

}  // namespace lostline::sketch
