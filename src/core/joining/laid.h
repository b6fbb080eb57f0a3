#pragma once

#include "joining/join.h"
#include "scan/mesh_index.h"

namespace lostline::joining {

/// Places that two scans share as one of them was laid on the other, by hand perhaps: points spread
/// over the second with their nearest ones on the first.
/// @param pose  from the second's to the first's coordinates.
/// @errors Failed  they hardly touch as they lie.
Result<std::vector<SharedPlace>> places_as_laid(const scan::MeshIndex& first, std::size_t scan_a,
                                                const scan::Mesh& second, std::size_t scan_b,
                                                const Transform& pose);

}  // namespace lostline::joining
