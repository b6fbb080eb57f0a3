#pragma once

#include "model/feature.h"

namespace lostline::model {

/// A free-form face fitted through an area of the scan, as a surface body: over all of its domain,
/// or inside a border of curves and edges that it was drawn on to.
struct PatchFace {
  std::shared_ptr<const patch::SplineSurface> face;  ///< part coordinates
  std::vector<std::string> curves{};                 ///< of the border: keys of curve bodies
  std::vector<EdgeRef> edges{};                      ///< and edges of the model
  bool tangent = false;  ///< along the edges, to the faces that they bound

  static const FeatureKind kind;
  void describe(Description& d);
  [[nodiscard]] std::string words() const;
  [[nodiscard]] Result<ToolBody> tool(const Site& site) const;
};

}  // namespace lostline::model
