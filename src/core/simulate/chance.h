#pragma once

#include <cstdint>

#include "base/geometry.h"

// Chance that can be repeated: a number depends only on its key, whatever thread asks first.

namespace lostline::simulate {

/// Evenly in 0 .. 1. Source: splitmix64, S. Vigna (public domain).
double uniform(std::uint64_t seed, std::uint64_t a, std::uint64_t b);
/// Of unit variance about 0 (Box and Muller 1958).
double normal(std::uint64_t seed, std::uint64_t a, std::uint64_t b);
/// Turned anyhow and shifted by up to 150 mm each way. Source: K. Shoemake, Uniform random
/// rotations, Graphics Gems III (1992).
Transform random_pose(std::uint64_t seed);

}  // namespace lostline::simulate
