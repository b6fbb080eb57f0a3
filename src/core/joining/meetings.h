#pragma once

#include <vector>

#include "joining/piece.h"
#include "joining/shared_place.h"

// What two pieces say of each other where they lie, in common coordinates; inside of this module.

namespace lostline::joining {

/// A point of one piece over another.
struct Meeting {
  Vec3 at;  ///< of the first's point
  Vec3 normal;
  double distance;  ///< mm, along the normal
  double weight;    ///< by the angles of sight
  bool edge;        ///< a scanner rounds edges, each time another way: the distance scatters more
};

/// Of every `stride`-th point of the first's sample.
/// @param search  mm; edges are looked for to one and a half spacings at least.
std::vector<Meeting> meet(const Piece& first, const Piece& second, const Transform& first_pose,
                          const Transform& second_pose, double search, std::size_t stride);

/// A robust standard deviation of the distances of one sort, mm; none: 0.
double scatter_of(const std::vector<Meeting>& met, bool edge);

/// One thing that both pieces show, and how far its two places lie apart: the axis of a bore, or a
/// place that the engineer says they share.
struct Tie {
  Vec3 at;
  Vec3 apart;                ///< from the second's to the first's
  std::vector<Vec3> across;  ///< unit; the directions that it tells
  double sigma = 0;          ///< mm, of each of them, one standard deviation
  /// Whether all ties of its sort between two pieces err alike: the side from which a rim is seen
  /// moves every rim of a scan.
  bool errs_alike = false;
};

/// Bores and round rims whose axes lie within a distance of each other.
std::vector<Tie> shared_axes(const Piece& first, const Piece& second, const Transform& first_pose,
                             const Transform& second_pose, double search);

Tie tie_of(const SharedPlace& place, const Piece& a, const Piece& b, const Transform& a_pose,
           const Transform& b_pose);

}  // namespace lostline::joining
