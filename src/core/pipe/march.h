#pragma once

#include "pipe/centreline.h"
#include "base/point_grid.h"

// Inside of the centre line: from a pick along the pipe, station after station.

namespace lostline::pipe {

struct Evidence {
  const std::vector<Vec3>& points;
  const std::vector<Vec3>& normals;
  const PointGrid& grid;
  double spacing;
  double noise;
};

/// One place along a pipe.
struct Station {
  Vec3 centre;
  Vec3 along;           ///< unit
  double coverage = 0;  ///< rad of the circumference that points show
  bool after_gap = false;
};

/// What a pick tells of the pipe.
struct Seed {
  Station station;
  double radius = 0;
  bool hollow = false;
};

/// @errors NotFound  no points near the pick;  Degenerate  the surface there is not round.
Result<Seed> seed_at(const Evidence& evidence, const Vec3& pick);

/// The stations through a seed, in order, both ways. `closed` is set when they come back to it.
std::vector<Station> follow(const Evidence& evidence, const Seed& seed, double bridge, bool& closed,
                            const Task& task);

}  // namespace lostline::pipe
