#pragma once

#include "section/resolving/piece.h"

namespace lostline::section {

/// Where a piece ends and the next begins.
struct Joint {
  bool meets = false;    ///< there is a next piece
  bool tangent = false;  ///< it goes over smoothly
  Vec2 at = Vec2::Zero();
};

/// Decides which neighbours are tangent, by whether the distance from being so is within what the
/// points leave open; then fits all lines and arcs together so that those are. Puts a line in where
/// two neighbours do not meet near their border (a step shorter than what a scanner rounds).
/// @returns one joint behind each piece.
/// Source: equality-constrained Gauss-Newton, J. Nocedal and S. Wright, Numerical Optimization
/// (2006), 18.1.
std::vector<Joint> join(const Trace& trace, std::vector<Piece>& pieces, double corner);

}  // namespace lostline::section
