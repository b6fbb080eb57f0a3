#pragma once

#include "joining/piece.h"

namespace lostline::joining {

/// Motions of the first scan on to the second by surfaces that both may show: directions of planes
/// and axes give the turns, distances of parallel planes and of equal cylinders the shifts, each
/// direction by itself, so that one common surface a direction is enough. The best by the area that
/// is laid on alike surfaces come first.
/// @param most  motions returned.
std::vector<Transform> places_by_surfaces(const Piece& first, const Piece& second,
                                          std::size_t most = 400, const Task& task = {});

}  // namespace lostline::joining
