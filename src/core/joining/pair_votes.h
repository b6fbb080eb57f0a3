#pragma once

#include "joining/piece.h"

namespace lostline::joining {

struct VotesOptions {
  std::size_t points = 900;      ///< of each scan
  std::size_t references = 200;  ///< of the first scan that ask
  std::size_t most = 30;         ///< motions returned
};

/// Motions of the first scan on to the second that pairs of points with their normals agree on,
/// the best first. Needs no surfaces of known types; what is flat all over tells it nothing.
/// Source: B. Drost et al., Model globally, match locally: efficient and robust 3D object
/// recognition, CVPR 2010.
std::vector<Transform> vote_by_pairs(const Piece& first, const Piece& second,
                                     const VotesOptions& options = {}, const Task& task = {});

}  // namespace lostline::joining
