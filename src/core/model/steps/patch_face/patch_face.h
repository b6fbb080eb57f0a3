#pragma once

#include "model/feature.h"

namespace lostline::model {

/// A free-form face fitted through an area of the scan, as a surface body.
struct PatchFace {
  std::shared_ptr<const patch::SplineSurface> face;  ///< part coordinates

  static const FeatureKind kind;
  void describe(Description& d);
  [[nodiscard]] std::string words() const;
  [[nodiscard]] Result<ToolBody> tool(const Site& site) const;
};

}  // namespace lostline::model
