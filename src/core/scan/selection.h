#pragma once

#include "scan/mesh.h"

namespace lostline::scan {

/// A selection of triangles: one flag each.
using Selection = std::vector<char>;

/// Adds or removes every triangle that is joined over shared edges to one of `seeds`.
void select_connected(const Topology& topology, const std::vector<std::uint32_t>& seeds, bool add,
                      Selection& selection);
/// One ring of triangles more around the selection, or one less.
Selection grown(const Mesh& mesh, const Selection& selection);
Selection shrunk(const Mesh& mesh, const Selection& selection);
Selection inverted(Selection selection);
std::vector<std::uint32_t> indices_of(const Selection& selection);

}  // namespace lostline::scan
