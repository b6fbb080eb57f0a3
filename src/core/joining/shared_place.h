#pragma once

#include <cstddef>
#include <optional>

#include "base/geometry.h"

namespace lostline::joining {

/// A place that two scans share, each in its scan's own coordinates, mm.
struct SharedPlace {
  std::size_t scan_a = 0;
  Vec3 a = Vec3::Zero();
  std::size_t scan_b = 0;
  Vec3 b = Vec3::Zero();
  /// How far the two lie apart along each direction where the scans lie right, mm, one standard
  /// deviation; none: as far as a click strays.
  std::optional<double> sigma = std::nullopt;
  /// Whether the place only says where the joining starts, and holds nothing after that.
  bool start_only = false;
};

}  // namespace lostline::joining
