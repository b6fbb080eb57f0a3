#pragma once

#include <memory>
#include <optional>
#include <vector>

#include "base/geometry.h"
#include "base/task.h"
#include "scan/mesh.h"

namespace lostline::section {

/// One ordered run of section points in the 2D frame of the cutting plane, mm. Seen against the
/// plane's normal, material lies on the left.
struct Polyline {
  std::vector<Vec2> points;  ///< a closed one does not repeat its first point
  bool closed = false;
  /// Indices i whose stretch from point i to the next crosses a gap of the scan: no evidence lies
  /// there. Ascending.
  std::vector<std::size_t> gaps;
  /// Of each point, the edge of the mesh that it was cut from, in the plane, times sqrt(t (1 - t))
  /// of where on it (0 to 1) the cut lies: such a point lies inside of a bent curve by half the
  /// squared length along it over the radius. Empty where not known.
  std::vector<Vec2> chords;
  /// Of each point, the triangle of the mesh through which the run goes on from it. Empty where not
  /// known.
  std::vector<std::uint32_t> triangles;
  /// Another run draws this curve already: evidence for a fit, not to be resolved again.
  bool support = false;
  /// Of a fan: what few of its blades see (holes, keyways, flats), not part of the profile.
  bool few = false;

  [[nodiscard]] double length() const;
};

struct Section {
  Placement plane;
  std::vector<Polyline> polylines;  ///< longest first
  /// Of a fan: standard deviation of its blades about the profile, mm.
  std::optional<double> spread = {};
};

/// Median distance of neighbouring points, mm; 0 without any.
double median_step(const std::vector<Polyline>& polylines);

struct SectionOptions {
  /// Open ends closer than this many median point spacings are joined and the stretch is marked as
  /// a gap.
  double bridge_spacings = 40;
  std::size_t fewest_points = 8;  ///< shorter runs are dropped as strays
  /// Of each triangle of the mesh, whether the cut goes through it; null: through all. Gaps are
  /// bridged before, so that a gap inside of the part is one still.
  std::shared_ptr<const std::vector<bool>> part;
};

/// Cuts a mesh by planes. Triangles are kept in boxes of nearby ones, so that a cut touches few:
/// about 1 ms at 1 M triangles.
class SectionIndex {
 public:
  /// O(n log n). `mesh` must stay alive and unchanged.
  explicit SectionIndex(std::shared_ptr<const scan::Mesh> mesh);

  /// Ordered polylines of the cut. An empty section is a result, not an error: the plane misses the
  /// scan.
  [[nodiscard]] Section cut(const Placement& plane, const SectionOptions& options = {}) const;
  [[nodiscard]] const scan::Mesh& mesh() const { return *mesh_; }

 private:
  struct Block {
    Eigen::Vector3f low, high;
    std::uint32_t begin, end;
  };
  std::shared_ptr<const scan::Mesh> mesh_;
  std::vector<std::uint32_t> order_;  // triangles along a space-filling curve
  std::vector<Block> blocks_;
};

}  // namespace lostline::section
