#pragma once

#include "base/result.h"
#include "model/parts.h"
#include "pipe/centreline.h"

namespace lostline::model {

/// A path of corners and bends as straight and bent pieces.
/// @param bend_of_all  mm, of every bend; 0: as the path has them.
/// @errors InvalidInput  fewer than two corners, a corner without a bend, or bends that leave no
/// room for each other.
Result<std::vector<pipe::Piece>> pieces_of(const SpacePath& path, double bend_of_all);

/// What of a chain of pieces lies between two places along it, mm from its start; before its start
/// and beyond its end it goes straight on.
std::vector<pipe::Piece> stretch_of(const std::vector<pipe::Piece>& pieces, double from, double to);

}  // namespace lostline::model
