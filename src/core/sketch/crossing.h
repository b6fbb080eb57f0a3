#pragma once

#include <vector>

#include "sketch/sketch.h"

// Where the curves of a sketch meet: shared by trimming, offsets and areas.

namespace lostline::sketch {

/// A place along an entity: length from its start for a line, angle from its start for an arc,
/// angle from the x direction for a circle.
double parameter(const Sketch& sketch, const Entity& entity, const Vec2& p);
/// The greatest parameter: length in mm, or angle in rad.
double length_of(const Sketch& sketch, const Entity& entity);

struct Crossing {
  double at = 0;  ///< parameter on the entity that is cut
  Vec2 point = Vec2::Zero();
  Id by = 0;
};

/// Where the endless curves of two entities meet.
std::vector<Vec2> meetings(const Sketch& sketch, const Entity& a, const Entity& b);
/// Whether a point of the endless curve lies on the bounded one.
bool lies_on(const Sketch& sketch, const Entity& entity, const Vec2& p);
/// Where others cut an entity between its ends, in order.
std::vector<Crossing> crossings(const Sketch& sketch, const Entity& entity);

}  // namespace lostline::sketch
