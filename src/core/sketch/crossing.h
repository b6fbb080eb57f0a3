#pragma once

#include <vector>

#include "sketch/curve_kind.h"

// Where the curves of a sketch meet: shared by trimming, offsets and areas.

namespace lostline::sketch {

struct Crossing {
  double at = 0;  ///< parameter on the entity that is cut
  Vec2 point = Vec2::Zero();
  Id by = 0;
};

/// Where others cut an entity between its ends, in order.
std::vector<Crossing> crossings(const Sketch& sketch, const Entity& entity);

}  // namespace lostline::sketch
