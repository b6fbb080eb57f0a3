#pragma once

#include "io/mesh_files.h"

namespace lostline::io {

/// Reads three little-endian floats at any alignment and counts -0 as 0.
std::array<float, 3> load_floats(const char* bytes);

/// Welds bit-equal corners of a triangle soup. Corner c of triangle t is read at `data + t * stride
/// + 12 * c`. Triangles with a coordinate that is not finite or with fewer than three different
/// corners are counted and left out. O(count), two threads; the result does not depend on the
/// number of threads.
Result<LoadedMesh> weld_soup(const char* data, std::size_t count, std::size_t stride,
                             const Task& task);

/// Joins bit-equal vertices of an indexed mesh and leaves out triangles with a coordinate that is
/// not finite or with fewer than three different corners, counting them.
Result<LoadedMesh> welded(LoadedMesh loaded, const Task& task);

}  // namespace lostline::io
