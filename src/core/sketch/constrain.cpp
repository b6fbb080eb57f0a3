#include "sketch/constrain.h"

#include <algorithm>

#include "sketch/curve_kind.h"
#include "sketch/solver.h"

namespace lostline::sketch {
namespace {

/// The sketch once its constraints were seen to go with what they name.
Result<Sketch> sound(Sketch trial) {
  const auto solved = solve(trial, Asked::Places);
  if (!solved) return solved.error();
  return trial;
}

/// The centre of what is round, else the thing itself.
Id point_of(const Sketch& sketch, Id id) {
  const Entity* e = sketch.find_entity(id);
  return e != nullptr && kind_of(*e).has_centre() ? e->centre : id;
}

/// All dimensions held at what they are or read.
Sketch held(const Sketch& sketch) {
  Sketch trial = sketch;
  for (Constraint& c : trial.constraints) {
    if (!c.is_dimension() || c.reference || c.driving) continue;
    c.driving = true;
    c.value = measured_value(trial, c);
  }
  return trial;
}

Result<Sketch> symmetric(Sketch trial, const std::vector<Id>& picks) {
  if (picks.size() < 2)
    return Error{ErrorCode::InvalidInput,
                 "Pick two points, lines or circles, then the line, first."};
  trial.add_constraint(ConstraintType::Symmetric, picks[0], picks[1], 0, false,
                       picks.size() > 2 ? picks[2] : kYAxis);
  return sound(std::move(trial));
}

Result<Sketch> fixed(Sketch trial, const std::vector<Id>& picks) {
  for (const Id id : picks) {
    std::vector<Id> points;
    if (const Entity* e = trial.find_entity(id)) {
      e->each_point([&](Id point) { points.push_back(point); });
    } else {
      points.push_back(id);
    }
    std::sort(points.begin(), points.end());
    points.erase(std::unique(points.begin(), points.end()), points.end());
    for (const Id point : points) {
      if (trial.find_point(point) != nullptr) trial.add_constraint(ConstraintType::Fixed, point, 0);
    }
    const Entity* e = trial.find_entity(id);
    if (has_radius(e) && !kind_of(*e).has_ends()) trial.add_constraint(ConstraintType::Fixed, id);
  }
  return sound(std::move(trial));
}

}  // namespace

namespace {

/// The sketch with a dimension that was added in pencil, a reference where it follows from what
/// holds or is read already.
Result<Sketch> read(Sketch trial, Id added) {
  const auto solved = solve(held(trial));
  if (!solved) return solved.error();
  trial.find_constraint(added)->reference =
      std::find(solved->redundant.begin(), solved->redundant.end(), added) !=
      solved->redundant.end();
  return trial;
}

Result<Sketch> along_axis(Sketch trial, ConstraintType type, const std::vector<Id>& picks) {
  std::vector<Id> points;
  for (const Id id : picks) {
    const Entity* e = trial.find_entity(id);
    if (is_straight(e))
      points.insert(points.end(), {e->a, e->b});
    else
      points.push_back(point_of(trial, id));
  }
  if (points.size() != 2)
    return Error{ErrorCode::InvalidInput, "Pick a line, or two points or circles, first."};
  const Id added = trial.add_constraint(type, points[0], points[1]);
  return read(std::move(trial), added);
}

Result<Sketch> arc_length(Sketch trial, const std::vector<Id>& picks) {
  if (picks.size() != 1) return Error{ErrorCode::InvalidInput, "Pick one arc first."};
  const Id added = trial.add_constraint(ConstraintType::ArcLength, picks[0]);
  return read(std::move(trial), added);
}

}  // namespace

Result<Sketch> with_constraint(const Sketch& sketch, ConstraintType type,
                               const std::vector<Id>& picks) {
  if (picks.empty())
    return Error{ErrorCode::InvalidInput, "Pick one or two lines, arcs or points first."};
  if (Constraint{0, type}.along_axis()) return along_axis(sketch, type, picks);
  if (type == ConstraintType::ArcLength) return arc_length(sketch, picks);
  if (type == ConstraintType::Symmetric) return symmetric(sketch, picks);
  if (type == ConstraintType::Fixed) return fixed(sketch, picks);
  Sketch trial = sketch;
  if (type == ConstraintType::Horizontal || type == ConstraintType::Vertical) {
    // Lines each by itself; a point and what else has a place, the first with each of the others.
    Id from = 0;
    for (const Id id : picks) {
      if (is_straight(trial.find_entity(id))) {
        trial.add_constraint(type, id);
        continue;
      }
      const Id point = point_of(sketch, id);
      if (from != 0) trial.add_constraint(type, from, point);
      if (from == 0) from = point;
    }
    if (trial.constraints.size() == sketch.constraints.size())
      return Error{
          ErrorCode::InvalidInput,
          "A line, or two points or circles, can be horizontal or vertical: pick those first."};
    return sound(std::move(trial));
  }
  if (type == ConstraintType::Midpoint) {
    if (picks.size() != 2) return Error{ErrorCode::InvalidInput, "Pick a point and a line first."};
    const bool point_first = trial.find_point(picks[0]) != nullptr || picks[0] == kOrigin;
    trial.add_constraint(type, picks[point_first ? 0 : 1], picks[point_first ? 1 : 0]);
    return sound(std::move(trial));
  }
  const bool coincident = type == ConstraintType::Coincident;
  for (std::size_t k = 1; k < std::max<std::size_t>(picks.size(), 2); ++k) {
    Id a = coincident ? point_of(sketch, picks[0]) : picks[0];
    Id b = k < picks.size() ? picks[k] : 0;
    if (coincident && b != 0) b = point_of(sketch, b);
    // A coincident constraint names the point first.
    if (coincident && trial.find_point(a) == nullptr && a != kOrigin) std::swap(a, b);
    trial.add_constraint(type, a, b);
  }
  return sound(std::move(trial));
}

Result<Sketch> with_dimension(const Sketch& sketch, const std::vector<Id>& picks) {
  if (picks.empty() || picks.size() > 2)
    return Error{ErrorCode::InvalidInput, "Pick a circle, an arc, a line, or two things first."};
  Sketch trial = sketch;
  Id added = 0;
  if (picks.size() == 1 && has_radius(sketch.find_entity(picks[0]))) {
    added = trial.add_constraint(ConstraintType::Radius, picks[0]);
  } else {
    added = trial.add_constraint(ConstraintType::Distance, point_of(sketch, picks[0]),
                                 picks.size() > 1 ? point_of(sketch, picks[1]) : 0);
  }
  return read(std::move(trial), added);
}

Result<Sketch> with_angle(const Sketch& sketch, const std::vector<Id>& picks) {
  if (picks.size() != 2)
    return Error{ErrorCode::InvalidInput, "Pick the two lines of the angle first."};
  Sketch trial = sketch;
  const Id added = trial.add_constraint(ConstraintType::Angle, picks[0], picks[1]);
  return read(std::move(trial), added);
}

}  // namespace lostline::sketch
