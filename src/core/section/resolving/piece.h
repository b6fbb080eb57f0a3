#pragma once

#include <Eigen/Core>
#include <cstddef>
#include <vector>

#include "section/plane_spline.h"
#include "section/section.h"

// Inside of the resolver: points along one run of section, and the pieces that explain them.

namespace lostline::section {

enum class PieceKind { Line, Arc, Ellipse, Spline };

/// Section points in order along one run, moved to their middle. A closed run is turned so that it
/// begins at a border between pieces; index i stands for point (i + turned) of the polyline.
struct Trace {
  std::vector<Vec2> points;
  /// In the plane, the edge of the mesh that a point was cut from, times sqrt(t (1 - t)) of where
  /// on it: a point inside a chord lies within the curve by |chord along the curve|^2 / 2 R.
  std::vector<Vec2> chords;
  std::vector<double> weights;  ///< 1; 0 for strays
  std::vector<double> along;    ///< mm from the first point
  bool closed = false;
  double length = 0;
  Vec2 middle = Vec2::Zero();
  std::size_t turned = 0;
  double step = 0;     ///< median distance of neighbours, mm
  double spacing = 0;  ///< of the scan's points, mm
  double sigma = 0;    ///< standard deviation of one point across the curve, mm
  /// How many points weigh as one independent, for noise that neighbours share.
  double inflation = 1;

  [[nodiscard]] std::size_t size() const { return points.size(); }
};

/// A curve that explains the points [first, last) of a trace.
struct Piece {
  PieceKind kind = PieceKind::Line;
  std::size_t first = 0;
  std::size_t last = 0;
  Vec2 point = Vec2::Zero();       ///< on the line; centre of what is round
  Vec2 direction = Vec2::UnitX();  ///< of the line, along the points; of an ellipse's major axis
  double radius = 0;               ///< of the arc; major one of an ellipse
  double minor = 0;                ///< minor radius of an ellipse
  PlaneSpline spline;
  bool whole = false;      ///< closes on itself
  double chi = 0;          ///< weighted squared distances over sigma squared and inflation
  Eigen::MatrixXd spread;  ///< covariance of the piece's parameters, see `parameters`

  /// Signed: left of a line along its points, outside of what is round, is positive.
  [[nodiscard]] double distance(const Vec2& p) const;
  [[nodiscard]] Vec2 foot(const Vec2& p) const;
  /// Unit vector along the curve at the foot of `p`, in the sense of the points.
  [[nodiscard]] Vec2 heading(const Vec2& p) const;
  /// 1 / mm at the foot of `p`, positive whichever way it bends.
  [[nodiscard]] double curvature(const Vec2& p) const;
  /// Whether the points run counter-clockwise about the centre of what is round.
  bool counter_clockwise = true;
};

/// What a piece costs beside its points: a piece must explain more than this. In units of chi
/// squared. A line has two numbers and a border; by the Schwarz criterion they weigh 3 ln n, about
/// 20; doubled, since the largest gain over all places of a border is to stay below it.
struct Costs {
  double line = 40;
  double arc = 56;      ///< one number more, and must be beyond doubt (four standard deviations)
  double ellipse = 90;  ///< two numbers more
  double spline = 90;   ///< and for each pole beyond four:
  double pole = 16;
  /// A point left out at a corner, where a scanner rounds; in units of its own expected chi
  /// squared.
  double corner_point = 10;
};
double cost_of(const Piece& piece, const Costs& costs = {});

/// Chords seen along a direction: by how much the cut point of index i lies inside of a curve of
/// the given curvature, mm.
double sag(const Trace& trace, std::size_t i, const Vec2& along, double curvature);

/// Sets `chi` from the points.
void measure(const Trace& trace, Piece& piece);

// Fits of one kind to points [first, last), least squares of distance with weights that bound what
// one point can pull. False when the points do not determine it.
bool fit_line(const Trace& trace, Piece& piece);
bool fit_arc(const Trace& trace, Piece& piece);
bool fit_ellipse(const Trace& trace, Piece& piece);

}  // namespace lostline::section
