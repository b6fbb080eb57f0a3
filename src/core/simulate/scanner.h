#pragma once

#include <cstdint>
#include <functional>

#include "base/task.h"
#include "model/model.h"
#include "scan/mesh.h"

namespace lostline::simulate {

/// What the real surface adds to the model, in the model's coordinates.
struct SurfaceState {
  /// Standard deviation of the roughness at a surface point with outward normal, mm. Default:
  /// perfectly smooth.
  std::function<double(const Vec3& point, const Vec3& normal)> roughness;
  /// Displacement along the outward normal by wear or warp, mm. Default: none.
  std::function<double(const Vec3& point, const Vec3& normal)> wear;
};

struct ScanOptions {
  double noise = 0.02;  ///< mm, standard deviation along the ray at normal incidence
  int views = 18;       ///< places of the scanner, spread over a sphere
  /// One set-up of a part that lies on its other side: only places within 95 degrees of this
  /// direction of the model. Zero: from all round.
  Vec3 side = Vec3::Zero();
  double spacing = 0.6;  ///< mm, distance of neighbouring points
  std::uint64_t seed = 1;
  double distance = 600;        ///< mm from the middle of the part
  double grazing_limit = 1.31;  ///< rad from the normal beyond which nothing returns (75 degrees)
  /// mm: how far the triangles that are scanned may lie off a free-form face. Plane, turned and
  /// round faces are scanned as they are.
  double chord = 0.005;
  int strays = 14;              ///< islands of points that belong to nothing
  bool random_pose = true;      ///< the part lies anyhow
};

struct SimulatedScan {
  scan::Mesh mesh;
  Transform pose;  ///< model to scan
  int views = 0;
  double unseen_fraction = 0;  ///< of the surface points, lost to shadows and grazing angles
};

/// Scans a solid with a stand-in scanner. The surface is sampled on a grid that knows nothing of
/// its faces; each view sees what lies in the open and not too steep, with noise along its ray that
/// grows towards grazing angles; the views are averaged; what no view sees is missing. Edges are
/// rounded by about half a spacing, as the spot of a scanner does.
/// @errors InvalidInput  an empty solid, a spacing, noise or number of views that makes no sense;
/// Cancelled. Deterministic for a seed, whatever the number of threads.
Result<SimulatedScan> simulate_scan(const model::Model& solid, const SurfaceState& surface,
                                    const ScanOptions& options = {}, const Task& task = {});

}  // namespace lostline::simulate
