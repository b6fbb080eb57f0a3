#pragma once

#include <Eigen/Core>
#include <optional>
#include <string>
#include <vector>

#include "base/task.h"
#include "section/section.h"
#include "sketch/sketch.h"

namespace lostline::sketch {

enum class State {
  Solved,   ///< all constraints hold; what is loose was not asked
  Loose,    ///< they hold, and something can still move
  Held,     ///< they hold, and nothing can move
  Clashing  ///< they cannot hold together, or were not brought to from where they began
};

/// What of a solution is wanted: places alone cost least.
enum class Asked { Places, All };

struct Solution {
  Sketch sketch;  ///< with new positions and radii
  State state = State::Solved;
  // The rest only when all was asked.
  int freedoms = 0;                ///< left over; 0 when held
  std::vector<Id> loose_entities;  ///< entities that can still move
  std::vector<Id> clashing;        ///< a smallest set that contradicts itself: without any one
                                   ///< of these the others of them hold
  std::vector<Id> redundant;       ///< constraints that follow from others
};

/// Moves the sketch as little as possible so that all constraints hold (driving dimensions
/// included). A contradiction is a result with state Clashing, its constraints named, and the
/// sketch as near as it gets.
/// @errors InvalidInput  a constraint names something that is missing or unsuitable.
/// Newton steps of least norm by a sparse factorisation; with places alone about in proportion to
/// the curves where each hangs on few others.
Result<Solution> solve(const Sketch& sketch, Asked asked = Asked::All);

/// The sketch with places at which all constraints hold.
/// @errors InvalidInput  as solve;  Degenerate  they contradict each other: which.
Result<Sketch> solved_places(const Sketch& sketch);

/// Drags a point (or the centre of a circle) towards `target` with all constraints kept.
/// @errors InvalidInput  the point is fixed in the plane;  NotConverged  they do not let it.
Result<Solution> drag(const Sketch& sketch, Id point, const Vec2& target, Asked asked = Asked::All);

/// How a dimension comes out of a fit.
struct DimensionReading {
  Id constraint = 0;
  double value = 0;         ///< mm
  std::optional<double> u;  ///< expanded, k = 2, mm; empty when no section point bears on it
};

/// Drift of the section points from the sketch.
struct Drift {
  struct Whisker {
    Vec2 foot;     ///< on the sketch
    Vec2 point;    ///< of the section
    double value;  ///< signed: positive outside the material, mm
    Id entity;
  };
  std::vector<Whisker> whiskers;
  double rms = 0;
  double greatest = 0;  ///< signed
  Vec2 greatest_at = Vec2::Zero();
};

struct FitResult {
  Solution solution;
  std::vector<DimensionReading> readings;
  double rms = 0;
  std::size_t points = 0;  ///< section points used
  int rounds = 0;
  bool settled = false;  ///< the last step was nothing; else the sketch still moved
};

struct FitOptions {
  double reach =
      1.0;  ///< mm: section points further from every entity are not evidence for the sketch
  double corner_margin = 0.8;  ///< mm: points this near to the end of an entity are left out, since
                               ///< a scanner rounds corners
  /// Dimensions that are driving are held in the fit; with false they are freed, which gives
  /// readings untouched by decisions.
  bool hold_dimensions = true;
  Asked asked = Asked::All;  ///< of the solution; readings come either way
};

/// Constrained least squares: the constraints hold exactly, the summed squared distance of the
/// section points from their entities is least. Covariance of what is free from the reduced normal
/// equations, inflated for correlation along each entity.
/// @errors as solve;  Degenerate when the constraints clash: the fit is not attempted; InvalidInput
/// without section points. Source: null-space method, J. Nocedal and S. Wright, Numerical
/// Optimization (2006), 16.2; Gauss-Newton on the distances.
Result<FitResult> fit_to_section(const Sketch& sketch, const section::Section& section,
                                 const FitOptions& options = {}, const Task& task = {});

/// Drift of all section points within `reach` of the sketch.
Drift measure_drift(const Sketch& sketch, const section::Section& section, double reach);

/// Draws resolved curves as sketch entities with shared end points, tangent where they were
/// resolved so.
Sketch sketch_from_section(const section::Section& section, double tolerance, double spacing);

struct SuggestOptions {
  double angle = 0.02;   ///< rad: how far from parallel, square, upright or tangent still counts
                         ///< (about one degree)
  double length = 0.15;  ///< mm: how far centres or radii may differ
};
/// Constraints that hold within the tolerances and do not follow from those present, nor from each
/// other. Never applied silently. Cancelled, those found so far.
std::vector<Constraint> suggest_constraints(const Sketch& sketch,
                                            const SuggestOptions& options = {},
                                            const Task& task = {});

}  // namespace lostline::sketch
