#pragma once

#include "joining/overlap.h"

// How one scan may lie on another, and what makes a way believed.

namespace lostline::joining {

/// A way that one scan lies on another.
struct Way {
  Transform motion = Transform::Identity();
  Overlap overlap;
};

/// Of what agrees: surfaces that lie right contradict each other in a few thousandths at most.
inline constexpr double kContradicts = 0.02;

/// Of the smaller scan: less agrees by chance.
inline constexpr double kLeast = 0.04;

/// Ways of the first on the second, the best first; by the surfaces of their surveys, and where
/// these leave it open by pairs of points.
std::vector<Way> ways_of(const Piece& first, const Piece& second, const Task& task);

/// How closely an overlap is judged once scans are drawn on to each other.
OverlapOptions fine(const Piece& a, const Piece& b);

/// Whether two motions of a piece are one and the same.
/// @param share  of its size; turns by as many hundred degrees.
bool alike(const Transform& a, const Transform& b, const Piece& piece, double share);

}  // namespace lostline::joining
