#pragma once

#include <Eigen/Core>
#include <memory>
#include <vector>

#include "base/task.h"
#include "project/document.h"

namespace lostline::app {

/// A scan as the graphics card takes it. Made off the window's thread: at 1.5 million triangles it
/// takes some tenths of a second.
struct ScanArrays {
  std::shared_ptr<const project::Scan> scan;
  Eigen::Vector3f origin = Eigen::Vector3f::Zero();  ///< that places are relative to
  std::vector<float> vertices;                       ///< place and normal, six numbers each
  std::vector<std::uint32_t> indices;  ///< of the triangles: opaque ones, then translucent ones
  std::size_t opaque = 0;              ///< triangles
  std::size_t translucent = 0;
  /// Few triangles, for a view that moves: their vertices as above, and which of the full ones each
  /// stands for. Empty for a small scan. What is not opaque is left out.
  std::vector<float> reduced_vertices;
  std::vector<std::uint32_t> reduced_indices, reduced_of;
};

/// @param showing, survey  how regions are shown; a survey of another scan is not asked.
ScanArrays arrays_of(std::shared_ptr<const project::Scan> scan, const survey::Survey* survey,
                     const project::Showing& showing);

}  // namespace lostline::app
