#pragma once

#include <optional>
#include <vector>

#include "base/result.h"
#include "base/task.h"
#include "scan/mesh.h"

namespace lostline::pipe {

/// A straight or bent piece of a centre line, from `a` to `b`, mm.
struct Piece {
  bool straight = true;
  Vec3 a = Vec3::Zero(), b = Vec3::Zero();
  Vec3 centre = Vec3::Zero();      ///< of a bend
  Vec3 axis = Vec3::UnitZ();       ///< unit, of a bend: right-handed about it from a to b
  double radius = 0;               ///< of a bend's centre line
  std::optional<double> u_radius;  ///< expanded, k = 2, of a bend

  [[nodiscard]] double angle() const;  ///< rad that a bend turns by, above 0
  [[nodiscard]] double length() const;
  [[nodiscard]] Vec3 at(double share) const;           ///< 0 at a, 1 at b
  [[nodiscard]] Vec3 direction(double share) const;    ///< unit
  [[nodiscard]] double share_of(const Vec3& p) const;  ///< of the nearest place on it, 0 to 1
};
Piece straight_piece(const Vec3& a, const Vec3& b);

/// The centre line of a pipe of one radius, as what it was bent from: straight pieces and bends
/// that go over into each other smoothly.
struct Centreline {
  std::vector<Piece> pieces;  ///< from one end to the other
  double radius = 0;          ///< of the surface that was scanned
  double u_radius = 0;        ///< expanded, k = 2
  bool hollow = false;        ///< the inner surface was scanned
  bool closed = false;        ///< a ring
  double rms = 0;             ///< of the points used about the surface, mm
  double greatest = 0;        ///< largest of their distances, mm
  std::size_t points = 0;     ///< offered
  std::size_t used = 0;       ///< kept by the robust rounds
  int rounds = 0;
  bool settled = false;
  /// Lengths without evidence along the centre line, that were bridged, mm.
  std::vector<double> bridged;

  [[nodiscard]] double length() const;
  /// Points along it, at most `step` mm apart and 5 degrees in bends.
  [[nodiscard]] std::vector<Vec3> points_along(double step) const;
  /// Signed distance of a point from the pipe's surface, positive out of the material.
  [[nodiscard]] double distance(const Vec3& p) const;
};

struct CentrelineOptions {
  double noise = 0;    ///< mm, of one point; 0: from the points
  double spacing = 0;  ///< mm, of the points; 0: from the points
  /// Gaps along the pipe as long as so many radii are bridged.
  double bridge = 3;
  /// mm: bends and straight pieces that departs from simpler ones by less are not told apart; 0: by
  /// the noise. Larger is simpler.
  double simpler = 0;
};

/// Follows a pipe from places picked on it, both ways, as far as its surface goes with one radius,
/// and fits surface and centre line together.
/// @param points   mm; @param normals  out of the material, unit, one a point.
/// @param picks    on or near the surface of the pipe; several help over gaps.
/// @errors InvalidInput  no pick, or too few points;  NotFound  no points near a pick;  Degenerate
/// the surface there is no pipe: the message says why;  Cancelled.
/// O(n) to sort the points, then by the length of the pipe in radii. Deterministic.
/// The centre line is a chain of corners with bend radii, as a bending table has it: a bend of at
/// most 120 degrees at each corner. Its numbers and the radius are fitted together by orthogonal
/// distances (Gauss-Newton with Tukey's weights, P. Huber and E. Ronchetti, Robust Statistics
/// (2009), 7); covariance by clusters of points that share their noise (A. Cameron and D. Miller, A
/// practitioner's guide to cluster-robust inference, J. Human Resources 50 (2015)).
Result<Centreline> find_centreline(const std::vector<Vec3>& points,
                                   const std::vector<Vec3>& normals, const std::vector<Vec3>& picks,
                                   const CentrelineOptions& options = {}, const Task& task = {});

/// Normals of a mesh's vertices out of the material; zero at open edges, where a scanner's points
/// stand off.
std::vector<Vec3> normals_of(const scan::Mesh& mesh, const scan::Topology& topology);

/// The same on a mesh; vertices at open edges are left out.
Result<Centreline> find_centreline(const scan::Mesh& mesh, const std::vector<Vec3>& picks,
                                   CentrelineOptions options = {}, const Task& task = {});

/// One row of a bending table (common practice, no source): a straight length, then how the bending
/// plane is turned about it, the angle and the radius of the bend that follows.
struct BendRow {
  double straight = 0;  ///< mm
  double turn = 0;      ///< rad, about the straight piece, from the plane of the bend before
  double angle = 0;     ///< rad; 0 in the last row
  double radius = 0;    ///< mm
};
std::vector<BendRow> bending_table(const Centreline& line);

}  // namespace lostline::pipe
