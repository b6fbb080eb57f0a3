#pragma once

#include <optional>
#include <vector>

#include "section/resolve.h"
#include "sketch/sketch.h"

namespace lostline::sketch {

/// A place of a section: one of the points of one of its runs.
struct SectionPlace {
  std::size_t line = 0;
  std::size_t point = 0;
};
/// The section point nearest to `p`; none of an empty section.
std::optional<SectionPlace> nearest_place(const section::Section& section, const Vec2& p);

/// A stretch of one run of a section between two of its points, both included. With `to` below
/// `from` it goes against the order of the run; on a closed run both may lie beyond its ends and
/// count on round it.
struct SectionStretch {
  std::size_t line = 0;
  long from = 0;
  long to = 0;

  /// Goes on to another point of the same run, on a closed one the shorter way from where it is:
  /// so a pointer that goes round draws what it went along.
  void go_to(const section::Section& section, std::size_t point);
  /// Goes all the way round a closed run, or further.
  [[nodiscard]] bool whole(const section::Section& section) const;
};

/// The points of a stretch; closed where it is whole.
section::Polyline points_along(const section::Section& section, const SectionStretch& stretch);

/// Draws the fewest curves that explain a stretch of a section.
/// @param first, last  points of the sketch to draw from and to; 0: new ones.
/// @returns the new entities, in order.
/// @errors as section::resolve: a stretch of fewer than four points tells no curve.
Result<std::vector<Id>> draw_along(Sketch& sketch, const section::Section& section,
                                   const SectionStretch& stretch,
                                   const section::ResolveOptions& options, Id first = 0,
                                   Id last = 0);

/// Curves drawn along a run one stretch after the other, each from the end of the last.
struct AlongRun {
  SectionStretch stretch;  ///< from where the last one ended
  Id first = 0;            ///< point of the sketch where it began; 0 until something is drawn
  Id last = 0;             ///< where the next curve goes on

  /// Draws the stretch and begins the next one at its end.
  /// @param to  point of the sketch to end at; 0: a new one.
  /// @errors as draw_along; the sketch and the run are as they were.
  Result<std::vector<Id>> draw(Sketch& sketch, const section::Section& section,
                               const section::ResolveOptions& options, Id to = 0);
};

}  // namespace lostline::sketch
