#include "section/resolve.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <numbers>
#include <string>

#include "section/resolving/chain.h"
#include "section/resolving/segment.h"
#include "section/resolving/settle.h"
#include "section/resolving/smooth.h"
#include "section/resolving/spline_fit.h"
#include "section/resolving/trace.h"

namespace lostline::section {
namespace {

constexpr double kCornerSpacings = 1.8;

struct Limits {
  double corner;
  double largest_radius;
  double least_sigma;
};

/// The piece of a closed trace before which it turns most: there one surely begins.
std::size_t sharpest(const Trace& trace, const std::vector<Piece>& pieces) {
  std::size_t at = 0;
  double most = -1;
  for (std::size_t i = 0; i < pieces.size(); ++i) {
    const Piece& a = pieces[(i + pieces.size() - 1) % pieces.size()];
    const Vec2 d = a.heading(trace.points[a.last - 1]);
    const Vec2 e = pieces[i].heading(trace.points[pieces[i].first]);
    if (1 - d.dot(e) > most) {
      most = 1 - d.dot(e);
      at = i;
    }
  }
  return at;
}

/// Begins a closed trace where one of its pieces does.
void turn_to(Trace& trace, std::vector<Piece>& pieces, std::size_t piece) {
  if (piece == 0) return;
  const std::size_t by = pieces[piece].first;
  trace = turned_by(trace, by);
  std::rotate(pieces.begin(), pieces.begin() + static_cast<std::ptrdiff_t>(piece), pieces.end());
  const std::size_t n = trace.size();
  for (Piece& p : pieces) {
    const std::size_t shift = p.first >= by ? 0 : n;
    p.first += shift - by;
    p.last += shift - by;
  }
}

/// Lines and arcs at the least cost, with the noise that they themselves leave.
std::vector<Piece> lines_and_arcs(Trace& trace, const Limits& limits) {
  // Roughly at first, for where a closed run begins.
  constexpr std::size_t kRough = 400;
  constexpr std::size_t kFine = 1500;  // places for borders
  std::vector<Piece> pieces = segment(trace, limits.corner, limits.largest_radius, kRough);
  for (Piece& piece : pieces) refit(trace, piece, limits.largest_radius);
  const auto begin_sharply = [&] {
    if (trace.closed && pieces.size() > 1) turn_to(trace, pieces, sharpest(trace, pieces));
  };
  for (int round = 0; round < 3; ++round) {
    begin_sharply();
    pieces = segment(trace, limits.corner, limits.largest_radius, kFine);
    settle(trace, pieces, limits.corner, limits.largest_radius);
    const double sigma = trace.sigma;
    const double inflation = trace.inflation;
    read_noise(trace, pieces, limits.least_sigma);
    const double change = trace.sigma * trace.sigma * trace.inflation / (sigma * sigma * inflation);
    for (Piece& piece : pieces) measure(trace, piece);
    if (change < 1.3 && change > 0.6) break;
  }
  // Where it began may be no border at all.
  if (trace.closed && pieces.size() > 2) {
    turn_to(trace, pieces, 1);
    settle(trace, pieces, limits.corner, limits.largest_radius);
    begin_sharply();
  }
  return pieces;
}

/// An outline that a gap leaves open, where one curve explains both of its ends: closed over the
/// gap.
void close_up(Trace& trace, std::vector<Piece>& pieces, const Limits& limits) {
  constexpr double kWidest = 0.15;  // of the outline
  const double gap = (trace.points.front() - trace.points.back()).norm();
  if (trace.closed || pieces.size() < 2 || gap > kWidest * trace.length) return;
  Trace closed = trace;
  closed.closed = true;
  closed.length += gap;
  std::vector<Piece> again = lines_and_arcs(closed, limits);
  if (again.size() >= pieces.size()) return;
  trace = std::move(closed);
  pieces = std::move(again);
}

double whole_cost(const Trace& trace, const std::vector<Piece>& pieces) {
  const Costs costs;
  double sum = 0;
  for (std::size_t i = 0; i < pieces.size(); ++i) {
    sum += cost_of(pieces[i]);
    const std::size_t next = i + 1 < pieces.size() ? pieces[i + 1].first : trace.size();
    sum += costs.corner_point / trace.inflation * static_cast<double>(next - pieces[i].last);
  }
  return pieces.empty() ? 1e300 : sum;
}

/// A section of a mesh with few large triangles has points at corners only: what lies between them
/// is as much evidence as a point. Gaps stay empty.
Polyline dense(const Polyline& line, std::vector<std::size_t>& origin) {
  constexpr std::size_t kFew = 16;  // points: no scan shows a curve with fewer
  constexpr double kLong = 4;       // steps: longer ones are edges of large triangles
  constexpr std::size_t kMostBetween = 64;
  const std::size_t n = line.points.size();
  const std::size_t pieces = line.closed ? n : n - 1;
  const double step = n < kFew ? line.length() / 64 : median_step({line});
  Polyline result;
  result.closed = line.closed;
  std::vector<char> gap(n, 0);
  for (const std::size_t g : line.gaps) gap[g] = 1;
  const bool chords = line.chords.size() == n;
  for (std::size_t i = 0; i < n; ++i) {
    result.points.push_back(line.points[i]);
    if (chords) result.chords.push_back(line.chords[i]);
    origin.push_back(i);
    if (i >= pieces || gap[i] != 0 || !(step > 0)) continue;
    const Vec2 d = line.points[(i + 1) % n] - line.points[i];
    if (n >= kFew && d.norm() < kLong * step) continue;
    const auto between =
        std::min<std::size_t>(kMostBetween, static_cast<std::size_t>(d.norm() / step));
    for (std::size_t k = 1; k <= between; ++k) {
      result.points.push_back(line.points[i] +
                              static_cast<double>(k) / static_cast<double>(between + 1) * d);
      if (chords) result.chords.emplace_back(Vec2::Zero());
      origin.push_back(i);
    }
  }
  return result;
}

/// Whether the points go round a place.
bool goes_round(const Trace& trace, const Vec2& centre) {
  double turned = 0;
  for (std::size_t i = 0; i < trace.size(); ++i) {
    const Vec2 a = trace.points[i] - centre;
    const Vec2 b = trace.points[(i + 1) % trace.size()] - centre;
    turned += std::atan2(a.x() * b.y() - a.y() * b.x(), a.dot(b));
  }
  return std::abs(turned) > std::numbers::pi;
}

/// A closed trace as one circle or one ellipse, where that costs less than its pieces.
void try_whole(const Trace& trace, std::vector<Piece>& pieces) {
  // What is one piece all round has no ends.
  const bool ends_left = pieces.size() == 1 && !pieces.front().whole;
  double now = ends_left ? 1e300 : whole_cost(trace, pieces);
  Piece one;
  one.last = trace.size();
  one.whole = true;
  if (fit_arc(trace, one) && cost_of(one) < now && goes_round(trace, one.point)) {
    pieces = {one};
    now = cost_of(one);
  }
  Piece oval = one;
  oval.kind = PieceKind::Arc;
  const Trace thin = thinned(trace, 0, trace.size(), 80);
  Piece tried = oval;
  tried.last = thin.size();
  if (fit_ellipse(thin, tried) && cost_of(tried) < now && fit_ellipse(trace, oval) &&
      goes_round(trace, oval.point) && oval.minor > 0.03 * oval.radius &&
      oval.minor < 0.9995 * oval.radius && cost_of(oval) < now)
    pieces = {oval};
}

/// See ResolveOptions::close_rounds.
void close_round(const Trace& trace, std::vector<Piece>& pieces) {
  constexpr double kMostOfIt = 200 * std::numbers::pi / 180;
  if (trace.closed || pieces.size() != 1) return;
  Piece& piece = pieces.front();
  if (piece.kind != PieceKind::Arc && piece.kind != PieceKind::Ellipse) return;
  double turned = 0;
  for (std::size_t i = 0; i + 1 < trace.size(); ++i) {
    const Vec2 a = trace.points[i] - piece.point;
    const Vec2 b = trace.points[i + 1] - piece.point;
    turned += std::atan2(a.x() * b.y() - a.y() * b.x(), a.dot(b));
  }
  piece.whole = std::abs(turned) > kMostOfIt;
}

CurveType type_of(const Piece& piece) {
  switch (piece.kind) {
    case PieceKind::Line:
      return CurveType::Line;
    case PieceKind::Arc:
      return piece.whole ? CurveType::Circle : CurveType::Arc;
    case PieceKind::Ellipse:
      return CurveType::Ellipse;
    case PieceKind::Spline:
      break;
  }
  return CurveType::Spline;
}

Curve curve_of(const Trace& trace, const Piece& piece) {
  const std::size_t n = trace.size();
  Curve c;
  c.type = type_of(piece);
  c.whole = piece.whole;
  c.first = (piece.first + trace.turned) % n;
  c.last = ((piece.last > piece.first ? piece.last - 1 : piece.first) + trace.turned) % n;
  c.centre = piece.point + trace.middle;
  c.radius = piece.radius;
  c.minor_radius = piece.minor;
  c.major_axis = piece.direction;
  c.counter_clockwise = piece.counter_clockwise;
  c.spline = piece.spline;
  for (Vec2& pole : c.spline.poles) pole += trace.middle;
  if (piece.kind == PieceKind::Arc && piece.spread.rows() == 3)
    c.u_radius = 2 * std::sqrt(std::max(0.0, piece.spread(2, 2)));
  double sum = 0;
  std::size_t count = 0;
  for (std::size_t i = piece.first; i < piece.last; ++i) {
    if (trace.weights[i] == 0) continue;
    const double d = std::abs(piece.distance(trace.points[i]));
    sum += d * d;
    ++count;
    c.max_drift = std::max(c.max_drift, d);
  }
  c.rms = count > 0 ? std::sqrt(sum / static_cast<double>(count)) : 0;
  if (piece.last > piece.first) {
    c.start = piece.foot(trace.points[piece.first]) + trace.middle;
    c.end = piece.foot(trace.points[piece.last - 1]) + trace.middle;
  }
  return c;
}

/// The ends of splines are their outer poles.
void pull_ends(Curve& c) {
  if (c.type != CurveType::Spline || c.whole) return;
  c.spline.poles.front() = c.start;
  c.spline.poles.back() = c.end;
}

}  // namespace

std::optional<CircleFit> fit_circle(const std::vector<Vec2>& points) {
  if (points.size() < 4) {
    if (points.size() < 3) return std::nullopt;
    // Through three points: between the bisectors.
    const Vec2 a = points[1] - points[0];
    const Vec2 b = points[2] - points[0];
    const double d = 2 * (a.x() * b.y() - a.y() * b.x());
    if (!(std::abs(d) > 0)) return std::nullopt;
    const Vec2 c((b.y() * a.squaredNorm() - a.y() * b.squaredNorm()) / d,
                 (a.x() * b.squaredNorm() - b.x() * a.squaredNorm()) / d);
    return CircleFit{points[0] + c, c.norm(), 0};
  }
  Trace trace;
  for (const Vec2& p : points) trace.middle += p / static_cast<double>(points.size());
  for (const Vec2& p : points) {
    trace.points.push_back(p - trace.middle);
    trace.length += trace.points.back().norm();
  }
  trace.length *= 1e6;  // as flat as the numbers allow
  trace.weights.assign(points.size(), 1);
  trace.sigma = 1e-3 * trace.length;  // no point is bounded
  Piece piece;
  piece.last = points.size();
  if (!fit_arc(trace, piece)) return std::nullopt;
  double sum = 0;
  for (const Vec2& p : trace.points) sum += piece.distance(p) * piece.distance(p);
  return CircleFit{trace.middle + piece.point, piece.radius,
                   std::sqrt(sum / static_cast<double>(points.size()))};
}

Result<Curve> fit_curve(const Polyline& polyline, CurveType type, const ResolveOptions& options) {
  if (polyline.points.size() < 4)
    return Error{ErrorCode::InvalidInput, "A stretch of " + std::to_string(polyline.points.size()) +
                                              " points is too short for a curve."};
  std::vector<std::size_t> origin;
  Trace trace = trace_of(dense(polyline, origin), options);
  const Limits limits{kCornerSpacings * trace.spacing, 20 * trace.length,
                      std::max({options.noise, options.tolerance / 4, 1e-9 * trace.length})};
  {
    // The noise is told by the curves that explain the stretch best.
    Trace copy = trace;
    lines_and_arcs(copy, limits);
    trace.sigma = copy.sigma;
    trace.inflation = copy.inflation;
  }
  Piece piece;
  piece.last = trace.size();
  piece.whole = trace.closed;
  constexpr double kAnyCost = 1e300;
  const auto fits = [&] {
    switch (type) {
      case CurveType::Line:
        return !trace.closed && fit_line(trace, piece);
      case CurveType::Arc:
      case CurveType::Circle:
        return trace.closed == (type == CurveType::Circle) && fit_arc(trace, piece);
      case CurveType::Ellipse:
        return fit_ellipse(trace, piece);
      case CurveType::Spline:
        break;
    }
    return fit_spline(trace, piece, kAnyCost);
  };
  if (!fits())
    return Error{ErrorCode::Degenerate,
                 "The points of this stretch do not determine such a curve."};
  measure(trace, piece);
  Curve curve = curve_of(trace, piece);
  pull_ends(curve);
  return curve;
}

double noise_of(const Section& section) {
  std::vector<double> found;
  for (const Polyline& line : section.polylines) {
    if (line.support || line.few || line.points.size() < 30) continue;
    std::vector<std::size_t> origin;
    Trace trace = trace_of(dense(line, origin), {});
    const Limits limits{kCornerSpacings * trace.spacing, 20 * trace.length, 1e-9 * trace.length};
    lines_and_arcs(trace, limits);
    found.push_back(trace.sigma);
    if (found.size() == 5) break;
  }
  if (found.empty()) return 0;
  std::sort(found.begin(), found.end());
  return found[found.size() / 2];
}

Result<std::vector<Curve>> resolve(const Polyline& polyline, const ResolveOptions& options) {
  const std::size_t n = polyline.points.size();
  if (!(options.tolerance >= 0) || !(options.noise >= 0) || !(options.spacing >= 0))
    return Error{ErrorCode::InvalidInput, "Tolerance, noise and spacing must not be below zero."};
  if (n < 4)
    return Error{ErrorCode::InvalidInput,
                 "A stretch of " + std::to_string(n) + " points is too short to resolve."};
  std::vector<std::size_t> origin;
  Trace trace = trace_of(dense(polyline, origin), options);
  Eigen::AlignedBox2d box;
  for (const Vec2& p : trace.points) box.extend(p);
  const double extent = box.diagonal().norm();
  const Limits limits{
      options.corner > 0 ? options.corner : kCornerSpacings * trace.spacing,
      options.largest_radius > 0 ? options.largest_radius : 20 * extent,
      std::max({options.noise, options.tolerance / 4, 2e-4 * trace.spacing, 1e-9 * trace.length})};
  std::vector<Piece> pieces = lines_and_arcs(trace, limits);
  if (pieces.empty())
    return Error{ErrorCode::Degenerate, "The points of this stretch fall together."};
  close_up(trace, pieces, limits);
  smooth_runs(trace, pieces, limits.largest_radius);
  if (trace.closed) try_whole(trace, pieces);
  if (options.close_rounds) close_round(trace, pieces);
  const std::vector<Joint> joints = join(trace, pieces, limits.corner);
  std::vector<Curve> curves;
  for (const Piece& piece : pieces) curves.push_back(curve_of(trace, piece));
  for (std::size_t i = 0; i < curves.size(); ++i) {
    if (!joints[i].meets) continue;
    Curve& next = curves[(i + 1) % curves.size()];
    curves[i].joined = true;
    curves[i].tangent = joints[i].tangent;
    curves[i].end = joints[i].at + trace.middle;
    next.start = curves[i].end;
  }
  for (Curve& c : curves) {
    pull_ends(c);
    c.first = origin[c.first];
    c.last = origin[c.last];
  }
  return curves;
}

}  // namespace lostline::section
