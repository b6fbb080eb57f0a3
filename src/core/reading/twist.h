#pragma once

#include <optional>

#include "base/task.h"
#include "model/outline.h"
#include "project/document.h"

namespace lostline::reading {

/// By how much a profile turns on its way between two levels, as the scan shows it.
struct TwistReading {
  double angle = 0;        ///< rad, from the lower number to the other, about the sketch's normal
  double u = 0;            ///< expanded, k = 2
  double rms = 0;          ///< mm, of the walls from the turning profile
  std::size_t points = 0;  ///< of the scan on them
};

/// Reads the scan's walls between two levels. Near the section they are the profile itself; how it
/// turns is followed from there level by level, so that any number of turns is told. Each point's
/// distance from the profile, turned back by its height, is made least (Gauss-Newton with Tukey's
/// weights). U holds scatter that neighbours share: points of one cube of eight spacings count as
/// one (sandwich estimate, H. White, Econometrica 48 (1980)).
/// @param about  where the axis stands, in the sketch's plane.
/// @param from, to  levels above the sketch's base plane, mm.
/// @return Empty when nothing there tells a twist: a round profile about its own axis, or walls
/// that do not turn evenly.
std::optional<TwistReading> read_twist(const project::Document& document,
                                       const project::TracedSketch& traced,
                                       const model::Choice& choice, const Vec2& about, double from,
                                       double to, const Task& task = {});

}  // namespace lostline::reading
