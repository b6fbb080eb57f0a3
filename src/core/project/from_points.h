#pragma once

#include <memory>
#include <string>
#include <vector>

#include "cloud/mesh_cloud.h"

namespace lostline::project {

/// How a scan was meshed from the points of its file.
struct FromPoints {
  std::size_t count = 0;  ///< points of the file
  std::string columns;    ///< what the columns of a text were taken for; empty: the format says it
  cloud::MeshingOptions options;  ///< that it was meshed with; the spacing in mm
  double spacing = 0;             ///< mm, of the points
  double noise = 0;               ///< mm, of one point about the surface, one standard deviation
  std::size_t dropped = 0;        ///< points that belong to no surface, or to islands
  /// Of each vertex of the mesh, mm: what is left of the noise there, expanded, k = 2. Null once
  /// the scan was saved and read again.
  std::shared_ptr<const std::vector<float>> u;
};

/// What a meshing says of the points, with its options. Moves `u` out.
inline void take(FromPoints& from, cloud::Meshed& meshed, const cloud::MeshingOptions& options) {
  from.options = options;
  from.spacing = meshed.cloud_spacing;
  from.noise = meshed.noise;
  from.dropped = meshed.dropped;
  from.u = std::make_shared<const std::vector<float>>(std::move(meshed.u));
}

}  // namespace lostline::project
