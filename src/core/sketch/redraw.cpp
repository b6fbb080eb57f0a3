#include "sketch/redraw.h"

#include <Eigen/Dense>
#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "sketch/copies.h"
#include "sketch/curve_kind.h"
#include "sketch/drawing.h"
#include "sketch/solver.h"

namespace lostline::sketch {
namespace {

using section::CurveType;

constexpr std::array kAs{AsKind{As::Fewest, "fewest curves", true, true, {}},
                         AsKind{As::Line, "line", true, false, CurveType::Line},
                         AsKind{As::Arc, "arc", true, false, CurveType::Arc},
                         AsKind{As::Circle, "circle", false, true, CurveType::Circle},
                         AsKind{As::Ellipse, "ellipse", true, true, CurveType::Ellipse},
                         AsKind{As::Spline, "spline", true, true, CurveType::Spline},
                         AsKind{As::Rectangle, "rectangle", false, true, {}},
                         AsKind{As::Slot, "slot", false, true, {}},
                         AsKind{As::Polygon, "polygon", false, true, {}}};

/// The picks as one run of section points.
struct Stretch {
  section::Polyline points;
  Id first = 0, last = 0;  ///< its ends; 0 of a closed one
};

/// The section points of one entity in the order of its parameter.
std::vector<Vec2> points_of(const Sketch& sketch, const section::Section& section, Id entity,
                            double reach) {
  std::vector<std::pair<double, Vec2>> found;
  std::vector<std::unique_ptr<PlaneCurve>> curves;
  const PlaneCurve* mine = nullptr;
  for (const Entity& e : sketch.entities) {
    if (e.construction) continue;
    curves.push_back(placed(sketch, e));
    if (e.id == entity) mine = curves.back().get();
  }
  if (mine == nullptr) return {};
  for (const section::Polyline& line : section.polylines) {
    for (const Vec2& p : line.points) {
      const double d = std::abs(mine->drift(p));
      if (d > reach) continue;
      const bool nearest = std::all_of(curves.begin(), curves.end(), [&](const auto& c) {
        return c.get() == mine || std::abs(c->drift(p)) >= d;
      });
      if (!nearest) continue;
      double t = mine->parameter(p);
      // Before its start on a closed curve: a little less than a period.
      if (mine->period() > 0 && t > 0.5 * (mine->range() + mine->period())) t -= mine->period();
      found.emplace_back(t, p);
    }
  }
  std::stable_sort(found.begin(), found.end(),
                   [](const auto& a, const auto& b) { return a.first < b.first; });
  std::vector<Vec2> points;
  for (const auto& [t, p] : found) points.push_back(p);
  return points;
}

/// A chain of picks from end to end.
struct Run {
  std::vector<Vec2> points;
  Id a = 0, b = 0;
  Vec2 at_a = Vec2::Zero(), at_b = Vec2::Zero();

