#pragma once

#include "model/feature.h"

namespace lostline::model {

/// A smooth surface inside a closed chain of curves in space and edges of the model; along edges it
/// may go on tangent to their face.
struct Fill {
  std::vector<std::string> curves;  ///< keys of curve bodies
  std::vector<EdgeRef> edges;
  bool tangent = false;  ///< at the edges, to the face that bounds them

  static const FeatureKind kind;
  void describe(Description& d);
  [[nodiscard]] std::string words() const { return "filled surface"; }
  [[nodiscard]] Result<ToolBody> tool(const Site& site) const;
};

}  // namespace lostline::model
