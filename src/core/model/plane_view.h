#pragma once

#include <cstddef>
#include <optional>
#include <vector>

#include "base/geometry.h"
#include "base/result.h"
#include "model/model.h"
#include "sketch/plane_curve.h"
#include "sketch/sketch.h"

// What a sketch can take from the model: seen square to its plane, or cut by it.

namespace lostline::model {

/// Curves and places in the coordinates of a plane; no curve twice.
struct PlaneView {
  std::vector<sketch::Form> curves;
  std::vector<Vec2> points;  ///< mm; of what is seen end on

  [[nodiscard]] bool empty() const { return curves.empty() && points.empty(); }
};

/// An edge of the model, seen square to the plane.
/// @errors Degenerate  it cannot be read.
Result<PlaneView> edge_seen(const Model& model, std::size_t edge, const Placement& plane);
/// All edges of a face but the seam of a closed one, seen square to the plane.
Result<PlaneView> face_seen(const Model& model, std::size_t face, const Placement& plane);
/// Where the plane cuts the faces of the model, or of one of its bodies.
/// @errors InvalidInput  it misses them;  Failed  the kernel cannot cut them.
Result<PlaneView> cut_by_plane(const Model& model, const Placement& plane,
                               std::optional<std::size_t> body = {});
/// The same within this process, which the kernel's intersections may take down.
Result<PlaneView> cut_by_plane_here(const Model& model, const Placement& plane,
                                    std::optional<std::size_t> body);
/// The curves of a sketch on a plane of its own, construction left out, seen square to another.
/// @errors Degenerate  a curve has no length.
Result<PlaneView> sketch_seen(const sketch::Sketch& sketch, const Placement& its_plane,
                              const Placement& plane);

}  // namespace lostline::model
