#pragma once

#include <map>
#include <vector>

#include "base/result.h"
#include "sketch/sketch.h"

namespace lostline::model {

/// What a feature takes of its sketch.
struct Choice {
  const std::vector<sketch::Id>& loops;
  const std::vector<Vec2>& areas;
  bool surface = false;  ///< the curves themselves, closed or open, not what they enclose
};
/// Loops in 2D, and open chains for a surface: of the sketch, or of its curves cut at their
/// crossings.
struct Outline {
  sketch::Sketch sketch;
  std::vector<sketch::Loop> loops;          ///< largest first
  std::map<sketch::Id, sketch::Id> origin;  ///< of a cut piece: its entity; empty when not cut
};
/// Whole loops where the sketch has them; else areas among crossing curves.
/// @errors Degenerate, NotFound as apply_feature.
Result<Outline> make_outline(const sketch::Sketch& sketch, const Choice& choice);

}  // namespace lostline::model