  void turn() {
    std::reverse(points.begin(), points.end());
    std::swap(a, b);
    std::swap(at_a, at_b);
  }
};

Run run_of(const Sketch& sketch, const section::Section& section, const Loop& chain, double reach) {
  Run run;
  for (const Loop::Use& use : chain.uses) {
    std::vector<Vec2> points = points_of(sketch, section, use.entity, reach);
    if (use.reversed) std::reverse(points.begin(), points.end());
    run.points.insert(run.points.end(), points.begin(), points.end());
    const Entity& e = *sketch.find_entity(use.entity);
    if (!kind_of(e).has_ends()) continue;
    if (run.a == 0) run.a = use.reversed ? e.b : e.a;
    run.b = use.reversed ? e.a : e.b;
  }
  run.at_a = sketch.position(run.a);
  run.at_b = sketch.position(run.b);
  return run;
}

/// Nothing lies between points further apart than section points are.
void mark_gaps(section::Polyline& line) {
  constexpr double kWide = 4;  // steps
  const double step = section::median_step({line});
  for (std::size_t k = 0; k + 1 < line.points.size(); ++k) {
    if ((line.points[k + 1] - line.points[k]).norm() > kWide * step) line.gaps.push_back(k);
  }
}

Result<Stretch> stretch_of(const Sketch& sketch, const section::Section& section,
                           const std::vector<Id>& picks, double reach) {
  const Sketch part = without_construction(part_of(sketch, picks));
  if (part.entities.empty())
    return Error{ErrorCode::InvalidInput, "Pick the curves that are to be drawn anew first."};
  Stretch stretch;
  const std::vector<Loop> loops = find_loops(part);
  const std::vector<Loop> chains = open_chains(part);
  if (loops.size() == 1 && chains.empty()) {
    stretch.points.points = run_of(sketch, section, loops.front(), reach).points;
    stretch.points.closed = true;
  } else if (!loops.empty()) {
    return Error{ErrorCode::InvalidInput, "Pick one outline, or curves along one stretch."};
  } else {
    std::vector<Run> runs;
    for (const Loop& chain : chains) runs.push_back(run_of(sketch, section, chain, reach));
    Run whole = runs.front();
    runs.erase(runs.begin());
    // Over gaps to the nearest of what is left.
    while (!runs.empty()) {
      std::size_t best = 0;
      int way = 0;
      double nearest = 1e300;
      for (std::size_t k = 0; k < runs.size(); ++k) {
        const std::array gaps{
            (whole.at_b - runs[k].at_a).norm(), (whole.at_b - runs[k].at_b).norm(),
            (whole.at_a - runs[k].at_b).norm(), (whole.at_a - runs[k].at_a).norm()};
        for (int w = 0; w < 4; ++w) {
          if (gaps[static_cast<std::size_t>(w)] >= nearest) continue;
          nearest = gaps[static_cast<std::size_t>(w)];
          best = k;
          way = w;
        }
      }
      Run next = runs[best];
      runs.erase(runs.begin() + static_cast<std::ptrdiff_t>(best));
      if (way % 2 == 1) next.turn();
      if (way >= 2) std::swap(whole, next);  // before it
      whole.points.insert(whole.points.end(), next.points.begin(), next.points.end());
      whole.b = next.b;
      whole.at_b = next.at_b;
    }
    stretch.points.points = whole.points;
    stretch.first = whole.a;
    stretch.last = whole.b;
  }
  mark_gaps(stretch.points);
  if (stretch.points.points.size() < 4)
    return Error{ErrorCode::NotFound,
                 "No section points lie along the picks: nothing tells the curve."};
  return stretch;
}

/// The narrowest box round points: its middle, the direction of its longer side, half its sizes.
/// Each side of the best one lies along an edge of the hull; turned in steps it is near enough to
/// start a fit.
struct Box {
  Vec2 middle, along;
  double half_length, half_width;
};
Box box_of(const std::vector<Vec2>& points) {
  Box best{};
  double least = 1e300;
  for (int k = 0; k < 180; ++k) {
    const double turn = k * std::numbers::pi / 360;
    const Vec2 u(std::cos(turn), std::sin(turn));
    const Vec2 v(-u.y(), u.x());
    Eigen::AlignedBox2d box;
    for (const Vec2& p : points) box.extend(Vec2(p.dot(u), p.dot(v)));
    const Vec2 size = box.sizes();
    if (size.prod() >= least) continue;
    least = size.prod();
    const bool wide = size.x() >= size.y();
    best = {box.center().x() * u + box.center().y() * v, wide ? u : v, 0.5 * size.maxCoeff(),
            0.5 * size.minCoeff()};
  }
  return best;
}

Result<std::vector<Id>> draw_shape(Sketch& s, const Stretch& stretch, As as, int sides) {
  const Box box = box_of(stretch.points.points);
  const Vec2 side(-box.along.y(), box.along.x());
  if (as == As::Rectangle) {
    const Vec2 a = box.middle - box.half_length * box.along - box.half_width * side;
    return draw_rectangle(s, {0, a}, {0, a + 2 * box.half_length * box.along},
                          a + 2 * box.half_width * side);
  }
  if (as == As::Slot) {
    const double reach = std::max(box.half_length - box.half_width, 1e-3 * box.half_length);
    const Vec2 a = box.middle - reach * box.along;
    return draw_slot(s, {0, a}, {0, box.middle + reach * box.along}, a + box.half_width * side);
  }
  // The corner of a polygon is what lies furthest from its middle.
  const auto far =
      std::max_element(stretch.points.points.begin(), stretch.points.points.end(),
                       [&](const Vec2& a, const Vec2& b) {
                         return (a - box.middle).squaredNorm() < (b - box.middle).squaredNorm();
                       });
  return draw_polygon(s, {0, box.middle}, {0, *far}, sides);
}

void drift_over(const Sketch& sketch, const std::vector<Id>& entities,
                const std::vector<Vec2>& points, double& rms, double& greatest) {
  std::vector<std::unique_ptr<PlaneCurve>> curves;
  for (const Id id : entities) curves.push_back(placed(sketch, *sketch.find_entity(id)));
  double sum = 0;
  greatest = 0;
  for (const Vec2& p : points) {
    double d = 1e300;
    for (const auto& curve : curves) d = std::min(d, std::abs(curve->drift(p)));
    sum += d * d;
    greatest = std::max(greatest, d);
  }
  rms = std::sqrt(sum / static_cast<double>(points.size()));
}

}  // namespace

std::span<const AsKind> as_kinds() { return kAs; }

Result<Redrawn> redraw(const Sketch& sketch, const section::Section& section,
                       const std::vector<Id>& picks, As as, const RedrawOptions& options) {
  const auto stretch = stretch_of(sketch, section, picks, options.reach);
  if (!stretch) return stretch.error();
  const AsKind& kind =
      *std::find_if(kAs.begin(), kAs.end(), [&](const AsKind& k) { return k.as == as; });
  if (!(stretch->points.closed ? kind.closed : kind.open))
    return Error{ErrorCode::InvalidInput, std::string("The picks ") +
                                              (stretch->points.closed ? "close" : "do not close") +
                                              ": they cannot become a " + kind.name + "."};
  Redrawn result;
  result.points = stretch->points.points.size();
  std::vector<Id> old;
  for (const Id id : picks) {
    const Entity* e = sketch.find_entity(id);
    if (e != nullptr && !e->construction) old.push_back(id);
  }
  drift_over(sketch, old, stretch->points.points, result.rms_before, result.greatest_before);
  Sketch& s = result.sketch;
  s = sketch;
  if (as == As::Rectangle || as == As::Slot || as == As::Polygon) {
    const auto drawn = draw_shape(s, *stretch, as, options.sides);
    if (!drawn) return drawn.error();
    result.entities = *drawn;
  } else {
    section::ResolveOptions resolving;
    resolving.tolerance = options.tolerance;
    if (as == As::Fewest) {
      const auto curves = section::resolve(stretch->points, resolving);
      if (!curves) return curves.error();
      result.entities = draw_chain(s, *curves, stretch->first, stretch->last);
    } else {
      const auto curve = section::fit_curve(stretch->points, *kind.curve, resolving);
      if (!curve) return curve.error();
      result.entities = draw_chain(s, {*curve}, stretch->first, stretch->last);
      // A spline that is nearer to the points than their noise lets it, by its count of numbers.
      const double noise = section::noise_of(section);
      const double poles = static_cast<double>(curve->spline.poles.size());
      result.follows_noise = as == As::Spline && noise > 0 &&
                             4 * poles > static_cast<double>(result.points) &&
                             curve->rms < 0.8 * noise;
    }
  }
  for (const Id id : old) s.remove(id);
  // What is drawn goes on to the section, held by its constraints.
  FitOptions fitting;
  fitting.reach = 1e300;  // all of the stretch is its evidence
  Sketch alone = part_of(s, result.entities);
  for (const Entity& e : s.entities) {
    // The circle that carries a polygon's corners belongs to it.
    if (e.construction && sketch.find_entity(e.id) == nullptr) {
      std::vector<Id> with = result.entities;
      with.push_back(e.id);
      alone = part_of(s, with);
    }
  }
  section::Section evidence;
  evidence.polylines.push_back(stretch->points);
  fitting.corner_margin = 1.5 * section::median_step(evidence.polylines);
  if (const auto fitted = fit_to_section(alone, evidence, fitting)) {
    const bool ends_free = stretch->points.closed;
    for (Point& p : s.points) {
      const bool end = p.id == stretch->first || p.id == stretch->last;
      if (end && !ends_free) continue;
      if (const Point* moved = fitted->solution.sketch.find_point(p.id)) p.at = moved->at;
    }
    for (Entity& e : s.entities) {
      if (const Entity* moved = fitted->solution.sketch.find_entity(e.id)) e.radius = moved->radius;
    }
  }
  if (const auto solved = solve(s, Asked::Places); solved && solved->state != State::Clashing)
    s = solved->sketch;
  drift_over(s, result.entities, stretch->points.points, result.rms_after, result.greatest_after);
  return result;
}

}  // namespace lostline::sketch
